import type { Job } from "../../api/jobs";
import { SideDrawing } from "../../drawing/SideDrawing";
import { Strong } from "../../kit/Strong";
import { SheetMark } from "../../planning/SheetMark";

/** The job for paper: one page of A4 with room for what is found. Only the printer sees it. */
export function PrintedJob({ job }: { job: Job }) {
  return (
    <article className="hidden text-print-lesser leading-[1.2] text-black print:block" aria-hidden>
      <h1 className="border-b-2 border-black text-print-title font-bold">{job.title}</h1>
      <p>
        {job.school.name}, of {job.typed.material}. {job.divides}.
      </p>
      <div className="mt-1 flex gap-4">
        <dl className="flex-1">
          {job.figures.map(({ label, text }) => (
            <div key={label} className="flex gap-2">
              <dt className="w-[30mm] shrink-0 text-soft">{label}</dt>
              <dd>{text}</dd>
            </div>
          ))}
        </dl>
        {job.side && <SideDrawing side={job.side} width={300} height={260} />}
      </div>
      <ol className="mt-2">
        {job.steps.map((step, n) => (
          <li
            key={step.code}
            className="grid grid-cols-[7mm_1fr_52mm] gap-1 border-b border-line py-0.5"
          >
            <b>{n + 1}</b>
            <span>
              <b>{step.title}.</b> <Strong text={step.do} />
              {step.caution && <b className="block border-l-4 border-black pl-1">{step.caution}</b>}
            </span>
            <span className="text-right">
              {step.figure}
              {step.asks && (
                <span className="block">found: {step.result?.figure || "____________"}</span>
              )}
              {!step.asks && (step.result?.done ? " ✓" : " ☐")}
            </span>
          </li>
        ))}
      </ol>
      <div className="mt-2 flex justify-end">
        <SheetMark path={`/jobs/${job.id}`} />
      </div>
    </article>
  );
}
