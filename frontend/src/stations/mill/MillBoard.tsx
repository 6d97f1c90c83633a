import { useState } from "react";

import type { Outline } from "../../api/client";
import type { HelixSetting, HelixSetUp } from "../../api/mill";
import { useKey } from "../../app/keys";
import { DrawingNotes } from "../../drawing/DrawingNotes";
import { PAPER } from "../../drawing/paper";
import { PlanViewDrawing } from "../../drawing/PlanViewDrawing";
import { QuadrantDrawing } from "../../drawing/QuadrantDrawing";
import { useSize } from "../../drawing/useSize";
import { WorkTurnsDrawing } from "../../drawing/WorkTurnsDrawing";
import { Segmented } from "../../kit/Segmented";
import { Stepping } from "../../planning/Stepping";
import { AsItMayStand, withSlip, WhyNot } from "../../planning/WhyNot";
import type { Suspicion } from "./LeadCheck";

type BoardView = "wheels" | "above" | "end" | "plate";
const VIEWS: [BoardView, string][] = [
  ["wheels", "Wheels"],
  ["above", "From above"],
  ["end", "Turning"],
  ["plate", "Plate"],
];
// px of a board on which the name of the machine has no room beside the buttons.
const NARROW = 560;

/** The drawings of a set-up: wheels on their quadrant, the table from above, how the work turns, the plate. */
export function MillBoard(props: {
  set: HelixSetUp;
  setting: HelixSetting;
  outlines: Outline[];
  machine: string;
  /** Teeth or grooves. */
  divisions: number;
  suspected?: Suspicion;
  back: () => void;
  take: (train: string) => void;
}) {
  const { setting, suspected } = props;
  const [wanted, setShown] = useState<BoardView>("wheels");
  const views = VIEWS.filter(
    ([view]) => (view !== "above" || setting.view) && (view !== "plate" || setting.dividing?.plate),
  );
  const shown = suspected || !views.some(([view]) => view === wanted) ? "wheels" : wanted;
  const next = () => {
    const at = views.findIndex(([view]) => view === shown);
    setShown(views[(at + 1) % views.length]![0]);
  };
  useKey("v", next);
  const set = suspected ? withSlip(suspected.stands, props.set) : props.set;
  return (
    <div className={`absolute inset-0 flex flex-col ${PAPER}`}>
      {suspected ? (
        <AsItMayStand text={suspected.text} back={props.back} />
      ) : (
        set.reasons.length > 0 && <WhyNot candidate={set} take={props.take} />
      )}
      <div className="flex items-center gap-3 border-b border-line bg-paper p-2 phone:flex-wrap">
        <Segmented
          label="Drawing of"
          className="phone:w-full"
          value={shown}
          options={views}
          onChange={setShown}
        />
      </div>
      {shown === "wheels" && <Wheels {...props} set={set} />}
      {shown === "above" && setting.view && (
        <FromAbove view={setting.view} machine={props.machine} />
      )}
      {shown === "end" && <Turning setting={setting} direction={set.direction} />}
      {shown === "plate" && setting.dividing?.plate && (
        <div className="grid min-h-0 flex-1">
          <Stepping
            key={setting.dividing.text}
            way={setting.dividing}
            plate={setting.dividing.plate}
            divisions={props.divisions}
          />
        </div>
      )}
    </div>
  );
}

/** What drives what, and the wheels to scale. */
function Wheels({
  set,
  outlines,
  machine,
}: {
  set: HelixSetUp;
  outlines: Outline[];
  machine: string;
}) {
  const [paper, size] = useSize<HTMLDivElement>();
  return (
    <>
      <ol
        aria-label="What drives what"
        className="flex flex-wrap items-center gap-x-2 border-b border-line bg-paper px-3 py-1.5 text-fine"
      >
        {set.chain.map((part, n) => (
          <li key={part} className="flex items-center gap-2">
            {n > 0 && (
              <span aria-hidden className="text-soft">
                ▸
              </span>
            )}
            {part}
          </li>
        ))}
      </ol>
      <div ref={paper} className="relative min-h-0 flex-1">
        {size.width > 0 && (
          <div className="absolute inset-0">
            <QuadrantDrawing
              drawing={set.drawing}
              outlines={outlines}
              machine={machine}
              train={set.train}
              width={size.width}
              height={size.height}
              turning={false}
              terse={size.width < NARROW}
            />
          </div>
        )}
        <DrawingNotes drawing={set.drawing} />
      </div>
    </>
  );
}

function FromAbove({
  view,
  machine,
}: {
  view: NonNullable<HelixSetting["view"]>;
  machine: string;
}) {
  const [paper, size] = useSize<HTMLDivElement>();
  return (
    <div ref={paper} className="relative min-h-0 flex-1">
      {size.width > 0 && (
        <div className="absolute inset-0">
          <PlanViewDrawing view={view} machine={machine} width={size.width} height={size.height} />
        </div>
      )}
    </div>
  );
}

/** Which way the work turns, the table going either way. */
function Turning({ setting, direction }: { setting: HelixSetting; direction: string }) {
  const [way, setWay] = useState<"left" | "right">("left");
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="min-h-0 flex-1 p-3">
        <WorkTurnsDrawing turning={setting.turning} left={way === "left"} />
      </div>
      <div className="flex flex-wrap items-center gap-3 border-t border-line bg-paper p-2">
        <Segmented
          label="Table moves"
          value={way}
          options={[
            ["left", "Table moves left"],
            ["right", "Table moves right"],
          ]}
          onChange={setWay}
        />
        <p className="min-w-60 flex-1 text-fine">{direction}</p>
      </div>
    </div>
  );
}
