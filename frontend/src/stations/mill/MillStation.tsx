import { lazy, Suspense } from "react";
import { Link, Navigate, useParams } from "react-router";

import { type Order, type Outline, refusedAt } from "../../api/client";
import { useLastGood } from "../../api/lastGood";
import {
  type HelixAsked,
  helixSheetAddress,
  type HelixSetting,
  type HelixSetUp,
  useChangedHelixTrain,
  useHelixMount,
  useHelixNow,
  useHelixPlan,
  useHelixTrain,
} from "../../api/milling";
import { useMachines, useShelf } from "../../api/machines";
import { useAddress } from "../../app/address";
import { useKey } from "../../app/keys";
import { nameIn } from "../../app/named";
import { Failed } from "../../app/Notice";
import { PlanFailed } from "../../app/PlanFailed";
import { usePreferences } from "../../app/preferences";
import { InHandProvider } from "../../drawing/inHand";
import { PlanViewDrawing } from "../../drawing/PlanViewDrawing";
import { meritOf } from "../../drawing/Nut";
import { type OnPaper, wheelsOnPaper } from "../../planning/onPaper";
import { PrintedSheet } from "../../planning/PrintedSheet";
import { Button, buttonLook } from "../../kit/Button";
import { Disclosure } from "../../kit/Disclosure";
import { Stale } from "../../kit/Stale";
import { Working } from "../../kit/Working";
import { Candidates } from "../../planning/Candidates";
import { StationFrame } from "../../planning/StationFrame";
import {
  useOutlines,
  usePut,
  useRecord,
  useSheetKeys,
  useSuspected,
} from "../../planning/stationHooks";
import {
  FirstAsk,
  NamedElsewhere,
  NotInAddress,
  Shelf,
  StartAt,
  useNoSuchMachine,
} from "../../planning/StationParts";
import { MillBoard } from "./MillBoard";
import { MillProof, type Suspected } from "./MillProof";
import { MillSheetPanel } from "./MillSheetPanel";

const MillFields = lazy(() => import("./MillFields").then((m) => ({ default: m.MillFields })));

const EXAMPLES = [
  "helix 24 m2 30° left face 20 with 24",
  "helix 24 dp12 45° right face 1 in",
  "lead 300 mm on 40 mm",
  "flute 6 lead 12 in on 1 in",
  "spiral 15° on 20 mm",
];

/** To the mill that the ask names, or the first there is. */
export function MillStart() {
  return (
    <StartAt kind="mill" needs="Its table screw, its head and its wheels are enough to begin." />
  );
}

