import { Field, Label } from "@headlessui/react";
import { useCallback, useRef, useState } from "react";
import { Navigate, useNavigate, useParams } from "react-router";

import { refusedAt } from "../../api/client";
import { useRack } from "../../api/rack";
import {
  type MachineRecord,
  useArmPreview,
  useMachineRecord,
  useSaveMachine,
} from "../../api/stores";
import { usePreferences } from "../../app/preferences";
import { Unsaved } from "../../app/Unsaved";
import { useDebouncedValue } from "../../kit/useDebouncedValue";
import { Part, Row } from "../../kit/Form";
import { Failed } from "../../app/Notice";
import { Segmented } from "../../kit/Segmented";
import { Select } from "../../kit/Select";
import { Checkbox } from "../../kit/Checkbox";
import { useTell } from "../../app/Toast";
import { TextField } from "../../kit/TextField";
import { EndView } from "./EndView";
import { BOX } from "./BoxFields";
import { type BoxName, HOBBER, HobberPart } from "./HobberPart";
import { KINDS } from "./kinds";
import { MILL, MillPart } from "./MillPart";
import { type PutQuadrant, QUADRANT, QuadrantFields, useQuadrantEdits } from "./QuadrantFields";
import { RecordButtons } from "./RecordButtons";

type Kind = MachineRecord["kind"];
type PartOf<K extends "head" | "hobber" | "mill"> = NonNullable<MachineRecord[K]>;

const HEAD: PartOf<"head"> = {
  ratio: "",
  plates: "",
  direct: "",
  gears: "",
  geared: false,
  reads: "",
};

/** A new machine of the kind in the address. */
export function NewMachine() {
  const { kind } = useParams();
  const found = KINDS.find((k) => k.path === kind);
  if (!found) return <Navigate replace to="/machines" />;
  return (
    <Editor
      key={found.kind}
      start={{
        kind: found.kind,
        name: "",
        note: "",
        family: null,
        head: null,
        hobber: null,
        mill: null,
      }}
    />
  );
}

/** The record of a known machine that is no lathe. */
export function KnownMachine({ edited }: { edited: string }) {
  const known = useMachineRecord(edited);
  if (known.error) return <Failed error={known.error} retry={() => void known.refetch()} />;
  return known.data ? <Editor key={edited} edited={edited} start={known.data} /> : null;
}

