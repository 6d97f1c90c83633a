import { lazy, Suspense } from "react";
import { useParams } from "react-router";

import { type Order } from "../../api/client";
import { useLastGood } from "../../api/lastGood";
import {
  type Asked,
  sheetAddress,
  useChangedTrain,
  useMount,
  useNow,
  usePlan,
  useTrain,
} from "../../api/lathe";
import { useMachines, useShelf } from "../../api/machines";
import { useAddress } from "../../app/address";
import { PlanFailed } from "../../app/PlanFailed";
import { useKey } from "../../app/keys";
import { usePreferences } from "../../app/preferences";
import { InHandProvider } from "../../drawing/inHand";
import { wheelsOnPaper } from "../../planning/onPaper";
import { meritOf } from "../../drawing/Nut";
import { Stale } from "../../kit/Stale";
import { Disclosure } from "../../kit/Disclosure";
import { preloaded } from "../../kit/preloaded";
import { Failed } from "../../app/Notice";
import { TrainFraction } from "../../planning/TrainFraction";
import { Working } from "../../kit/Working";
import { DrawingBoard } from "../../planning/DrawingBoard";
import { StationFrame } from "../../planning/StationFrame";
import {
  useOutlines,
  usePut,
  useRecord,
  useSheetKeys,
  useSuspected,
} from "../../planning/stationHooks";
import { FirstAsk, NotInAddress, Shelf, useNoSuchMachine } from "../../planning/StationParts";
import type { Suspected } from "./ProofCheck";

const PlainFields = lazy(() => import("./PlainFields").then((m) => ({ default: m.PlainFields })));
// List and sheet are not there before something is asked.
const Candidates = preloaded(() => import("../../planning/Candidates").then((m) => m.Candidates));
const SheetPanel = preloaded(() => import("./SheetPanel").then((m) => m.SheetPanel));
const ProofCheck = preloaded(() => import("./ProofCheck").then((m) => m.ProofCheck));
const PrintedSheet = preloaded(() =>
  import("../../planning/PrintedSheet").then((m) => m.PrintedSheet),
);
const Slower = lazy(() => import("./Slower").then((m) => ({ default: m.Slower })));

const EXAMPLES = [
  "M14x2",
  "26 tpi",
  "1/2-13 UNC",
  "M8 left hand",
  "module 1.5 worm",
  "feed 0.1 mm/rev",
];

