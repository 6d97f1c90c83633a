import type { ReactNode } from "react";

import type { Candidate } from "../../api/client";
import { DialDrawing } from "../../drawing/DialDrawing";
import { HandDrawing } from "../../drawing/HandDrawing";
import { Disclosure } from "../../kit/Disclosure";
import { Lines } from "../../planning/Lines";
import { meritOf } from "../../drawing/Nut";
import { Reasons } from "../../planning/Reasons";
import { Assumptions, SheetFrame } from "../../planning/SheetFrame";
import { StepList } from "../../planning/StepList";
import { Strong } from "../../kit/Strong";
import { ClearanceBar } from "./ClearanceBar";

/** The set-up of the chosen train in the order of the work, with its verdict and its check. */
export function SheetPanel(props: {
  candidate: Candidate;
  machine: string;
  assumptions: string[];
  pdf: string;
  print: () => void;
  record: () => void;
  children?: ReactNode;
}) {
  const { candidate, assumptions } = props;
  const { verdict, sheet } = candidate;
  return (
    <SheetFrame
      of={candidate}
      figure={candidate.lead_value}
      unit={candidate.lead_unit}
      merit={meritOf(verdict.goes, candidate.relative_error === 0)}
      head={verdict.head}
      verdict={verdict.text}
      records="Record that this train is on the lathe now"
      pdf={props.pdf}
      print={props.print}
      record={props.record}
    >
      <ClearanceBar verdict={verdict} />
      <Disclosure title="More on the error">
        <div className="pb-2 text-lesser">
          {verdict.longest && <p>{verdict.longest}</p>}
          {verdict.slide && <p className="mt-1">{verdict.slide}</p>}
          <table className="mt-2 w-full">
            <tbody>
              {verdict.per_length.map(({ over, gathers }) => (
                <tr key={over} className="border-b border-line">
                  <td className="py-1 text-soft">over {over}</td>
                  <td className="text-right font-mono">{gathers}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <Assumptions lines={assumptions} />
        </div>
      </Disclosure>
      <Reasons of={candidate} className="mb-3" />
      {candidate.verdict.job !== "feed" && candidate.drawing.hand && (
        <div className="flex items-center gap-3 border-t border-line py-2 text-lesser">
          <HandDrawing hand={candidate.drawing.hand} />
          <span>cuts a {candidate.drawing.hand}-hand thread</span>
        </div>
      )}
      {candidate.goes_on && (
        <>
          <StepList steps={sheet.steps} />
          <Lines {...sheet.check} />
        </>
      )}
      {candidate.goes_on && candidate.pick_up && (
        <PickingUp candidate={candidate} pickUp={candidate.pick_up} />
      )}
      {candidate.goes_on && props.children}
    </SheetFrame>
  );
}

/** Where the half-nuts may close again, with the dial where there is one that tells; and the way to the next start. */
function PickingUp({
  candidate,
  pickUp,
}: {
  candidate: Candidate;
  pickUp: NonNullable<Candidate["pick_up"]>;
}) {
  return (
    <section aria-label="Picking up" className="mt-4 border-t border-line pt-3 text-lesser">
      <h3 className="font-bold">Picking up: {pickUp.head.toLowerCase()}</h3>
      <div className="mt-1 flex items-start gap-3">
        <div>
          {candidate.sheet.after.flatMap(({ lines }) =>
            lines.map((line) => (
              <p key={line} className="mb-1">
                <Strong text={line} />
              </p>
            )),
          )}
        </div>
        {pickUp.dial && <DialDrawing dial={pickUp.dial} />}
      </div>
    </section>
  );
}
