import { lazy, Suspense, useEffect, useMemo, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";

import { type Candidate, type Order, type Plan } from "../../api/client";
import { useLastGood } from "../../api/lastGood";
import {
  type Asked,
  sheetAddress,
  useChangedTrain,
  useMachines,
  useMount,
  useNow,
  usePlan,
  useShelf,
  useTrain,
} from "../../api/questions";
import { useAddress } from "../../app/address";
import { PlanFailed } from "../../app/PlanFailed";
import { useKey } from "../../app/keys";
import { usePreferences } from "../../app/preferences";
import { changeOf, type Held, InHandProvider, type Target } from "../../drawing/inHand";
import { WheelShelf } from "../../planning/WheelShelf";
import { Stale } from "../../kit/Stale";
import { Button } from "../../kit/Button";
import { Disclosure } from "../../kit/Disclosure";
import { Failed } from "../../app/Notice";
import { useTell } from "../../app/Toast";
import { TrainFraction } from "../../planning/TrainFraction";
import { Working } from "../../kit/Working";
import { Candidates } from "../../planning/Candidates";
import { DrawingBoard } from "../../planning/DrawingBoard";
import { PrintedSheet } from "./PrintedSheet";
import { ProofCheck, type Suspected } from "./ProofCheck";
import { SheetPanel } from "./SheetPanel";

const PlainFields = lazy(() => import("./PlainFields").then((m) => ({ default: m.PlainFields })));
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
  const outlines = useMemo(
    () => [
      ...(ownTrain?.outlines ?? []),
      ...(shown?.outlines ?? []),
      ...(shelf.data?.outlines ?? []),
    ],
    [ownTrain, shown, shelf.data],
  );

  const [suspected, setSuspected] = useState<Suspected>();
  const key = `${machine} ${asked.ask} ${chosen?.train}`;
  useEffect(() => setSuspected(undefined), [key]);

  const ready = chosen !== undefined && !old;
  const changed = useChangedTrain(machine, line, units);
  const tell = useTell();
  const keyNow = useRef(key);
  keyNow.current = key;
  const put = (held: Held, target: Target) => {
    const change = changeOf(held, target);
    if (!change || !chosen || old) return;
    const before = chosen.train;
    changed.mutate(
      { ...change, train: before },
      {
        onSuccess: ({ candidate }) => {
          // Asked for something else meanwhile: this answer is of no use any more.
          if (keyNow.current !== key) return;
          set({ ask: line, train: candidate.train });
          tell({
            text: `${candidate.text}: ${candidate.lead}, ${candidate.error}.`,
            back: () => set({ train: before }),
          });
        },
        onError: (error) => tell({ text: error.message }),
      },
    );
  };

  const record = useRecord(
    machine,
    name,
    machines.data?.find((m) => m.slug === machine)?.mounted ?? "",
  );
  const print = () => window.print();
  const address = chosen ? sheetAddress(machine, line, chosen.train, units) : "";
  useKey("p", print, ready && chosen.goes_on);
  useKey("d", () => location.assign(address), ready && chosen.goes_on);
  useKey("m", () => chosen && record(chosen), ready && chosen.fits && !chosen.is_on);
  useKey("o", () => set({ order: asked.order === "most_exact" ? "" : "most_exact" }));

  if (machines.error && !machines.data) {
    return (
      <div className="p-6">
        <Failed error={machines.error} retry={() => void machines.refetch()} />
      </div>
    );
  }
  if (machines.data && !machines.data.some((m) => m.slug === machine && m.kind === "lathe"))
    return <NoSuchLathe machine={machine} />;
  return (
    <>
      <InHandProvider put={put}>
        <div className="grid h-full grid-cols-[308px_minmax(0,1fr)_304px] grid-rows-[minmax(0,1fr)_152px] print:hidden tall:grid-cols-[320px_minmax(0,1fr)] tall:grid-rows-[500px_minmax(0,1fr)_150px] phone:flex phone:h-auto phone:flex-col">
          <section
            aria-label="Trains"
            className="min-h-0 overflow-y-auto border-r border-line px-4 py-3 tall:row-start-2 phone:order-2 phone:max-h-[440px] phone:border-r-0 phone:border-b phone:px-2"
          >
            {!asked.ask && now.error && (
              <Failed error={now.error} retry={() => void now.refetch()} />
            )}
            {!asked.ask && (
              <FirstThing name={name} on={now.data ?? undefined} take={(ask) => set({ ask })} />
            )}
            {plan.error && asked.ask && (
              <PlanFailed
                error={plan.error}
                retry={() => void plan.refetch()}
                take={(ask) => set({ ask, train: "" })}
              />
            )}
            {own.error && wanted !== null && !ownTrain && (
              <div className="mb-3">
                <Failed error={own.error} retry={() => void own.refetch()}>
                  <p>The train in the address, “{wanted}”, is not shown.</p>
                  <Button className="mt-2" onClick={() => set({ train: "" })}>
                    See the first of the list
                  </Button>
                </Failed>
              </div>
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
                        <PlainFields ask={shown.ask} take={(ask) => set({ ask, train: "" })} />
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
          </section>
          <section
            aria-label="Drawing"
            className="relative min-h-0 min-w-0 overflow-hidden bg-paper tall:col-span-2 tall:row-start-1 phone:order-1 phone:h-[400px]"
          >
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
          </section>
          <section
            aria-label="Set-up sheet"
            className="min-h-0 border-l border-line tall:row-start-2 tall:border-t phone:order-3 phone:border-l-0"
          >
            {chosen && (
              <Stale {...aged} className="h-full">
                <SheetPanel
                  candidate={chosen}
                  machine={name}
                  assumptions={shown?.ask.assumptions ?? []}
                  pdf={address}
                  print={print}
                  record={() => record(chosen)}
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
            )}
          </section>
          <div className="col-span-3 min-h-0 border-t border-line tall:col-span-2 tall:row-start-3 phone:order-4 phone:h-[190px]">
            {shelf.error && <Failed error={shelf.error} retry={() => void shelf.refetch()} />}
            {shelf.data && (
              <WheelShelf
                shelf={shelf.data}
                drawing={asked.ask ? chosen?.drawing : undefined}
                planned={outlines}
                name={name}
              />
            )}
          </div>
        </div>
      </InHandProvider>
      {ready && <PrintedSheet candidate={chosen} outlines={outlines} machine={name} />}
    </>
  );
}

/** Record a train as mounted, with the way back. */
function useRecord(machine: string, name: string, seen: string) {
  const mount = useMount(machine);
  const tell = useTell();
  return (candidate: Candidate) =>
    mount.mutate(
      { train: candidate.train, seen },
      {
        onSuccess: () => tell({ text: `Recorded: ${candidate.text} is on ${name}.`, done: true }),
        onError: (error) => tell({ text: `Not recorded: ${error.message}` }),
      },
    );
}

function FirstThing({ name, on, take }: { name: string; on?: Plan; take: (ask: string) => void }) {
  const mounted = on?.candidates[0];
  return (
    <div>
      <h1 className="text-[19px] font-bold">What thread?</h1>
      <p className="mt-1">
        Type it on top, as you would say it, or start with one of these on {name}:
      </p>
      <div className="mt-3 flex flex-col gap-2">
        {EXAMPLES.map((ask) => (
          <Button
            key={ask}
            look="quiet"
            className="justify-start font-mono"
            onClick={() => take(ask)}
          >
            {ask}
          </Button>
        ))}
      </div>
      {mounted && (
        <div className="mt-5 border-l-4 border-brass-line bg-brass-bg px-3 py-2">
          <h2 className="font-bold">On {name} now</h2>
          <TrainFraction stages={mounted.stages} text={mounted.text} className="my-2" />
          <p>cuts {mounted.lead}</p>
        </div>
      )}
    </div>
  );
}

function NoSuchLathe({ machine }: { machine: string }) {
  const navigate = useNavigate();
  return (
    <div className="p-6">
      <h1 className="text-xl font-bold">There is no lathe “{machine}” here.</h1>
      <Button className="mt-3" onClick={() => void navigate("/machines")}>
        See the machines
      </Button>
    </div>
  );
}
