import { useState } from "react";

import { refusedAt } from "../../api/client";
import { useHobConstants } from "../../api/hobber";
import { Button } from "../../kit/Button";
import { Disclosure } from "../../kit/Disclosure";
import { TextField } from "../../kit/TextField";

/** The index constant of a machine without papers, from a known train and counted turns. */
export function ConstantHelp() {
  const [typed, setTyped] = useState({ train: "", hob_turns: "", table_turns: "1", off: "" });
  const constants = useHobConstants();
  const wrong = refusedAt(constants.error);
  const field = (name: keyof typeof typed, label: string, example: string) => (
    <TextField
      label={label}
      value={typed[name]}
      onChange={(value) => {
        setTyped({ ...typed, [name]: value });
        constants.reset();
      }}
      example={example}
      problem={wrong(name)}
    />
  );
  return (
    <Disclosure title="No papers? Find the constant">
      <p className="text-fine text-soft">
        With a train on, turn the hob by hand and count its turns while the table goes round.
      </p>
      <div className="mt-1 flex gap-2">
        {field("train", "Index train that is on", "48/37*40/80")}
        {field("hob_turns", "Turns of the hob", "37")}
      </div>
      <div className="mt-1 flex gap-2">
        {field("table_turns", "Turns of the table", "1")}
        {field("off", "may be off by", "1/100")}
      </div>
      <Button className="mt-2" onClick={() => constants.mutate(typed)}>
        Find the constant
      </Button>
      <p role="status" className="mt-1 min-h-6">
        {constants.data?.text}
        {constants.error &&
          !["train", "hob_turns", "table_turns", "off"].some(wrong) &&
          constants.error.message}
      </p>
    </Disclosure>
  );
}
