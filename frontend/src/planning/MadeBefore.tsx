import { Link } from "react-router";

import { useMadeBefore } from "../api/jobs";
import { usePreferences } from "../app/preferences";
import { day } from "../kit/date";

/** Wheels of the same count that were made before: what was found, and how they were divided. Nothing where there are none. */
export function MadeBefore({
  teeth,
  but,
  dividing = false,
}: {
  teeth?: number;
  but?: number;
  /** Only how they were divided. */
  dividing?: boolean;
}) {
  const every = useMadeBefore(teeth, usePreferences().units, but).data ?? [];
  const before = dividing ? every.filter((job) => job.divided) : every;
  if (before.length === 0) return null;
  return (
    <section aria-label="Last time" className="my-3 border border-line bg-paper p-3 text-lesser">
      <h3 className="font-bold">Last time</h3>
      <ul>
        {before.map((job) => (
          <li key={job.id} className="border-t border-line py-1.5 first:border-t-0">
            <Link
              className="inline-flex min-h-11 items-center font-bold text-blue underline underline-offset-4"
              to={`/jobs/${job.id}`}
            >
              {job.title}
            </Link>
            <span className="ml-3 text-soft">
              {day(job.begun)}, {job.state}
            </span>
            {job.divided && <span className="block">Divided: {job.divided}.</span>}
            {job.last_gap && <span className="block">Last gap: {job.last_gap}.</span>}
            {!dividing &&
              job.figures.map(({ label, text }) => (
                <span key={label} className="block">
                  {label}: <span className="font-mono">{text}</span>
                </span>
              ))}
          </li>
        ))}
      </ul>
    </section>
  );
}
