import { useState } from "react";
import { useSearchParams } from "react-router";

import { type Machine, refusedAt, type Schemas } from "../../api/client";
import { useMachines } from "../../api/machines";
import { useChangeRack } from "../../api/rack";
import { useFullSet, useMerge, usePlaces, usePutFullSet } from "../../api/stores";
import { Button } from "../../kit/Button";
import { Checkbox } from "../../kit/Checkbox";
import { Choice } from "../../kit/Form";
import { Failure } from "../../app/Notice";
import { Segmented } from "../../kit/Segmented";
import { useTell } from "../../app/Toast";
import { FIELD } from "../../kit/TextField";
import { LabelsDialog } from "./LabelsDialog";

type FullSet = Schemas["FullSetOut"];
type SetStanding = "held" | "missing" | "double" | "foreign";

const SAID: Record<SetStanding, string> = {
  held: "",
  missing: "missing",
  double: "one too many",
  foreign: "not listed",
};

/** Full sets against their makers' lists, and two boxes made one. */
export default function SetsStation() {
  const machines = useMachines();
  const [search, setSearch] = useSearchParams();
  const withWheels = machines.data?.filter((m) => m.family && !m.archived) ?? [];
  const chosen = withWheels.find((m) => m.slug === search.get("of")) ?? withWheels[0];
  return (
    <div className="h-full overflow-y-auto p-6 tall:h-auto">
      <div className="mx-auto flex max-w-5xl flex-col gap-6">
        <section aria-label="Full sets">
          <h1 className="text-2xl font-bold">Is the set complete?</h1>
          <p className="text-soft">The list that its maker gave, against what lies there.</p>
          {machines.error && (
            <Failure error={machines.error} retry={() => void machines.refetch()} />
          )}
          {machines.data && !chosen && (
            <p className="mt-2">No machine here has wheels. Add one on Machines first.</p>
          )}
          {chosen && (
            <>
              <Segmented
                label="Machine"
                className="mt-3 max-w-2xl"
                value={chosen.slug}
                options={withWheels.map((m) => [m.slug, m.name])}
                onChange={(of) => setSearch({ of })}
              />
              <OneSet key={chosen.slug} machine={chosen} />
            </>
          )}
        </section>
        <MergeBoxes />
        <BoxLabels />
      </div>
    </div>
  );
}

function OneSet({ machine }: { machine: Machine }) {
  const set = useFullSet(machine.slug);
  const save = usePutFullSet(machine.slug);
  const change = useChangeRack();
  const tell = useTell();
  const [typed, setTyped] = useState<string | null>(null);
  const wrong = refusedAt(save.error);
  if (set.error) return <Failure error={set.error} retry={() => void set.refetch()} />;
  if (!set.data) return null;
  const fullSet = set.data;
  const keep = (wheels: string, seen: string) =>
    save.mutate(
      { wheels, seen },
      {
        onSuccess: () => {
          setTyped(null);
          tell({ text: `${machine.name}’s list is saved.`, done: true });
        },
      },
    );
  const note = () =>
    change.mutate(
      {
        do: "add",
        pile: {
          wheels: fullSet.missing.map((w) => `${w.teeth}x${w.count}`).join(" "),
          family: fullSet.family,
          machine: machine.slug,
          material: "",
          place: "",
          note: "on the maker’s list",
          planned: true,
        },
      },
      {
        onSuccess: () =>
          tell({ text: "What is missing stands on the shelf as missing.", done: true }),
        onError: (error) => tell({ text: error.message }),
      },
    );
  return (
    <div className="mt-3 border border-line bg-paper p-5">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (typed !== null) keep(typed, fullSet.listed);
        }}
      >
        <label htmlFor="listed" className="text-fine text-soft">
          The maker’s list for {machine.name}, typed or pasted; doubles as 32x2
        </label>
        <div className="mt-1 flex items-start gap-2">
          <textarea
            id="listed"
            rows={2}
            value={typed ?? fullSet.listed}
            onChange={(event) => setTyped(event.target.value)}
            aria-invalid={wrong("wheels") !== undefined}
            placeholder="e.g. 24 28 32x2 36 40 44 48 52 56 60 64"
            className={`${FIELD} flex-1 py-2 font-mono`}
          />
          <Button
            type="submit"
            look="main"
            disabled={typed === null || typed === fullSet.listed || save.isPending}
          >
            Compare
          </Button>
        </div>
        <p role="alert" className="text-oxide">
          {wrong("wheels") ?? (save.error && save.error.message)}
        </p>
      </form>
      {fullSet.listed ? (
        <>
          <p role="status" className="mt-2 font-bold">
            {fullSet.texts[0]}
          </p>
          <Strip fullSet={fullSet} />
          {fullSet.missing.length > 0 && (
            <Button className="mt-3" onClick={note} disabled={change.isPending}>
              Note the missing on the shelf
            </Button>
          )}
        </>
      ) : (
        <p className="mt-2 text-soft">
          No list is kept yet. It stands in the lathe’s handbook, often inside the cover too.
        </p>
      )}
    </div>
  );
}

