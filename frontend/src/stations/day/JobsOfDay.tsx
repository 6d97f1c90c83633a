import { Link } from "react-router";

import { type Task, useDeleteTask, useJobsDay } from "../../api/day";
import { useJobs } from "../../api/jobs";
import { Failure } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { Callout } from "../../kit/Callout";
import { Working } from "../../kit/Working";

/** The wheels that are being made: in which order least is changed, and what each is cut from. toMake: wheels on the
 * list that no job is open for yet. */
export function JobsOfDay({ toMake }: { toMake: Task[] }) {
  const { units } = usePreferences();
  const day = useJobsDay(units);
  const jobs = useJobs();
  const states = new Map(jobs.data?.map((job) => [job.id, job]));
  const waiting = toMake.filter((one) => one.state === "open" || one.state === "later");
  if (day.data && day.data.turns.length + day.data.left_out.length + waiting.length === 0)
    return null;
  return (
    <section aria-label="Wheels to be made" className="mb-8">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b-2 border-enamel pb-1">
        <h2 className="text-heading font-bold">Wheels to be made</h2>
        <p role="status" className="flex-1">
          {day.data?.says}
        </p>
      </div>
      {day.error ? (
        <Failure error={day.error} retry={() => void day.refetch()} />
      ) : !day.data ? (
        <Working text="Looking at the jobs …" />
      ) : (
        <>
          {day.data.sharing && <p className="mt-2">{day.data.sharing}</p>}
          <ol aria-label="Wheels in this order">
            {day.data.turns.map((turn, n) => {
              const job = states.get(turn.job);
              return (
                <li
                  key={turn.job}
                  className="grid break-inside-avoid grid-cols-[40px_minmax(0,1fr)] gap-2 border-b border-line py-3"
                >
                  <span className="grid h-9 w-9 place-items-center rounded-sm border-2 border-steel-2 font-mono text-large font-bold">
                    {n + 1}
                  </span>
                  <div>
                    <p className="flex flex-wrap items-center gap-x-4">
                      <Link
                        className="inline-flex min-h-11 items-center text-large font-bold text-blue underline underline-offset-4"
                        to={job?.cutting ? `/jobs/${turn.job}/session` : `/jobs/${turn.job}`}
                      >
                        {turn.title}
                      </Link>
                      {job && <span className="text-soft">{job.state}</span>}
                    </p>
                    <ul className="text-lesser">
                      {turn.changes.map((change) => (
                        <li key={change}>{change}</li>
                      ))}
                      {turn.source && (
                        <li>
                          {turn.chosen ? "From" : "Best from"} {turn.source}
                        </li>
                      )}
                    </ul>
                  </div>
                </li>
              );
            })}
          </ol>
          {day.data.left_out.map((one) => (
            <Callout key={one.job} tone="note" className="mt-2">
              <b>{one.title}</b>: {one.says}
            </Callout>
          ))}
        </>
      )}
      {waiting.map((task) => (
        <ToMake key={task.id} task={task} />
      ))}
    </section>
  );
}

function ToMake({ task }: { task: Task }) {
  const remove = useDeleteTask();
  const ask = task.ask.replace(/^wheel/i, "make");
  return (
    <p className="flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-line py-2">
      <b className="flex-1">{task.ask}</b>
      <Link
        className="inline-flex min-h-11 items-center font-bold text-blue underline underline-offset-4 print:hidden"
        to={`/jobs?${new URLSearchParams({ ask })}`}
      >
        Start a job
      </Link>
      <Button
        look="quiet"
        className="print:hidden"
        disabled={remove.isPending}
        onClick={() => remove.mutate(task.id)}
      >
        Delete
      </Button>
      {remove.error && <Failure error={remove.error} />}
    </p>
  );
}
