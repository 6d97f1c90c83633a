import { useState } from "react";

import { useEntry } from "../../api/entry";
import { Button, buttonLook } from "../../kit/Button";
import { Checkbox } from "../../kit/Checkbox";
import { DialogFrame } from "../../kit/DialogFrame";
import { TextField } from "../../kit/TextField";

/** What labels are for: numbers of wheels or cutters, names of boxes. */
export interface LabelsOf {
  wheels?: number[];
  cutters?: number[];
  places?: string[];
}

/** Labels at true size, as a PDF. */
export function LabelsDialog({ of, close }: { of: LabelsOf; close: () => void }) {
  const [width, setWidth] = useState("62 mm");
  const [height, setHeight] = useState("29 mm");
  const [code, setCode] = useState(false);
  const reached = Boolean(useEntry().data?.address);
  const query = new URLSearchParams({ width, height, ...(code && { code: "true" }) });
  for (const [name, values] of Object.entries(of))
    for (const value of values as (number | string)[]) query.append(name, String(value));
  const many = Object.values(of).reduce((sum: number, values: unknown[]) => sum + values.length, 0);
  const wrong = (typed: string) =>
    /^\d+([.,]\d+)?\s*(mm|cm|in|")?$/.test(typed.trim()) ? undefined : "Type a length, like 62 mm.";
  const problem = wrong(width) ?? wrong(height);
  return (
    <DialogFrame title={many === 1 ? "Label" : `${many} labels`} close={close}>
      <div className="mt-2 flex gap-2">
        <TextField label="Wide" value={width} onChange={setWidth} problem={wrong(width)} />
        <TextField label="High" value={height} onChange={setHeight} problem={wrong(height)} />
      </div>
      {reached ? (
        <Checkbox label="With a QR code that opens it" ticked={code} change={setCode} />
      ) : (
        <p className="mt-1 text-fine text-soft">
          A QR code needs an address that other devices reach: start with --host 0.0.0.0.
        </p>
      )}
      <p className="mt-1 text-fine text-soft">
        Print without scaling; the labels come out at true size, with lines to cut along.
      </p>
      {problem ? (
        <Button look="main" className="mt-3" disabled>
          PDF
        </Button>
      ) : (
        <a className={`${buttonLook("main")} mt-3`} href={`/api/rack/labels.pdf?${query}`} download>
          PDF
        </a>
      )}
    </DialogFrame>
  );
}
