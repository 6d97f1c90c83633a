import type { ReactNode } from "react";

import type { Candidate } from "../../api/client";
import { DialDrawing } from "../../drawing/DialDrawing";
import { HandDrawing } from "../../drawing/HandDrawing";
import { Disclosure } from "../../kit/Disclosure";
import { meritOf, Nut } from "../../planning/Nut";
import { Reasons } from "../../planning/Reasons";
import { SheetButtons } from "../../planning/SheetButtons";
import { StepList } from "../../planning/StepList";
import { Strong } from "../../kit/Strong";
import { ClearanceBar } from "./ClearanceBar";

/** The set-up of the chosen train in the order of the work, with its verdict and its proof. */
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
    <div className="flex h-full flex-col">
      <div
        className="min-h-0 flex-1 overflow-y-auto p-4"
        tabIndex={0}
        aria-label="Set-up sheet, scrolls"
      >
        <h2 className="text-[19px] font-bold">Set-up sheet</h2>
        <p className="mt-1 font-mono text-[34px] leading-tight font-bold">
          {candidate.lead_value}{" "}
          <span className="font-sans text-[17px] font-normal text-soft">{candidate.lead_unit}</span>
        </p>
        <p className="mt-2 flex gap-2.5">
          <span className="mt-0.5">
            <Nut merit={meritOf(verdict.goes, candidate.relative_error === 0)} size={26} />
          </span>
          <span>
            <b>{verdict.head}.</b> {verdict.text}
          </span>
        </p>
        <ClearanceBar verdict={verdict} />
        <Disclosure title="More on the error">
          <div className="pb-2 text-[15px]">
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
            {assumptions.map((line) => (
              <p key={line} className="mt-1 text-soft">
                {line}
              </p>
            ))}
          </div>
        </Disclosure>
        <Reasons of={candidate} className="mb-3" />
        {candidate.verdict.job !== "feed" && candidate.drawing.hand && (
          <div className="flex items-center gap-3 border-t border-line py-2 text-[15px]">
            <HandDrawing hand={candidate.drawing.hand} />
            <span>cuts a {candidate.drawing.hand}-hand thread</span>
          </div>
        )}
        {candidate.goes_on && <Work sheet={sheet} />}
        {candidate.goes_on && candidate.pick_up && (
          <PickingUp candidate={candidate} pickUp={candidate.pick_up} />
        )}
        {candidate.goes_on && props.children}
        <p className="mt-3 text-[14px] text-soft">{sheet.aid}</p>
      </div>
      <SheetButtons
        goesOn={candidate.goes_on}
        fits={candidate.fits}
        on={candidate.is_on}
        title={candidate.fits ? "Record that this train is on the lathe now" : candidate.reasons[0]}
        pdf={props.pdf}
        print={props.print}
        record={props.record}
      />
    </div>
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
    <section aria-label="Picking up" className="mt-4 border-t border-line pt-3 text-[15px]">
      <h3 className="font-bold">Picking up: {pickUp.head.toLowerCase()}</h3>
      <div className="mt-1 flex items-start gap-3">
        <div>
          {candidate.sheet.picking_up.map((line) => (
            <p key={line} className="mb-1">
              <Strong text={line} />
            </p>
          ))}
        </div>
        {pickUp.dial && <DialDrawing dial={pickUp.dial} />}
      </div>
    </section>
  );
}

/** The steps in order, then the proof. */
function Work({ sheet }: { sheet: Candidate["sheet"] }) {
  return (
    <>
      <StepList steps={sheet.steps} />
      <h3 className="mt-3 font-bold">Check before cutting</h3>
      {sheet.proof.map((line) => (
        <p key={line} className="mt-1 text-[15px]">
          <Strong text={line} />
        </p>
      ))}
    </>
  );
}
