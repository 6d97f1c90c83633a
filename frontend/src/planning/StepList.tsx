import type { Schemas } from "../api/client";
import { Strong } from "../kit/Strong";

/** What is done, in the order of the work, with the cautions where the hazard is. */
export function StepList({ steps }: { steps: Schemas["StepOut"][] }) {
  return (
    <ol className="border-t border-line">
      {steps.map((step, n) => (
        <li
          key={n}
          className="grid grid-cols-[26px_1fr] border-b border-line py-2.5 text-[15px] leading-snug"
        >
          <span className="font-mono font-bold text-soft">{n + 1}</span>
          <div>
            <Strong text={step.text} />
            {step.caution && (
              <p className="mt-1.5 border-l-4 border-oxide bg-oxide-bg px-2 py-1">{step.caution}</p>
            )}
          </div>
        </li>
      ))}
    </ol>
  );
}

/** The same on paper. */
export function PrintedSteps({ steps }: { steps: Schemas["StepOut"][] }) {
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

/** What goes on which shaft, beside the steps. */
export function Shafts({ label, rows }: { label?: string; rows: Schemas["ShaftRowOut"][] }) {
  return (
    <table aria-label={label} className="w-full text-left text-[14px]">
      <thead className="sr-only">
        <tr>
          <th>Shaft</th>
          <th>Inner</th>
          <th>Outer</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.shaft} className="border-t border-line align-top">
            <th scope="row" className="py-1 pr-2 font-normal text-soft">
              {row.shaft}
            </th>
            <td className="py-1 pr-2">
              <Strong text={row.inner} />
            </td>
            <td className="py-1">
              <Strong text={row.outer} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Sentences under their title, run on, on paper. */
export function PrintedSaid({ title, lines }: { title: string; lines: string[] }) {
  return (
    <>
      <h2 className="font-bold">{title}</h2>
      <p>
        {lines.map((line) => (
          <span key={line}>
            <Strong text={line} />{" "}
          </span>
        ))}
      </p>
    </>
  );
}

/** The end of a sheet on paper: its facts, a line to write on, and what it is. */
export function PrintedEnd(props: {
  facts: { label: string; text: string }[];
  write: string;
  aid: string;
}) {
  return (
    <>
      <dl className="mt-1 grid grid-cols-2 gap-x-4">
        {props.facts.map(({ label, text }) => (
          <div key={label} className="flex gap-2">
            <dt className="shrink-0 text-soft">{label}</dt>
            <dd>{text}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-1">{props.write}: ____________ Date: ____________</p>
      <p className="mt-1 text-soft">{props.aid}</p>
    </>
  );
}

/** Shafts from the machine outward, on paper. */
export function PrintedShafts({ rows }: { rows: Schemas["ShaftRowOut"][] }) {
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
