import { Menu, MenuButton, MenuItem, MenuItems } from "@headlessui/react";
import { useState } from "react";

import type { Family, Machine, RackWheel } from "../../api/client";
import { Button } from "../../kit/Button";
import { FIELD } from "../../kit/TextField";
import { LabelsDialog } from "./LabelsDialog";
import { type Changes, CONDITIONS } from "./WheelFields";

/** What can be done with the chosen wheels together. */
export function BulkBar(props: {
  picked: RackWheel[];
  families: Family[];
  machines: Machine[];
  edit: (changes: Changes, text: string) => void;
  remove: () => void;
  clear: () => void;
}) {
  const { picked, edit } = props;
  const [place, setPlace] = useState("");
  const [labels, setLabels] = useState(false);
  const who = `${picked.length} wheels`;
  return (
    <div
      role="group"
      aria-label="Chosen wheels"
      className="flex flex-wrap items-center gap-2 border-b-2 border-blue bg-blue-bg px-3 py-2 text-lesser"
    >
      <b>{who}</b>
      <Choices
        label="Condition"
        options={CONDITIONS.map((c) => [c, c])}
        take={(condition) => edit({ condition: condition as "good" }, `${who}: ${condition}.`)}
      />
      <Choices
        label="Family"
        options={[
          ...props.families.map((f): [string, string] => [String(f.id), f.name]),
          ["", "not identified"],
        ]}
        take={(family) =>
          edit({ family: family ? Number(family) : null }, `${who}: family changed.`)
        }
      />
      <Choices
        label="Machine"
        options={[
          ...props.machines.map((m): [string, string] => [m.slug, m.name]),
          ["", "no machine"],
        ]}
        take={(machine) => edit({ machine }, `${who}: belongs elsewhere now.`)}
      />
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          edit({ place: place.trim() }, `${who}: ${place.trim() || "no place"}.`);
          setPlace("");
        }}
      >
        <input
          aria-label="Place"
          value={place}
          onChange={(e) => setPlace(e.target.value)}
          placeholder="place"
          className={`${FIELD} max-w-32`}
        />
      </form>
      <Button onClick={() => setLabels(true)}>Labels</Button>
      <Button onClick={props.remove}>Delete</Button>
      <Button look="quiet" onClick={props.clear}>
        Choose none
      </Button>
      {labels && (
        <LabelsDialog of={{ wheels: picked.map((w) => w.id) }} close={() => setLabels(false)} />
      )}
    </div>
  );
}

/** One of a few, taken when it is chosen, not on the way to it. */
function Choices({
  label,
  options,
  take,
}: {
  label: string;
  options: string[][];
  take: (value: string) => void;
}) {
  return (
    <Menu>
      <MenuButton className={`${FIELD} w-auto max-w-40 text-left`}>{label} ▾</MenuButton>
      <MenuItems
        anchor="bottom start"
        className="z-40 mt-1 max-h-80 min-w-44 overflow-y-auto rounded-sm border-2 border-enamel bg-paper text-ink shadow-lg outline-none"
      >
        {options.map(([value, text]) => (
          <MenuItem key={value}>
            <button
              type="button"
              className="block min-h-11 w-full px-4 py-2 text-left data-focus:bg-blue-bg"
              onClick={() => take(value!)}
            >
              {text}
            </button>
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  );
}
