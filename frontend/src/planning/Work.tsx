import type { ReactNode } from "react";

import type { Schemas } from "../api/client";
import { Lines } from "./Lines";
import { Shafts, StepList } from "./StepList";

/** What is done, in its order: shaft by shaft what goes where, the steps, what is checked, what comes after. `check`:
 * where a reading is typed. */
export function Work({ sheet, check }: { sheet: Schemas["SheetOut"]; check: ReactNode }) {
  return (
    <div className="mt-2">
      {sheet.shafts.map(({ name, train, rows }) => (
        <section key={name} aria-label={name} className="mb-2 text-fine">
          {train && (
            <h3 className="font-bold">
              {name} <span className="font-mono">{train}</span>
            </h3>
          )}
          <Shafts label={name} rows={rows} />
        </section>
      ))}
      <StepList steps={sheet.steps} />
      <Lines {...sheet.check} />
      {check}
      {sheet.after.map((lines) => (
        <Lines key={lines.title} {...lines} />
      ))}
    </div>
  );
}
