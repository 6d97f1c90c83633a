import { useState } from "react";

import type { Candidate, Outline } from "../../api/client";
import { useKey } from "../../app/keys";
import { QuadrantDrawing } from "../../drawing/QuadrantDrawing";
import { useSize } from "../../drawing/useSize";
import { Button } from "../../kit/Button";

const STILL = "(prefers-reduced-motion: reduce)";

/** The drawing, what stands in the way of the train, and the button that turns it. */
export function DrawingBoard(props: { candidate?: Candidate; outlines: Outline[]; machine: string; suspected?: string; planned?: Candidate; back?: () => void }) {
  const { outlines, machine, suspected } = props;
  const candidate = props.candidate && props.planned ? slipped(props.candidate, props.planned) : props.candidate;
  const [paper, size] = useSize<HTMLDivElement>();
  const [turning, setTurning] = useState(!matchMedia(STILL).matches);
  useKey("t", () => setTurning(!turning));
  const fouls = candidate?.drawing.clearances.filter((c) => c.fouls) ?? [];
  const others = candidate?.reasons.filter((reason) => !fouls.some((f) => f.between === reason)) ?? [];
  return (
    <div className="absolute inset-0 flex flex-col bg-[linear-gradient(var(--grid)_1px,transparent_1px),linear-gradient(90deg,var(--grid)_1px,transparent_1px)] bg-size-[19px_19px]">
      {suspected && (
        <div role="note" className="flex items-center justify-between gap-3 border-l-4 border-oxide bg-oxide-bg px-4 py-2 text-[15px]">
          <span>
            <b>As it may stand now:</b> {suspected}
          </span>
          <Button onClick={props.back}>Back to the plan</Button>
        </div>
      )}
      {!suspected && candidate && candidate.reasons.length > 0 && (
        <div role="note" className="border-l-4 border-oxide bg-oxide-bg px-4 py-2 text-[15px]">
          <b>{candidate.goes_on ? "Not yet:" : "Does not go on:"}</b>
          <ul>
            {fouls.map((foul, n) => (
              <li key={n}>
                <b className="font-mono text-oxide">◆ {candidate.drawing.clearances.indexOf(foul) + 1}</b> {foul.between}
              </li>
            ))}
            {others.map((reason) => (
              <li key={reason}>{reason}</li>
            ))}
          </ul>
        </div>
      )}
      <div ref={paper} className="relative min-h-0 flex-1">
        {candidate && size.width > 0 && (
          <div className="absolute inset-0">
            <QuadrantDrawing drawing={candidate.drawing} outlines={outlines} machine={machine} train={candidate.train} width={size.width} height={size.height} turning={turning} />
          </div>
        )}
        {candidate && (
          <Button className="absolute top-3 left-3" aria-pressed={turning} onClick={() => setTurning(!turning)}>
            {turning ? "Stop" : "Turn"}
          </Button>
        )}
        {!candidate && <p className="grid h-full place-items-center text-soft">The train will be drawn here, to scale.</p>}
      </div>
    </div>
  );
}

/** The train as it may stand, with the wheels marked that are not where the plan has them. */
function slipped(candidate: Candidate, planned: Candidate): Candidate {
  const wheels = candidate.drawing.wheels.map((wheel) => {
    const there = planned.drawing.wheels.some((p) => p.shaft === wheel.shaft && p.plane === wheel.plane && p.teeth === wheel.teeth);
    return { ...wheel, fouls: !there };
  });
  return { ...candidate, drawing: { ...candidate.drawing, wheels } };
}
