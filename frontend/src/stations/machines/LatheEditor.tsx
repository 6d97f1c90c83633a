import { type FormEvent, type ReactNode, useEffect, useRef, useState } from "react";
import { FormProvider, useForm, useWatch } from "react-hook-form";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";

import { Refusal, type Schemas } from "../../api/client";
import {
  useAddExample,
  useExamples,
  useLathePreview,
  useLatheRecord,
  useSaveLathe,
} from "../../api/machines";
import { useFamilies } from "../../api/rack";
import { Failure } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { useTell } from "../../app/Toast";
import { backTo, useWayBack } from "../../app/wayBack";
import { UnsavedGuard } from "../../app/UnsavedGuard";
import { Callout } from "../../kit/Callout";
import { Button, buttonLook } from "../../kit/Button";
import { Checkbox } from "../../kit/Checkbox";
import { Disclosure } from "../../kit/Disclosure";
import { Choice, Row } from "../../kit/Form";
import { FormChoice, FormFamily, FormText, Problems } from "../../kit/FormFields";
import { Segmented } from "../../kit/Segmented";
import { useDebouncedValue } from "../../kit/useDebouncedValue";
import { FamilyDialog } from "../rack/FamilyDialog";
import { EndView } from "./EndView";
import { QuadrantFields } from "./QuadrantFields";
import { RecordButtons } from "./RecordButtons";
import { QUADRANT, withWheels } from "./recordForm";

type Lathe = Schemas["LatheRecordIO"];
type Sense = NonNullable<Lathe["first_shaft_turns"]>;

const NEW: Lathe = {
  name: "",
  note: "",
  screw: "",
  screw_hand: "right",
  wheels: "",
  first: "1",
  reverse_lever: true,
  first_shaft_turns: null,
  screw_turns_right_hand: null,
  box: "",
  first_drivers: "",
  last_driven: "",
  pairs: "",
  dials: "",
  feed_along: "",
  feed_across: "",
  family: null,
  example: false,
  ...QUADRANT,
};
const LONG = ["note", "box", "pairs", "first_drivers", "last_driven", "feed_along", "feed_across"];
const TYPED = { shouldDirty: true };
const FURTHER = [
  "box",
  "first_drivers",
  "last_driven",
  "pairs",
  "dials",
  "feed_along",
  "feed_across",
] as const;

/** A lathe's record beside its end view: what is typed is drawn, what is dragged is typed. */
export default function LatheEditor() {
  const { edited } = useParams();
  const [search] = useSearchParams();
  const like = search.get("like") ?? undefined;
  const known = useLatheRecord(edited ?? like);
  if (known.error) {
    return (
      <div className="p-6">
        <Failure error={known.error} retry={() => void known.refetch()} />
        <Link className={`${buttonLook()} mt-3`} to="/machines">
          See the machines
        </Link>
      </div>
    );
  }
  if ((edited ?? like) && !known.data) return null;
  // Another like a known one has a name and a version of its own.
  const copy = known.data && { ...known.data, wheels: "", name: "", version: null };
  const start = edited ? known.data! : (copy ?? NEW);
  // What was found out elsewhere is filled in, to be looked at and saved.
  const filled = { screw: search.get("screw"), first: search.get("first") };
  return <Editor key={edited ?? like ?? "new"} edited={edited} start={start} filled={filled} />;
}

