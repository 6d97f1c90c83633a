import { type FormEvent, useEffect, useRef, useState } from "react";
import { FormProvider, useForm, useWatch } from "react-hook-form";
import { Navigate, useNavigate, useParams, useSearchParams } from "react-router";

import { refusedAt, type Schemas } from "../../api/client";
import { useFamilies } from "../../api/rack";
import {
  type MachineKind,
  type MachineRecord,
  useArmPreview,
  useMachineKinds,
  useMachineRecord,
  useSaveMachine,
} from "../../api/stores";
import { Failure } from "../../app/Notice";
import { plannedKind } from "../../app/planned";
import { usePreferences } from "../../app/preferences";
import { useTell } from "../../app/Toast";
import { backTo, useWayBack } from "../../app/wayBack";
import { UnsavedGuard } from "../../app/UnsavedGuard";
import { Checkbox } from "../../kit/Checkbox";
import { Part } from "../../kit/Form";
import { FormFamily, FormText, Problems } from "../../kit/FormFields";
import { useDebouncedValue } from "../../kit/useDebouncedValue";
import { ConstantHelp } from "./ConstantHelp";
import { EndView } from "./EndView";
import { QuadrantFields } from "./QuadrantFields";
import { RecordButtons } from "./RecordButtons";
import { filledIn, type Open, PartFields, typedOf } from "./RecordPart";
import { nameAtServer, QUADRANT, withWheels } from "./recordForm";

type NewMachine = Schemas["MachineRecordIO"];
const HELP = { "hobber.index": <ConstantHelp /> };

/** A new machine of the kind in the address. */
export function NewMachine() {
  const { kind } = useParams();
  const like = useSearchParams()[0].get("like") ?? "";
  const kinds = useMachineKinds();
  const copied = useMachineRecord(like);
  const error = kinds.error ?? copied.error;
  const retry = () => void Promise.all([kinds.refetch(), like && copied.refetch()]);
  if (error) return <Failure error={error} retry={retry} />;
  if (!kinds.data || (like && !copied.data)) return null;
  const match = kinds.data.find((k) => k.path === kind);
  if (!match) return <Navigate replace to="/machines" />;
  // Another like a known one has a name and a version of its own.
  const start = {
    note: "",
    family: null,
    ...copied.data,
    kind: match.kind,
    name: "",
    version: null,
  } as MachineRecord;
  return <Editor key={`${match.kind} ${like}`} kind={match} start={start} />;
}

/** The record of a known machine that is no lathe. */
export function KnownMachine({ edited }: { edited: string }) {
  const known = useMachineRecord(edited);
  const kinds = useMachineKinds();
  const error = known.error ?? kinds.error;
  const retry = () => void Promise.all([known.refetch(), kinds.refetch()]);
  if (error) return <Failure error={error} retry={retry} />;
  const kind = kinds.data?.find((k) => k.kind === known.data?.kind);
  if (!known.data || !kind) return null;
  return <Editor key={edited} edited={edited} kind={kind} start={known.data} />;
}

