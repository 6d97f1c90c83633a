import { useState } from "react";

import type { Family, Machine, RackWheel, Schemas } from "../../api/client";
import { Button } from "../../kit/Button";
import { FIELD } from "../../kit/Typed";

type Changes = Omit<Schemas["EditIn"], "ids" | "seen">;

/** What can be done with the chosen wheels together. */
export function BulkBar(props: { picked: RackWheel[]; families: Family[]; machines: Machine[]; edit: (changes: Changes, text: string) => void; remove: () => void; clear: () => void }) {
  const { picked, edit } = props;
  const [place, setPlace] = useState("");
  const who = picked.length === 1 ? `The ${picked[0]!.teeth}` : `${picked.length} wheels`;
  const one = picked.length === 1 ? picked[0] : undefined;
  return (
    <div role="group" aria-label="Chosen wheels" className="flex flex-wrap items-center gap-2 border-b-2 border-blue bg-blue-bg px-3 py-2 text-[15px]">
      <b>{who}</b>
      <Pick label="Condition" options={["good", "worn", "chipped", "suspect"].map((c) => [c, c])} take={(condition) => edit({ condition: condition as "good" }, `${who}: ${condition}.`)} />
      <Pick label="Family" options={[...props.families.map((f): [string, string] => [String(f.id), f.name]), ["", "not recognised"]]} take={(family) => edit({ family: family ? Number(family) : null }, `${who}: family changed.`)} />
      <Pick label="Machine" options={[...props.machines.map((m): [string, string] => [m.slug, m.name]), ["", "no machine"]]} take={(machine) => edit({ machine }, `${who}: belongs elsewhere now.`)} />
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          edit({ place: place.trim() }, `${who}: ${place.trim() || "no place"}.`);
          setPlace("");
        }}
      >
        <input aria-label="Place" value={place} onChange={(e) => setPlace(e.target.value)} placeholder="place" className={`${FIELD} max-w-32`} />
      </form>
      {one && (
        <>
          <Button aria-label="One more" onClick={() => edit({ count: one.count + 1 }, `${one.count + 1} of the ${one.teeth}.`)}>
            +1
          </Button>
          <Button aria-label="One less" disabled={one.count === 0} onClick={() => edit({ count: one.count - 1 }, one.count > 1 ? `${one.count - 1} of the ${one.teeth}.` : `The ${one.teeth} is missing now.`)}>
            −1
          </Button>
        </>
      )}
      <Button onClick={props.remove}>Delete</Button>
      <Button look="quiet" onClick={props.clear}>
        Choose none
      </Button>
    </div>
  );
}

function Pick({ label, options, take }: { label: string; options: string[][]; take: (value: string) => void }) {
  return (
    <select aria-label={label} value="-" onChange={(event) => take(event.target.value)} className={`${FIELD} w-auto max-w-36`}>
      <option value="-" disabled>
        {label} …
      </option>
      {options.map(([value, text]) => (
        <option key={value} value={value}>
          {text}
        </option>
      ))}
    </select>
  );
}
