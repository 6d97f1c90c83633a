import { lazy, Suspense, useEffect, useMemo, useState } from "react";
import { Link, Navigate, useParams, useSearchParams } from "react-router";

import {
  type HobAsked,
  hobSheetAddress,
  type Material,
  type SetUp,
  useHobMount,
  useHobNow,
  useHobPlan,
  useHobSetUp,
} from "../../api/hobbing";
import { useLastGood } from "../../api/lastGood";
import { useMachines, useShelf } from "../../api/questions";
import { useAddress } from "../../app/address";
import { nameIn } from "../../app/named";
import { PlanFailed } from "../../app/PlanFailed";
import { useKey } from "../../app/keys";
import { Failed } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { useTell } from "../../app/Toast";
import { Button, buttonLook } from "../../kit/Button";
import { Disclosure } from "../../kit/Disclosure";
import { Stale } from "../../kit/Stale";
import { Working } from "../../kit/Working";
import { WheelShelf } from "../../planning/WheelShelf";
import { AsItMayStand } from "../../planning/WhyNot";
import { BoxesBoard } from "./BoxesBoard";
import { HobProof, type Suspected } from "./HobProof";
import { HobSheetPanel } from "./HobSheetPanel";
import { PrintedHobSheet } from "./PrintedHobSheet";
import { SetUps } from "./SetUps";

const HobFields = lazy(() => import("./HobFields").then((m) => ({ default: m.HobFields })));

const EXAMPLES = ["hob 37", "hob 24 m2 30° left face 20 with 24", "hob 107", "hob 60 m2 face 20"];

/** To the hobber that the ask names, or the first there is. */
export function HobberStart() {
  const machines = useMachines();
  const [search] = useSearchParams();
  if (machines.error)
    return <Failed error={machines.error} retry={() => void machines.refetch()} />;
  if (!machines.data) return null;
  const hobbers = machines.data.filter((m) => m.kind === "hobber");
  const named = nameIn(search.get("ask") ?? "");
  const found = hobbers.find((m) => m.name.toLowerCase() === named) ?? hobbers[0];
  if (found) return <Navigate replace to={`/hobber/${found.slug}?${search}`} />;
  return (
    <div className="p-6">
      <h1 className="text-xl font-bold">There is no hobber here yet.</h1>
      <p className="mt-1">Its constants and its wheels are enough to begin.</p>
      <Link className={`${buttonLook("main")} mt-3`} to="/machines/new/hobber">
        Add a hobber
      </Link>
    </div>
  );
}

