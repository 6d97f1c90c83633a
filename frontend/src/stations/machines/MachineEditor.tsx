import { useRef, useState } from "react";
import { FormProvider, useForm, useWatch } from "react-hook-form";
import { Navigate, useNavigate, useParams } from "react-router";

import { refusedAt } from "../../api/client";
import { useFamilies } from "../../api/rack";
import {
  type MachineRecord,
  useArmPreview,
  useMachineRecord,
  useSaveMachine,
} from "../../api/stores";
import { Failed } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { useTell } from "../../app/Toast";
import { Unsaved } from "../../app/Unsaved";
import { Checkbox } from "../../kit/Checkbox";
import { Part, Row } from "../../kit/Form";
import { FormCheckbox, FormFamily, FormText, Problems } from "../../kit/FormFields";
import { Segmented } from "../../kit/Segmented";
import { useDebouncedValue } from "../../kit/useDebouncedValue";
import { EndView } from "./EndView";
import { type BoxName, HOBBER, HobberPart } from "./HobberPart";
import { KINDS } from "./kinds";
import { MILL, MillPart } from "./MillPart";
import { QuadrantFields } from "./QuadrantFields";
import { RecordButtons } from "./RecordButtons";
import { nameAtServer, QUADRANT } from "./recordForm";

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
  const families = useFamilies();
  const save = useSaveMachine(edited);
  const form = useForm<MachineRecord>({ defaultValues: filledIn(start) });
  const record = useWatch({ control: form.control }) as MachineRecord;
  const [train, setTrain] = useState("");
  const saved = useRef(false);
  const [box, setBox] = useState<BoxName>("index");
  const [beside, setBeside] = useState<"lead" | "arm">("lead");
  const { kind } = record;
  const what = KINDS.find((k) => k.kind === kind)!;
  const divides = kind !== "hobber";
  const arm = divides && record.head?.geared ? (record.arm ?? null) : null;
  // What is drawn beside: the box of a hobber that is open, a mill's lead quadrant, or a head's arm.
  const drawn: BoxName | "lead" | "arm" =
    kind === "hobber" ? box : kind === "mill" && (beside === "lead" || !arm) ? "lead" : "arm";
  const part = PLACES[drawn];
  const quadrant =
    drawn === "arm"
      ? arm
      : drawn === "lead"
        ? record.mill!.lead!.quadrant!
        : record.hobber!.boxes![drawn]!.quadrant!;
  const preview = useArmPreview(
    useDebouncedValue(quadrant, 120),
    record.family ?? null,
    useDebouncedValue(train, 250),
    units,
    drawn === "arm" ? null : drawn,
  );
  const refused = refusedAt(save.error);
  const wrong = (field: string) => {
    const prefix = drawn === "arm" ? "" : `${drawn}.`;
    const name = nameAtServer(field);
    const found = name.startsWith(prefix)
      ? preview.data?.problems.find((p) => p.field === name.slice(prefix.length))
      : undefined;
    return refused(name) ?? (found && `${found.says} ${found.would_do}`);
  };
  const submit = form.handleSubmit((typed) => {
    // An arm stays on record while the tick for gearing is off.
    const sent = { ...typed, arm: divides ? typed.arm : null };
    // A renamed machine is gone from the list before this answer is read: it must not depend on this form.
    return save.mutateAsync(sent).then(
      ({ name }) => {
        saved.current = true;
        tell({ text: `${name} is saved.`, done: true });
        void navigate("/machines");
      },
      () => undefined, // shown below
    );
  });
  return (
    <FormProvider {...form}>
      <Problems value={wrong}>
        <div
          className={
            quadrant
              ? "grid h-full grid-cols-[420px_minmax(0,1fr)] tall:h-auto tall:grid-cols-1"
              : "h-full tall:h-auto"
          }
        >
          <Unsaved typed={form.formState.isDirty} saved={saved} />
          <form
            className={
              quadrant
                ? "min-h-0 overflow-y-auto border-r border-line p-4"
                : "h-full overflow-y-auto p-6 tall:h-auto"
            }
            onSubmit={submit}
          >
            <div className={quadrant ? "" : "mx-auto max-w-2xl border border-line bg-paper p-5"}>
              <h1 className="text-[19px] font-bold">
                {edited ? `${start.name}’s record` : `Add ${what.a}`}
              </h1>
              <p className="text-[15px] text-soft">{what.what}</p>
              <Part title="The machine">
                <FormText name="name" label="Name" example="Wigeon" />
                <FormText name="note" label="Note" long />
                <FormFamily name="family" label="Its wheels" none="none" families={families.data} />
              </Part>
              {kind === "hobber" && <HobberPart box={box} setBox={setBox} />}
              {kind === "mill" && (
                <MillPart shown={drawn === "lead"}>
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
              {divides && <HeadPart kind={kind} />}
              {divides && record.head?.geared && (
                <>
                  <Checkbox
                    label="The arm that carries the gears is on record"
                    ticked={arm !== null}
                    change={(known) => {
                      form.setValue("arm", known ? (start.arm ?? QUADRANT) : null, {
                        shouldDirty: true,
                      });
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
                      part={PLACES.arm}
                      names={{ first: "spindle", last: "plate", carrier: "arm" }}
                    />
                  )}
                </>
              )}
              {save.error && !shownAt(box).some(refused) && <Failed error={save.error} />}
              <RecordButtons
                busy={form.formState.isSubmitting}
                className={
                  quadrant
                    ? "sticky -bottom-4 -mx-4 mt-4 border-t border-line bg-chalk p-4"
                    : "mt-5"
                }
              />
            </div>
          </form>
          {quadrant && (
            <EndView
              part={part}
              preview={preview.data}
              machine={record.name || `New ${kind}`}
              train={train}
              setTrain={setTrain}
              wrong={wrong("train")}
            />
          )}
        </div>
      </Problems>
    </FormProvider>
  );
}

// Where the quadrants of a record are in it.
const PLACES = {
  index: "hobber.boxes.index.quadrant",
  feed: "hobber.boxes.feed.quadrant",
  differential: "hobber.boxes.differential.quadrant",
  lead: "mill.lead.quadrant",
  arm: "arm",
} as const;

/** A record with every part that its kind has, so that each has its fields. */
function filledIn(record: MachineRecord): MachineRecord {
  const { kind, head, hobber, mill } = record;
  return {
    ...record,
    head: kind === "hobber" ? null : { ...HEAD, ...head },
    hobber:
      kind === "hobber"
        ? { ...HOBBER, ...hobber, boxes: { ...HOBBER.boxes, ...hobber?.boxes } }
        : null,
    mill: kind === "mill" ? { ...MILL, ...mill, head_at: mill?.head_at || MILL.head_at } : null,
  };
}

/** The fields at which a refusal is shown; any other is shown by itself. */
function shownAt(box: BoxName): string[] {
  const boxed = [box, "lead"].flatMap((of) =>
    [...Object.keys(QUADRANT), "posts", "turns"].map((field) => `${of}.${field}`),
  );
  return ["name", ...Object.keys({ ...HEAD, ...HOBBER, ...MILL, ...QUADRANT }), ...boxed];
}

function HeadPart({ kind }: { kind: Kind }) {
  const title = kind === "mill" ? "The head on it, if there is one" : "What it divides with";
  const text = (field: keyof typeof HEAD, label: string, example: string) => (
    <FormText
      name={`head.${field}`}
      label={label}
      example={example}
      long={field === "plates" || field === "gears"}
    />
  );
  const without = kind === "spin indexer" || kind === "collet block";
  return (
    <Part
      title={title}
      note="Holes as they stand on the plates: every side by itself, sides parted by a stroke. A circle’s diameter in mm goes behind an @."
    >
      <Row>
        {text("ratio", "Crank turns per turn", without ? "empty: no worm" : "40:1, 60:1")}
        {text("reads", "Graduated to", "1°, 5', 10\"")}
      </Row>
      {text("plates", "Plates", "15 18 21 29 37 43@92 / 16 19 23")}
      <Row>
        {text(
          "direct",
          kind === "collet block" ? "Flats" : "Holes on the spindle itself",
          kind === "collet block" ? "4 6" : kind === "spin indexer" ? "36" : "24",
        )}
        {text("gears", "Its own gears", "24x2 28 32 40 44 48 56 64 72 86 100")}
      </Row>
      <FormCheckbox
        name="head.geared"
        label="The plate can be geared to the spindle (differential indexing)"
      />
    </Part>
  );
}
