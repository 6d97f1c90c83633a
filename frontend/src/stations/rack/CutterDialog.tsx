import { useState } from "react";

import { refusalText, refusedAt } from "../../api/client";
import type { Cutter, useKeepCutter } from "../../api/stores";
import { Choice, Row } from "../../kit/Form";
import { FormDialog } from "../../kit/FormDialog";
import { Segmented } from "../../kit/Segmented";
import { whole } from "../../kit/whole";
import { Typed } from "../../kit/Typed";
import { KeepButtons } from "./KeepButtons";

type Keep = ReturnType<typeof useKeepCutter>;

const NEW: Cutter = { system: "module", pitch: "", angle: "20", range: "", engraved: "", bore: "", depth: "", condition: "good", count: 1, place: "", note: "" };

/** A form cutter from what is engraved on it. */
export function CutterDialog(props: { id?: number; typed?: Cutter; keep: Keep; close: () => void; done: (text: string, back: Parameters<Keep["mutate"]>[0]) => void }) {
  const { id, keep } = props;
  const [typed, setTyped] = useState<Cutter>({ ...NEW, ...props.typed });
  const put = (changes: Partial<Cutter>) => setTyped((now) => ({ ...now, ...changes }));
  const wrong = refusedAt(keep.error);
  const name = `The cutter ${typed.range}`;
  const submit = () =>
    keep.mutate(id === undefined ? { do: "add", typed } : { do: "change", id, typed, before: props.typed }, {
      onSuccess: (back) => props.done(`${name} is entered.`, back),
    });
  const remove = id === undefined ? undefined : () => keep.mutate({ do: "remove", id }, { onSuccess: (back) => props.done(`${name} is taken out.`, back) });
  const fields = ["pitch", "angle", "range", "bore", "depth", "count"];
  return (
    <FormDialog title={id === undefined ? "Enter a cutter" : name} close={props.close} submit={submit}>
      <Segmented label="Pitch system" value={typed.system} options={[["module", "module"], ["dp", "DP"], ["cp", "circular"]]} onChange={(system) => put({ system })} />
      <Row>
        <Typed label="Pitch" value={typed.pitch} onChange={(pitch) => put({ pitch })} placeholder={typed.system === "module" ? "1.25" : "12"} problem={wrong("pitch")} />
        <Typed label="Pressure angle" value={typed.angle} onChange={(angle) => put({ angle })} problem={wrong("angle")} numeric />
      </Row>
      <Row>
        <Typed label="Range engraved" value={typed.range} onChange={(range) => put({ range })} placeholder="55-134" problem={wrong("range")} />
        <Typed label="Number engraved" value={typed.engraved ?? ""} onChange={(engraved) => put({ engraved })} placeholder="2" />
      </Row>
      <Row>
        <Typed label="Bore" value={typed.bore ?? ""} onChange={(bore) => put({ bore })} placeholder="22 mm, 1 in" problem={wrong("bore")} />
        <Typed label="Depth engraved" value={typed.depth ?? ""} onChange={(depth) => put({ depth })} placeholder="0.180 in" problem={wrong("depth")} />
      </Row>
      <Row>
        <Choice label="Condition" value={typed.condition ?? "good"} options={(["good", "worn", "chipped", "suspect"] as const).map((c) => [c, c])} change={(condition) => put({ condition })} />
        <Typed label="How many" value={String(typed.count || "")} onChange={(t) => put({ count: whole(t) })} problem={wrong("count")} numeric />
      </Row>
      <Row>
        <Typed label="Place" value={typed.place ?? ""} onChange={(place) => put({ place })} />
        <Typed label="Note" value={typed.note ?? ""} onChange={(note) => put({ note })} />
      </Row>
      {keep.error && !fields.some(wrong) && <p role="alert" className="text-oxide">{refusalText(keep.error)}</p>}
      <KeepButtons remove={remove} close={props.close} pending={keep.isPending} />
    </FormDialog>
  );
}
