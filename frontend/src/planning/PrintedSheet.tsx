import type { ComponentProps, ReactNode } from "react";

import type { Schemas } from "../api/client";
import { Strong } from "../kit/Strong";
import type { OnPaper } from "./onPaper";
import { Nut } from "../drawing/Nut";

// At 96 px to the inch: one drawing, 98 by 90 mm, with text beside it; several side by side, 182 mm across. A train of
// six wheels must leave the sheet one page.
const ALONE: [number, number] = [370, 340];
const ACROSS = 680;
const [HIGH, LOW] = [240, 186];

/** A set-up sheet for paper, as its PDF: black on white, one page of A4. Only the printer sees it. */
export function PrintedSheet(props: {
  sheet: Schemas["SheetOut"];
  merit: ComponentProps<typeof Nut>["merit"];
  drawn: OnPaper[];
  /** What leads back to this page. */
  mark: ReactNode;
}) {
  const { sheet, merit, drawn, mark } = props;
  const [first, ...others] = drawn;
  const alone = others.length === 0 && sheet.brief;
  return (
    <article
      className={`hidden text-black print:block ${alone ? "text-print-plain leading-snug" : "text-print-fine leading-[1.12] [&_li]:mb-0.5 [&_ol]:mt-1.5 [&_table]:mt-0.5 [&_td]:py-0"}`}
      aria-hidden
    >
      <header className="flex items-end justify-between border-b-2 border-black pb-1">
        <div>
          <h1
            className={`leading-tight font-bold ${alone ? "text-print-figure" : "text-print-title"}`}
          >
            {sheet.title} on {sheet.machine}
          </h1>
          {sheet.train && (
            <p className={`font-mono font-bold ${alone ? "text-print-title" : "text-print-train"}`}>
              {sheet.train}
            </p>
          )}
        </div>
        {sheet.figure && <p className="font-mono text-print-figure font-bold">{sheet.figure}</p>}
      </header>
      {alone ? (
        <div className="mt-2 flex gap-4">
          {first?.(...ALONE)}
          <div className="flex-1">
            <Verdict sheet={sheet} merit={merit} />
            <Facts facts={sheet.facts} />
          </div>
        </div>
      ) : (
        <>
          <Verdict sheet={sheet} merit={merit} />
          <div className="mt-1 flex">
            {drawn.map((draw, n) => (
              <div key={n}>{draw(Math.floor(ACROSS / drawn.length), sheet.brief ? HIGH : LOW)}</div>
            ))}
          </div>
        </>
      )}
      {sheet.shafts.map((shafts) => (
        <section key={shafts.name} className="mt-1">
          <h2 className="font-bold">
            {shafts.name}
            {shafts.train && (
              <>
                : <span className="font-mono">{shafts.train}</span> ({shafts.note})
              </>
            )}
          </h2>
          <ShaftTable rows={shafts.rows} />
        </section>
      ))}
      <Steps steps={sheet.steps} />
      {[sheet.check, ...sheet.after].map(({ title, lines }) => (
        <section key={title} className="mt-1">
          <h2 className="font-bold">{title}</h2>
          <p>
            <Strong text={lines.join(" ")} />
          </p>
        </section>
      ))}
      {!alone && <Facts facts={sheet.facts} across />}
      <footer className="mt-1 flex items-end gap-4">
        <div className="flex-1">
          <p>Measured: ____________ Date: ____________</p>
          <p className="mt-1 text-print-fine text-soft">{sheet.aid}</p>
        </div>
        {mark}
      </footer>
    </article>
  );
}

function Verdict({ sheet, merit }: Pick<ComponentProps<typeof PrintedSheet>, "sheet" | "merit">) {
  return (
    <p className="mt-1 flex items-center gap-2">
      <Nut plain merit={merit} size={18} />
      <span>
        <b>{sheet.head}.</b> {sheet.verdict}
      </span>
    </p>
  );
}

function Facts({ facts, across = false }: { facts: Schemas["FactOut"][]; across?: boolean }) {
  return (
    <dl className={across ? "mt-1 grid grid-cols-2 gap-x-4" : "mt-2"}>
      {facts.map(({ label, text }) => (
        <div key={label} className={across ? "flex gap-2" : "mb-1"}>
          <dt className={`text-soft ${across ? "shrink-0" : "text-print-lesser"}`}>{label}</dt>
          <dd>{text}</dd>
        </div>
      ))}
    </dl>
  );
}

function Steps({ steps }: { steps: Schemas["StepOut"][] }) {
  return (
    <ol className="mt-3">
      {steps.map((step, n) => (
        <li key={n} className="mb-1 grid grid-cols-[8mm_1fr]">
          <b>{n + 1}</b>
          <div>
            <Strong text={step.text} />
            {step.caution && (
              <p className="mt-0.5 border-l-4 border-black pl-2 font-bold">{step.caution}</p>
            )}
          </div>
        </li>
      ))}
    </ol>
  );
}

/** Shafts from the machine outward. */
function ShaftTable({ rows }: { rows: Schemas["ShaftRowOut"][] }) {
  return (
    <table className="mt-1 w-full border-collapse text-left">
      <thead>
        <tr className="border-b border-black">
          {["Shaft", "Inner", "Outer", "Where"].map((head) => (
            <th key={head}>{head}</th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.shaft} className="border-b border-line">
            <td className="py-0.5">{row.shaft}</td>
            <td>
              <Strong text={row.inner} />
            </td>
            <td>
              <Strong text={row.outer} />
            </td>
            <td>{row.where}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