/** Ask for a wheel to be hobbed; see trains for every box, drawn, with the sheet, the setting and the proof. */
export default function HobberStation() {
  const { machine = "" } = useParams();
  const { units } = usePreferences();
  const [search, set] = useAddress();
  const asked: HobAsked = {
    machine,
    ask: search.get("ask") ?? "",
    material: (search.get("material") ?? "mild_steel") as Material,
  };
  const machines = useMachines();
  const row = machines.data?.find((m) => m.slug === machine);
  const name = row?.name ?? machine;
  const now = useHobNow(machine, asked.ask === "");
  const plan = useHobPlan(asked, units);
  const shelf = useShelf(machine);
  const answer = useLastGood(plan, `${machine} ${units}`);
  const shown = asked.ask ? answer.data : undefined;
  const wanted = search.get("trains");
  const other = shown !== undefined && wanted !== null && shown.first?.trains !== wanted;
  const own = useHobSetUp(asked, wanted ?? "", units, other);
  const ownSet = other ? own.data : undefined;
  const chosen: SetUp | undefined =
    ownSet?.set_up ?? (other ? undefined : (shown?.first ?? undefined));
  const listed = shown?.set_ups.concat(shown.ways_out.map((w) => w.set_up));
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
  const about = `${machine} ${asked.ask} ${chosen?.trains}`;
  useEffect(() => setSuspected(undefined), [about]);

  const ready = chosen !== undefined && !old;
  const record = useRecord(machine, name, row?.mounted ?? "");
  const print = () => window.print();
  const address = chosen ? hobSheetAddress(asked, chosen.trains, units) : "";
  useKey("p", print, ready && chosen.goes_on);
  useKey("d", () => location.assign(address), ready && chosen.goes_on);
  useKey("m", () => chosen && record(chosen), ready && chosen.fits && !chosen.is_on);

  if (machines.error && !machines.data)
    return (
      <div className="p-6">
        <Failed error={machines.error} retry={() => void machines.refetch()} />
      </div>
    );
  if (machines.data && row?.kind !== "hobber")
    return (
      <div className="p-6">
        <h1 className="text-xl font-bold">There is no hobber “{machine}” here.</h1>
        <Link className={`${buttonLook()} mt-3`} to="/machines">
          See the machines
        </Link>
      </div>
    );
  const named = nameIn(asked.ask);
  const meant = machines.data?.find((m) => m.name.toLowerCase() === named);
  if (meant && meant.kind === "hobber" && meant.slug !== machine)
    return <Navigate replace to={`/hobber/${meant.slug}?${search}`} />;
  return (
    <>
      <div className="grid h-full grid-cols-[308px_minmax(0,1fr)_328px] grid-rows-[minmax(0,1fr)_140px] print:hidden tall:grid-cols-[320px_minmax(0,1fr)] tall:grid-rows-[560px_minmax(0,1fr)_140px] phone:flex phone:h-auto phone:flex-col">
        <section
          aria-label="Trains"
          className="min-h-0 overflow-y-auto border-r border-line px-4 py-3 tall:row-start-2 phone:order-2 phone:max-h-[440px] phone:border-r-0 phone:border-b phone:px-2"
        >
          {!asked.ask && (
            <FirstThing
              name={name}
              now={now.data ?? undefined}
              take={(ask) => set({ ask, trains: "" })}
            />
          )}
          {!asked.ask && now.error && <Failed error={now.error} retry={() => void now.refetch()} />}
          {named && !(meant?.kind === "hobber") && machines.data && (
            <p role="alert" className="mb-2 border-l-4 border-oxide bg-oxide-bg px-3 py-2">
              There is no hobber “{named}” here. This is planned on {name}.
            </p>
          )}
          {plan.error && asked.ask && (
            <PlanFailed
              error={plan.error}
              retry={() => void plan.refetch()}
              take={(ask) => set({ ask, trains: "" })}
            />
          )}
          {own.error && wanted !== null && !ownSet && (
            <div className="mb-3">
              <Failed error={own.error} retry={() => void own.refetch()}>
                <p>The trains in the address are not shown.</p>
                <Button className="mt-2" onClick={() => set({ trains: "" })}>
                  See the first of the list
                </Button>
              </Failed>
            </div>
          )}
          {shown && (
            <Stale old={answer.old} busy={answer.busy}>
              <SetUps
                plan={shown}
                own={listed?.some((s) => s.trains === wanted) ? undefined : ownSet?.set_up}
                chosen={other ? (wanted ?? "") : (chosen?.trains ?? "")}
                choose={(trains) => set({ trains })}
                fields={
                  <Disclosure title="Plain fields">
                    <Suspense fallback={null}>
                      <HobFields ask={shown.ask} take={(ask) => set({ ask, trains: "" })} />
                    </Suspense>
                  </Disclosure>
                }
              />
            </Stale>
          )}
          {plan.isPending && !answer.data && asked.ask && (
            <Working text="Looking for trains in every box …" />
          )}
        </section>
        <section
          aria-label="Drawing"
          className="relative min-h-0 min-w-0 overflow-hidden bg-paper tall:col-span-2 tall:row-start-1 phone:order-1"
        >
          <Stale {...aged} note className="h-full">
            {suspected && (
              <AsItMayStand text={suspected.text} back={() => setSuspected(undefined)} />
            )}
            {chosen ? (
              <BoxesBoard set={suspected?.stands ?? chosen} outlines={outlines} machine={name} />
            ) : (
              <p className="grid h-full place-items-center p-6 text-soft">
                Every box will be drawn here, to scale.
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
              <HobSheetPanel
                set={chosen}
                plan={shown}
                material={asked.material}
                setMaterial={(material) => set({ material })}
                pdf={address}
                print={print}
                record={() => record(chosen)}
              >
                <HobProof
                  machine={machine}
                  ask={asked.ask}
                  set={chosen}
                  suspected={suspected}
                  suspect={setSuspected}
                />
              </HobSheetPanel>
            </Stale>
          )}
        </section>
        <div className="col-span-3 min-h-0 border-t border-line tall:col-span-2 tall:row-start-3 phone:order-4 phone:h-[190px]">
          {shelf.error && <Failed error={shelf.error} retry={() => void shelf.refetch()} />}
          {shelf.data && (
            <WheelShelf
              shelf={shelf.data}
              drawing={chosen && everyBox(chosen)}
              planned={outlines}
              name={name}
            />
          )}
        </div>
      </div>
      {ready && <PrintedHobSheet set={chosen} outlines={outlines} machine={name} />}
    </>
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

/** Record what is in the boxes, with the way back. */
function useRecord(machine: string, name: string, seen: string) {
  const mount = useHobMount(machine);
  const tell = useTell();
  return (set: SetUp) =>
    mount.mutate(
      { trains: set.trains, seen },
      {
        onSuccess: () => tell({ text: `Recorded: these trains are on ${name}.`, done: true }),
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
  now?: { ask: string | null; text: string };
  take: (ask: string) => void;
}) {
  return (
    <div>
      <h1 className="text-[19px] font-bold">What wheel?</h1>
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
          {now.ask && (
            <Button className="mt-2" onClick={() => take(now.ask ?? "")}>
              See {now.ask}
            </Button>
          )}
        </div>
      )}
    </div>
  );
}
