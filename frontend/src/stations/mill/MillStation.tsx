import { lazy, Suspense, useEffect, useMemo, useRef, useState } from "react";
import { Link, Navigate, useParams, useSearchParams } from "react-router";

import { type Order, refusedAt } from "../../api/client";
import { useLastGood } from "../../api/lastGood";
import {
  type HelixAsked,
  helixSheetAddress,
  type HelixSetUp,
  useChangedHelixTrain,
  useHelixMount,
  useHelixNow,
  useHelixPlan,
  useHelixTrain,
} from "../../api/milling";
import { useMachines, useShelf } from "../../api/questions";
import { useAddress } from "../../app/address";
import { useKey } from "../../app/keys";
import { nameIn } from "../../app/named";
import { Failed } from "../../app/Notice";
import { PlanFailed } from "../../app/PlanFailed";
import { usePreferences } from "../../app/preferences";
import { useTell } from "../../app/Toast";
import { changeOf, type Held, InHandProvider, type Target } from "../../drawing/inHand";
import { Button, buttonLook } from "../../kit/Button";
import { Disclosure } from "../../kit/Disclosure";
import { Stale } from "../../kit/Stale";
import { Working } from "../../kit/Working";
import { Candidates } from "../../planning/Candidates";
import { WheelShelf } from "../../planning/WheelShelf";
import { MillBoard } from "./MillBoard";
import { MillProof, type Suspected } from "./MillProof";
import { MillSheetPanel } from "./MillSheetPanel";
import { PrintedMillSheet } from "./PrintedMillSheet";

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
  const machines = useMachines();
  const [search] = useSearchParams();
  if (machines.error)
    return <Failed error={machines.error} retry={() => void machines.refetch()} />;
  if (!machines.data) return null;
  const mills = machines.data.filter((m) => m.kind === "mill");
  const named = nameIn(search.get("ask") ?? "");
  const found = mills.find((m) => m.name.toLowerCase() === named) ?? mills[0];
  if (found) return <Navigate replace to={`/mill/${found.slug}?${search}`} />;
  return (
    <div className="p-6">
      <h1 className="text-xl font-bold">There is no mill here yet.</h1>
      <p className="mt-1">Its table screw, its head and its wheels are enough to begin.</p>
      <Link className={`${buttonLook("main")} mt-3`} to="/machines/new/mill">
        Add a mill
      </Link>
    </div>
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
  const outlines = useMemo(
    () => [
      ...(ownSet?.outlines ?? []),
      ...(shown?.outlines ?? []),
      ...(shelf.data?.outlines ?? []),
    ],
    [ownSet, shown, shelf.data],
  );
  const [suspected, setSuspected] = useState<Suspected>();
  const about = `${machine} ${asked.ask} ${chosen?.train}`;
  useEffect(() => setSuspected(undefined), [about]);

  const tell = useTell();
  const changed = useChangedHelixTrain(machine, asked.ask, units);
  const aboutNow = useRef(about);
  aboutNow.current = about;
  const put = (held: Held, target: Target) => {
    const change = changeOf(held, target);
    if (!change || !chosen || old) return;
    const before = chosen.train;
    changed.mutate(
      { ...change, train: before },
      {
        onSuccess: ({ candidate }) => {
          // Asked for something else meanwhile: this answer is of no use any more.
          if (aboutNow.current !== about) return;
          set({ train: candidate.train });
          tell({
            text: `${candidate.text}: ${candidate.lead}, ${candidate.error}.`,
            back: () => set({ train: before }),
          });
        },
        onError: (error) => tell({ text: error.message }),
      },
    );
  };
  const ready = chosen !== undefined && !old;
  const record = useRecord(machine, name, row?.mounted ?? "");
  const print = () => window.print();
  const address = chosen ? helixSheetAddress(machine, asked.ask, chosen.train, units) : "";
  useKey("p", print, ready && chosen.goes_on);
  useKey("d", () => location.assign(address), ready && chosen.goes_on);
  useKey("m", () => chosen && record(chosen), ready && chosen.fits && !chosen.is_on);
  useKey("o", () => set({ order: asked.order === "most_exact" ? "" : "most_exact" }));

  if (machines.error && !machines.data)
    return (
      <div className="p-6">
        <Failed error={machines.error} retry={() => void machines.refetch()} />
      </div>
    );
  if (machines.data && row?.kind !== "mill")
    return (
      <div className="p-6">
        <h1 className="text-xl font-bold">There is no mill “{machine}” here.</h1>
        <Link className={`${buttonLook()} mt-3`} to="/machines">
          See the machines
        </Link>
      </div>
    );
  const named = nameIn(asked.ask);
  const meant = machines.data?.find((m) => m.name.toLowerCase() === named);
  if (meant && meant.kind === "mill" && meant.slug !== machine)
    return <Navigate replace to={`/mill/${meant.slug}?${search}`} />;
  const lacks = refusedAt(plan.error);
  const unfinished = lacks("screw") ?? lacks("ratio") ?? lacks("stock");
  return (
    <>
      <InHandProvider put={put}>
        <div className="grid h-full grid-cols-[308px_minmax(0,1fr)_328px] grid-rows-[minmax(0,1fr)_140px] print:hidden tall:grid-cols-[320px_minmax(0,1fr)] tall:grid-rows-[540px_minmax(0,1fr)_140px] phone:flex phone:h-auto phone:flex-col">
          <section
            aria-label="Trains"
            className="min-h-0 overflow-y-auto border-r border-line px-4 py-3 tall:row-start-2 phone:order-2 phone:max-h-[440px] phone:border-r-0 phone:border-b phone:px-2"
          >
            {!asked.ask && (
              <FirstThing
                name={name}
                now={now.data ?? undefined}
                take={(ask) => set({ ask, train: "" })}
              />
            )}
            {!asked.ask && now.error && (
              <Failed error={now.error} retry={() => void now.refetch()} />
            )}
            {plan.error && asked.ask && !unfinished && (
              <PlanFailed
                error={plan.error}
                retry={() => void plan.refetch()}
                take={(ask) => set({ ask, train: "" })}
              />
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
              <p role="alert" className="mb-2 border-l-4 border-oxide bg-oxide-bg px-3 py-2">
                There is no mill “{named}” here. This is planned on {name}.
              </p>
            )}
            {own.error && wanted !== null && !ownSet && (
              <div className="mb-3">
                <Failed error={own.error} retry={() => void own.refetch()}>
                  <p>The train in the address, “{wanted}”, is not shown.</p>
                  <Button className="mt-2" onClick={() => set({ train: "" })}>
                    See the first of the list
                  </Button>
                </Failed>
              </div>
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
                        <MillFields ask={shown.ask} take={(ask) => set({ ask, train: "" })} />
                      </Suspense>
                    </Disclosure>
                  }
                />
              </Stale>
            )}
            {plan.isPending && !answer.data && asked.ask && (
              <Working text="Looking for pairs and trains …" />
            )}
          </section>
          <section
            aria-label="Drawing"
            className="relative min-h-0 min-w-0 overflow-hidden bg-paper tall:col-span-2 tall:row-start-1 phone:order-1 phone:h-[460px]"
          >
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
          </section>
          <section
            aria-label="Set-up sheet"
            className="min-h-0 border-l border-line tall:row-start-2 tall:border-t phone:order-3 phone:border-l-0"
          >
            {chosen && shown && (
              <Stale {...aged} className="h-full">
                <MillSheetPanel
                  set={chosen}
                  plan={shown}
                  ask={asked.ask}
                  pdf={address}
                  print={print}
                  record={() => record(chosen)}
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
            )}
          </section>
          <div className="col-span-3 min-h-0 border-t border-line tall:col-span-2 tall:row-start-3 phone:order-4 phone:h-[190px]">
            {shelf.error && <Failed error={shelf.error} retry={() => void shelf.refetch()} />}
            {shelf.data && (
              <WheelShelf
                shelf={shelf.data}
                drawing={chosen?.drawing}
                planned={outlines}
                name={name}
              />
            )}
          </div>
        </div>
      </InHandProvider>
      {ready && shown && (
        <PrintedMillSheet set={chosen} setting={shown.setting} outlines={outlines} machine={name} />
      )}
    </>
  );
}

