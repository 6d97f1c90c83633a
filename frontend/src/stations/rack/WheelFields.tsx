import { useState } from "react";

import type { Family, Machine, RackWheel, Schemas } from "../../api/client";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Form";
import { TextField } from "../../kit/TextField";
import { LabelsDialog } from "./LabelsDialog";

export type Changes = Omit<Schemas["EditIn"], "ids" | "seen">;

export const CONDITIONS = ["good", "worn", "chipped", "suspect"] as const;

/** What is typed of a wheel and not saved yet. */
export type Draft = Partial<
  Record<"count" | "condition" | "machine" | "family" | "place" | "material" | "note", string>
>;

/** Everything on record of one wheel, changed where it is looked at. Only what was changed is saved. */
export function WheelFields(props: {
  wheel: RackWheel;
  families: Family[];
  machines: Machine[];
  edit: (changes: Changes, text: string) => void;
  remove: () => void;
  typed: Draft;
  setTyped: (typed: Draft) => void;
}) {
  const { wheel, families, machines, typed, setTyped } = props;
  const [labels, setLabels] = useState(false);
  const stands = {
    count: String(wheel.count),
    condition: wheel.condition as string,
    machine: wheel.machine ?? "",
    family: String(wheel.family ?? ""),
    place: wheel.place,
    material: wheel.material,
    note: wheel.note,
  };
  const now = { ...stands, ...typed };
  const changed = (Object.keys(stands) as (keyof typeof stands)[]).filter(
    (name) => now[name].trim() !== stands[name],
  );
  const put = (name: keyof typeof stands) => (value: string) =>
    setTyped({ ...typed, [name]: value });
  const whole = /^\s*\d{1,3}\s*$/.test(now.count);
  const save = () => {
    const changes: Changes = {};
    for (const name of changed) {
      const value = now[name].trim();
      if (name === "count") changes.count = Number(value);
      else if (name === "family") changes.family = value ? Number(value) : null;
      else if (name === "condition") changes.condition = value as RackWheel["condition"];
      else changes[name] = value;
    }
    props.edit(changes, `The ${wheel.teeth} is changed.`);
    setTyped({});
  };
  return (
    <form
      aria-label={`The ${wheel.teeth}`}
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (whole && changed.length > 0) save();
      }}
    >
      <div className="grid grid-cols-2 gap-2">
        <TextField
          label="How many"
          value={now.count}
          onChange={put("count")}
          problem={whole ? undefined : "Enter a whole number; 0 is missing."}
        />
        <Choice
          label="Condition"
          value={now.condition}
          options={CONDITIONS.map((one): [string, string] => [one, one])}
          change={put("condition")}
        />
      </div>
      <TextField label="Place" value={now.place} onChange={put("place")} example="peg board" />
      <Choice
        label="Belongs to"
        value={now.machine}
        options={[...machines.map((m): [string, string] => [m.slug, m.name]), ["", "no machine"]]}
        change={put("machine")}
      />
      <Choice
        label="Family"
        value={now.family}
        options={[
          ...families.map((f): [string, string] => [String(f.id), f.name]),
          ["", "not identified"],
        ]}
        change={put("family")}
      />
      <TextField label="Material" value={now.material} onChange={put("material")} />
      <TextField label="Note" value={now.note} onChange={put("note")} />
      <div className="flex flex-wrap gap-2">
        <Button type="submit" look="main" disabled={changed.length === 0}>
          Save
        </Button>
        {changed.length > 0 && (
          <Button look="quiet" onClick={() => setTyped({})}>
            Cancel
          </Button>
        )}
        <Button className="ml-auto" onClick={() => setLabels(true)}>
          Label
        </Button>
        <Button onClick={props.remove}>Delete</Button>
      </div>
      {labels && <LabelsDialog of={{ wheels: [props.wheel.id] }} close={() => setLabels(false)} />}
    </form>
  );
}
