import type { ComponentProps, ReactNode } from "react";

import { Nut } from "../drawing/Nut";
import { Done, LastTime } from "./LastTime";
import { SheetButtons } from "./SheetButtons";
import { Callout } from "../kit/Callout";

type Done = Omit<ComponentProps<typeof SheetButtons>, "goesOn" | "on" | "fits" | "title">;

/** A set-up sheet of any machine: what comes of the set-up, its verdict, the work, and what is done with it. */
export function SheetFrame(
  props: {
    of: {
      goes_on: boolean;
      fits: boolean;
      is_on: boolean;
      reasons: string[];
      sheet: { aid: string };
    };
    figure: string;
    unit: string;
    merit: ComponentProps<typeof Nut>["merit"];
    head: string;
    verdict: string;
    /** What recording it as fitted does. */
    records: string;
    children: ReactNode;
  } & Done,
) {
  const { of, figure, unit, merit, head, verdict, records, children, ...buttons } = props;
  return (
    <div className="flex h-full flex-col">
      <div
        className="min-h-0 flex-1 overflow-y-auto p-4"
        tabIndex={0}
        aria-label="Set-up sheet, scrolls"
      >
        <h2 className="text-heading font-bold">Set-up sheet</h2>
        <p className="mt-1 font-mono text-figure leading-tight font-bold">
          {figure} <span className="font-sans text-large font-normal text-soft">{unit}</span>
        </p>
        <p className="mt-2 flex gap-2.5">
          <span className="mt-0.5">
            <Nut merit={merit} size={26} />
          </span>
          <span>
            <b>{head}.</b> {verdict}
          </span>
        </p>
        <LastTime />
        {children}
        <Done />
        <p className="mt-3 text-fine text-soft">{of.sheet.aid}</p>
      </div>
      <SheetButtons
        {...buttons}
        goesOn={of.goes_on}
        fits={of.fits}
        on={of.is_on}
        title={of.fits ? records : of.reasons[0]}
      />
    </div>
  );
}

/** What cannot be set, or would do harm. */
export function Warning({ label, text }: { label?: string; text: string }) {
  return (
    <Callout tone="wrong" as="p" small className="mt-2">
      {label && <b>{label}:</b>} {text}
    </Callout>
  );
}

/** What had better be known before the work. */
export function Remark({ text }: { text: string }) {
  return (
    <Callout tone="note" as="p" className="mt-2">
      {text}
    </Callout>
  );
}

/** What was taken for granted. */
export function Assumptions({ lines }: { lines: string[] }) {
  return lines.map((line) => (
    <p key={line} className="mt-1 text-fine text-soft">
      {line}
    </p>
  ));
}