function Editor({ edited, start }: { edited?: string; start: MachineRecord }) {
  const { units } = usePreferences();
  const navigate = useNavigate();
  const tell = useTell();
  const rack = useRack();
  const save = useSaveMachine(edited);
  const [record, setRecord] = useState(start);
  const [train, setTrain] = useState("");
  const saved = useRef(false);
  const put = (changes: Partial<MachineRecord>) => setRecord((now) => ({ ...now, ...changes }));
  const putArm = useCallback<PutQuadrant>(
    (change) =>
      setRecord((now) => ({
        ...now,
        arm: { ...(now.arm ?? QUADRANT), ...change(now.arm ?? QUADRANT) } as MachineRecord["arm"],
      })),
    [],
  );
  const [box, setBox] = useState<BoxName>("index");
  const putBox = useCallback<PutQuadrant>(
    (change) =>
      setRecord((now) => {
        const hobber = now.hobber ?? HOBBER;
        const open = hobber.boxes[box] ?? BOX;
        const quadrant = { ...open.quadrant, ...change(open.quadrant ?? QUADRANT) };
        const boxes = { ...hobber.boxes, [box]: { ...open, quadrant } };
        return { ...now, hobber: { ...hobber, boxes } } as MachineRecord;
      }),
    [box],
  );
  const putLead = useCallback<PutQuadrant>(
    (change) =>
      setRecord((now) => {
        const mill = now.mill ?? MILL;
        const lead = mill.lead ?? BOX;
        const quadrant = { ...lead.quadrant, ...change(lead.quadrant ?? QUADRANT) };
        return { ...now, mill: { ...mill, lead: { ...lead, quadrant } } } as MachineRecord;
      }),
    [],
  );
  const [beside, setBeside] = useState<"lead" | "arm">("lead");
  const { kind } = record;
  const what = KINDS.find((k) => k.kind === kind)!;
  const divides = kind !== "hobber";
  const arm = divides && record.head?.geared ? (record.arm ?? null) : null;
  // What is drawn beside: the box of a hobber that is open, a mill's lead quadrant, or a head's arm.
  const drawn: BoxName | "lead" | "arm" =
    kind === "hobber" ? box : kind === "mill" && (beside === "lead" || !arm) ? "lead" : "arm";
  const [quadrant, putDrawn] =
    drawn === "arm"
      ? [arm, putArm]
      : drawn === "lead"
        ? [record.mill?.lead?.quadrant ?? QUADRANT, putLead]
        : [record.hobber?.boxes[drawn]?.quadrant ?? QUADRANT, putBox];
  const preview = useArmPreview(
    useDebouncedValue(quadrant, 120),
    record.family ?? null,
    useDebouncedValue(train, 250),
    units,
    drawn === "arm" ? null : drawn,
  );
  const edits = useQuadrantEdits(quadrant ?? QUADRANT, putDrawn, preview.data?.drawing);
  const refused = refusedAt(save.error);
  const wrong = (field: string) => {
    const prefix = drawn === "arm" ? "" : `${drawn}.`;
    const found = field.startsWith(prefix)
      ? preview.data?.problems.find((p) => p.field === field.slice(prefix.length))
      : undefined;
    return refused(field) ?? (found && `${found.says} ${found.would_do}`);
  };
  return (
    <div
      className={
        quadrant
          ? "grid h-full grid-cols-[420px_minmax(0,1fr)] tall:h-auto tall:grid-cols-1"
          : "h-full tall:h-auto"
      }
    >
      <Unsaved typed={JSON.stringify(record) !== JSON.stringify(start)} saved={saved} />
      <form
        className={
          quadrant
            ? "min-h-0 overflow-y-auto border-r border-line p-4"
            : "h-full overflow-y-auto p-6 tall:h-auto"
        }
        onSubmit={(event) => {
          event.preventDefault();
          // An arm stays on record while the tick for gearing is off.
          const typed = { ...record, arm: divides ? record.arm : null };
          // A renamed machine is gone from the list before this answer is read: it must not depend on this form.
          void save.mutateAsync(typed).then(
            ({ name }) => {
              saved.current = true;
              tell({ text: `${name} is saved.`, done: true });
              void navigate("/machines");
            },
            () => undefined, // shown below
          );
        }}
      >
        <div className={quadrant ? "" : "mx-auto max-w-2xl border border-line bg-paper p-5"}>
          <h1 className="text-[19px] font-bold">
            {edited ? `${start.name}’s record` : `Add ${what.a}`}
          </h1>
          <p className="text-[15px] text-soft">{what.what}</p>
          <Part title="The machine">
            <Row>
              <TextField
                label="Name"
                value={record.name}
                onChange={(name) => put({ name })}
                example="Wigeon"
                problem={wrong("name")}
              />
            </Row>
            <TextField label="Note" value={record.note ?? ""} onChange={(note) => put({ note })} />
            <Field>
              <Label className="text-[14px] text-soft">Its wheels</Label>
              <Select
                value={record.family ?? ""}
                onChange={(e) => put({ family: e.target.value ? Number(e.target.value) : null })}
              >
                <option value="">none</option>
                {rack.data?.families.map((f) => (
                  <option key={f.id} value={f.id}>
                    {f.name} ({f.text})
                  </option>
                ))}
              </Select>
            </Field>
          </Part>
          {kind === "hobber" && (
            <HobberPart
              typed={record.hobber ?? HOBBER}
              put={(hobber) => put({ hobber })}
              wrong={wrong}
              box={box}
              setBox={setBox}
              putQuadrant={putBox}
            />
          )}
          {kind === "mill" && (
            <MillPart
              typed={record.mill ?? MILL}
              put={(mill) => put({ mill })}
              wrong={wrong}
              putQuadrant={putLead}
              shown={drawn === "lead"}
            >
              {arm && (
                <Segmented
                  label="Quadrant that is shown"
                  value={beside}
                  options={[
                    ["lead", "Lead quadrant"],
                    ["arm", "Head’s arm"],
                  ]}
                  onChange={setBeside}
                />
              )}
            </MillPart>
          )}
          {divides && (
            <HeadPart
              kind={kind}
              typed={record.head ?? HEAD}
              put={(head) => put({ head })}
              wrong={wrong}
            />
          )}
          {divides && record.head?.geared && (
            <>
              <Checkbox
                label="The arm that carries the gears is on record"
                ticked={arm !== null}
                change={(known) => {
                  put({ arm: known ? (start.arm ?? QUADRANT) : null });
                  setBeside(known ? "arm" : "lead");
                }}
              />
              {!arm && (
                <p className="text-[14px] text-soft">
                  With its measures only such trains are offered as go on, with their idlers and
                  places.
                </p>
              )}
              {arm && record.family == null && (
                <p className="text-[14px] text-oxide">
                  Choose its wheels above: what goes on depends on their pitch.
                </p>
              )}
              {arm && drawn === "arm" && (
                <QuadrantFields
                  quadrant={arm}
                  put={putArm}
                  wrong={wrong}
                  names={{ first: "spindle", last: "plate", carrier: "arm" }}
                />
              )}
            </>
          )}
          {save.error && !shownAt(box).some(refused) && <Failed error={save.error} />}
          <RecordButtons
            busy={save.isPending}
            className={
              quadrant ? "sticky -bottom-4 -mx-4 mt-4 border-t border-line bg-chalk p-4" : "mt-5"
            }
          />
        </div>
      </form>
      {quadrant && (
        <EndView
          preview={preview.data}
          machine={record.name || `New ${kind}`}
          train={train}
          setTrain={setTrain}
          wrong={wrong("train")}
          edits={edits}
        />
      )}
    </div>
  );
}

