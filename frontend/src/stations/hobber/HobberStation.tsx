import { lazy, Suspense } from "react";
import { Navigate, useParams } from "react-router";

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
import { useMachines, useShelf } from "../../api/machines";
import { useAddress } from "../../app/address";
import { nameIn } from "../../app/named";
import { PlanFailed } from "../../app/PlanFailed";
import { Failed } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { Disclosure } from "../../kit/Disclosure";
import { Stale } from "../../kit/Stale";
import { Working } from "../../kit/Working";
import { StationFrame } from "../../planning/StationFrame";
import { useOutlines, useRecord, useSheetKeys, useSuspected } from "../../planning/stationHooks";
import {
  FirstAsk,
  NamedElsewhere,
  NotInAddress,
  Shelf,
  StartAt,
  useNoSuchMachine,
} from "../../planning/StationParts";
import { AsItMayStand } from "../../planning/WhyNot";
import { BoxesBoard } from "./BoxesBoard";
import { HobProof, type Suspected } from "./HobProof";
import { HobSheetPanel } from "./HobSheetPanel";
import { wheelsOnPaper } from "../../planning/onPaper";
import { PrintedSheet } from "../../planning/PrintedSheet";
import { SetUps } from "./SetUps";

const HobFields = lazy(() => import("./HobFields").then((m) => ({ default: m.HobFields })));

const EXAMPLES = ["hob 37", "hob 24 m2 30° left face 20 with 24", "hob 107", "hob 60 m2 face 20"];

/** To the hobber that the ask names, or the first there is. */
export function HobberStart() {
  return <StartAt kind="hobber" needs="Its constants and its wheels are enough to begin." />;
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
  const outlines = useOutlines(ownSet, shown, shelf.data);
  const [suspected, setSuspected] = useSuspected<Suspected>(
    `${machine} ${asked.ask} ${chosen?.trains}`,
  );
  const ready = chosen !== undefined && !old;
  const recording = useRecord(useHobMount(machine));
  const record = () =>
    chosen &&
    recording({ trains: chosen.trains, seen: row?.mounted ?? "" }, `these trains are on ${name}`);
  const print = () => window.print();
  const address = chosen ? hobSheetAddress(asked, chosen.trains, units) : "";
  useSheetKeys(chosen, ready, { print, address, record });

  const none = useNoSuchMachine("hobber", machine);
  if (none) return none;
  const named = nameIn(asked.ask);
  const meant = machines.data?.find((m) => m.name.toLowerCase() === named);
  if (meant && meant.kind === "hobber" && meant.slug !== machine)
    return <Navigate replace to={`/hobber/${meant.slug}?${search}`} />;
  const take = (ask: string) => set({ ask, trains: "" });
  return (
    <>
      <StationFrame
        size="wide"
        list={
          <>
            {!asked.ask && (
              <FirstAsk
                title="What wheel?"
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
            {named && !(meant?.kind === "hobber") && machines.data && (
              <NamedElsewhere kind="hobber" named={named} name={name} />
            )}
            {plan.error && asked.ask && (
              <PlanFailed error={plan.error} retry={() => void plan.refetch()} take={take} />
            )}
            {own.error && wanted !== null && !ownSet && (
              <NotInAddress
                error={own.error}
                retry={() => void own.refetch()}
                text="The trains in the address are not shown."
                first={() => set({ trains: "" })}
              />
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
                        <HobFields ask={shown.ask} take={take} />
                      </Suspense>
                    </Disclosure>
                  }
                />
              </Stale>
            )}
            {plan.isPending && !answer.data && asked.ask && (
              <Working text="Looking for trains in every box …" />
            )}
          </>
        }
        drawing={
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
        }
        sheet={
          chosen &&
          shown && (
            <Stale {...aged} className="h-full">
              <HobSheetPanel
                set={chosen}
                plan={shown}
                material={asked.material}
                setMaterial={(material) => set({ material })}
                pdf={address}
                print={print}
                record={record}
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
          )
        }
        shelf={
          <Shelf
            shelf={shelf}
            drawing={chosen && everyBox(chosen)}
            planned={outlines}
            name={name}
          />
        }
      />
      {ready && (
        <PrintedSheet
          sheet={chosen.sheet}
          merit={chosen.merit}
          drawn={chosen.drawn.map(({ name: box, drawing, text }) => {
            const wheels = wheelsOnPaper({ drawing, outlines, machine: name, train: text });
            return (width, height) => (
              <figure>
                <figcaption className="font-bold first-letter:uppercase">{box}</figcaption>
                {wheels(width, height)}
              </figure>
            );
          })}
        />
      )}
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

function OnNow({
  now,
  take,
}: {
  now: { ask: string | null; text: string };
  take: (ask: string) => void;
}) {
  return (
    <>
      <p>{now.text}</p>
      {now.ask && (
        <Button className="mt-2" onClick={() => take(now.ask ?? "")}>
          See {now.ask}
        </Button>
      )}
    </>
  );
}
