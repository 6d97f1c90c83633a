import { type FormEvent, useRef, useState } from "react";

import { type Family, type Machine, Refusal } from "../../api/client";
import { useChangeRack } from "../../api/rack";
import { Button } from "../../kit/Button";
import { FamilySelect } from "../../kit/FamilySelect";
import { Choice } from "../../kit/Form";
import { TextField } from "../../kit/TextField";

/** A pile on the bench, typed as fast as it is counted; what the wheels share is said once and stays. */
export function PileForm({
  families,
  machines,
  added,
  newFamily,
}: {
  families: Family[];
  machines: Machine[];
  added: (text: string) => void;
  newFamily: () => void;
}) {
  const [wheels, setWheels] = useState("");
  const [family, setFamily] = useState<number | null>(null);
  const [machine, setMachine] = useState("");
  const [place, setPlace] = useState("");
  const [material, setMaterial] = useState("");
  const change = useChangeRack();
  const form = useRef<HTMLFormElement>(null);
  const problem = change.error instanceof Refusal ? change.error.problem.errors?.[0] : undefined;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const pile = {
      wheels,
      family,
      machine: machine || null,
      place,
      material,
      note: "",
      planned: false,
    };
    change.mutate(
      { do: "add", pile },
      {
        onSuccess: () => {
          added(`Added to the rack: ${wheels.trim()}.`);
          setWheels("");
          form.current?.querySelector("input")?.focus();
        },
      },
    );
  };
  return (
    <form ref={form} onSubmit={submit} className="flex flex-col gap-2.5">
      <TextField
        label="Wheels, as you count them"
        value={wheels}
        onChange={(typed) => {
          setWheels(typed);
          // What was wrong was said of what stood here.
          if (change.error) change.reset();
        }}
        example="40 40 45 50 worn 20"
        note={counted(wheels)}
        problem={problem && `${problem.says} ${problem.would_do}`}
      />
      <FamilySelect
        label="Family"
        none="not identified"
        families={families}
        value={family}
        change={setFamily}
      />
      <Button look="quiet" className="self-start" onClick={newFamily}>
        Add a family
      </Button>
      <Choice
        label="Belongs to"
        value={machine}
        options={[["", "no machine"], ...machines.map((m): [string, string] => [m.slug, m.name])]}
        change={setMachine}
      />
      <div className="flex gap-2">
        <TextField label="Place" value={place} onChange={setPlace} example="second box" />
        <TextField label="Material" value={material} onChange={setMaterial} example="cast iron" />
      </div>
      <Button type="submit" look="main" disabled={!wheels.trim() || change.isPending}>
        Add to rack
      </Button>
      {change.error && !problem && (
        <p role="alert" className="text-oxide">
          {change.error.message}
        </p>
      )}
    </form>
  );
}

/** How many wheels are typed so far, to be held against the pile; nothing while a number is half typed. */
function counted(wheels: string): string | undefined {
  let count = 0;
  for (const word of wheels.split(/[\s,;]+/)) {
    const number = /^(\d+)(?:-(\d+))?(?:[x*×](\d+))?$/.exec(word);
    if (!number) {
      if (/\d/.test(word)) return undefined;
      continue;
    }
    const [, from, to, times] = number;
    const several = to ? Math.max(0, Number(to) - Number(from) + 1) : 1;
    count += several * Number(times ?? 1);
  }
  return count > 0 ? `${count} ${count === 1 ? "wheel" : "wheels"}` : undefined;
}
