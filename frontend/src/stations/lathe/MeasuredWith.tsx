import { Field, Label } from "@headlessui/react";

import type { Schemas } from "../../api/client";
import { useMethods } from "../../api/lathe";
import { usePreferences } from "../../app/preferences";
import { Select } from "../../kit/Select";
import { TextField } from "../../kit/TextField";

type Method = Schemas["Method"];

/** With what a length was measured, or by how much it may be off where that is known better. */
export function MeasuredWith(props: {
  label: string;
  method: Method;
  setMethod: (method: Method) => void;
  off: string;
  setOff: (off: string) => void;
  problem?: string;
}) {
  const { units } = usePreferences();
  const methods = useMethods(units);
  return (
    <div className="mt-2 flex gap-2">
      <Field className="min-w-0 flex-1">
        <Label className="text-fine text-soft">{props.label}</Label>
        <Select value={props.method} onChange={(e) => props.setMethod(e.target.value as Method)}>
          {methods.data?.map(({ method, text }) => (
            <option key={method} value={method}>
              {text}
            </option>
          ))}
        </Select>
      </Field>
      <TextField
        label="or ±"
        className="max-w-24"
        value={props.off}
        onChange={props.setOff}
        example="as it is"
        problem={props.problem}
        numeric
      />
    </div>
  );
}
