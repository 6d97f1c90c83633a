import { useState } from "react";

import type { Outline } from "../../api/client";
import type { SetUp } from "../../api/hobber";
import { DrawingNotes } from "../../drawing/DrawingNotes";
import { QuadrantDrawing } from "../../drawing/QuadrantDrawing";
import { PAPER } from "../../drawing/paper";
import { useSize } from "../../drawing/useSize";
import { TrainFraction } from "../../planning/TrainFraction";

type Drawn = SetUp["drawn"][number];
/** Every box of a set-up drawn to scale, the index box largest; or one of them alone. */
export function BoxesBoard({
  set,
  outlines,
  machine,
}: {
  set: SetUp;
  outlines: Outline[];
  machine: string;
}) {
  const [alone, setAlone] = useState<string>();
  const shown = set.drawn.filter((box) => alone === undefined || box.box === alone);
  const boxes = shown.length > 0 ? shown : set.drawn;
  return (
    <div
      className={`grid h-full ${boxes.length > 1 ? "grid-cols-2" : "grid-cols-1"} auto-rows-fr gap-px bg-line phone:auto-rows-[340px] phone:grid-cols-1`}
    >
      {boxes.map((box, n) => (
        <Box
          key={box.box}
          box={box}
          outlines={outlines}
          machine={machine}
          tall={boxes.length > 2 && n === 0}
          alone={boxes.length === 1}
          look={set.drawn.length > 1 ? () => setAlone(alone ? undefined : box.box) : undefined}
        />
      ))}
    </div>
  );
}

function Box(props: {
  box: Drawn;
  outlines: Outline[];
  machine: string;
  tall: boolean;
  alone: boolean;
  look?: () => void;
}) {
  const { box } = props;
  const [paper, size] = useSize<HTMLDivElement>();
  return (
    <section
      aria-label={`${box.name} box`}
      className={`flex min-h-0 min-w-0 flex-col bg-paper ${props.tall ? "row-span-2 phone:row-span-1" : ""} ${PAPER}`}
    >
      <header className="flex items-center gap-x-3 border-b border-line bg-paper py-1 pr-1 pl-3">
        <div className="min-w-0">
          <h2 className="text-lesser font-bold first-letter:uppercase">{box.name}</h2>
          <p className="text-fine leading-tight text-soft">{box.room}</p>
        </div>
        <TrainFraction stages={box.stages} text={box.text} small className="ml-auto" />
        {props.look && (
          <button
            type="button"
            aria-label={props.alone ? "Show all boxes" : `Show the ${box.name} box larger`}
            title={props.alone ? "Show all boxes" : "Show larger"}
            className="grid min-h-11 min-w-11 place-items-center rounded-sm border border-line"
            onClick={props.look}
          >
            <svg viewBox="0 0 20 20" width="18" height="18" aria-hidden>
              <path
                d={
                  props.alone
                    ? "M8 2 V8 H2 M12 18 V12 H18 M8 8 L2 2 M12 12 L18 18"
                    : "M12 2 H18 V8 M8 18 H2 V12 M18 2 L11 9 M2 18 L9 11"
                }
                fill="none"
                stroke="currentColor"
                strokeWidth="1.8"
              />
            </svg>
          </button>
        )}
      </header>
      <div ref={paper} className="relative min-h-0 flex-1 overflow-hidden">
        {size.width > 0 && (
          <div className="absolute inset-0">
            <QuadrantDrawing
              drawing={box.drawing}
              outlines={props.outlines}
              machine={`${props.machine}, ${box.name}`}
              train={box.text}
              width={size.width}
              height={size.height}
              turning={false}
              terse
            />
          </div>
        )}
        <DrawingNotes drawing={box.drawing} />
      </div>
    </section>
  );
}
