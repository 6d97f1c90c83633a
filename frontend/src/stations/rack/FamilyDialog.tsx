import { useForm } from "react-hook-form";

import { type Family, refusedAt, type Schemas } from "../../api/client";
import { useAddFamily } from "../../api/rack";
import { Row } from "../../kit/Form";
import { FormDialog } from "../../kit/FormDialog";
import { FormText } from "../../kit/FormFields";
import { PitchFields } from "./PitchFields";
import { SaveButtons } from "./SaveButtons";

type FamilyIn = Schemas["FamilyIn"];

const NEW: FamilyIn = {
  name: "",
  system: "module",
  pitch: "",
  angle: "20",
  bore: "",
  key: "",
  face: "",
  hub: "",
  stub: false,
};

/** What the wheels of a family share: pitch, angle, bore, key, face. */
export function FamilyDialog(props: {
  start?: Partial<FamilyIn>;
  close: () => void;
  made: (family: Family) => void;
}) {
  const form = useForm<FamilyIn>({ defaultValues: { ...NEW, ...props.start } });
  const add = useAddFamily();
  return (
    <FormDialog
      title="A family of wheels"
      form={form}
      wrong={refusedAt(add.error)}
      close={props.close}
      submit={(typed) => add.mutate(typed, { onSuccess: props.made })}
    >
      <FormText name="name" label="Name" example="Box from the fair" />
      <PitchFields />
      <Row>
        <FormText name="bore" label="Bore" example="8 mm, 7/8 in" />
        <FormText name="key" label="Key" />
      </Row>
      <Row>
        <FormText name="face" label="Face" />
        <FormText name="hub" label="Hub beyond it" />
      </Row>
      <SaveButtons
        save={add}
        shown={["name", "pitch", "angle", "bore", "key", "face", "hub"]}
        close={props.close}
      />
    </FormDialog>
  );
}
