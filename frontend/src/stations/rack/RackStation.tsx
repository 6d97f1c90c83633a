import { useMemo, useRef, useState } from "react";
import { useSearchParams } from "react-router";

import type { Family, RackWheel, Schemas } from "../../api/client";
import { useMachines } from "../../api/machines";
import { type RackOrder, useChangeRack, useRack, useWheels } from "../../api/rack";
import { boardScale, PegBoard } from "../../drawing/PegBoard";
import { Failure } from "../../app/Notice";
import { UnsavedGuard } from "../../app/UnsavedGuard";
import { Button } from "../../kit/Button";
import { Checkbox } from "../../kit/Checkbox";
import { Segmented } from "../../kit/Segmented";
import { useSearchResult } from "../../app/search";
import { useTell } from "../../app/Toast";
import { TextField } from "../../kit/TextField";
import { useDebouncedValue } from "../../kit/useDebouncedValue";
import { BulkBar } from "./BulkBar";
import { CsvFiles } from "./CsvFiles";
import { FamilyDialog } from "./FamilyDialog";
import { IdentifyPanel } from "./IdentifyPanel";
import { PhotoCount } from "./PhotoCount";
import { PileForm } from "./PileForm";
import { RackTable } from "./RackTable";
import { SetPanel } from "./SetPanel";
import { StandingOut } from "./StandingOut";
import { type Draft, WheelFields } from "./WheelFields";
import { WheelPanel } from "./WheelPanel";

// Beside the board; on an upright screen a sheet over its foot.
const BESIDE =
  "min-h-0 overflow-y-auto border-l border-line p-4 tall:fixed tall:inset-x-0 tall:bottom-0 tall:z-20 tall:max-h-[56vh] tall:border-t-3 tall:border-l-0 tall:border-enamel tall:bg-chalk tall:shadow-lg";

interface Group {
  family: Family | null;
  title: string;
  text: string;
  wheels: RackWheel[];
}

