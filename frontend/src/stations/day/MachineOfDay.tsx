import { Link } from "react-router";

import type { Schemas } from "../../api/client";
import {
  type DayTurn,
  type DayWay,
  type MachineDay,
  type Task,
  useEditTask,
  useFitted,
  useMachineDay,
  useTaskDone,
} from "../../api/day";
import { stationAddress } from "../../api/log";
import { TheirsStands } from "../../api/saving";
import { Failure } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { useTell } from "../../app/Toast";
import { Nut } from "../../drawing/Nut";
import { Button } from "../../kit/Button";
import { Callout } from "../../kit/Callout";
import { Checkbox } from "../../kit/Checkbox";
import { timeOfDay } from "../../kit/date";
import { Disclosure } from "../../kit/Disclosure";
import { Working } from "../../kit/Working";
import { EffortButton } from "../../planning/EffortButton";
import { DoneForm } from "../../planning/DoneForm";
import { TrainFraction } from "../../planning/TrainFraction";

type Machine = Schemas["MachineToDoOut"];

/** What is to be done on one machine: the next in large, what comes after in its order. */
export function MachineOfDay({
  machine,
  tasks,
  putBack,
  setPutBack,
}: {
  machine: Machine;
  tasks: Task[];
  putBack: boolean;
  setPutBack: (ticked: boolean) => void;
}) {
  const { units } = usePreferences();
  const day = useMachineDay(machine.slug, putBack, units);
  return (
    <section aria-label={machine.name} className="mb-8 print:break-inside-auto">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b-2 border-enamel pb-1">
        <h2 className="text-heading font-bold">{machine.name}</h2>
        <p role="status" className="flex-1 phone:order-last phone:basis-full">
          {day.data?.says}
        </p>
        <span className="flex items-center gap-3 print:hidden">
          <EffortButton slug={machine.slug} name={machine.name} />
          <Checkbox label="Put back what is on now" ticked={putBack} change={setPutBack} />
        </span>
      </div>
      {day.error ? (
        <Failure error={day.error} retry={() => void day.refetch()} />
      ) : day.data ? (
        <OrderOfDay day={day.data} machine={machine} tasks={tasks} />
      ) : (
        <Working text="Looking for the order …" />
      )}
    </section>
  );
}

function OrderOfDay({ day, machine, tasks }: { day: MachineDay; machine: Machine; tasks: Task[] }) {
  const [next, ...rest] = day.turns;
  const task = tasks.find((one) => one.id === next?.task);
  return (
    <>
      {day.left_out.map((one) => (
        <Callout key={one.task} tone="wrong" className="mt-2">
          <b>{one.ask}</b>: {one.says}
        </Callout>
      ))}
      {next && task && (
        <Next key={next.task} turn={next} task={task} machine={machine} on={day.on} />
      )}
      {rest.length > 0 && (
        <>
          <h3 className="mt-3 text-lesser font-bold text-soft">After that</h3>
          <ol start={2} aria-label="After that, in this order">
            {rest.map((turn, n) => (
              <Turn key={turn.task} turn={turn} number={n + 2} machine={machine} />
            ))}
          </ol>
        </>
      )}
      {day.back !== null && (
        <p className="border-t border-line py-3">
          <b>At the end</b>, what is on now: {day.back}.
        </p>
      )}
    </>
  );
}

