import { useState } from "react";

import { refusedAt } from "../../api/client";
import type { Cutter, useSaveCutter } from "../../api/stores";
import { Choice, Row } from "../../kit/Form";
import { FormDialog } from "../../kit/FormDialog";
import { Segmented } from "../../kit/Segmented";
import { TextField } from "../../kit/TextField";
import { SaveButtons } from "./SaveButtons";

type Save = ReturnType<typeof useSaveCutter>;

const NEW: Cutter = {
  system: "module",
  pitch: "",
  angle: "20",
  range: "",
  engraved: "",
  bore: "",
  depth: "",
  condition: "good",
  count: "1",
  place: "",
  note: "",
};

/** A form cutter from what is engraved on it. */
export function CutterDialog(props: {
  id?: number;
  typed?: Cutter;
  save: Save;
  close: () => void;
  done: (text: string) => void;
}) {
  const { id, save } = props;
  const [typed, setTyped] = useState<Cutter>({ ...NEW, ...props.typed });
  const put = (changes: Partial<Cutter>) => setTyped((now) => ({ ...now, ...changes }));
  const wrong = refusedAt(save.error);
  const name = `The cutter ${typed.range}`;
  const submit = () =>
    save.mutate(id === undefined ? { do: "add", typed } : { do: "change", id, typed }, {
      onSuccess: () => props.done(`${name} is saved.`),
    });
  const remove =
    id === undefined
      ? undefined
      : () =>
          save.mutate({ do: "delete", id }, { onSuccess: () => props.done(`${name} is deleted.`) });
  const fields = ["pitch", "angle", "range", "bore", "depth", "count"];
  return (
    <FormDialog
      title={id === undefined ? "Add a cutter" : name}
      close={props.close}
      submit={submit}
    >
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
      <Row>
        <TextField
          label="Pitch"
          value={typed.pitch}
          onChange={(pitch) => put({ pitch })}
          example={typed.system === "module" ? "1.25" : "12"}
          problem={wrong("pitch")}
        />
        <TextField
          label="Pressure angle"
          value={typed.angle}
          onChange={(angle) => put({ angle })}
          problem={wrong("angle")}
          numeric
        />
      </Row>
      <Row>
        <TextField
          label="Range engraved"
          value={typed.range}
          onChange={(range) => put({ range })}
          example="55-134"
          problem={wrong("range")}
        />
        <TextField
          label="Number engraved"
          value={typed.engraved ?? ""}
          onChange={(engraved) => put({ engraved })}
          example="2"
        />
      </Row>
      <Row>
        <TextField
          label="Bore"
          value={typed.bore ?? ""}
          onChange={(bore) => put({ bore })}
          example="22 mm, 1 in"
          problem={wrong("bore")}
        />
        <TextField
          label="Depth engraved"
          value={typed.depth ?? ""}
          onChange={(depth) => put({ depth })}
          example="0.180 in"
          problem={wrong("depth")}
        />
      </Row>
      <Row>
        <Choice
          label="Condition"
          value={typed.condition ?? "good"}
          options={(["good", "worn", "chipped", "suspect"] as const).map((c) => [c, c])}
          change={(condition) => put({ condition })}
        />
        <TextField
          label="How many"
          value={typed.count ?? ""}
          onChange={(count) => put({ count })}
          problem={wrong("count")}
          numeric
        />
      </Row>
      <Row>
        <TextField label="Place" value={typed.place ?? ""} onChange={(place) => put({ place })} />
        <TextField label="Note" value={typed.note ?? ""} onChange={(note) => put({ note })} />
      </Row>
      {save.error && !fields.some(wrong) && (
        <p role="alert" className="text-oxide">
          {save.error.message}
        </p>
      )}
      <SaveButtons remove={remove} close={props.close} pending={save.isPending} />
    </FormDialog>
  );
}
