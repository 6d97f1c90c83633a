import { Description, Field, Label } from "@headlessui/react";
import { useCallback, useEffect, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";

import { type LatheRecord, Refusal } from "../../api/client";
import { useLathePreview, useLatheRecord, useRack, useSaveLathe } from "../../api/questions";
import { usePreferences } from "../../app/preferences";
import { Unsaved } from "../../app/Unsaved";
import { useSettled } from "../../app/useSettled";
import { Button, buttonLook } from "../../kit/Button";
import { Choice, Part, Row } from "../../kit/Form";
import { Failed } from "../../kit/Notice";
import { Pick } from "../../kit/Pick";
import { Segmented } from "../../kit/Segmented";
import { useTell } from "../../kit/Toast";
import { Typed } from "../../kit/Typed";
import { FamilyDialog } from "../rack/FamilyDialog";
import { EndView } from "./EndView";
import { type PutQuadrant, QUADRANT, QuadrantFields, useQuadrantEdits } from "./QuadrantFields";
import { RecordButtons } from "./RecordButtons";

const NEW: LatheRecord = {
  name: "", note: "", screw: "", screw_hand: "right", first: "1", reverse_lever: true, first_shaft_turns: "clockwise", screw_turns_right_hand: "clockwise",
  box: "", first_drivers: "", last_driven: "", pairs: "", dials: "", feed_along: "", feed_across: "", family: null, ...QUADRANT,
};

/** A lathe's record beside its end view: what is typed is drawn, what is dragged is typed. */
export default function LatheEditor() {
  const { edited } = useParams();
  const known = useLatheRecord(edited);
  if (known.error) {
    return (
      <div className="p-6">
        <Failed error={known.error} retry={() => void known.refetch()} />
        <Link className={`${buttonLook()} mt-3`} to="/machines">
          See the machines
        </Link>
      </div>
    );
  }
  if (edited && !known.data) return null;
  return <Editor key={edited ?? "new"} edited={edited} start={known.data ?? NEW} />;
}

function Editor({ edited, start }: { edited?: string; start: LatheRecord }) {
  const { units } = usePreferences();
  const navigate = useNavigate();
  const tell = useTell();
  const rack = useRack();
  const save = useSaveLathe(edited);
  const [record, setRecord] = useState<LatheRecord>(start);
  const [train, setTrain] = useState("");
  const [newFamily, setNewFamily] = useState(false);
  const settled = useSettled(record, 120);
  const preview = useLathePreview(settled, useSettled(train, 250), units);
  const saved = useRef(false);
  const put = (changes: Partial<LatheRecord>) => setRecord((now) => ({ ...now, ...changes }));
  const putQuadrant = useCallback<PutQuadrant>((change) => setRecord((now) => ({ ...now, ...change(now) })), []);
  const families = rack.data?.families ?? [];
  useEffect(() => {
    if (!edited && record.family == null && families.length === 1) put({ family: families[0]!.id });
  }, [edited, families, record.family]);
  const refused = save.error instanceof Refusal ? (save.error.problem.errors ?? []) : [];
  const typedYet = (field: string) => String((record as Record<string, unknown>)[field] ?? "").trim() !== "";
  const problems = [...refused, ...(preview.data?.problems.filter((p) => typedYet(p.field) || p.field.startsWith("slots") || p.field === "train") ?? [])];
  const wrong = (field: string) => {
    const found = problems.find((p) => p.field === field);
    return found && `${found.says} ${found.would_do}`;
  };
  const text = (name: keyof LatheRecord & string, label: string, placeholder?: string) => (
    <Typed label={label} value={String(record[name] ?? "")} onChange={(value) => put({ [name]: value })} placeholder={placeholder} problem={wrong(name)} />
  );
  const told = preview.data;
  const edits = useQuadrantEdits(record, putQuadrant, told?.drawing);
  return (
    <div className="grid h-full grid-cols-[420px_minmax(0,1fr)] tall:h-auto tall:grid-cols-1">
      <Unsaved typed={JSON.stringify(record) !== JSON.stringify(edited ? start : { ...start, family: record.family })} saved={saved} />
      <form
        className="min-h-0 overflow-y-auto border-r border-line p-4"
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate(record, {
            onSuccess: ({ slug, name }) => {
              saved.current = true;
              tell({ text: `${name} is saved.`, done: true });
              void navigate(edited ? "/machines" : `/lathe/${slug}`);
            },
          });
        }}
      >
        <h1 className="text-[19px] font-bold">{edited ? `${start.name}’s record` : "Add a lathe"}</h1>
        <Part title="The lathe">
          <Row>
            {text("name", "Name", "Wren")}
            {text("note", "Note")}
          </Row>
          <Row>
            {text("screw", "Lead screw", "8 tpi, 3 mm")}
            <Choice label="Screw’s own hand" value={record.screw_hand ?? "right"} options={[["right", "right"], ["left", "left"]]} change={(screw_hand) => put({ screw_hand })} />
          </Row>
          <Field>
            <Label className="text-[14px] text-soft">Its wheels</Label>
            <Pick value={record.family ?? ""} onChange={(e) => put({ family: e.target.value ? Number(e.target.value) : null })} invalid={wrong("family") !== undefined}>
              <option value="">choose …</option>
              {families.map((f) => (
                <option key={f.id} value={f.id}>
                  {f.name} ({f.text})
                </option>
              ))}
            </Pick>
            {wrong("family") && (
              <Description as="p" role="alert" className="mt-1 text-[14px] text-oxide">
                {wrong("family")}
              </Description>
            )}
          </Field>
          <Button look="quiet" className="self-start" onClick={() => setNewFamily(true)}>
            Add a family
          </Button>
        </Part>
        <Part title="What turns what" note="First shaft: turns per spindle turn, 1 or 1/2; several with their lever names, low=1/2, high=2.">
          {text("first", "First shaft", "1")}
          <Segmented label="Reverse" value={record.reverse_lever ? "lever" : "none"} options={[["lever", "Tumbler reverse"], ["none", "No reverse"]]} onChange={(v) => put({ reverse_lever: v === "lever" })} />
          <Row>
            <Choice label="First shaft turns" value={record.first_shaft_turns ?? "clockwise"} options={[["clockwise", "clockwise"], ["anticlockwise", "anticlockwise"]]} change={(first_shaft_turns) => put({ first_shaft_turns })} />
            <Choice label="Screw, right-hand thread" value={record.screw_turns_right_hand ?? "clockwise"} options={[["clockwise", "clockwise"], ["anticlockwise", "anticlockwise"]]} change={(screw_turns_right_hand) => put({ screw_turns_right_hand })} />
          </Row>
        </Part>
        <QuadrantFields quadrant={record} put={putQuadrant} wrong={wrong} names={{ first: "first shaft", last: "screw", carrier: "quadrant" }} />
        <Part title="Where the lathe has them">
          {text("box", "Gearbox steps", "A=1, B=8/9, C=4/5")}
          <Row>
            {text("first_drivers", "Only first drivers", "24 32 36 40")}
            {text("last_driven", "Only last wheels", "64")}
          </Row>
          <Row>
            {text("pairs", "Locked pairs", "127/120")}
            {text("dials", "Thread dials, teeth/marks", "24/8")}
          </Row>
          <Row>
            {text("feed_along", "Feed along per screw turn", "0.5 mm")}
            {text("feed_across", "Feed across per screw turn", "0.022 in")}
          </Row>
        </Part>
        {save.error && refused.length === 0 && <Failed error={save.error} />}
        {refused.length > 0 && <p className="mt-3 text-oxide">{refused[0]!.says} {refused[0]!.would_do}</p>}
        <RecordButtons busy={save.isPending} className="sticky -bottom-4 -mx-4 mt-4 border-t border-line bg-chalk p-4" />
      </form>
      <EndView told={told} machine={record.name || "New lathe"} train={train} setTrain={setTrain} wrong={wrong("train")} edits={edits} />
      {newFamily && (
        <FamilyDialog
          close={() => setNewFamily(false)}
          made={(family) => {
            setNewFamily(false);
            put({ family: family.id });
          }}
        />
      )}
    </div>
  );
}