/** Every wheel of the shop: typed in by the pile, hanging on a board or listed, found out, put right. */
export default function RackStation() {
  // The label of a box leads here with its name.
  const [search] = useSearchParams();
  const [sought, setSought] = useState(search.get("text") ?? "");
  const [order, setOrder] = useState<RackOrder>({ by: "family", down: false });
  const [view, setView] = useState<"board" | "table">("board");
  // A board hangs by family, whatever the table was sorted by.
  const sorted: RackOrder = view === "board" ? { by: "family", down: false } : order;
  const rack = useRack(useDebouncedValue(sought, 120).trim(), sorted);
  const machines = useMachines();
  const change = useChangeRack();
  const tell = useTell();
  const [several, setSeveral] = useState(false);
  const [drafts, setDrafts] = useState<Record<number, Draft>>({});
  const saved = useRef(false);
  const [chosen, setChosen] = useState<Set<number>>(new Set());
  useSearchResult("wheel", true, (id) => setChosen(new Set([id])));
  const [asking, setAsking] = useState<{
    start?: Partial<Schemas["FamilyIn"]>;
    then?: (family: Family) => void;
  }>();
  const first = rack.data?.pages[0];
  const families = useMemo(() => first?.families ?? [], [first]);
  const wheels = useMemo(() => rack.data?.pages.flatMap((p) => p.wheels) ?? [], [rack.data]);
  const unknown = useMemo(() => rack.data?.pages.flatMap((p) => p.unknown) ?? [], [rack.data]);
  const groups = useMemo(() => grouped(families, wheels), [families, wheels]);
  const scale = useMemo(() => boardScale(families, unknown), [families, unknown]);
  const here = new Map(wheels.map((w) => [w.id, w]));
  // What is chosen stays chosen while something else is looked for.
  const elsewhere = useWheels([...chosen].filter((id) => !here.has(id)));
  for (const wheel of elsewhere.data?.wheels ?? []) here.set(wheel.id, wheel);
  const picked = [...chosen].flatMap((id) => here.get(id) ?? []);

  const done = (text: string) => tell({ text, done: true });
  const failed = (error: Error) => tell({ text: error.message });
  const toggle = (id: number) =>
    setChosen((now) => {
      const next = new Set(now);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  // A tap looks at another wheel; it is chosen beside the others only where that is said.
  const tap = (id: number, beside: boolean) => {
    if (several || beside) toggle(id);
    else setChosen((now) => new Set(now.size === 1 && now.has(id) ? [] : [id]));
  };
  const edit = (
    changes: Omit<Schemas["EditIn"], "ids" | "seen">,
    text: string,
    ids = [...chosen],
  ) => {
    const seen = ids.flatMap((id) => here.get(id) ?? []);
    change.mutate(
      { do: "edit", edit: { ...changes, ids, seen } },
      {
        onSuccess: () => {
          setDrafts((now) => without(now, ids));
          done(text);
        },
        onError: failed,
      },
    );
  };
  const remove = () =>
    change.mutate(
      { do: "remove", ids: [...chosen] },
      {
        onSuccess: ({ ids }) => {
          setChosen(new Set());
          done(`${ids.length} deleted from the rack.`);
        },
        onError: failed,
      },
    );
  const single = picked.length === 1 ? picked[0] : undefined;
  const ofOneSet = picked.length > 1 && picked.every((w) => w.family === null);
  return (
    <div
      className={`grid h-full tall:h-auto tall:grid-cols-1 ${single || ofOneSet ? "grid-cols-[264px_minmax(0,1fr)_304px]" : "grid-cols-[264px_minmax(0,1fr)]"}`}
    >
      <section
        aria-label="A pile of wheels"
        className="min-h-0 overflow-y-auto border-r border-line p-4 tall:border-r-0 tall:border-b"
      >
        <h1 className="text-heading font-bold">Rack</h1>
        <p className="mb-3 text-lesser text-soft">
          Empty a box on the bench and type what you count. A condition goes behind its wheel.
        </p>
        <PileForm
          families={families}
          machines={machines.data ?? []}
          added={done}
          newFamily={() => setAsking({})}
        />
        <PhotoCount families={families} added={done} />
        <CsvFiles added={done} />
        <StandingOut
          families={families}
          standing={first?.stand_out ?? []}
          choose={(ids) => setChosen(new Set(ids))}
        />
      </section>
      <section aria-label="Wheels" className="flex min-h-0 flex-col">
        <div className="flex flex-wrap items-end gap-3 border-b border-line p-3">
          <Segmented
            label="View"
            value={view}
            options={[
              ["board", "Board"],
              ["table", "Table"],
            ]}
            onChange={setView}
          />
          <TextField
            label="Search: teeth, place, material, state"
            value={sought}
            onChange={setSought}
            example="48, worn, drawer"
          />
          {view === "board" && (
            <Checkbox label="Choose several" ticked={several} change={setSeveral} />
          )}
        </div>
        {picked.length > 1 && (
          <BulkBar
            picked={picked}
            families={families}
            machines={machines.data ?? []}
            edit={edit}
            remove={remove}
            clear={() => setChosen(new Set())}
          />
        )}
        <div
          className="min-h-0 flex-1 overflow-y-auto p-4"
          tabIndex={0}
          aria-label="The rack, scrolls"
          role="region"
        >
          {rack.error && <Failure error={rack.error} retry={() => void rack.refetch()} />}
          {first && first.records === 0 && (
            <p>The rack is empty. Type the first wheels at the left: 40 40 45 50 worn 20.</p>
          )}
          {first && first.records > 0 && groups.length === 0 && (
            <p>No wheel answers to “{sought}”.</p>
          )}
          {view === "board"
            ? groups.map(({ family, title, text, wheels }) => (
                <section key={title} aria-label={title} className="mb-6">
                  <h2 className="font-bold">{title}</h2>
                  <p className="mb-2 text-fine text-soft">{text}</p>
                  <PegBoard
                    wheels={wheels}
                    outlines={family?.outlines ?? unknown}
                    scale={scale}
                    chosen={chosen}
                    choose={tap}
                  />
                </section>
              ))
            : groups.length > 0 && (
                <RackTable
                  groups={groups}
                  flat={sorted.by === "family" ? undefined : wheels}
                  sorted={sorted}
                  sort={setOrder}
                  chosen={chosen}
                  choose={setChosen}
                />
              )}
          {rack.hasNextPage && (
            <div className="my-4 flex flex-wrap items-center gap-3">
              <Button onClick={() => void rack.fetchNextPage()} disabled={rack.isFetchingNextPage}>
                More
              </Button>
              <p className="text-lesser">
                {wheels.length} of {first?.answering} are shown.
              </p>
            </div>
          )}
        </div>
      </section>
      {single && (
        <section aria-label="The chosen wheel" className={BESIDE}>
          <WheelPanel
            key={single.id}
            wheel={single}
            family={families.find((f) => f.id === single.family)}
            done={done}
            close={() => setChosen(new Set())}
            fields={
              <WheelFields
                wheel={single}
                families={families}
                machines={machines.data ?? []}
                edit={(changes, text) => edit(changes, text, [single.id])}
                remove={remove}
                typed={drafts[single.id] ?? {}}
                setTyped={(typed) => setDrafts((now) => ({ ...now, [single.id]: typed }))}
              />
            }
            identify={
              <IdentifyPanel
                key={single.id}
                readings={{
                  worn: single.condition === "worn",
                  ...single.measured,
                  teeth: String(single.teeth),
                }}
                keep={single.family === null ? single.id : null}
                families={families}
                becomes={(family, { shift }) =>
                  edit({ family: family.id, shift }, `The ${single.teeth} is of ${family.name}.`, [
                    single.id,
                  ])
                }
                newFamily={(identity) =>
                  setAsking({
                    start: asFamily(identity),
                    then: (family) =>
                      edit(
                        { family: family.id, shift: identity.shift },
                        `The ${single.teeth} is of ${family.name}.`,
                        [single.id],
                      ),
                  })
                }
              />
            }
          />
        </section>
      )}
      {ofOneSet && (
        <section aria-label="The chosen wheels" className={BESIDE}>
          <SetPanel
            key={picked.map((w) => w.id).join()}
            wheels={picked}
            families={families}
            close={() => setChosen(new Set())}
            becomes={(family) =>
              edit({ family: family.id }, `${picked.length} wheels are of ${family.name}.`)
            }
            newFamily={(identity) =>
              setAsking({
                start: asFamily(identity),
                then: (family) =>
                  edit({ family: family.id }, `${picked.length} wheels are of ${family.name}.`),
              })
            }
          />
        </section>
      )}
      <UnsavedGuard
        typed={Object.values(drafts).some((draft) => Object.keys(draft).length > 0)}
        saved={saved}
      />
      {asking && (
        <FamilyDialog
          start={asking.start}
          close={() => setAsking(undefined)}
          made={(family) => {
            setAsking(undefined);
            asking.then?.(family);
          }}
        />
      )}
    </div>
  );
}

/** What is known of a family by what its wheels were found to be. */
function asFamily(identity: Schemas["IdentityOut"]): Partial<Schemas["FamilyIn"]> {
  return {
    system: identity.system,
    pitch: identity.value,
    angle: String(identity.pressure_angle ?? 20),
    stub: identity.stub,
  };
}

/** Drafts but those of some wheels. */
function without(drafts: Record<number, Draft>, ids: number[]): Record<number, Draft> {
  return Object.fromEntries(Object.entries(drafts).filter(([id]) => !ids.includes(Number(id))));
}

/** The wheels by family. */
function grouped(families: Family[], rows: RackWheel[]): Group[] {
  const groups: Group[] = families.map((family) => ({
    family,
    title: family.name,
    text: family.text,
    wheels: rows.filter((w) => w.family === family.id),
  }));
  const plain = rows.filter((w) => w.family === null);
  for (const machine of new Set(plain.map((w) => w.counted_for))) {
    groups.push({
      family: null,
      title: machine ? `${machine}’s wheels, pitch not known` : "Not identified",
      text: machine
        ? "Choose their family in the machine’s record, or choose a wheel to find out what it is."
        : "Choose one to find out what it is.",
      wheels: plain.filter((w) => w.counted_for === machine),
    });
  }
  return groups.filter((g) => g.wheels.length > 0);
}
