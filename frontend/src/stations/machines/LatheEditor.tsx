import { Field, Label, Select } from "@headlessui/react";
import { useEffect, useMemo, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";

import { type LatheRecord, Refusal } from "../../api/client";
import { useLathePreview, useLatheRecord, useRack, useSaveLathe } from "../../api/questions";
import { usePreferences } from "../../app/preferences";
import { useSettled } from "../../app/useSettled";
import { QuadrantDrawing } from "../../drawing/QuadrantDrawing";
import type { QuadrantEdits } from "../../drawing/QuadrantHandles";
import { useSize } from "../../drawing/useSize";
import { Button, buttonLook } from "../../kit/Button";
import { Choice, Part, Row } from "../../kit/Form";
import { Failed } from "../../kit/Notice";
import { Segmented } from "../../kit/Segmented";
import { useTell } from "../../kit/Toast";
import { FIELD, Typed } from "../../kit/Typed";
import { FamilyDialog } from "../rack/FamilyDialog";
import { CalipersHelp } from "./CalipersHelp";
import { RecordButtons } from "./RecordButtons";

const NEW: LatheRecord = {
  name: "", note: "", screw: "", screw_hand: "right", first: "1", reverse_lever: true, first_shaft_turns: "clockwise", screw_turns_right_hand: "clockwise",
  box: "", first_drivers: "", last_driven: "", pairs: "", dials: "", feed_along: "", feed_across: "", first_x: "60", first_y: "120", swing_low: "20", swing_high: "120",
  boss_first: "12", boss_stud: "10", boss_last: "12", gap: "0.5", studs: "2", slots: [{ offset: "0", nearest: "50", farthest: "180" }], cover: "", family: null,
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
  const [paper, size] = useSize<HTMLDivElement>();
  const put = (changes: Partial<LatheRecord>) => setRecord((now) => ({ ...now, ...changes }));
  const families = rack.data?.families ?? [];
  useEffect(() => {
    if (!edited && record.family == null && families.length === 1) put({ family: families[0]!.id });
  }, [edited, families, record.family]);
  const saved = save.error instanceof Refusal ? (save.error.problem.errors ?? []) : [];
  const typedYet = (field: string) => String((record as Record<string, unknown>)[field] ?? "").trim() !== "";
  const problems = [...saved, ...(preview.data?.problems.filter((p) => typedYet(p.field) || p.field.startsWith("slots") || p.field === "train") ?? [])];
  const wrong = (field: string) => {
    const found = problems.find((p) => p.field === field);
    return found && `${found.says} ${found.would_do}`;
  };
  const text = (name: keyof LatheRecord & string, label: string, placeholder?: string, numeric = false, className?: string) => (
    <Typed label={label} value={String(record[name] ?? "")} onChange={(value) => put({ [name]: value })} placeholder={placeholder} problem={wrong(name)} numeric={numeric} className={className} />
  );
  const told = preview.data;
  const edits = useMemo((): QuadrantEdits => {
    const drawn = told?.drawing;
    const swing: [number, number] = [Number(record.swing_low) || 0, Number(record.swing_high) || 0];
    return {
      swing,
      moveFirst: (x, y) => put({ first_x: figure(x), first_y: figure(y) }),
      moveSwing: (end, angle) => {
        // An angle just below the one of a full turn is read as a little less than none.
        const degrees = String(Math.round(angle < swing[0] - 180 ? angle + 360 : angle));
        put(end ? { swing_high: degrees } : { swing_low: degrees });
      },
      moveSlot: (slot, end, distance, angle) => {
        const first = ((drawn?.slots[0]?.angle_rad ?? 0) * 180) / Math.PI;
        const turned = { offset: String(Math.round(angle - first)) };
        put({ slots: record.slots?.map((s, k) => (k === slot ? { ...s, ...(slot > 0 && turned), [end]: figure(distance) } : s)) });
      },
      nudgeFirst: (dx, dy) => setRecord((now) => ({ ...now, first_x: more(now.first_x, dx), first_y: more(now.first_y, dy) })),
      nudgeSlot: (slot, end, by) => setRecord((now) => ({ ...now, slots: now.slots?.map((s, k) => (k === slot ? { ...s, [end]: more(s[end], by) } : s)) })),
      nudgeSwing: (end, by) => setRecord((now) => (end ? { ...now, swing_high: more(now.swing_high, by) } : { ...now, swing_low: more(now.swing_low, by) })),
      moveCorner: (corner, x, y) => {
        const corners = drawn?.cover?.map((p, n) => (n === corner ? { x_mm: x, y_mm: y } : p)) ?? [];
        put({ cover: corners.map((p) => `${figure(p.x_mm)} ${figure(p.y_mm)}`).join(", ") });
      },
    };
  }, [told?.drawing, record.swing_low, record.swing_high, record.slots]);
  return (
    <div className="grid h-full grid-cols-[420px_minmax(0,1fr)] tall:h-auto tall:grid-cols-1">
      <form
        className="min-h-0 overflow-y-auto border-r border-line p-4"
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate(record, {
            onSuccess: ({ slug, name }) => {
              tell({ text: `${name} is entered.` });
              void navigate(edited ? "/machines" : `/lathe/${slug}`);
            },
          });
        }}
      >
        <h1 className="text-[19px] font-bold">{edited ? `${start.name}’s record` : "Enter a lathe"}</h1>
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
            <Select value={record.family ?? ""} onChange={(e) => (e.target.value === "new" ? setNewFamily(true) : put({ family: e.target.value ? Number(e.target.value) : null }))} className={FIELD}>
              <option value="">choose …</option>
              {families.map((f) => (
                <option key={f.id} value={f.id}>
                  {f.name} ({f.text})
                </option>
              ))}
              <option value="new">another family …</option>
            </Select>
            {wrong("family") && (
              <p role="alert" className="mt-1 text-[14px] text-oxide">
                {wrong("family")}
              </p>
            )}
          </Field>
        </Part>
        <Part title="What turns what" note="First shaft: turns per spindle turn, 1 or 1/2; several with their lever names, low=1/2, high=2.">
          <Row>
            {text("first", "First shaft", "1")}
            {text("studs", "Studs", "2", true, "max-w-24")}
          </Row>
          <Segmented label="Reverse" value={record.reverse_lever ? "lever" : "none"} options={[["lever", "Tumbler reverse"], ["none", "No reverse"]]} onChange={(v) => put({ reverse_lever: v === "lever" })} />
          <Row>
            <Choice label="First shaft turns" value={record.first_shaft_turns ?? "clockwise"} options={[["clockwise", "clockwise"], ["anticlockwise", "anticlockwise"]]} change={(first_shaft_turns) => put({ first_shaft_turns })} />
            <Choice label="Screw, right-hand thread" value={record.screw_turns_right_hand ?? "clockwise"} options={[["clockwise", "clockwise"], ["anticlockwise", "anticlockwise"]]} change={(screw_turns_right_hand) => put({ screw_turns_right_hand })} />
          </Row>
        </Part>
        <Part title="First shaft, seen from the screw, from the gear end" note="mm to the right and up. Everything marked in brass can be dragged in the drawing too.">
          <Row>
            {text("first_x", "To the right", "72", true)}
            {text("first_y", "Up", "168", true)}
          </Row>
          <CalipersHelp take={(x, y, first, last) => put({ first_x: figure(x), first_y: figure(y), boss_first: figure(first), boss_last: figure(last) })} />
          <Row>
            {text("boss_first", "Boss, radius", "16", true)}
            {text("boss_stud", "Stud’s nut", "14", true)}
            {text("boss_last", "Screw’s collar", "16", true)}
          </Row>
        </Part>
        <Part title="Quadrant" note="Slots are straight from the screw’s centre outward; the first one’s direction is the swing, in degrees from level right.">
          <Row>
            {text("swing_low", "Swing from, °", "15", true)}
            {text("swing_high", "to, °", "125", true)}
            {text("gap", "Least room", "0.5", true)}
          </Row>
          {(record.slots ?? []).map((slot, n) => (
            <div key={n}>
              <Row>
                {(["offset", "nearest", "farthest"] as const).map((name) => (
                  <Typed
                    key={name}
                    label={`Slot ${"ABCD"[n]}: ${name === "offset" ? "from A, °" : name}`}
                    value={slot[name] ?? ""}
                    onChange={(value) => put({ slots: record.slots!.map((s, k) => (k === n ? { ...s, [name]: value } : s)) })}
                    numeric
                  />
                ))}
                <Button look="quiet" className="self-end" aria-label={`Take slot ${"ABCD"[n]} out`} onClick={() => put({ slots: record.slots!.filter((_, k) => k !== n) })}>
                  ✕
                </Button>
              </Row>
              {wrong(`slots.${n}`) && (
                <p role="alert" className="text-[14px] text-oxide">
                  {wrong(`slots.${n}`)}
                </p>
              )}
            </div>
          ))}
          {(record.slots ?? []).length < 4 && <Button onClick={() => put({ slots: [...(record.slots ?? []), { offset: "-35", nearest: "60", farthest: "170" }] })}>One more slot</Button>}
          {wrong("slots") && <p className="text-[14px] text-oxide">{wrong("slots")}</p>}
          {text("cover", "Cover: its corners, right and up", "-150 -110, 180 -110, 180 280, -150 280")}
        </Part>
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
        {save.error && saved.length === 0 && <Failed error={save.error} />}
        {saved.length > 0 && <p className="mt-3 text-oxide">{saved[0]!.says} {saved[0]!.would_do}</p>}
        <RecordButtons known={Boolean(edited)} busy={save.isPending} className="sticky -bottom-4 -mx-4 mt-4 border-t border-line bg-chalk p-4" />
      </form>
      <section aria-label="End view" className="flex min-h-0 flex-col tall:h-[640px]">
        <div className="border-b border-line p-3">
          <Typed label="A train known to go on: does it, by this record?" value={train} onChange={setTrain} placeholder="76/66*32/78" problem={wrong("train")} />
          {told?.train_text && (
            <p role="status" className={`mt-2 border-l-4 px-3 py-1.5 ${told.train_fits ? "border-good bg-paper" : "border-oxide bg-oxide-bg"}`}>
              {told.train_text}
            </p>
          )}
        </div>
        <div ref={paper} className="relative min-h-0 flex-1 bg-paper">
          {told?.drawing && size.width > 0 && (
            <div className="absolute inset-0">
              <QuadrantDrawing
                drawing={told.drawing}
                outlines={told.outlines}
                machine={record.name || "New lathe"}
                train={train}
                width={size.width}
                height={size.height}
                turning={false}
                edits={edits}
              />
            </div>
          )}
          {told && !told.drawing && <p className="grid h-full place-items-center text-soft">Fill in the first shaft, the bosses and the quadrant: it is drawn here.</p>}
        </div>
      </section>
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

function figure(mm: number): string {
  return String(Math.round(mm * 10) / 10);
}

function more(typed: string | undefined, by: number): string {
  return figure((Number(typed) || 0) + by);
}
