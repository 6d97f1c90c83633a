import type { ReactNode } from "react";
import { Link, useLocation } from "react-router";

import type { WayBack } from "../app/wayBack";
import { Callout } from "../kit/Callout";
import { Disclosure } from "../kit/Disclosure";

/** What stands beside the list of trains, under its own heading. */
export function Beside({
  title,
  id,
  children,
}: {
  title: string;
  id: string;
  children: ReactNode;
}) {
  return (
    <div className="mt-2" role="group" aria-labelledby={id}>
      <h2 id={id} className="mb-1.5 text-lesser font-bold">
        {title}
      </h2>
      <div className="flex flex-col gap-1.5">{children}</div>
    </div>
  );
}

/** What is not known of a machine, and so was not looked at; with the way to its record. */
export function NotKnown({
  of,
  machine,
  sentences,
}: {
  of: string;
  machine: string;
  sentences: string[];
}) {
  const { pathname, search } = useLocation();
  if (sentences.length === 0) return null;
  return (
    <Callout tone="note" small className="mt-1">
      <Disclosure title={`Not known of this ${of}`} state={String(sentences.length)}>
        {sentences.map((text) => (
          <p key={text} className="mb-1">
            {text}
          </p>
        ))}
        <Link
          to={`/machines/${machine}`}
          state={{ back: pathname + search } satisfies WayBack}
          className="inline-flex min-h-11 items-center font-bold underline underline-offset-2"
        >
          Add what you know
        </Link>
      </Disclosure>
    </Callout>
  );
}

/** Wheels in the machine's box that no train is planned with, and why. */
export function LeftOutNote({ text }: { text: string | null | undefined }) {
  if (!text) return null;
  return (
    <Callout tone="note" as="p" small className="mt-3">
      {text}{" "}
      <Link
        to="/rack"
        className="inline-flex min-h-11 items-center font-bold underline underline-offset-2"
      >
        See the rack
      </Link>
    </Callout>
  );
}

export const CHOICE =
  "block cursor-pointer rounded-sm border border-line bg-paper px-2.5 py-1 text-fine leading-snug outline-none data-checked:border-blue data-checked:bg-blue-bg data-checked:shadow-[inset_0_0_0_1px_var(--blue)] data-focus:outline-3 data-focus:outline-offset-1 data-focus:outline-blue";
