import { useState } from "react";

import { type Family, Refusal, refusedAt, type Schemas } from "../../api/client";
import { useAddFamily } from "../../api/rack";
import { Button } from "../../kit/Button";
import { FormDialog } from "../../kit/FormDialog";
import { Segmented } from "../../kit/Segmented";
import { TextField } from "../../kit/TextField";

type FamilyIn = Schemas["FamilyIn"];

/** What the wheels of a family share: pitch, angle, bore, key, face. */
export function FamilyDialog({
  start,
  close,
  made,
}: {
  start?: Partial<FamilyIn>;
  close: () => void;
  made: (family: Family) => void;
}) {
  const [typed, setTyped] = useState<FamilyIn>({
    name: "",
    system: "module",
    pitch: "",
    angle: "20",
    bore: "",
    key: "",
    face: "",
    hub: "",
    stub: false,
    ...start,
  });
  const add = useAddFamily();
  const put = (changes: Partial<FamilyIn>) => setTyped({ ...typed, ...changes });
  const problem = add.error instanceof Refusal ? add.error.problem.errors?.[0] : undefined;
  const wrong = refusedAt(add.error);
  return (
    <FormDialog
      title="A family of wheels"
      close={close}
      submit={() => add.mutate(typed, { onSuccess: made })}
    >
      <TextField
        label="Name"
        value={typed.name}
        onChange={(name) => put({ name })}
        example="Box from the fair"
        problem={wrong("name")}
      />
      <Segmented
        label="Pitch system"
        value={typed.system}
        options={[
          ["module", "module"],
          ["dp", "DP"],
          ["cp", "circular"],
        ]}
        onChange={(system) => put({ system })}
      />
      <div className="flex gap-3">
        <TextField
          label="Pitch"
          value={typed.pitch}
          onChange={(pitch) => put({ pitch })}
          example={typed.system === "module" ? "1.25" : typed.system === "dp" ? "20" : "3/16"}
          problem={wrong("pitch")}
        />
        <TextField
          label="Pressure angle"
          value={typed.angle ?? ""}
          onChange={(angle) => put({ angle })}
          problem={wrong("angle")}
          numeric
        />
      </div>
      <div className="flex gap-3">
        <TextField
          label="Bore"
          value={typed.bore ?? ""}
          onChange={(bore) => put({ bore })}
          example="8 mm, 7/8 in"
          problem={wrong("bore")}
        />
        <TextField
          label="Key"
          value={typed.key ?? ""}
          onChange={(key) => put({ key })}
          problem={wrong("key")}
        />
      </div>
      <div className="flex gap-3">
        <TextField
          label="Face"
          value={typed.face ?? ""}
          onChange={(face) => put({ face })}
          problem={wrong("face")}
        />
        <TextField
          label="Hub beyond it"
          value={typed.hub ?? ""}
          onChange={(hub) => put({ hub })}
          problem={wrong("hub")}
        />
      </div>
      {add.error && !problem && (
        <p role="alert" className="text-oxide">
          {add.error.message}
        </p>
      )}
      <div className="mt-1 flex gap-2">
        <Button type="submit" look="main" className="flex-1">
          Save
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </FormDialog>
  );
}
