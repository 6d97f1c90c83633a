import { lazy, Suspense } from "react";

import type { Candidate, Schemas } from "../../api/client";
import { LATHE } from "../../api/lathe";
import { useMachines } from "../../api/machines";
import { meritOf } from "../../drawing/Nut";
import { Disclosure } from "../../kit/Disclosure";
import { preload } from "../../kit/preload";
import { DrawingBoard } from "../../planning/DrawingBoard";
import { wheelsOnPaper } from "../../planning/onPaper";
import { PlanningStation } from "../../planning/PlanningStation";
import { TrainFraction } from "../../planning/TrainFraction";
import { usePlanning } from "../../planning/usePlanning";
import type { Suspicion } from "./LengthCheck";

type Plan = Schemas["PlanOut"];

const PlainFields = lazy(() => import("./PlainFields").then((m) => ({ default: m.PlainFields })));
// List and sheet are not there before something is asked.
const Candidates = preload(() => import("../../planning/Candidates").then((m) => m.Candidates));
const SheetPanel = preload(() => import("./SheetPanel").then((m) => m.SheetPanel));
const LengthCheck = preload(() => import("./LengthCheck").then((m) => m.LengthCheck));
const OtherLathes = lazy(() => import("./OtherLathes").then((m) => ({ default: m.OtherLathes })));
const Slower = lazy(() => import("./Slower").then((m) => ({ default: m.Slower })));

const EXAMPLES = [
  "M14x2",
  "26 tpi",
  "1/2-13 UNC",
  "M8 left hand",
  "module 1.5 worm",
  "feed 0.5 mm/rev",
];

/** Ask for a thread; see the trains, the chosen one on the quadrant, its wheels on the shelf, its sheet. */
export function LatheStation() {
  const station = usePlanning<Plan, Candidate, Plan, Suspicion>(LATHE);
  const { request, name, outlines, suspected, suspect } = station;
  const { machine } = request;
  const lathes = useMachines().data?.filter((m) => m.kind === "lathe" && !m.archived).length ?? 0;
  return (
    <PlanningStation
      kind="lathe"
      station={station}
      size="lathe"
      phoneDrawing="phone:h-[400px]"
      texts={{
        title: "What thread?",
        say: `Type it on top, as you would say it, or start with one of these on ${name}:`,
        examples: EXAMPLES,
        working: "Looking for trains, through three stages where two give nothing good …",
        undrawn: "The train will be drawn here on its quadrant, to scale.",
      }}
      now={(now) => <OnNow mounted={now.candidates[0]} />}
      list={(plan) => (
        <Candidates
          plan={plan}
          of="lathe"
          own={station.ownListed}
          chosen={station.chosenName}
          choose={station.choose}
          setOrder={station.setOrder}
          fields={
            <Disclosure title="Plain fields">
              <Suspense fallback={null}>
                <PlainFields ask={plan.ask} take={station.ask} />
              </Suspense>
            </Disclosure>
          }
          further={
            <>
              {(plan.too_fine || plan.ask.job === "feed") && (
                <Suspense fallback={null}>
                  <Slower plan={plan} open={plan.too_fine} choose={station.choose} />
                </Suspense>
              )}
              {lathes > 1 && (
                <Disclosure title="On every lathe">
                  <Suspense fallback={null}>
                    <OtherLathes ask={plan.ask.canonical} machine={machine} />
                  </Suspense>
                </Disclosure>
              )}
            </>
          }
        />
      )}
      drawing={(chosen) =>
        suspected ? (
          <DrawingBoard
            candidate={suspected.candidate}
            outlines={suspected.outlines}
            machine={name}
            suspected={suspected.text}
            planned={chosen}
            back={() => suspect(undefined)}
          />
        ) : (
          <DrawingBoard candidate={chosen} outlines={outlines} machine={name} take={station.take} />
        )
      }
      sheet={(chosen, plan) => (
        <SheetPanel
          candidate={chosen}
          machine={name}
          assumptions={plan.ask.assumptions}
          pdf={station.address}
          print={station.print}
          record={station.record}
        >
          <LengthCheck
            machine={machine}
            ask={station.line}
            candidate={chosen}
            suspected={suspected}
            suspect={suspect}
          />
        </SheetPanel>
      )}
      heard={({ candidates: [best] }) =>
        best ? `${best.text}, ${best.verdict_head}, error ${best.error}` : ""
      }
      onShelf={(chosen) => chosen.drawing}
      paper={(chosen) => ({
        merit: meritOf(chosen.verdict.goes, chosen.relative_error === 0),
        drawn: [
          wheelsOnPaper(
            { drawing: chosen.drawing, outlines, machine: name, train: chosen.train },
            true,
          ),
        ],
      })}
    />
  );
}

function OnNow({ mounted }: { mounted: Plan["candidates"][number] | undefined }) {
  if (!mounted) return null;
  return (
    <>
      <TrainFraction stages={mounted.stages} text={mounted.text} className="my-2" />
      <p>cuts {mounted.lead}</p>
    </>
  );
}