function Editor(props: { edited?: string; kind: MachineKind; start: MachineRecord }) {
  const { edited, kind } = props;
  // What was there when it was opened: what is typed is held against that.
  const [start] = useState(props.start);
  const { units } = usePreferences();
  const navigate = useNavigate();
  const tell = useTell();
  const families = useFamilies();
  const save = useSaveMachine(edited);
  const form = useForm<NewMachine>({
    defaultValues: { ...filledIn(start, kind), wheels: edited ? start.wheels : "" },
  });
  const record = useWatch({ control: form.control }) as NewMachine;
  const [train, setTrain] = useState("");
  const wayBack = useWayBack();
  const lacked = wayBack?.field;
  const { setFocus } = form;
  useEffect(() => {
    const part = kind.parts.find(({ groups }) =>
      groups.some(({ rows }) => rows.flat().some(({ name }) => name === lacked)),
    );
    if (part) setFocus(`${part.name}.${lacked}` as "note");
  }, [kind, lacked, setFocus]);
  const saved = useRef(false);
  const boxes = kind.parts.flatMap((part) => part.boxes.map((box) => ({ ...box, of: part.name })));
  const [chosen, setChosen] = useState<Open>(boxes[0]?.name ?? "arm");
  const arm = typedOf(record, "head")?.geared ? (record.arm ?? null) : null;
  // What is drawn beside: the box that is open, or a head's arm.
  const box = boxes.find((one) => one.name === chosen) ?? (arm ? undefined : boxes[0]);
  const open = box?.name ?? "arm";
  const part = box ? `${box.of}.boxes.${box.name}.quadrant` : "arm";
  const quadrant = box ? typedOf(record, box.of)!.boxes![box.name]!.quadrant! : arm;
  const preview = useArmPreview(
    useDebouncedValue(quadrant, 120),
    record.family ?? null,
    useDebouncedValue(train, 250),
    units,
    (box?.name ?? null) as Schemas["ArmTrial"]["box"],
  );
  const refused = refusedAt(save.error);
  const atServer = (field: string) => {
    const within = kind.parts.find(({ name }) => field.startsWith(`${name}.`));
    return nameAtServer(within ? field.slice(within.name.length + 1) : field);
  };
  const wrong = (field: string) => {
    const prefix = box ? `${box.name}.` : "";
    const name = atServer(field);
    const match = name.startsWith(prefix)
      ? preview.data?.problems.find((p) => p.field === name.slice(prefix.length))
      : undefined;
    return refused(name) ?? (match && `${match.says} ${match.would_do}`);
  };
  // The fields at which a refusal is shown; any other is shown by itself.
  const shown = [
    "name",
    "wheels",
    ...kind.parts
      .flatMap(({ groups }) => groups.flatMap(({ rows }) => rows.flat()))
      .map((f) => f.name),
    ...[...Object.keys(QUADRANT), "posts", "turns"].map((f) => (box ? `${box.name}.${f}` : f)),
  ];
  const submit = (event: FormEvent) =>
    form.handleSubmit((typed) =>
      // A renamed machine is gone from the list before this answer is read: it must not depend on this form.
      save.mutateAsync(edited ? withWheels(typed, start) : typed).then(
        ({ slug, name }) => {
          saved.current = true;
          tell({ text: `${name} is saved.`, done: true });
          // A new machine that trains are planned for is asked something next.
          const station = !edited && plannedKind(kind.kind);
          const on = station ? `/${station.kind}/${slug}` : "/machines";
          void navigate(wayBack ? backTo(wayBack, edited, slug) : on);
        },
        () => undefined, // shown below
      ),
    )(event);
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
          <UnsavedGuard typed={form.formState.isDirty} saved={saved} />
          <form
            className={
              quadrant
                ? "min-h-0 overflow-y-auto border-r border-line p-4"
                : "h-full overflow-y-auto p-6 tall:h-auto"
            }
            onSubmit={submit}
          >
            <div className={quadrant ? "" : "mx-auto max-w-2xl border border-line bg-paper p-5"}>
              <h1 className="text-heading font-bold">
                {edited ? `${start.name}’s record` : `Add ${kind.a}`}
              </h1>
              <p className="text-lesser text-soft">{kind.what}</p>
              <Part title="The machine">
                <FormText name="name" label="Name" example="Wigeon" />
                {(boxes.length > 0 || typedOf(record, "head")?.geared === true) && (
                  <FormText
                    name="wheels"
                    label="Wheels, as counted"
                    long
                    note="Numbers of teeth, two alike as 30x2."
                  />
                )}
                <FormText name="note" label="Note" long />
                <FormFamily name="family" label="Its wheels" none="none" families={families.data} />
              </Part>
              {kind.parts.map((one) => (
                <PartFields
                  key={one.name}
                  part={one}
                  open={open}
                  others={arm ? [["arm", "Head’s arm"]] : []}
                  change={setChosen}
                  help={HELP}
                >
                  {one.name === "head" && typedOf(record, "head")?.geared === true && (
                    <Arm
                      arm={arm}
                      open={open === "arm"}
                      family={record.family != null}
                      change={(known) => {
                        const now = known ? (start.arm ?? QUADRANT) : null;
                        form.setValue("arm", now, { shouldDirty: true });
                        setChosen(known ? "arm" : (boxes[0]?.name ?? "arm"));
                      }}
                    />
                  )}
                </PartFields>
              ))}
              {save.error && !shown.some(refused) && <Failure error={save.error} />}
              <RecordButtons
                busy={form.formState.isSubmitting}
                deleted={() => {
                  saved.current = true;
                }}
                known={
                  edited === undefined
                    ? undefined
                    : {
                        slug: edited,
                        name: start.name,
                        copy: `/machines/new/${kind.path}?like=${edited}`,
                      }
                }
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
              machine={record.name || `New ${kind.kind}`}
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

/** What carries a head's own gears. It stays on record while the tick for gearing is off. */
function Arm(props: {
  arm: MachineRecord["arm"];
  /** Whether its fields are shown. */
  open: boolean;
  /** Whether the family of its wheels is chosen. */
  family: boolean;
  change: (known: boolean) => void;
}) {
  return (
    <>
      <Checkbox
        label="The arm that carries the gears is on record"
        ticked={props.arm !== null}
        change={props.change}
      />
      {!props.arm && (
        <p className="text-fine text-soft">
          With its measures only such trains are offered as fit, with their idlers and places.
        </p>
      )}
      {props.arm && !props.family && (
        <p className="text-fine text-oxide">
          Choose its wheels above: what fits depends on their pitch.
        </p>
      )}
      {props.arm && props.open && (
        <QuadrantFields part="arm" names={{ first: "spindle", last: "plate", carrier: "arm" }} />
      )}
    </>
  );
}
