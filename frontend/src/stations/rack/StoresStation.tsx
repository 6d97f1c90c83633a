import { useState } from "react";

import { type Schemas } from "../../api/client";
import { type Bar, type Cutter, useSaveBar, useSaveCutter, useStores } from "../../api/stores";
import { Button } from "../../kit/Button";
import { Failure } from "../../app/Notice";
import { useSearchResult } from "../../app/search";
import { useTell } from "../../app/Toast";
import { BarDialog } from "./BarDialog";
import { CutterDialog } from "./CutterDialog";
import { LabelsDialog } from "./LabelsDialog";

type Set = Schemas["CutterSetOut"];

/** What wheels are made with and of: form cutters by set, and bar. */
export default function StoresStation() {
  const stores = useStores();
  const saveCutter = useSaveCutter();
  const saveBar = useSaveBar();
  const tell = useTell();
  const [cutter, setCutter] = useState<{ id?: number; typed?: Cutter }>();
  const [bar, setBar] = useState<{ id?: number; typed?: Bar }>();
  const { sets = [], bars = [] } = stores.data ?? {};
  useSearchResult("cutter", stores.data !== undefined, (id) =>
    setCutter(sets.flatMap((set) => set.cutters).find((one) => one.id === id)),
  );
  useSearchResult("bar", stores.data !== undefined, (id) =>
    setBar(bars.find((one) => one.id === id)),
  );
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_360px] overflow-y-auto tall:h-auto tall:grid-cols-1">
      <section aria-label="Cutters" className="p-6">
        <div className="flex items-center justify-between gap-3">
          <h1 className="text-2xl font-bold">Cutters held</h1>
          <Button onClick={() => setCutter({ typed: undefined })}>Add a cutter</Button>
        </div>
        {stores.error && <Failure error={stores.error} retry={() => void stores.refetch()} />}
        {stores.data && sets.length === 0 && (
          <p className="mt-2">
            No cutter is entered yet. What is engraved on it is all that is asked: pitch, angle,
            range, number.
          </p>
        )}
        {sets.map((set) => (
          <CutterSet key={set.name} set={set} open={(id, typed) => setCutter({ id, typed })} />
        ))}
      </section>
      <section
        aria-label="Bar stock"
        className="border-l border-line p-6 tall:border-t tall:border-l-0"
      >
        <div className="flex items-center justify-between gap-3">
          <h2 className="text-2xl font-bold">Bar</h2>
          <Button onClick={() => setBar({})}>Add a piece</Button>
        </div>
        {stores.data && bars.length === 0 && <p className="mt-2">There is no bar yet.</p>}
        <ul className="mt-3">
          {bars.map((piece) => (
            <li key={piece.id}>
              <button
                type="button"
                onClick={() => setBar({ id: piece.id, typed: piece.typed })}
                className="grid min-h-14 w-full grid-cols-[56px_1fr] items-center gap-3 border-b border-line py-2 text-left hover:bg-blue-bg"
              >
                <BarEnd diameter={piece.diameter_mm} length={piece.length_mm} />
                <span>
                  <b>{piece.text}</b> {piece.material}
                  <span className="block text-fine text-soft">
                    {[piece.place, piece.note].filter(Boolean).join(", ")}
                  </span>
                </span>
              </button>
            </li>
          ))}
        </ul>
      </section>
      {cutter && (
        <CutterDialog
          {...cutter}
          save={saveCutter}
          close={() => {
            saveCutter.reset();
            setCutter(undefined);
          }}
          done={(text) => {
            setCutter(undefined);
            tell({ text, done: true });
          }}
        />
      )}
      {bar && (
        <BarDialog
          {...bar}
          save={saveBar}
          close={() => {
            saveBar.reset();
            setBar(undefined);
          }}
          done={(text) => {
            setBar(undefined);
            tell({ text, done: true });
          }}
        />
      )}
    </div>
  );
}

/** A set of eight in its order, what it lacks shown as empty places; beneath, the cutters one by one. */
function CutterSet({ set, open }: { set: Set; open: (id: number, typed: Cutter) => void }) {
  const [labels, setLabels] = useState(false);
  return (
    <article className="mt-4 border border-line bg-paper p-4">
      <div className="flex items-start gap-3">
        <h2 className="flex-1 text-heading font-bold">{set.name}</h2>
        <Button look="quiet" aria-label={`Labels for ${set.name}`} onClick={() => setLabels(true)}>
          Labels
        </Button>
      </div>
      {labels && (
        <LabelsDialog
          of={{ cutters: set.cutters.map((cutter) => cutter.id) }}
          close={() => setLabels(false)}
        />
      )}
      <ol
        className="mt-2 grid grid-cols-8 gap-1"
        aria-label="the set of eight, from pinion to rack"
      >
        {set.places.map((place) => (
          <li
            key={place.range}
            className={`grid min-h-13 content-center justify-items-center border-2 px-1 py-1 text-center leading-tight ${place.held === 0 ? "border-dashed border-steel-2 text-soft" : place.gap ? "border-dashed border-brass-line bg-brass-bg" : "border-steel-2 bg-steel"}`}
          >
            <b className="font-mono text-lesser">{place.range.replace(" to a rack", "–rack")}</b>
            <span className="text-fine">
              {place.held === 0
                ? "none"
                : place.gap
                  ? "in part"
                  : place.held > 1
                    ? `${place.held} held`
                    : "held"}
            </span>
          </li>
        ))}
      </ol>
      <p className="mt-2 text-lesser">
        Cuts {set.counts}
        {set.gaps.length > 0 && <span className="text-soft">; not {set.gaps.join(", ")}</span>}.
      </p>
      <ul className="mt-1">
        {set.cutters.map((cutter) => (
          <li key={cutter.id}>
            <button
              type="button"
              onClick={() => open(cutter.id, cutter.typed)}
              className="grid min-h-11 w-full grid-cols-[120px_1fr] items-baseline gap-3 border-t border-line py-1.5 text-left hover:bg-blue-bg"
            >
              <b className="font-mono text-large">{cutter.range}</b>
              <span className="text-lesser">
                {cutter.numbers}
                <span className="block text-fine text-soft">
                  {[cutter.count > 1 && `${cutter.count} of them`, cutter.text]
                    .filter(Boolean)
                    .join(", ")}
                  {cutter.condition !== "good" && <b className="text-oxide"> {cutter.condition}</b>}
                </span>
              </span>
            </button>
          </li>
        ))}
      </ul>
    </article>
  );
}

/** A piece of bar from the side, all pieces to one scale. */
function BarEnd({ diameter, length }: { diameter: number; length: number }) {
  const [high, wide] = [Math.min(44, diameter * 0.28), Math.min(54, length * 0.28)];
  return (
    <svg width={56} height={46} aria-hidden>
      <rect
        x={1}
        y={23 - high / 2}
        width={wide}
        height={high}
        rx={1.5}
        fill="var(--steel)"
        stroke="var(--steel-2)"
      />
      <path
        d={`M-2 23H${Math.min(56, wide + 5)}`}
        stroke="var(--ink)"
        strokeWidth={0.7}
        strokeDasharray="7 2 2 2"
      />
    </svg>
  );
}
