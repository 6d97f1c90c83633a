import * as Headless from "@headlessui/react";
import type { ReactNode } from "react";

/** A box to tick, with its label, and what stands before or behind that. */
export function Checkbox(props: {
  label: string;
  ticked: boolean;
  change: (on: boolean) => void;
  before?: ReactNode;
  behind?: string;
}) {
  return (
    <Headless.Field className="flex min-h-11 cursor-pointer break-inside-avoid items-center gap-2.5 text-lesser">
      <Headless.Checkbox
        checked={props.ticked}
        onChange={props.change}
        className="group grid size-6 shrink-0 place-items-center rounded-sm border-2 border-ink/60 bg-paper data-checked:bg-enamel data-focus:outline-3 data-focus:outline-blue"
      >
        <svg
          viewBox="0 0 14 14"
          width="14"
          height="14"
          aria-hidden
          className="opacity-0 group-data-checked:opacity-100"
        >
          <path d="M2 7.5 L5.5 11 L12 3" fill="none" stroke="#f7f6f0" strokeWidth="2.4" />
        </svg>
      </Headless.Checkbox>
      {props.before}
      <Headless.Label className="flex-1 cursor-pointer">{props.label}</Headless.Label>
      {props.behind !== undefined && <span className="font-mono text-soft">{props.behind}</span>}
    </Headless.Field>
  );
}
