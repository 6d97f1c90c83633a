import { Field, Label, Radio, RadioGroup, Textarea } from "@headlessui/react";
import { type ReactNode, useRef, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";

import { refusedAt, type Schemas } from "../../api/client";
import {
  type Plate,
  type PlateKind,
  useAddFromPlate,
  useKeptPlate,
  usePlate,
  useSavePlate,
  useTrainsOfPlate,
  useUsePlate,
} from "../../api/plates";
import { Failure } from "../../app/Notice";
import { PLANNED, plannedKind } from "../../app/planned";
import { useTell } from "../../app/Toast";
import { UnsavedGuard } from "../../app/UnsavedGuard";
import { Button, buttonLook } from "../../kit/Button";
import { Callout } from "../../kit/Callout";
import { Checkbox } from "../../kit/Checkbox";
import { Segmented } from "../../kit/Segmented";
import { Stale } from "../../kit/Stale";
import { FIELD, TextField } from "../../kit/TextField";
import { useDebouncedValue } from "../../kit/useDebouncedValue";
import { type Correct, PlateTable, PrintedPlate, WrongLines } from "./PlateTable";

const PAUSE = 300;

/** The plate of the machine in the address. */
export function KnownPlate() {
  const { machine = "" } = useParams();
  const kept = useKeptPlate(machine);
  if (kept.error) {
    return (
      <div className="p-6">
        <Failure error={kept.error} retry={() => void kept.refetch()} />
        <Link className={`${buttonLook()} mt-3`} to="/machines">
          See the machines
        </Link>
      </div>
    );
  }
  if (!kept.data) return null;
  return <OfMachine key={machine} kept={kept.data} />;
}

function OfMachine({ kept }: { kept: Schemas["KeptPlateOut"] }) {
  const { machine, name, kind } = kept;
  // What is typed, and what stood there when typing began: somebody else may change it meanwhile.
  const [typed, setTyped] = useState<{ lines: string; seen: string } | null>(null);
  const lines = typed?.lines ?? kept.lines;
  const setLines = (now: string) =>
    setTyped((before) => ({ lines: now, seen: before?.seen ?? kept.lines }));
  const [choice, setChoice] = useState(0);
  const [wheels, setWheels] = useState(true);
  const called = (plannedKind(kind)?.plate.title ?? "Plate").toLowerCase();
  const save = useSavePlate(machine);
  const use = useUsePlate(machine);
  const tell = useTell();
  const read = usePlate(kind, useDebouncedValue(lines, PAUSE), machine);
  const trains = useTrainsOfPlate(machine, kept.lines !== "");
  const saved = useRef(false);
  const changed = lines !== kept.lines;
  const plate = lines.trim() ? read.data : undefined;
  const store = async () => {
    await save.mutateAsync({ lines, seen: typed?.seen ?? kept.lines });
    setTyped(null);
  };
  const keep = () =>
    store().then(
      () => tell({ text: `${name}’s ${called} is saved.`, done: true }),
      () => undefined, // shown at the field
    );
  const correct: Correct = (number, line) => setLines(withLine(lines, number, line));
  const putIn = async () => {
    if (changed) await store();
    await use.mutateAsync({ choice, wheels: wheels && !!plate?.lacking });
    tell({ text: `What the ${called} gives is in ${name}’s record.`, done: true });
  };
  return (
    <>
      <Frame
        title={`${name}’s ${called}`}
        above={<UnsavedGuard typed={changed} saved={saved} />}
        side={
          <>
            <Lines
              kind={kind}
              lines={lines}
              change={setLines}
              problem={refusedAt(save.error)("lines") ?? refusedAt(read.error)("lines")}
            />
            {save.error && !refusedAt(save.error)("lines") && <Failure error={save.error} />}
            <div className="mt-3 flex flex-wrap gap-2">
              <Button look="main" disabled={!changed || save.isPending} onClick={() => void keep()}>
                Save
              </Button>
              <Button disabled={!plate?.lines.length} onClick={() => window.print()}>
                Print
              </Button>
              <Link className={buttonLook()} to={`/machines/${machine}`}>
                Record
              </Link>
            </div>
          </>
        }
      >
        {plate ? (
          <Stale old={read.isPlaceholderData} busy={read.isFetching}>
            <PlateReading plate={plate} choice={choice} choose={setChoice} correct={correct} />
            {plate.lacking && (
              <Checkbox
                label={`Add the wheels that are not in its box: ${plate.lacking}`}
                ticked={wheels}
                change={setWheels}
              />
            )}
            {plate.choices.length > 0 && (
              <Button
                className="mt-2"
                disabled={use.isPending || save.isPending}
                onClick={() => void putIn().catch(() => undefined)}
              >
                Use in the record
              </Button>
            )}
            {use.error && <Failure error={use.error} />}
            <PlateTable plate={plate} trains={changed ? undefined : trains.data} />
          </Stale>
        ) : (
          <Nothing error={read.error} />
        )}
      </Frame>
      {plate && <PrintedPlate name={name} plate={plate} />}
    </>
  );
}

/** A machine that is known by its plate alone. */
export function NewFromPlate() {
  const [kind, setKind] = useState<PlateKind>("lathe");
  const [name, setName] = useState("");
  const [lines, setLines] = useState("");
  const [choice, setChoice] = useState(0);
  const [wheels, setWheels] = useState(true);
  const add = useAddFromPlate();
  const navigate = useNavigate();
  const tell = useTell();
  const read = usePlate(kind, useDebouncedValue(lines, PAUSE), null);
  const saved = useRef(false);
  const plate = lines.trim() ? read.data : undefined;
  const wrong = refusedAt(add.error);
  const correct: Correct = (number, line) => setLines(withLine(lines, number, line));
  const save = () =>
    add.mutate(
      { kind, name, lines, choice, wheels },
      {
        onSuccess: (made) => {
          saved.current = true;
          tell({ text: `${made.name} is added.`, done: true });
          void navigate(`/${plannedKind(kind)?.kind ?? kind}/${made.slug}`);
        },
      },
    );
  return (
    <Frame
      title="Add a machine from its plate"
      above={<UnsavedGuard typed={lines !== "" || name !== ""} saved={saved} />}
      side={
        <form
          onSubmit={(event) => {
            event.preventDefault();
            save();
          }}
        >
          <Segmented<PlateKind>
            label="Kind of machine"
            value={kind}
            options={PLANNED.map((one): [PlateKind, string] => [one.kind, one.title])}
            onChange={setKind}
          />
          <div className="mt-3">
            <TextField
              label="Name"
              value={name}
              onChange={setName}
              example="Linnet"
              problem={wrong("name")}
            />
          </div>
          <Lines
            kind={kind}
            lines={lines}
            change={setLines}
            problem={wrong("lines") ?? refusedAt(read.error)("lines")}
          />
          {plate?.wheels && (
            <Checkbox label="Add its wheels to the rack" ticked={wheels} change={setWheels} />
          )}
          {add.error && !wrong("name") && !wrong("lines") && <Failure error={add.error} />}
          <div className="mt-3 flex gap-2">
            <Button
              type="submit"
              look="main"
              className="flex-1"
              disabled={add.isPending || !plate?.choices.length}
            >
              Save
            </Button>
            <Link className={buttonLook()} to="/machines">
              Cancel
            </Link>
          </div>
        </form>
      }
    >
      {plate ? (
        <Stale old={read.isPlaceholderData} busy={read.isFetching}>
          <PlateReading plate={plate} choice={choice} choose={setChoice} correct={correct} />
          <PlateTable plate={plate} />
        </Stale>
      ) : (
        <Nothing error={read.error} />
      )}
    </Frame>
  );
}

function Frame(props: { title: string; above: ReactNode; side: ReactNode; children: ReactNode }) {
  return (
    <div className="grid h-full grid-cols-[380px_minmax(0,1fr)] print:hidden tall:h-auto tall:grid-cols-1">
      {props.above}
      <section
        aria-label="Plate as typed"
        className="min-h-0 overflow-y-auto border-r border-line p-4 tall:border-r-0 tall:border-b"
      >
        <h1 className="text-heading font-bold">{props.title}</h1>
        {props.side}
      </section>
      <section
        aria-label="What the plate gives"
        tabIndex={0}
        className="min-h-0 overflow-y-auto p-4"
      >
        {props.children}
      </section>
    </div>
  );
}

function Lines(props: {
  kind: PlateKind;
  lines: string;
  change: (lines: string) => void;
  problem?: string;
}) {
  return (
    <Field className="mt-3">
      <Label className="text-fine text-soft">{plannedKind(props.kind)?.plate.lines}</Label>
      <Textarea
        value={props.lines}
        onChange={(event) => props.change(event.target.value)}
        invalid={props.problem !== undefined}
        spellCheck={false}
        className={`${FIELD} field-sizing-content max-h-[58vh] min-h-60 resize-y py-2 font-mono leading-snug data-invalid:border-oxide tall:max-h-[40vh] tall:min-h-40`}
      />
      {props.problem && (
        <p role="alert" className="mt-1 text-fine text-oxide">
          {props.problem}
        </p>
      )}
      <p className="mt-1 text-fine text-soft">
        One line of the plate to a line, such as{" "}
        {plannedKind(props.kind)?.plate.examples.map((line, n) => (
          <span key={line}>
            {n > 0 && ", "}
            <code className="font-mono whitespace-nowrap text-ink">{line}</code>
          </span>
        ))}
        . Columns may be named once: <code className="font-mono">tpi A B C D box</code>. A table
        from a file can be pasted.
      </p>
    </Field>
  );
}

/** Constants, levers, wheels, and what is left open. */
function PlateReading(props: {
  plate: Plate;
  choice: number;
  choose: (choice: number) => void;
  correct: Correct;
}) {
  const { plate, choice } = props;
  return (
    <>
      <p role="status" className="text-large font-bold">
        {plate.says}
      </p>
      <p className="text-lesser text-soft">{plate.reading}</p>
      <WrongLines plate={plate} correct={props.correct} />
      {plate.open.length > 0 && (
        <Callout tone="note" className="mt-2 max-w-4xl text-lesser">
          {plate.open.map((says) => (
            <p key={says}>{says}</p>
          ))}
        </Callout>
      )}
      {plate.choices.length > 0 && (
        <RadioGroup
          value={Math.min(choice, plate.choices.length - 1)}
          onChange={props.choose}
          aria-label="What the machine may be"
          className="mt-3 flex flex-wrap gap-1.5"
        >
          {plate.choices.map((one, n) => (
            <Radio
              key={n}
              value={n}
              className="min-h-11 cursor-pointer rounded-sm border border-ink/50 bg-paper px-3 py-1 text-lesser data-checked:border-enamel data-checked:bg-brass-bg data-checked:outline-2 data-checked:outline-enamel data-focus:outline-3 data-focus:outline-blue"
            >
              {one.facts
                .filter((fact) => fact.label !== "Gearbox")
                .map((fact) => (
                  <span key={fact.label} className="block">
                    <span className="text-fine text-soft">{fact.label}</span> <b>{fact.text}</b>
                  </span>
                ))}
            </Radio>
          ))}
        </RadioGroup>
      )}
      <dl className="mt-3 grid max-w-4xl grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-lesser">
        {plate.wheels && (
          <>
            <dt className="text-soft">Wheels</dt>
            <dd className="font-mono">{plate.wheels}</dd>
          </>
        )}
        {plate.steps.length > 0 && (
          <>
            <dt className="text-soft">Positions</dt>
            <dd>
              {plate.steps.map((lever, n) => (
                <span key={n} className="flex flex-wrap gap-x-5 font-mono">
                  {lever.map((step) => (
                    <span key={step.label} className="whitespace-nowrap">
                      <b>{step.label}</b> {step.text}
                    </span>
                  ))}
                </span>
              ))}
            </dd>
          </>
        )}
      </dl>
    </>
  );
}

function Nothing({ error }: { error: Error | null }) {
  if (error && !refusedAt(error)("lines")) return <Failure error={error} />;
  return (
    <p className="max-w-2xl text-soft">
      Type what stands on the gear cover or in the manual. Two lines give the machine’s constant,
      three confirm it. Each further line is checked against the others.
    </p>
  );
}

function withLine(lines: string, number: number, line: string) {
  return lines
    .split("\n")
    .map((kept, n) => (n === number - 1 ? line : kept))
    .join("\n");
}