/** Ask for a thread; see the trains, the chosen one on the quadrant, its wheels on the shelf, its sheet. */
export function LatheStation() {
  const { machine = "" } = useParams();
  const { units } = usePreferences();
  const [search, set] = useAddress();
  const asked: Asked = {
    machine,
    ask: search.get("ask") ?? "",
    order: search.get("order") === "most_exact" ? "most_exact" : "least_trouble",
  };
  const plan = usePlan(asked, units);
  const now = useNow(machine, units, asked.ask === "");
  const shelf = useShelf(machine);
  const machines = useMachines();
  const name = machines.data?.find((m) => m.slug === machine)?.name ?? machine;

  // What is on the lathe is no answer to an ask; nor is what was asked of another lathe.
  const answer = useLastGood(plan, `${machine} ${units}`);
  const shown = asked.ask ? answer.data : (now.data ?? undefined);
  const wanted = search.get("train");
  const listed = shown?.candidates.concat(shown.most_exact_unfit ?? [], shown.one_more ?? []);
  const line = asked.ask || shown?.ask.canonical || "";
  // The plan brings everything about its first train; about any other it is asked for.
  const other = shown !== undefined && wanted !== null && shown.first?.train !== wanted;
  const own = useTrain(machine, line, wanted ?? "", units, other);
  const ownTrain = other ? own.data : undefined;
  const chosen = ownTrain?.candidate ?? shown?.first ?? undefined;
  // Nothing can be done with an answer to an earlier ask, or with a train that is not the one in the address.
  const old = (asked.ask !== "" && answer.old) || (other && own.isFetching && !ownTrain);
  const listAged = { old: asked.ask !== "" && answer.old, busy: answer.busy };
  const aged = { old, busy: answer.busy || own.isFetching };
  const outlines = useOutlines(ownTrain, shown, shelf.data);
  const about = `${machine} ${asked.ask} ${chosen?.train}`;
  const [suspected, setSuspected] = useSuspected<Suspected>(about);
  const changed = useChangedTrain(machine, line, units);
  const put = usePut({
    train: old ? undefined : chosen?.train,
    about,
    mutate: changed.mutate,
    take: (train) => set({ ask: line, train }),
  });
  const ready = chosen !== undefined && !old;
  const seen = machines.data?.find((m) => m.slug === machine)?.mounted ?? "";
  const recording = useRecord(useMount(machine));
  const record = () =>
    chosen && recording({ train: chosen.train, seen }, `${chosen.text} is on ${name}`);
  const print = () => window.print();
  const address = chosen ? sheetAddress(machine, line, chosen.train, units) : "";
  useSheetKeys(chosen, ready, { print, address, record });
  useKey("o", () => set({ order: asked.order === "most_exact" ? "" : "most_exact" }));

  const none = useNoSuchMachine("lathe", machine);
  if (none) return none;
  const mounted = now.data?.candidates[0];
  const take = (ask: string) => set({ ask, train: "" });
  return (
    <>
      <InHandProvider put={put}>
        <StationFrame
          size="lathe"
          phoneDrawing="phone:h-[400px]"
          list={
            <>
              {!asked.ask && now.error && (
                <Failed error={now.error} retry={() => void now.refetch()} />
              )}
              {!asked.ask && (
                <FirstAsk
                  title="What thread?"
                  say={`Type it on top, as you would say it, or start with one of these on ${name}:`}
                  examples={EXAMPLES}
                  take={(ask) => set({ ask })}
                  name={name}
                  now={
                    mounted && (
                      <>
                        <TrainFraction
                          stages={mounted.stages}
                          text={mounted.text}
                          className="my-2"
                        />
                        <p>cuts {mounted.lead}</p>
                      </>
                    )
                  }
                />
              )}
              {plan.error && asked.ask && (
                <PlanFailed error={plan.error} retry={() => void plan.refetch()} take={take} />
              )}
              {own.error && wanted !== null && !ownTrain && (
                <NotInAddress
                  error={own.error}
                  retry={() => void own.refetch()}
                  text={`The train in the address, “${wanted}”, is not shown.`}
                  first={() => set({ train: "" })}
                />
              )}
              {asked.ask && shown && chosen !== undefined && (
                <Stale {...listAged}>
                  <Candidates
                    plan={shown}
                    of="lathe"
                    own={listed?.some((c) => c.train === wanted) ? undefined : ownTrain?.candidate}
                    chosen={other && own.data === undefined && !own.error ? wanted : chosen.train}
                    choose={(train) => set({ train })}
                    setOrder={(order: Order) => set({ order: order === "most_exact" ? order : "" })}
                    fields={
                      <Disclosure title="Plain fields">
                        <Suspense fallback={null}>
                          <PlainFields ask={shown.ask} take={take} />
                        </Suspense>
                      </Disclosure>
                    }
                    further={
                      (shown.too_fine || shown.ask.job === "feed") && (
                        <Suspense fallback={null}>
                          <Slower
                            plan={shown}
                            open={shown.too_fine}
                            choose={(train) => set({ train })}
                          />
                        </Suspense>
                      )
                    }
                  />
                </Stale>
              )}
              {asked.ask && shown && chosen === undefined && (
                <p>{shown.shortfall ?? "No train can be made of these wheels."}</p>
              )}
              {plan.isPending && !answer.data && asked.ask && (
                <Working text="Looking for trains, through three stages where two give nothing good …" />
              )}
            </>
          }
          drawing={
            <Stale {...aged} note className="absolute inset-0">
              {suspected && chosen ? (
                <DrawingBoard
                  candidate={suspected.candidate}
                  outlines={suspected.outlines}
                  machine={name}
                  suspected={suspected.text}
                  planned={chosen}
                  back={() => setSuspected(undefined)}
                />
              ) : (
                <DrawingBoard
                  candidate={chosen}
                  outlines={outlines}
                  machine={name}
                  take={(train) => set({ ask: line, train })}
                />
              )}
            </Stale>
          }
          sheet={
            chosen && (
              <Stale {...aged} className="h-full">
                <SheetPanel
                  candidate={chosen}
                  machine={name}
                  assumptions={shown?.ask.assumptions ?? []}
                  pdf={address}
                  print={print}
                  record={record}
                >
                  <ProofCheck
                    machine={machine}
                    ask={line}
                    candidate={chosen}
                    suspected={suspected}
                    suspect={setSuspected}
                  />
                </SheetPanel>
              </Stale>
            )
          }
          shelf={
            <Shelf
              shelf={shelf}
              drawing={asked.ask ? chosen?.drawing : undefined}
              planned={outlines}
              name={name}
            />
          }
        />
      </InHandProvider>
      {ready && (
        <PrintedSheet
          sheet={chosen.sheet}
          merit={meritOf(chosen.verdict.goes, chosen.relative_error === 0)}
          drawn={[
            wheelsOnPaper(
              { drawing: chosen.drawing, outlines, machine: name, train: chosen.train },
              true,
            ),
          ]}
        />
      )}
    </>
  );
}