/** Every number of list and box, ascending, each as it stands. */
function Strip({ fullSet }: { fullSet: FullSet }) {
  const signs = (["held", "missing", "double", "foreign"] as SetStanding[]).flatMap((standing) =>
    fullSet[standing].map((w) => ({ ...w, standing })),
  );
  signs.sort((a, b) => a.teeth - b.teeth);
  return (
    <ul className="my-3 flex flex-wrap gap-2">
      {signs.map(({ teeth, count, standing }) => (
        <li
          key={`${teeth}${standing}`}
          className={`grid min-h-14 min-w-14 content-center justify-items-center rounded-sm border-2 px-2 py-1 ${LOOKS[standing]}`}
        >
          <b className="font-mono text-title leading-tight">
            {teeth}
            {standing !== "double" && count > 1 && (
              <span className="text-fine font-normal"> ×{count}</span>
            )}
          </b>
          <span className="text-fine leading-tight">
            {standing === "double" && count > 1 ? `${count} too many` : SAID[standing]}
          </span>
        </li>
      ))}
    </ul>
  );
}

const LOOKS: Record<SetStanding, string> = {
  held: "border-steel-2 bg-steel",
  missing: "border-dashed border-oxide bg-paper text-oxide",
  double: "border-blue bg-blue-bg",
  foreign: "border-brass-line bg-brass-bg",
};

/** Labels for boxes: the name of each, and the wheels in it. */
function BoxLabels() {
  const known = usePlaces().data ?? [];
  const [chosen, setChosen] = useState<string[]>([]);
  const [labels, setLabels] = useState(false);
  if (known.length === 0) return null;
  return (
    <section aria-label="Labels for boxes" className="border border-line bg-paper p-5">
      <h2 className="text-xl font-bold">Labels for boxes</h2>
      <div className="mt-2 columns-2 phone:columns-1">
        {known.map(({ place, records }) => (
          <Checkbox
            key={place}
            label={place}
            behind={String(records)}
            ticked={chosen.includes(place)}
            change={(on) =>
              setChosen(on ? [...chosen, place] : chosen.filter((other) => other !== place))
            }
          />
        ))}
      </div>
      <Button className="mt-3" disabled={chosen.length === 0} onClick={() => setLabels(true)}>
        Labels
      </Button>
      {labels && <LabelsDialog of={{ places: chosen }} close={() => setLabels(false)} />}
    </section>
  );
}

/** Empty one box into another. */
function MergeBoxes() {
  const places = usePlaces();
  const merge = useMerge();
  const tell = useTell();
  const [place, setPlace] = useState("");
  const [into, setInto] = useState("");
  const known = places.data ?? [];
  const wrong = refusedAt(merge.error);
  const options = known.map((p): [string, string] => [
    p.place,
    `${p.place}, ${p.records} number${p.records === 1 ? "" : "s"}`,
  ]);
  return (
    <section aria-label="Merge two boxes" className="border border-line bg-paper p-5">
      <h2 className="text-xl font-bold">Merge two boxes</h2>
      <p className="text-soft">
        Everything in the first goes to the second place; wheels alike are counted together.
      </p>
      <form
        className="mt-3 flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          merge.mutate(
            { place, into },
            {
              onSuccess: () => {
                tell({ text: `What was in “${place}” is in “${into}”.`, done: true });
                setPlace("");
              },
            },
          );
        }}
      >
        <Choice
          label="Empty"
          value={place}
          options={[["", "choose a box …"], ...options]}
          change={setPlace}
        />
        <label className="min-w-0 flex-1 text-fine text-soft">
          into
          <input
            list="places"
            value={into}
            onChange={(e) => setInto(e.target.value)}
            className={`${FIELD} text-plain text-ink`}
          />
        </label>
        <datalist id="places">
          {known.map((p) => (
            <option key={p.place} value={p.place} />
          ))}
        </datalist>
        <Button type="submit" disabled={!place || !into.trim() || merge.isPending}>
          Merge
        </Button>
      </form>
      {merge.error && (
        <p role="alert" className="mt-1 text-oxide">
          {wrong("into") ?? wrong("place") ?? merge.error.message}
        </p>
      )}
    </section>
  );
}
