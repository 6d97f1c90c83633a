import { useState } from "react";

import { refusalText, refusedAt } from "../../api/client";
import type { Bar, useKeepBar } from "../../api/stores";
import { Row } from "../../kit/Form";
import { FormDialog } from "../../kit/FormDialog";
import { Typed } from "../../kit/Typed";
import { KeepButtons } from "./KeepButtons";

type Keep = ReturnType<typeof useKeepBar>;

/** A piece of round bar. */
export function BarDialog(props: { id?: number; typed?: Bar; keep: Keep; close: () => void; done: (text: string, back: Parameters<Keep["mutate"]>[0]) => void }) {
  const { id, keep } = props;
  const [typed, setTyped] = useState<Bar>({ material: "", diameter: "", length: "", place: "", note: "", ...props.typed });
  const put = (changes: Partial<Bar>) => setTyped((now) => ({ ...now, ...changes }));
  const wrong = refusedAt(keep.error);
  const submit = () =>
    keep.mutate(id === undefined ? { do: "add", typed } : { do: "change", id, typed, before: props.typed }, {
      onSuccess: (back) => props.done(`The ${typed.material} bar is entered.`, back),
    });
  const remove = id === undefined ? undefined : () => keep.mutate({ do: "remove", id }, { onSuccess: (back) => props.done(`The ${typed.material} bar is taken out.`, back) });
  return (
    <FormDialog title={id === undefined ? "Enter a piece of bar" : "A piece of bar"} close={props.close} submit={submit}>
      <Typed label="Material" value={typed.material} onChange={(material) => put({ material })} placeholder="cast iron" problem={wrong("material")} />
      <Row>
        <Typed label="Diameter" value={typed.diameter} onChange={(diameter) => put({ diameter })} placeholder="130 mm, 5 in" problem={wrong("diameter")} />
        <Typed label="Length" value={typed.length} onChange={(length) => put({ length })} placeholder="80 mm" problem={wrong("length")} />
      </Row>
      <Row>
        <Typed label="Place" value={typed.place ?? ""} onChange={(place) => put({ place })} />
        <Typed label="Note" value={typed.note ?? ""} onChange={(note) => put({ note })} />
      </Row>
      {keep.error && !["material", "diameter", "length"].some(wrong) && <p role="alert" className="text-oxide">{refusalText(keep.error)}</p>}
      <KeepButtons remove={remove} close={props.close} pending={keep.isPending} />
    </FormDialog>
  );
}
