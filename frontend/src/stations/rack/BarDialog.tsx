import { useForm } from "react-hook-form";

import { refusedAt } from "../../api/client";
import type { Bar, useSaveBar } from "../../api/stores";
import { Row } from "../../kit/Form";
import { FormDialog } from "../../kit/FormDialog";
import { FormText } from "../../kit/FormFields";
import { SaveButtons } from "./SaveButtons";

type Save = ReturnType<typeof useSaveBar>;

const NEW: Bar = { material: "", diameter: "", length: "", place: "", note: "" };

/** A piece of round bar. */
export function BarDialog(props: {
  id?: number;
  typed?: Bar;
  save: Save;
  close: () => void;
  done: (text: string) => void;
}) {
  const { id, save } = props;
  const form = useForm<Bar>({ defaultValues: { ...NEW, ...props.typed } });
  const wrong = refusedAt(save.error);
  const submit = (typed: Bar) =>
    save.mutate(id === undefined ? { do: "add", typed } : { do: "change", id, typed }, {
      onSuccess: () => props.done(`The ${typed.material} bar is saved.`),
    });
  const remove = () =>
    save.mutate(
      { do: "delete", id: id! },
      { onSuccess: () => props.done(`The ${props.typed?.material} bar is deleted.`) },
    );
  return (
    <FormDialog
      title={id === undefined ? "Add a piece of bar" : "A piece of bar"}
      form={form}
      wrong={wrong}
      close={props.close}
      submit={submit}
    >
      <FormText name="material" label="Material" example="cast iron" />
      <Row>
        <FormText name="diameter" label="Diameter" example="130 mm, 5 in" />
        <FormText name="length" label="Length" example="80 mm" />
      </Row>
      <Row>
        <FormText name="place" label="Place" />
        <FormText name="note" label="Note" long />
      </Row>
      <SaveButtons
        save={save}
        shown={["material", "diameter", "length"]}
        remove={id === undefined ? undefined : remove}
        close={props.close}
      />
    </FormDialog>
  );
}