function Editor(props: {
  edited?: string;
  start: Lathe;
  filled: Record<"screw" | "first", string | null>;
}) {
  const { edited, filled } = props;
  // What was there when it was opened: what is typed is held against that.
  const [start] = useState(props.start);
  const { units } = usePreferences();
  const navigate = useNavigate();
  const tell = useTell();
  const families = useFamilies();
  const save = useSaveLathe(edited);
  const form = useForm<Lathe>({ defaultValues: start });
  const record = useWatch({ control: form.control }) as Lathe;
  const [train, setTrain] = useState("");
  const [newFamily, setNewFamily] = useState(false);
  const preview = useLathePreview(
    useDebouncedValue(record, 120),
    useDebouncedValue(train, 250),
    units,
  );
  const { screw, first } = filled;
  const { setValue } = form;
  useEffect(() => {
    if (screw) setValue("screw", screw, TYPED);
    if (first) setValue("first", first, TYPED);
  }, [screw, first, setValue]);
  const wayBack = useWayBack();
  const lacked = wayBack?.field as "screw" | undefined;
  const { setFocus } = form;
  useEffect(() => {
    if (lacked) setFocus(lacked);
  }, [lacked, setFocus]);
  const saved = useRef(false);
  const refused = save.error instanceof Refusal ? (save.error.problem.errors ?? []) : [];
  const typedYet = (field: string) =>
    String((record as unknown as Record<string, unknown>)[field] ?? "").trim() !== "";
  const shown = preview.data?.problems.filter(
    ({ field }) => typedYet(field) || field.startsWith("slots") || field === "train",
  );
  const problems = [...refused, ...(shown ?? [])];
  const wrong = (field: string) => {
    const problem = problems.find((p) => p.field === field);
    return problem && `${problem.says} ${problem.would_do}`;
  };
  const text = (name: keyof Lathe & string, label: string, example?: string) => (
    <FormText name={name} label={label} example={example} long={LONG.includes(name)} />
  );
  const family = families.data?.find((f) => f.id === record.family);
  const submit = (event: FormEvent) =>
    form.handleSubmit((typed) =>
      // A renamed machine is gone from the list before this answer is read: it must not depend on this form.
      save.mutateAsync(edited ? withWheels(typed, start) : typed).then(
        ({ slug, name }) => {
          saved.current = true;
          tell({ text: `${name} is saved.`, done: true });
          void navigate(
            wayBack ? backTo(wayBack, edited, slug) : edited ? "/machines" : `/lathe/${slug}`,
          );
        },
        () => undefined, // shown below
      ),
    )(event);
  const further = FURTHER.filter((name) => record[name]?.trim()).length;
  return (
    <FormProvider {...form}>
      <Problems value={wrong}>
        <div className="grid h-full grid-cols-[420px_minmax(0,1fr)] tall:h-auto tall:grid-cols-1">
          <UnsavedGuard typed={form.formState.isDirty} saved={saved} />
          <form className="min-h-0 overflow-y-auto border-r border-line p-4" onSubmit={submit}>
            <h1 className="text-heading font-bold">
              {edited ? `${start.name}’s record` : "Add a lathe"}
            </h1>
            {!edited && (
              <p className="mb-3 text-lesser">
                Three facts are enough: the lead screw, the wheels and how the first shaft turns.
                All else can come later.
              </p>
            )}
            {start.example && (
              <Callout tone="note" className="mb-3">
                <Checkbox
                  label="This is an example. I have checked its figures: they are those of my lathe."
                  ticked={!record.example}
                  change={(confirmed) => form.setValue("example", !confirmed, TYPED)}
                />
              </Callout>
            )}
            <div className="flex flex-col gap-2.5">
              <Row>
                {text("name", "Name", "Linnet")}
                {text("screw", "Lead screw", "8 tpi, 3 mm")}
              </Row>
              <FormText
                name="wheels"
                label="Wheels, as counted"
                long
                note="Numbers of teeth, two alike as 30x2. The counting is enough."
              />
              <FormText
                name="first"
                label="First shaft, turns for one of the spindle"
                example="1/2"
                note="1 on most lathes. To find out, turn the spindle 10 times by hand and count: 5 turns is 5/10. With a lever: low=1/2, high=2."
              />
            </div>
            {!edited && <Examples saved={saved} />}
            <h2 className="mt-5 border-b border-line pb-1 font-bold">
              {edited ? "More of the lathe" : "If you know more"}
            </h2>
            <Section title="Pitch of the wheels" state={family?.name ?? "not known"}>
              <FormFamily
                name="family"
                label="Family of its wheels"
                none="not known yet"
                families={families.data}
              />
              <Button look="quiet" className="self-start" onClick={() => setNewFamily(true)}>
                Add a family
              </Button>
            </Section>
            <Section
              title="Hand of the thread"
              state={
                record.first_shaft_turns && record.screw_turns_right_hand ? "known" : "not known"
              }
            >
              <Segmented
                label="Reverse"
                value={record.reverse_lever ? "lever" : "none"}
                options={[
                  ["lever", "Tumbler reverse"],
                  ["none", "No reverse"],
                ]}
                onChange={(v) => form.setValue("reverse_lever", v === "lever", TYPED)}
              />
              <p className="text-fine text-soft">
                Turning senses are seen from the gear end, with the spindle forward.
              </p>
              <Row>
                <SenseChoice
                  label="First shaft turns"
                  value={record.first_shaft_turns}
                  change={(sense) => form.setValue("first_shaft_turns", sense, TYPED)}
                />
                <SenseChoice
                  label="Screw, for a right-hand thread"
                  value={record.screw_turns_right_hand}
                  change={(sense) => form.setValue("screw_turns_right_hand", sense, TYPED)}
                />
              </Row>
              <FormChoice
                name="screw_hand"
                label="Screw’s own hand"
                options={[
                  ["right", "right"],
                  ["left", "left"],
                ]}
              />
            </Section>
            <Section title="Room on the quadrant" state={preview.data?.known || "not known"}>
              <QuadrantFields
                part=""
                names={{ first: "first shaft", last: "screw", carrier: "quadrant" }}
              />
            </Section>
            <Section
              title="Gearbox, fixed wheels, dial, feeds"
              state={further ? `${further} filled in` : "none"}
            >
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
              {text("note", "Note")}
            </Section>
            {save.error && refused.length === 0 && <Failure error={save.error} />}
            {refused.length > 0 && (
              <p className="mt-3 text-oxide">
                {refused[0]!.says} {refused[0]!.would_do}
              </p>
            )}
            <RecordButtons
              busy={form.formState.isSubmitting}
              deleted={() => {
                saved.current = true;
              }}
              known={
                edited === undefined
                  ? undefined
                  : { slug: edited, name: start.name, copy: `/machines/new?like=${edited}` }
              }
              className="sticky -bottom-4 -mx-4 mt-4 border-t border-line bg-chalk p-4"
            />
          </form>
          <EndView
            part=""
            preview={preview.data}
            machine={record.name || "New lathe"}
            train={train}
            setTrain={setTrain}
            wrong={wrong("train")}
          />
          {newFamily && (
            <FamilyDialog
              close={() => setNewFamily(false)}
              made={(made) => {
                setNewFamily(false);
                form.setValue("family", made.id, TYPED);
              }}
            />
          )}
        </div>
      </Problems>
    </FormProvider>
  );
}

