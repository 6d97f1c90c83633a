import { lazy, Suspense } from "react";

import type { Outline, Schemas } from "../../api/client";
import { type HelixPlan, type HelixSetting, type HelixSetUp, MILL } from "../../api/mill";
import { meritOf } from "../../drawing/Nut";
import { PlanViewDrawing } from "../../drawing/PlanViewDrawing";
import { Disclosure } from "../../kit/Disclosure";
import { Candidates } from "../../planning/Candidates";
import { type OnPaper, wheelsOnPaper } from "../../planning/onPaper";
import { PlanningStation } from "../../planning/PlanningStation";
import { AskOfNow } from "../../planning/StationParts";
import { usePlanning } from "../../planning/usePlanning";
import { MillBoard } from "./MillBoard";
import { LeadCheck, type Suspicion } from "./LeadCheck";
import { MillSheetPanel } from "./MillSheetPanel";

const MillFields = lazy(() => import("./MillFields").then((m) => ({ default: m.MillFields })));

const EXAMPLES = [
  "helix 24 m2 30° left face 20 with 24",
  "helix 24 dp12 45° right face 1 in",
  "lead 300 mm on 40 mm",
  "flute 6 lead 12 in on 1 in",
  "spiral 15° on 20 mm",
];

/** Ask for a helix or a lead; see pair and wheels, the table from above, the turning way, the sheet and the check. */
export function MillStation() {
  const station = usePlanning<HelixPlan, HelixSetUp, Schemas["HelixNowOut"], Suspicion>(MILL);
  const { request, name, outlines, suspected, suspect } = station;
  return (
    <PlanningStation
      kind="mill"
      station={station}
      size="wide"
      phoneDrawing="phone:h-[460px]"
      texts={{
        title: "What helix?",
        say: `Type it on top, or start with one of these on ${name}:`,
        examples: EXAMPLES,
        working: "Looking for pairs and trains …",
        undrawn: "Wheels, table and work will be drawn here, to scale.",
      }}
      now={(now) => <AskOfNow now={now} take={station.ask} />}
      list={(plan) => (
        <Candidates
          plan={plan}
          of="mill"
          own={station.ownListed}
          chosen={station.chosenName}
          choose={station.choose}
          setOrder={station.setOrder}
          fields={
            <Disclosure title="Plain fields">
              <Suspense fallback={null}>
                <MillFields ask={plan.ask} take={station.ask} />
              </Suspense>
            </Disclosure>
          }
        />
      )}
      drawing={(chosen, plan) => (
        <MillBoard
          set={chosen}
          setting={plan.setting}
          outlines={outlines}
          machine={name}
          divisions={Number(plan.ask.teeth)}
          suspected={suspected}
          back={() => suspect(undefined)}
          take={station.take}
        />
      )}
      sheet={(chosen, plan) => (
        <MillSheetPanel
          set={chosen}
          plan={plan}
          ask={request.ask}
          pdf={station.address}
          print={station.print}
          record={station.record}
        >
          <LeadCheck
            machine={request.machine}
            ask={request.ask}
            set={chosen}
            suspected={suspected}
            suspect={suspect}
          />
        </MillSheetPanel>
      )}
      heard={({ candidates: [best] }) =>
        best ? `${best.text}, ${best.verdict_head}, error ${best.error}` : ""
      }
      onShelf={(chosen) => chosen.drawing}
      paper={(chosen, plan) => ({
        merit: meritOf(chosen.goes, chosen.relative_error === 0),
        drawn: onPaper(chosen, plan.setting, outlines, name),
      })}
    />
  );
}

/** The wheels, and the table from above where its angle is known. */
function onPaper(
  set: HelixSetUp,
  setting: HelixSetting,
  outlines: Outline[],
  machine: string,
): OnPaper[] {
  const { view } = setting;
  const wheels = wheelsOnPaper({ drawing: set.drawing, outlines, machine, train: set.text });
  if (!view) return [wheels];
  return [
    wheels,
    (width, height) => (
      <PlanViewDrawing view={view} machine={machine} width={width} height={height} plain />
    ),
  ];
}
