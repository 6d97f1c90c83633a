import { useForm, useWatch } from "react-hook-form";

import { refusedAt } from "../../api/client";
import type { Cutter, useSaveCutter } from "../../api/stores";
import { Row } from "../../kit/Form";
import { FormDialog } from "../../kit/FormDialog";
import { FormChoice, FormText } from "../../kit/FormFields";
import { PitchFields } from "./PitchFields";
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
  const form = useForm<Cutter>({ defaultValues: { ...NEW, ...props.typed } });
  const range = useWatch({ control: form.control, name: "range" });
  const submit = (typed: Cutter) =>
    save.mutate(id === undefined ? { do: "add", typed } : { do: "change", id, typed }, {
      onSuccess: () => props.done(`The cutter ${typed.range} is saved.`),
    });
  const remove = () =>
    save.mutate(
      { do: "delete", id: id! },
      { onSuccess: () => props.done(`The cutter ${range} is deleted.`) },
    );
  return (
    <FormDialog
      title={id === undefined ? "Add a cutter" : `The cutter ${range}`}
      form={form}
      wrong={refusedAt(save.error)}
      close={props.close}
      submit={submit}
    >
      <PitchFields />
      <Row>
        <FormText name="range" label="Range engraved" example="55-134" />
        <FormText name="engraved" label="Number engraved" example="2" />
      </Row>
      <Row>
        <FormText name="bore" label="Bore" example="22 mm, 1 in" />
        <FormText name="depth" label="Depth engraved" example="0.180 in" />
      </Row>
      <Row>
        <FormChoice
          name="condition"
          label="Condition"
          options={["good", "worn", "chipped", "suspect"].map((c) => [c, c])}
        />
        <FormText name="count" label="How many" numeric />
      </Row>
      <Row>
        <FormText name="place" label="Place" />
        <FormText name="note" label="Note" long />
      </Row>
      <SaveButtons
        save={save}
        shown={["pitch", "angle", "range", "bore", "depth", "count"]}
        remove={id === undefined ? undefined : remove}
        close={props.close}
      />
    </FormDialog>
  );
}