/** The fields at which a refusal is shown; any other is shown by itself. */
function shownAt(box: BoxName): string[] {
  const boxed = [box, "lead"].flatMap((of) =>
    [...Object.keys(QUADRANT), "posts", "turns"].map((field) => `${of}.${field}`),
  );
  return ["name", ...Object.keys({ ...HEAD, ...HOBBER, ...MILL, ...QUADRANT }), ...boxed];
}

interface PartProps<T> {
  typed: T;
  put: (typed: T) => void;
  wrong: (field: string) => string | undefined;
}

function HeadPart({ kind, typed, put, wrong }: PartProps<PartOf<"head">> & { kind: Kind }) {
  const title = kind === "mill" ? "The head on it, if there is one" : "What it divides with";
  return (
    <Part
      title={title}
      note="Holes as they stand on the plates: every side by itself, sides parted by a stroke. A circle’s diameter in mm goes behind an @."
    >
      <Row>
        <TextField
          label="Crank turns per turn"
          value={typed.ratio ?? ""}
          onChange={(ratio) => put({ ...typed, ratio })}
          example={
            kind === "spin indexer" || kind === "collet block" ? "empty: no worm" : "40:1, 60:1"
          }
          problem={wrong("ratio")}
        />
        <TextField
          label="Graduated to"
          value={typed.reads ?? ""}
          onChange={(reads) => put({ ...typed, reads })}
          example="1°, 5', 10&quot;"
          problem={wrong("reads")}
        />
      </Row>
      <TextField
        label="Plates"
        value={typed.plates ?? ""}
        onChange={(plates) => put({ ...typed, plates })}
        example="15 18 21 29 37 43@92 / 16 19 23"
        problem={wrong("plates")}
      />
      <Row>
        <TextField
          label={kind === "collet block" ? "Flats" : "Holes on the spindle itself"}
          value={typed.direct ?? ""}
          onChange={(direct) => put({ ...typed, direct })}
          example={kind === "collet block" ? "4 6" : kind === "spin indexer" ? "36" : "24"}
          problem={wrong("direct")}
        />
        <TextField
          label="Its own gears"
          value={typed.gears ?? ""}
          onChange={(gears) => put({ ...typed, gears })}
          example="24x2 28 32 40 44 48 56 64 72 86 100"
          problem={wrong("gears")}
        />
      </Row>
      <Checkbox
        label="The plate can be geared to the spindle (differential indexing)"
        ticked={typed.geared ?? false}
        change={(geared) => put({ ...typed, geared })}
      />
    </Part>
  );
}