/** A part of the record that is opened when it is wanted, with what is known of it beside its title. */
function Section(props: { title: string; state: string; children: ReactNode }) {
  return (
    <Disclosure title={props.title} state={props.state} className="border-b border-line">
      <div className="flex flex-col gap-2.5 pb-3">{props.children}</div>
    </Disclosure>
  );
}

function SenseChoice(props: {
  label: string;
  value: Sense | null | undefined;
  change: (sense: Sense | null) => void;
}) {
  return (
    <Choice<Sense | "">
      label={props.label}
      value={props.value ?? ""}
      options={[
        ["", "not known"],
        ["clockwise", "clockwise"],
        ["anticlockwise", "anticlockwise"],
      ]}
      change={(sense) => props.change(sense || null)}
    />
  );
}

/** Ready lathes to start from; the chosen one is added and opened, to be made one’s own. */
function Examples({ saved }: { saved: { current: boolean } }) {
  const examples = useExamples(true);
  const add = useAddExample();
  const navigate = useNavigate();
  const tell = useTell();
  if (!examples.data) return null;
  return (
    <div className="mt-4">
      <p className="text-lesser">Or start from an example and change it:</p>
      <div className="mt-1.5 flex flex-col gap-2">
        {examples.data.map(({ name, text }) => (
          <Button
            key={name}
            disabled={add.isPending}
            onClick={() =>
              add.mutate(name, {
                onSuccess: (machine) => {
                  saved.current = true;
                  tell({ text: `${machine.name} is added.`, done: true });
                  void navigate(`/machines/${machine.slug}`);
                },
                onError: (error) => tell({ text: error.message }),
              })
            }
          >
            {text}
          </Button>
        ))}
      </div>
    </div>
  );
}
