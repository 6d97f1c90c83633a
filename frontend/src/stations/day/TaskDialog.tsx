import { useState } from "react";

import { refusedAt } from "../../api/client";
import { type Task, useDeleteTask, useEditTask } from "../../api/day";
import { Failure } from "../../app/Notice";
import { useTell } from "../../app/Toast";
import { Button } from "../../kit/Button";
import { DialogFrame } from "../../kit/DialogFrame";
import { Choice } from "../../kit/Form";
import { TextField } from "../../kit/TextField";

const STATES: [Exclude<Task["state"], "done">, string][] = [
  ["open", "today"],
  ["later", "later, after all others"],
  ["skipped", "not today"],
];

/** Where and when something on the list is done. Each choice counts at once. */
export function TaskDialog({
  task,
  tasks,
  names,
  close,
}: {
  task: Task;
  tasks: Task[];
  names: Record<string, string>;
  close: () => void;
}) {
  const edit = useEditTask();
  const remove = useDeleteTask();
  const tell = useTell();
  const wrong = refusedAt(edit.error);
  const { machine, after } = task;
  const state = task.state === "done" ? "open" : task.state;
  const others = tasks.filter(
    (one) => one.id !== task.id && one.machine === machine && one.state !== "done",
  );
  const change = (
    next: Partial<{
      machine: string | null;
      after: number | null;
      state: typeof state;
      held: string;
    }>,
  ) => edit.mutate({ task: task.id, machine, after, state, ...next });
  return (
    <DialogFrame title={task.ask} close={close}>
      <div className="mt-3 flex flex-col gap-3">
        {task.may_be_on.length > 0 && (
          <Choice
            label="On"
            value={machine ?? ""}
            options={[
              ...(machine === null ? [["", "no machine"] as [string, string]] : []),
              ...task.may_be_on.map((one): [string, string] => [one, names[one] ?? one]),
            ]}
            change={(next) => change({ machine: next || null, after: null })}
            problem={wrong("machine")}
          />
        )}
        {others.length > 0 && (
          <Choice
            label="Only after"
            value={after === null ? "" : String(after)}
            options={[
              ["", "nothing: whenever it suits"],
              ...others.map((one): [string, string] => [String(one.id), one.ask]),
            ]}
            change={(next) => change({ after: next ? Number(next) : null })}
            problem={wrong("after")}
          />
        )}
        <Choice
          label="When"
          value={state}
          options={STATES}
          change={(next) => change({ state: next })}
        />
        <HeldIn
          held={task.held}
          others={[...new Set(tasks.map((one) => one.held))].filter((one) => one !== "")}
          change={(held) => change({ held })}
          problem={wrong("held")}
        />
        {edit.error && !["machine", "after", "held"].some(wrong) && <Failure error={edit.error} />}
        {remove.error && <Failure error={remove.error} />}
        <div className="flex flex-wrap gap-2">
          <Button look="main" onClick={close}>
            Close
          </Button>
          <Button
            disabled={remove.isPending}
            onClick={() =>
              remove.mutate(task.id, {
                onSuccess: () => {
                  tell({ text: `Deleted from the list: ${task.ask}.`, done: true });
                  close();
                },
              })
            }
          >
            Delete
          </Button>
        </div>
      </div>
    </DialogFrame>
  );
}

/** What the work is held in, typed or as another on the list is held. It counts when the field is left. */
function HeldIn({
  held,
  others,
  change,
  problem,
}: {
  held: string;
  others: string[];
  change: (held: string) => void;
  problem?: string;
}) {
  const [typed, setTyped] = useState(held);
  const keep = (text: string) => {
    if (text.trim() !== held) change(text.trim());
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        keep(typed);
      }}
      onBlur={(event) => {
        // Half a word is not kept where what it would have become is tapped next.
        if (!event.currentTarget.contains(event.relatedTarget)) keep(typed);
      }}
    >
      <TextField
        label="Held in"
        value={typed}
        onChange={setTyped}
        example="4-jaw chuck"
        note="Work that is held alike comes together where that is less to change."
        problem={problem}
      />
      <div className="mt-1 flex flex-wrap gap-2">
        {others
          .filter((one) => one !== typed.trim())
          .slice(0, 4)
          .map((one) => (
            <Button
              key={one}
              onClick={() => {
                setTyped(one);
                keep(one);
              }}
            >
              {one}
            </Button>
          ))}
      </div>
    </form>
  );
}