/** Record what is in the lead drive, with the way back. */
function useRecord(machine: string, name: string, seen: string) {
  const mount = useHelixMount(machine);
  const tell = useTell();
  return (set: HelixSetUp) =>
    mount.mutate(
      { train: set.train, seen },
      {
        onSuccess: () => tell({ text: `Recorded: ${set.text} is on ${name}.`, done: true }),
        onError: (error) => tell({ text: `Not recorded: ${error.message}` }),
      },
    );
}

function FirstThing({
  name,
  now,
  take,
}: {
  name: string;
  now?: { ask: string; text: string };
  take: (ask: string) => void;
}) {
  return (
    <div>
      <h1 className="text-[19px] font-bold">What helix?</h1>
      <p className="mt-1">Type it on top, or start with one of these on {name}:</p>
      <div className="mt-3 flex flex-col gap-2">
        {EXAMPLES.map((ask) => (
          <Button
            key={ask}
            look="quiet"
            className="justify-start text-left font-mono whitespace-normal!"
            onClick={() => take(ask)}
          >
            {ask}
          </Button>
        ))}
      </div>
      {now && (
        <div className="mt-5 border-l-4 border-brass-line bg-brass-bg px-3 py-2">
          <h2 className="font-bold">On {name} now</h2>
          <p>{now.text}</p>
          <Button className="mt-2" onClick={() => take(now.ask)}>
            See {now.ask}
          </Button>
        </div>
      )}
    </div>
  );
}
