import { useState } from "react";
import { useSearchParams } from "react-router";

import { refusedAt, type Schemas } from "../../api/client";
import { type Task, type ToDo, useAddTasks, useClearDone, useToDo } from "../../api/day";
import { Failure } from "../../app/Notice";
import { useTell } from "../../app/Toast";
import { Button } from "../../kit/Button";
import { Disclosure } from "../../kit/Disclosure";
import { FIELD } from "../../kit/TextField";
import { Working } from "../../kit/Working";
import { JobsOfDay } from "./JobsOfDay";
import { MachineOfDay } from "./MachineOfDay";
import { TaskDialog } from "./TaskDialog";

const EXAMPLE = "M14x2\nM10 on Dunlin\nhob 37\ndivide 57";

/** What is to be done in the shop, and on each machine the order in which it is least work. */
export default function DayStation() {
  const toDo = useToDo();
  // The machines on which what is on now is to be on at the end; they stand in the address.
  const [search, setSearch] = useSearchParams();
  const back = search.getAll("back");
  const putBack = (machine: string, ticked: boolean) => {
    const others = back.filter((one) => one !== machine);
    const next = ticked ? [...others, machine] : others;
    setSearch(new URLSearchParams(next.map((one) => ["back", one])), { replace: true });
  };
  if (toDo.error) {
    return (
      <div className="p-6">
        <Failure error={toDo.error} retry={() => void toDo.refetch()} />
      </div>
    );
  }
  if (!toDo.data) {
    return (
      <div className="p-6">
        <Working text="Looking at the list …" />
      </div>
    );
  }
  const { tasks, machines } = toDo.data;
  const jobs = tasks.some((one) => one.station === "jobs" || one.station === "wheel");
  return (
    <div className="grid h-full grid-cols-[320px_minmax(0,1fr)] print:block tall:flex tall:h-auto tall:flex-col-reverse">
      <List toDo={toDo.data} />
      <div className="min-h-0 overflow-y-auto bg-paper p-4 print:p-0">
        {machines.length === 0 && !jobs && (
          <p className="mb-4 text-soft print:hidden">
            {tasks.length === 0
              ? "Enter what is to be done: threads, feeds, wheels, counts."
              : "Nothing on the list is left for today."}
          </p>
        )}
        {machines.length > 0 && (
          <p className="mb-2 flex justify-end print:hidden">
            <Button onClick={() => window.print()}>Print</Button>
          </p>
        )}
        {machines.map((machine) => (
          <MachineOfDay
            key={machine.slug}
            machine={machine}
            tasks={tasks}
            putBack={back.includes(machine.slug)}
            setPutBack={(ticked) => putBack(machine.slug, ticked)}
          />
        ))}
        <JobsOfDay
          toMake={tasks.filter((one) => one.station === "jobs" || one.station === "wheel")}
        />
      </div>
    </div>
  );
}

const PARTS: [Task["state"], string][] = [
  ["open", "To do"],
  ["later", "Later"],
  ["skipped", "Not today"],
];

/** What is typed, and all that is on the list. */
function List({ toDo }: { toDo: ToDo }) {
  const [edited, setEdited] = useState<number>();
  const done = toDo.tasks.filter((one) => one.state === "done");
  const task = toDo.tasks.find((one) => one.id === edited);
  return (
    <aside
      aria-label="The list"
      className="min-h-0 overflow-y-auto border-r border-line p-4 print:hidden tall:border-t tall:border-r-0"
    >
      <h1 className="text-heading font-bold">Day</h1>
      <Add names={toDo.names} />
      {PARTS.map(([state, title]) => {
        const some = toDo.tasks.filter((one) => one.state === state);
        return (
          some.length > 0 && (
            <section key={state} aria-label={title} className="mt-4">
              <h2 className="font-bold">{title}</h2>
              <ul className="border border-line bg-paper">
                {some.map((one) => (
                  <TaskLine key={one.id} task={one} open={() => setEdited(one.id)} />
                ))}
              </ul>
            </section>
          )
        );
      })}
      {done.length > 0 && <DoneToday done={done} />}
      {task && (
        <TaskDialog
          key={task.id}
          task={task}
          tasks={toDo.tasks}
          names={toDo.names}
          close={() => setEdited(undefined)}
        />
      )}
    </aside>
  );
}

function Add({ names }: { names: Record<string, string> }) {
  const [typed, setTyped] = useState("");
  const add = useAddTasks();
  const tell = useTell();
  const wrong = refusedAt(add.error)("asks");
  const asks = typed
    .split("\n")
    .map((line) => line.trim())
    .filter(Boolean);
  const send = () =>
    add.mutate({ asks, machine: "" } satisfies Schemas["TasksIn"], {
      onSuccess: (added) => {
        setTyped("");
        tell({
          text: `Added: ${added.map((one) => taskText(one, names)).join("; ")}.`,
          done: true,
        });
      },
    });
  return (
    <form
      aria-label="What is to be done"
      onSubmit={(event) => {
        event.preventDefault();
        send();
      }}
    >
      <label className="mt-2 block text-fine text-soft" htmlFor="day-asks">
        What is to be done, a line each
      </label>
      <textarea
        id="day-asks"
        rows={5}
        spellCheck={false}
        className={`${FIELD} py-2 font-mono placeholder:text-soft ${wrong ? "border-oxide bg-oxide-bg" : ""}`}
        placeholder={EXAMPLE}
        aria-invalid={wrong !== undefined}
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
      />
      {wrong && (
        <p role="alert" className="text-fine text-oxide">
          {wrong}
        </p>
      )}
      {add.error && !wrong && <Failure error={add.error} />}
      <Button
        look="main"
        type="submit"
        className="mt-2 w-full"
        disabled={asks.length === 0 || add.isPending}
      >
        Add
      </Button>
    </form>
  );
}

function taskText(task: Task, names: Record<string, string>): string {
  const on = task.machine === null ? undefined : names[task.machine];
  return on ? `${task.ask} on ${on}` : task.ask;
}

function TaskLine({ task, open }: { task: Task; open: () => void }) {
  return (
    <li className="border-b border-line last:border-b-0">
      <button
        type="button"
        className="flex min-h-11 w-full flex-wrap items-center gap-x-3 px-3 py-1 text-left hover:bg-blue-bg"
        onClick={open}
      >
        <b className="flex-1">{task.ask}</b>
        <span className="text-fine text-soft">{task.machine_name || "no machine"}</span>
      </button>
    </li>
  );
}

function DoneToday({ done }: { done: Task[] }) {
  const clear = useClearDone();
  return (
    <Disclosure title="Done" state={String(done.length)} className="mt-4">
      <ul className="border border-line bg-paper">
        {done.map((one) => (
          <li
            key={one.id}
            className="flex gap-x-3 border-b border-line px-3 py-1.5 last:border-b-0"
          >
            <span className="flex-1 line-through decoration-soft">{one.ask}</span>
            <span className="text-fine text-soft">{one.machine_name}</span>
          </li>
        ))}
      </ul>
      {clear.error && <Failure error={clear.error} />}
      <Button className="mt-2" disabled={clear.isPending} onClick={() => clear.mutate()}>
        Clear what is done
      </Button>
    </Disclosure>
  );
}
