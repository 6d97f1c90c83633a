import { Description, Field, Label } from "@headlessui/react";
import type { ReactNode } from "react";

import { Select } from "./Select";

/** A group of fields under its title. */
export function Part({
  title,
  note,
  children,
}: {
  title: string;
  note?: string;
  children: ReactNode;
}) {
  return (
    <fieldset className="mt-4 flex flex-col gap-2.5 border-t border-line pt-2">
      <legend className="float-left w-full font-bold">{title}</legend>
      {note && <p className="text-fine text-soft">{note}</p>}
      {children}
    </fieldset>
  );
}

/** Fields side by side. */
export function Row({ children }: { children: ReactNode }) {
  return <div className="flex gap-2">{children}</div>;
}

/** One of a few, with its label. */
export function Choice<T extends string>({
  label,
  value,
  options,
  change,
  problem,
}: {
  label: string;
  value: T;
  options: [T, string][];
  change: (value: T) => void;
  problem?: string;
}) {
  return (
    <Field className="min-w-0 flex-1">
      <Label className="text-fine text-soft">{label}</Label>
      <Select
        value={value}
        onChange={(e) => change(e.target.value as T)}
        invalid={problem !== undefined}
      >
        {options.map(([v, t]) => (
          <option key={v} value={v}>
            {t}
          </option>
        ))}
      </Select>
      {problem && (
        <Description as="p" role="alert" className="mt-1 text-fine text-oxide">
          {problem}
        </Description>
      )}
    </Field>
  );
}
