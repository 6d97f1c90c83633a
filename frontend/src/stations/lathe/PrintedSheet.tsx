import type { Candidate, Outline } from "../../api/client";
import { QuadrantDrawing } from "../../drawing/QuadrantDrawing";
import { meritOf, Nut } from "../../planning/Nut";
import { PrintedShafts, PrintedSteps } from "../../planning/StepList";
import { Strong } from "../../kit/Strong";

// The drawing on paper: 98 by 90 mm at 96 px to the inch; a train of six wheels must leave the sheet one page.
const [WIDTH, HEIGHT] = [370, 340];

/** The same sheet for paper: black on white, one page of A4. Only the printer sees it. */
export function PrintedSheet({
  candidate,
  outlines,
  machine,
}: {
  candidate: Candidate;
  outlines: Outline[];
  machine: string;
}) {
  const { sheet, verdict } = candidate;
  return (
    <article className="hidden text-[10pt] leading-snug text-black print:block" aria-hidden>
      <header className="flex items-end justify-between border-b-2 border-black pb-2">
        <div>
          <h1 className="text-[20pt] leading-tight font-bold">
            {sheet.title} on {sheet.machine}
          </h1>
          <p className="font-mono text-[15pt] font-bold">{sheet.train}</p>
        </div>
        <p className="font-mono text-[20pt] font-bold">
          {candidate.lead_value} {candidate.lead_unit}
        </p>
      </header>
      <div className="mt-2 flex gap-4">
        <QuadrantDrawing
          drawing={candidate.drawing}
          outlines={outlines}
          machine={machine}
          train={candidate.train}
          width={WIDTH}
          height={HEIGHT}
          turning={false}
        />
        <div className="flex-1">
          <p className="flex items-center gap-2 text-[12pt] font-bold">
            <Nut plain merit={meritOf(verdict.goes, candidate.relative_error === 0)} size={20} />{" "}
            {verdict.head}.
          </p>
          <p>{verdict.text}</p>
          {candidate.drawing.notes.map((note) => (
            <p key={note}>{note}</p>
          ))}
          <dl className="mt-2">
            {sheet.facts.map(({ label, text }) => (
              <div key={label} className="mb-1">
                <dt className="text-[8pt] text-soft">{label}</dt>
                <dd>{text}</dd>
              </div>
            ))}
          </dl>
        </div>
      </div>
      <h2 className="mt-2 font-bold">Shafts, from machine outward</h2>
      <PrintedShafts rows={sheet.shafts} />
      <PrintedSteps steps={sheet.steps} />
      <h2 className="mt-2 font-bold">Check before cutting</h2>
      {sheet.proof.map((line) => (
        <p key={line}>
          <Strong text={line} />
        </p>
      ))}
      {sheet.picking_up.length > 0 && <h2 className="mt-2 font-bold">Picking up</h2>}
      {sheet.picking_up.map((line) => (
        <p key={line}>
          <Strong text={line} />
        </p>
      ))}
      <p className="mt-3">Measured: ____________ Date: ____________</p>
      <p className="mt-4 text-[8pt] text-soft">{sheet.aid}</p>
    </article>
  );
}
