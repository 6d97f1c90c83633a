import { useWatch } from "react-hook-form";

import { Row } from "../../kit/Form";
import { FormSegmented, FormText } from "../../kit/FormFields";

const EXAMPLES: Record<string, string> = { module: "1.25", dp: "20", cp: "3/16" };

/** Pitch and pressure angle, of a family of wheels or of a cutter. */
export function PitchFields() {
  const system = useWatch({ name: "system" }) as string;
  return (
    <>
      <FormSegmented
        name="system"
        label="Pitch system"
        options={[
          ["module", "module"],
          ["dp", "DP"],
          ["cp", "circular"],
        ]}
      />
      <Row>
        <FormText name="pitch" label="Pitch" example={EXAMPLES[system]} />
        <FormText name="angle" label="Pressure angle" numeric />
      </Row>
    </>
  );
}