/** Ask for a helix or a lead; see pair and wheels, the table from above, the turning way, the sheet and the proof. */
export default function MillStation() {
  const { machine = "" } = useParams();
  const { units } = usePreferences();
  const [search, set] = useAddress();
  const asked: HelixAsked = {
    machine,
    ask: search.get("ask") ?? "",
    order: search.get("order") === "most_exact" ? "most_exact" : "least_trouble",
  };
  const machines = useMachines();
  const row = machines.data?.find((m) => m.slug === machine);
  const name = row?.name ?? machine;
  const now = useHelixNow(machine, units, asked.ask === "");
  const plan = useHelixPlan(asked, units);
  const shelf = useShelf(machine);
  const answer = useLastGood(plan, `${machine} ${units}`);
  const shown = asked.ask ? answer.data : undefined;
  const wanted = search.get("train");
  const other = shown !== undefined && wanted !== null && shown.first?.train !== wanted;
  const own = useHelixTrain(machine, asked.ask, wanted ?? "", units, other);
  const ownSet = other ? own.data : undefined;
  const chosen: HelixSetUp | undefined =
    ownSet?.candidate ?? (other ? undefined : (shown?.first ?? undefined));
  const listed = shown?.candidates.concat(shown.most_exact_unfit ?? [], shown.one_more ?? []);
  const old = answer.old || (other && own.isFetching && !ownSet);
  const aged = { old, busy: answer.busy || own.isFetching };
  const outlines = useOutlines(ownSet, shown, shelf.data);
  const about = `${machine} ${asked.ask} ${chosen?.train}`;
  const [suspected, setSuspected] = useSuspected<Suspected>(about);
  const changed = useChangedHelixTrain(machine, asked.ask, units);
  const put = usePut({
    train: old ? undefined : chosen?.train,
    about,
    mutate: changed.mutate,
    take: (train) => set({ train }),
  });
  const ready = chosen !== undefined && !old;
  const recording = useRecord(useHelixMount(machine));
  const record = () =>
    chosen &&
    recording({ train: chosen.train, seen: row?.mounted ?? "" }, `${chosen.text} is on ${name}`);
  const print = () => window.print();
  const address = chosen ? helixSheetAddress(machine, asked.ask, chosen.train, units) : "";
  useSheetKeys(chosen, ready, { print, address, record });
  useKey("o", () => set({ order: asked.order === "most_exact" ? "" : "most_exact" }));

  const none = useNoSuchMachine("mill", machine);
  if (none) return none;
  const named = nameIn(asked.ask);
  const meant = machines.data?.find((m) => m.name.toLowerCase() === named);
  if (meant && meant.kind === "mill" && meant.slug !== machine)
    return <Navigate replace to={`/mill/${meant.slug}?${search}`} />;
  const lacks = refusedAt(plan.error);
  const unfinished = lacks("screw") ?? lacks("ratio") ?? lacks("stock");
  const take = (ask: string) => set({ ask, train: "" });
  return (
    <>
      <InHandProvider put={put}>
        <StationFrame
          size="wide"
          phoneDrawing="phone:h-[460px]"
          list={
            <>
              {!asked.ask && (
                <FirstAsk
                  title="What helix?"
                  say={`Type it on top, or start with one of these on ${name}:`}
                  examples={EXAMPLES}
                  take={take}
                  name={name}
                  now={now.data && <OnNow now={now.data} take={take} />}
                />
              )}
              {!asked.ask && now.error && (
                <Failed error={now.error} retry={() => void now.refetch()} />
              )}
              {plan.error && asked.ask && !unfinished && (
                <PlanFailed error={plan.error} retry={() => void plan.refetch()} take={take} />
              )}
              {unfinished && (
                <div className="border-l-4 border-oxide bg-oxide-bg px-3 py-2">
                  <p>{unfinished}</p>
                  <Link className={`${buttonLook("main")} mt-2`} to={`/machines/${machine}`}>
                    Open {name}’s record
                  </Link>
                </div>
              )}
              {named && !(meant?.kind === "mill") && machines.data && shown && (
                <NamedElsewhere kind="mill" named={named} name={name} />
              )}
              {own.error && wanted !== null && !ownSet && (
                <NotInAddress
                  error={own.error}
                  retry={() => void own.refetch()}
                  text={`The train in the address, “${wanted}”, is not shown.`}
                  first={() => set({ train: "" })}
                />
              )}
              {shown && (
                <Stale old={answer.old} busy={answer.busy}>
                  <Candidates
                    plan={shown}
                    of="mill"
                    own={listed?.some((c) => c.train === wanted) ? undefined : ownSet?.candidate}
                    chosen={other ? (wanted ?? "") : (chosen?.train ?? "")}
                    choose={(train) => set({ train })}
                    setOrder={(order: Order) => set({ order: order === "most_exact" ? order : "" })}
                    fields={
                      <Disclosure title="Plain fields">
                        <Suspense fallback={null}>
                          <MillFields ask={shown.ask} take={take} />
                        </Suspense>
                      </Disclosure>
                    }
                  />
                </Stale>
              )}
              {plan.isPending && !answer.data && asked.ask && (
                <Working text="Looking for pairs and trains …" />
              )}
            </>
          }
          drawing={
            <Stale {...aged} note className="absolute inset-0">
              {chosen && shown ? (
                <MillBoard
                  set={chosen}
                  setting={shown.setting}
                  outlines={outlines}
                  machine={name}
                  divisions={Number(shown.ask.teeth)}
                  suspected={suspected}
                  back={() => setSuspected(undefined)}
                  take={(train) => set({ train })}
                />
              ) : (
                <p className="grid h-full place-items-center p-6 text-center text-soft">
                  Wheels, table and work will be drawn here, to scale.
                </p>
              )}
            </Stale>
          }
          sheet={
            chosen &&
            shown && (
              <Stale {...aged} className="h-full">
                <MillSheetPanel
                  set={chosen}
                  plan={shown}
                  ask={asked.ask}
                  pdf={address}
                  print={print}
                  record={record}
                >
                  <MillProof
                    machine={machine}
                    ask={asked.ask}
                    set={chosen}
                    suspected={suspected}
                    suspect={setSuspected}
                  />
                </MillSheetPanel>
              </Stale>
            )
          }
          shelf={<Shelf shelf={shelf} drawing={chosen?.drawing} planned={outlines} name={name} />}
        />
      </InHandProvider>
      {ready && shown && (
        <PrintedSheet
          sheet={chosen.sheet}
          merit={meritOf(chosen.goes, chosen.relative_error === 0)}
          drawn={onPaper(chosen, shown.setting, outlines, name)}
        />
      )}
    </>
  );
}

function OnNow({ now, take }: { now: { ask: string; text: string }; take: (ask: string) => void }) {
  return (
    <>
      <p>{now.text}</p>
      <Button className="mt-2" onClick={() => take(now.ask)}>
        See {now.ask}
      </Button>
    </>
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
