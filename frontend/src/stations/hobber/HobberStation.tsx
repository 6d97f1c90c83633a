import { lazy, Suspense } from "react";

import { HOBBER, type HobPlan, type SetUp } from "../../api/hobber";
import type { Schemas } from "../../api/client";
import { Disclosure } from "../../kit/Disclosure";
import { wheelsOnPaper } from "../../planning/onPaper";
import { PlanningStation } from "../../planning/PlanningStation";
import { AskOfNow } from "../../planning/StationParts";
import { usePlanning } from "../../planning/usePlanning";
import { AsItMayStand } from "../../planning/WhyNot";
import { BoxesBoard } from "./BoxesBoard";
import { HobCheck, type Suspicion } from "./HobCheck";
import { HobSheetPanel } from "./HobSheetPanel";
import { SetUps } from "./SetUps";

const HobFields = lazy(() => import("./HobFields").then((m) => ({ default: m.HobFields })));

const EXAMPLES = ["hob 37", "hob 24 m2 30° left face 20 with 24", "hob 107", "hob 60 m2 face 20"];

/** Ask for a wheel to be hobbed; see trains for every box, drawn, with the sheet, the setting and the check. */
export function HobberStation() {
  const station = usePlanning<HobPlan, SetUp, Schemas["HobNowOut"], Suspicion>(HOBBER);
  const { request, name, outlines, suspected, suspect } = station;
  return (
    <PlanningStation
      kind="hobber"
      station={station}
      size="wide"
      texts={{
        title: "What wheel?",
        say: `Type it on top, or start with one of these on ${name}:`,
        examples: EXAMPLES,
        working: "Looking for trains in every box …",
        undrawn: "Every box will be drawn here, to scale.",
      }}
      now={(now) => <AskOfNow now={now} take={station.ask} />}
      list={(plan) => (
        <SetUps
          plan={plan}
          own={station.ownListed}
          chosen={station.chosenName}
          choose={station.choose}
          fields={
            <Disclosure title="Plain fields">
              <Suspense fallback={null}>
                <HobFields ask={plan.ask} take={station.ask} />
              </Suspense>
            </Disclosure>
          }
        />
      )}
      drawing={(chosen) => (
        <>
          {suspected && <AsItMayStand text={suspected.text} back={() => suspect(undefined)} />}
          <BoxesBoard set={suspected?.stands ?? chosen} outlines={outlines} machine={name} />
        </>
      )}
      sheet={(chosen, plan) => (
        <HobSheetPanel
          set={chosen}
          plan={plan}
          material={request.material}
          setMaterial={station.setMaterial}
          pdf={station.address}
          print={station.print}
          record={station.record}
        >
          <HobCheck
            machine={request.machine}
            ask={request.ask}
            set={chosen}
            suspected={suspected}
            suspect={suspect}
          />
        </HobSheetPanel>
      )}
      heard={({ candidates: [best] }) => (best ? `${best.head}, ${best.run_off}` : "")}
      onShelf={everyBox}
      paper={(chosen) => ({
        merit: chosen.merit,
        drawn: chosen.drawn.map(({ name: box, drawing, text }) => {
          const wheels = wheelsOnPaper({ drawing, outlines, machine: name, train: text });
          return (width, height) => (
            <figure>
              <figcaption className="font-bold first-letter:uppercase">{box}</figcaption>
              {wheels(width, height)}
            </figure>
          );
        }),
      })}
    />
  );
}

/** The wheels of every box as one drawing, for the shelf. */
function everyBox(set: SetUp) {
  const [first, ...others] = set.drawn;
  if (!first) return undefined;
  return {
    ...first.drawing,
    wheels: [first, ...others].flatMap((box) => box.drawing.wheels),
  };
}
