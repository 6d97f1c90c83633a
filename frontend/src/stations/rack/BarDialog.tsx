import { useState } from "react";

import { refusedAt } from "../../api/client";
import type { Bar, useSaveBar } from "../../api/stores";
import { Row } from "../../kit/Form";
import { FormDialog } from "../../kit/FormDialog";
import { TextField } from "../../kit/TextField";
import { SaveButtons } from "./SaveButtons";

type Save = ReturnType<typeof useSaveBar>;

/** A piece of round bar. */
export function BarDialog(props: {
  id?: number;
  typed?: Bar;
  save: Save;
  close: () => void;
  done: (text: string) => void;
}) {
  const { id, save } = props;
  const [typed, setTyped] = useState<Bar>({
    material: "",
    diameter: "",
    length: "",
    place: "",
    note: "",
    ...props.typed,
  });
  const put = (changes: Partial<Bar>) => setTyped((now) => ({ ...now, ...changes }));
  const wrong = refusedAt(save.error);
  const submit = () =>
    save.mutate(id === undefined ? { do: "add", typed } : { do: "change", id, typed }, {
      onSuccess: () => props.done(`The ${typed.material} bar is saved.`),
    });
  const remove =
    id === undefined
      ? undefined
      : () =>
          save.mutate(
            { do: "delete", id },
            { onSuccess: () => props.done(`The ${typed.material} bar is deleted.`) },
          );
  return (
    <FormDialog
      title={id === undefined ? "Add a piece of bar" : "A piece of bar"}
      close={props.close}
      submit={submit}
    >
      <TextField
        label="Material"
        value={typed.material}
        onChange={(material) => put({ material })}
        example="cast iron"
        problem={wrong("material")}
      />
      <Row>
        <TextField
          label="Diameter"
          value={typed.diameter}
          onChange={(diameter) => put({ diameter })}
          example="130 mm, 5 in"
          problem={wrong("diameter")}
        />
        <TextField
          label="Length"
          value={typed.length}
          onChange={(length) => put({ length })}
          example="80 mm"
          problem={wrong("length")}
        />
      </Row>
      <Row>
        <TextField label="Place" value={typed.place ?? ""} onChange={(place) => put({ place })} />
        <TextField label="Note" value={typed.note ?? ""} onChange={(note) => put({ note })} />
      </Row>
      {save.error && !["material", "diameter", "length"].some(wrong) && (
        <p role="alert" className="text-oxide">
          {save.error.message}
        </p>
      )}
      <SaveButtons remove={remove} close={props.close} pending={save.isPending} />
    </FormDialog>
  );
}
