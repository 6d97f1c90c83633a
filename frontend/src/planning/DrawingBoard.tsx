import { lazy, Suspense, useState } from "react";

import type { Candidate, Outline } from "../api/client";
import { useKey } from "../app/keys";
import { DrawingNotes } from "../drawing/DrawingNotes";
import { QuadrantDrawing } from "../drawing/QuadrantDrawing";
import { PAPER } from "../drawing/paper";
import { useSize } from "../drawing/useSize";
import { Button } from "../kit/Button";
import { Segmented } from "../kit/Segmented";
import { AsItMayStand, withSlip, WhyNot } from "./WhyNot";

// px of a board on which buttons and title do not stand side by side.
const NARROW = 560;
const NutDrawing = lazy(() =>
  import("../drawing/NutDrawing").then((m) => ({ default: m.NutDrawing })),
);

const STILL = "(prefers-reduced-motion: reduce)";
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
    props.candidate && props.planned ? withSlip(props.candidate, props.planned) : props.candidate;
  const [paper, size] = useSize<HTMLDivElement>();
  const [turning, setTurning] = useState(!matchMedia(STILL).matches);
  const [wanted, setWanted] = useState<"quadrant" | "nut">("quadrant");
  const nut = suspected ? undefined : candidate?.nut_view;
  const shown = nut ? wanted : "quadrant";
  useKey("t", () => setTurning(!turning));
  useKey("v", () => setWanted(wanted === "nut" ? "quadrant" : "nut"), nut !== undefined);
  return (
    <div className={`absolute inset-0 flex flex-col ${PAPER}`}>
      {suspected && <AsItMayStand text={suspected} back={props.back} />}
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
