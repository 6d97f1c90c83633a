import { Link } from "react-router";

import { useComparedLathes } from "../../api/lathe";
import { Failure } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { meritOf, Nut } from "../../drawing/Nut";
import { Working } from "../../kit/Working";
import { TrainFraction } from "../../planning/TrainFraction";

/** The same thread on every lathe of the shop, the least trouble first. */
export function OtherLathes({ ask, machine }: { ask: string; machine: string }) {
  const { units } = usePreferences();
  const compared = useComparedLathes(ask, units);
  if (compared.error)
    return <Failure error={compared.error} retry={() => void compared.refetch()} />;
  if (!compared.data) return <Working text="Looking at every lathe …" />;
  return (
    <ul aria-label="Lathes" className="text-lesser">
      {compared.data.map(({ machine: slug, name, candidate, says }) => (
        <li key={slug} className="border-t border-line">
          <Link
            to={`/lathe/${slug}?${new URLSearchParams({ ask })}`}
            className={`block px-1 py-2 hover:bg-blue-bg ${slug === machine ? "bg-blue-bg" : ""}`}
          >
            <span className="flex items-center justify-between gap-2">
              <b>{name}</b>
              {candidate && (
                <span className="flex items-center gap-1.5">
                  <Nut merit={meritOf(candidate.goes, candidate.relative_error === 0)} />
                  <span className="text-fine">{candidate.verdict_head}</span>
                </span>
              )}
            </span>
            {candidate ? (
              <span className="flex flex-wrap items-center gap-x-3">
                <TrainFraction stages={candidate.stages} text={candidate.text} small />
                <span>{candidate.error}</span>
                <span className="text-soft">
                  {candidate.is_on ? "fitted now" : candidate.work}
                  {candidate.checked !== "room" && ` · ${candidate.room}`}
                </span>
              </span>
            ) : (
              <span className="text-soft">{says}</span>
            )}
          </Link>
        </li>
      ))}
    </ul>
  );
}