/** The one to be done next: what changes for it, and how it came out. */
function Next({
  turn,
  task,
  machine,
  on,
}: {
  turn: DayTurn;
  task: Task;
  machine: Machine;
  on: string;
}) {
  const fitted = useFitted();
  const done = useTaskDone();
  const edit = useEditTask();
  const tell = useTell();
  const begun = task.begun !== "";
  const put = (state: "later" | "skipped") =>
    edit.mutate(
      { task: task.id, machine: task.machine, after: task.after, state },
      {
        onSuccess: () =>
          tell({ text: `${turn.ask}: ${state === "later" ? "later" : "not today"}.`, done: true }),
      },
    );
  const failed = [fitted.error, edit.error].find(
    (error) => error && !(error instanceof TheirsStands),
  );
  return (
    <div className="mt-3 break-inside-avoid border-2 border-steel-2 bg-paper p-4">
      <p className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <span className="text-fine font-bold text-soft">Next</span>
        <b className="text-title">{turn.ask}</b>
        <Verdict way={turn.way} />
        {turn.estimate && <span className="text-lesser text-soft">{turn.estimate.text}</span>}
        <SetUpLink turn={turn} machine={machine} />
      </p>
      <div className="mt-2 flex flex-wrap items-start gap-x-8 gap-y-3">
        <Way way={turn.way} />
        <Changes turn={turn} large />
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-2 print:hidden">
        {begun ? (
          <span className="font-bold">Set up since {timeOfDay(task.begun)}</span>
        ) : (
          <Button
            look="main"
            disabled={fitted.isPending}
            onClick={() =>
              fitted.mutate(
                { task: task.id, train: turn.way.train, seen: on },
                {
                  onSuccess: () =>
                    tell({ text: `${machine.name} is set up for ${turn.ask}.`, done: true }),
                },
              )
            }
          >
            {turn.way.train ? "Record as fitted" : "Record as set up"}
          </Button>
        )}
        <Button disabled={edit.isPending} onClick={() => put("later")}>
          Later
        </Button>
        <Button disabled={edit.isPending} onClick={() => put("skipped")}>
          Not today
        </Button>
      </div>
      {failed && <Failure error={failed} />}
      <div className="mt-2 max-w-md text-lesser print:hidden">
        <Disclosure key={String(begun)} title="Done" open={begun}>
          <DoneForm
            ask={turn.ask}
            since={begun ? timeOfDay(task.begun) : undefined}
            pending={done.isPending}
            error={done.error}
            say={(report, then) =>
              done.mutate({ task: task.id, train: turn.way.train, ...report }, { onSuccess: then })
            }
          />
        </Disclosure>
      </div>
    </div>
  );
}

function Turn({ turn, number, machine }: { turn: DayTurn; number: number; machine: Machine }) {
  return (
    <li className="grid break-inside-avoid grid-cols-[40px_minmax(0,1fr)] gap-2 border-t border-line py-3">
      <span className="grid h-9 w-9 place-items-center rounded-sm border-2 border-steel-2 font-mono text-large font-bold">
        {number}
      </span>
      <div>
        <p className="flex flex-wrap items-center gap-x-4 gap-y-1">
          <b className="text-large">{turn.ask}</b>
          <Verdict way={turn.way} />
          {turn.estimate && <span className="text-lesser text-soft">{turn.estimate.text}</span>}
          <SetUpLink turn={turn} machine={machine} />
        </p>
        <div className="mt-1 flex flex-wrap items-start gap-x-6 gap-y-2">
          <Way way={turn.way} />
          <Changes turn={turn} />
        </div>
      </div>
    </li>
  );
}

function Verdict({ way }: { way: DayWay }) {
  return (
    <span className="flex items-center gap-1.5 text-lesser">
      <Nut merit={way.merit} />
      {way.head}
      {way.error && way.error.toLowerCase() !== way.head.toLowerCase() && (
        <span className="text-soft">{way.error}</span>
      )}
    </span>
  );
}

function Way({ way }: { way: DayWay }) {
  return (
    <span>
      <span className="flex flex-wrap gap-x-6 gap-y-1">
        {way.boxes.map((box) => (
          <span key={box.name}>
            {box.name && <span className="block text-fine text-soft">{box.name}</span>}
            <TrainFraction stages={box.stages} text={inWords(box)} small={way.boxes.length > 1} />
          </span>
        ))}
      </span>
      {way.levers && <span className="mt-1 block text-lesser">{way.levers}</span>}
    </span>
  );
}

function inWords(box: Schemas["DayBoxOut"]): string {
  const train = box.stages
    .map(({ driver, driven, idlers }) =>
      idlers.length > 0
        ? `${driver}/${driven} with ${idlers.join(" and ")} between`
        : `${driver}/${driven}`,
    )
    .join(" × ");
  return box.name ? `${box.name}: ${train}` : train;
}

/** What changes from the one before, and nothing else. */
function Changes({ turn, large = false }: { turn: DayTurn; large?: boolean }) {
  return (
    <div className={large ? "" : "text-lesser"}>
      {turn.work && <p className="font-bold">{turn.work}</p>}
      <ul>
        {turn.changes.map((change) => (
          <li key={change}>{change}</li>
        ))}
      </ul>
    </div>
  );
}

function SetUpLink({ turn, machine }: { turn: DayTurn; machine: Machine }) {
  const to =
    machine.station === "dividing"
      ? `/dividing?${new URLSearchParams({ ask: `${turn.ask} on ${machine.name}` })}`
      : stationAddress(machine.station, machine.slug, turn.ask, turn.way.train);
  return (
    <Link
      className="ml-auto inline-flex min-h-11 items-center font-bold text-blue underline underline-offset-4 print:hidden"
      to={to}
    >
      Set-up
    </Link>
  );
}
