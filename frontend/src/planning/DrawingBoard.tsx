import { lazy, Suspense, useState } from "react";

import type { Candidate, Outline } from "../api/client";
import { useKey } from "../app/keys";
import { DrawingNotes } from "../drawing/DrawingNotes";
import { QuadrantDrawing } from "../drawing/QuadrantDrawing";
import { useSize } from "../drawing/useSize";
import { Button } from "../kit/Button";
import { Segmented } from "../kit/Segmented";

// px of a board on which buttons and title do not stand side by side.
const NARROW = 560;
const NutDrawing = lazy(() =>
  import("../drawing/NutDrawing").then((m) => ({ default: m.NutDrawing })),
);

const STILL = "(prefers-reduced-motion: reduce)";
const PAPER =
  "bg-[linear-gradient(var(--grid)_1px,transparent_1px),linear-gradient(90deg,var(--grid)_1px,transparent_1px)] bg-size-[19px_19px]";

/** The drawing: the train on its quadrant, or the thread in its nut; what stands in the way; the button that turns it. */
export function DrawingBoard(props: {
  candidate?: Candidate;
  outlines: Outline[];
  machine: string;
  suspected?: string;
  planned?: Candidate;
  back?: () => void;
  take?: (train: string) => void;
}) {
  const { outlines, machine, suspected } = props;
  const candidate =
    props.candidate && props.planned ? slipped(props.candidate, props.planned) : props.candidate;
  const [paper, size] = useSize<HTMLDivElement>();
  const [turning, setTurning] = useState(!matchMedia(STILL).matches);
  const [wanted, setWanted] = useState<"quadrant" | "nut">("quadrant");
  const nut = suspected ? undefined : candidate?.nut_view;
  const shown = nut ? wanted : "quadrant";
  useKey("t", () => setTurning(!turning));
  useKey("v", () => setWanted(wanted === "nut" ? "quadrant" : "nut"), nut !== undefined);
  return (
    <div className={`absolute inset-0 flex flex-col ${PAPER}`}>
      {suspected && (
        <div
          role="note"
          className="flex items-center justify-between gap-3 border-l-4 border-oxide bg-oxide-bg px-4 py-2 text-[15px]"
        >
          <span>
            <b>As it may stand now:</b> {suspected}
          </span>
          <Button onClick={props.back}>Back to the plan</Button>
        </div>
      )}
      {!suspected && candidate && candidate.reasons.length > 0 && (
        <WhyNot candidate={candidate} take={props.take} />
      )}
      <div ref={paper} className="relative min-h-0 flex-1">
        {candidate && size.width > 0 && (
          <div className="absolute inset-0">
            {shown === "nut" && nut ? (
              <Suspense fallback={null}>
                <NutDrawing
                  view={nut}
                  worm={candidate.verdict.job === "worm"}
                  width={size.width}
                  height={size.height}
                />
              </Suspense>
            ) : (
              <QuadrantDrawing
                drawing={candidate.drawing}
                outlines={outlines}
                machine={machine}
                train={candidate.train}
                width={size.width}
                height={size.height}
                turning={turning}
                terse={size.width < NARROW}
              />
            )}
          </div>
        )}
        {candidate && shown === "quadrant" && <DrawingNotes drawing={candidate.drawing} />}
        {candidate && (
          <div className="absolute bottom-1 left-2 flex gap-2">
            {nut && (
              <Segmented
                label="Drawing of"
                value={shown}
                options={[
                  ["quadrant", "Quadrant"],
                  ["nut", candidate.verdict.job === "worm" ? "In its wheel" : "In its nut"],
                ]}
                onChange={setWanted}
              />
            )}
            {shown === "quadrant" && candidate.drawing.wheels.some((w) => w.turns !== 0) && (
              <Button aria-pressed={turning} onClick={() => setTurning(!turning)}>
                {turning ? "Stop" : "Turn"}
              </Button>
            )}
          </div>
        )}
        {!candidate && (
          <p className="grid h-full place-items-center text-soft">
            The train will be drawn here, to scale.
          </p>
        )}
      </div>
    </div>
  );
}

/** Everything that keeps the train off, fouls with the number they have in the drawing; and what puts the hand right. */
function WhyNot({ candidate, take }: { candidate: Candidate; take?: (train: string) => void }) {
  const fouls = candidate.drawing.clearances.filter((c) => c.fouls);
  const others = candidate.reasons.filter((reason) => !fouls.some((f) => f.between === reason));
  const { advice } = candidate;
  return (
    <div role="note" className="border-l-4 border-oxide bg-oxide-bg px-4 py-2 text-[15px]">
      <b>{candidate.goes_on ? "Not yet:" : "Does not go on:"}</b>
      <ul>
        {fouls.map((foul, n) => (
          <li key={n}>
            <b className="font-mono text-oxide">
              ◆ {candidate.drawing.clearances.indexOf(foul) + 1}
            </b>{" "}
            {foul.between}
          </li>
        ))}
        {others.map((reason) => (
          <li key={reason}>{reason}</li>
        ))}
      </ul>
      {advice && (
        <p className="mt-1 flex items-center justify-between gap-3">
          {advice.text}
          {take && <Button onClick={() => take(advice.train)}>Do that</Button>}
        </p>
      )}
    </div>
  );
}

/** The train as it may stand, with the wheels marked that are not where the plan has them. */
function slipped(candidate: Candidate, planned: Candidate): Candidate {
  const wheels = candidate.drawing.wheels.map((wheel) => {
    const there = planned.drawing.wheels.some(
      (p) => p.shaft === wheel.shaft && p.plane === wheel.plane && p.teeth === wheel.teeth,
    );
    return { ...wheel, fouls: !there };
  });
  return { ...candidate, drawing: { ...candidate.drawing, wheels } };
}
