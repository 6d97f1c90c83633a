import type { Schemas } from "../api/client";
import { Callout } from "../kit/Callout";
import { Strong } from "../kit/Strong";

/** What is done, in the order of the work, with the cautions where the hazard is. */
export function StepList({ steps }: { steps: Schemas["StepOut"][] }) {
  return (
    <ol className="border-t border-line">
      {steps.map((step, n) => (
        <li
          key={n}
          className="grid grid-cols-[26px_1fr] border-b border-line py-2.5 text-lesser leading-snug"
        >
          <span className="font-mono font-bold text-soft">{n + 1}</span>
          <div>
            <Strong text={step.text} />
            {step.caution && (
              <Callout tone="wrong" as="p" className="mt-1.5">
                {step.caution}
              </Callout>
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
    <table aria-label={label} className="w-full text-left text-fine">
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
