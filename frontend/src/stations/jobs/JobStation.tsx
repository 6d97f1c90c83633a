import { useEffect, useRef, useState } from "react";
import { MadeBefore } from "../../planning/MadeBefore";
import { Link, useLocation, useNavigate, useParams } from "react-router";

import { refusedAt } from "../../api/client";
import {
  type Job,
  jobLogAddress,
  jobSheetAddress,
  type JobStep,
  type Side,
  useBegin,
  useDeleteJob,
  useStepFigure,
  useJob,
  useJobLog,
  useJobSaved,
  useRackJob,
} from "../../api/jobs";
import { Failure } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { useTell } from "../../app/Toast";
import { SideDrawing } from "../../drawing/SideDrawing";
import { useSize } from "../../drawing/useSize";
import { clock, day, dayAndTime } from "../../kit/date";
import { Callout } from "../../kit/Callout";
import { Button, buttonLook } from "../../kit/Button";
import { Disclosure } from "../../kit/Disclosure";
import { Strong } from "../../kit/Strong";
import { TextField } from "../../kit/TextField";
import { SourcesPanel } from "../rack/SourcesPanel";
import { Choices } from "./Choices";
import { DevicesPanel } from "./DevicesPanel";
import { LastGap } from "./LastGap";
import { PrintedJob } from "./PrintedJob";

/** One job: what is chosen, its figures, and every step with a place for what is found. */
export default function JobStation() {
  const number = Number(useParams().job) || 0;
  const { units } = usePreferences();
  const job = useJob(number, units);
  if (job.error)
    return (
      <div className="p-6">
        <Failure error={job.error} retry={() => void job.refetch()} />
        <Link className={`${buttonLook()} mt-3`} to="/jobs">
          See the jobs
        </Link>
      </div>
    );
  return job.data ? <JobSheet job={job.data} /> : null;
}

function JobSheet({ job }: { job: Job }) {
  const { units } = usePreferences();
  const navigate = useNavigate();
  const tell = useTell();
  const begin = useBegin(job.id, units);
  const saved = useJobSaved(job.id);
  // A step that the address names is looked at.
  const { hash } = useLocation();
  useEffect(() => {
    if (!hash.startsWith("#step-")) return;
    const step = document.getElementById(hash.slice(1));
    step?.scrollIntoView();
    step?.querySelector("input")?.focus();
  }, [hash]);
  const remove = useDeleteJob(job.id);
  // What was refused of other choices holds no more.
  const chosen = JSON.stringify(job.typed);
  const [begun, setBegun] = useState("");
  const cut = () => {
    setBegun(chosen);
    begin.mutate(undefined, { onSuccess: () => void navigate(`/jobs/${job.id}/session`) });
  };
  return (
    <>
      <div className="grid h-full grid-cols-[300px_minmax(0,1fr)_330px] print:hidden tall:h-auto tall:grid-cols-[300px_minmax(0,1fr)] phone:flex phone:flex-col">
        <section
          aria-label="Choices"
          className="min-h-0 overflow-y-auto border-r border-line p-4 phone:order-2 phone:border-t phone:border-r-0"
        >
          <h1 className="text-heading font-bold">{job.title}</h1>
          <p className="text-lesser text-soft">{job.state}</p>
          <Choices job={job} />
        </section>
        <section
          aria-label="Steps"
          className="min-h-0 overflow-y-auto bg-paper p-4 phone:order-1 phone:p-2"
        >
          <ol>
            {job.steps.map((step, n) => (
              <li key={step.code} id={`step-${step.code}`} className="scroll-mt-4">
                <Step job={job} step={step} number={n + 1} next={job.next_step === step.code}>
                  {step.code === "session" &&
                    (job.cutting ? (
                      <>
                        {job.all_cut && <p className="mt-1 font-bold">Every gap is cut.</p>}
                        <Link
                          className={`${buttonLook(job.all_cut ? undefined : "main")} mt-2`}
                          to={`/jobs/${job.id}/session`}
                        >
                          {job.all_cut ? "See the session" : "Go on cutting"}
                        </Link>
                      </>
                    ) : (
                      <>
                        <Button
                          look="main"
                          className="mt-2"
                          onClick={cut}
                          disabled={begin.isPending || !saved}
                        >
                          Start cutting
                        </Button>
                        {begin.error && begun === chosen && <Failure error={begin.error} />}
                      </>
                    ))}
                  {step.code === "last_gap" && <LastGap job={job.id} />}
                  {step.code === "rack" && <IntoRack job={job} />}
                </Step>
              </li>
            ))}
          </ol>
        </section>
        <section
          aria-label="Figures"
          className="min-h-0 overflow-y-auto border-l border-line p-4 tall:col-span-2 tall:border-t tall:border-l-0 phone:order-3"
        >
          <MadeBefore teeth={job.teeth} but={job.id} />
          <h2 className="font-bold">Figures</h2>
          {job.remarks.map((remark) => (
            <Callout key={remark} tone="note" as="p" small className="mb-2">
              {remark}
            </Callout>
          ))}
          <dl className="text-lesser">
            {job.figures.map(({ label, text }) => (
              <div key={label} className="border-t border-line py-1.5">
                <dt className="text-fine text-soft">{label}</dt>
                <dd>{text}</dd>
              </div>
            ))}
            <div className="border-t border-line py-1.5">
              <dt className="text-fine text-soft">Dividing</dt>
              <dd>{job.divides}</dd>
            </div>
            <div className="border-t border-line py-1.5">
              <dt className="text-fine text-soft">Cutter</dt>
              <dd>{job.cutter}</dd>
            </div>
          </dl>
          {!job.lead && <FromTheSide job={job} />}
          {job.lead ? (
            <Link
              className={`${buttonLook()} mt-3`}
              to={`/mill/${job.lead.mill}?${new URLSearchParams({ ask: job.lead.ask, ...(job.lead.train && { train: job.lead.train }) })}`}
            >
              Set-up on the mill
            </Link>
          ) : (
            <Link
              className={`${buttonLook()} mt-3`}
              to={`/wheel?${new URLSearchParams({ ask: `wheel ${job.teeth}`, ...(job.family ? { family: String(job.family) } : {}) })}`}
            >
              Drawing of the wheel
            </Link>
          )}
          {job.family && (
            <Disclosure title="Stock: a larger wheel, or bar" className="mt-2">
              <SourcesPanel family={job.family} teeth={job.teeth} />
            </Disclosure>
          )}
          <Log job={job.id} />
          <DevicesPanel job={job.id} cutting={false} />
          <div className="mt-4 flex flex-wrap gap-2">
            <Button onClick={() => window.print()}>Print</Button>
            <a className={buttonLook()} href={jobSheetAddress(job.id, units)} download>
              PDF
            </a>
            {!job.cutting && (
              <Button
                onClick={() =>
                  remove.mutate(undefined, {
                    onSuccess: () => {
                      tell({ text: `${job.title} is deleted.`, done: true });
                      void navigate("/jobs");
                    },
                  })
                }
              >
                Delete
              </Button>
            )}
          </div>
          {remove.error && <Failure error={remove.error} />}
        </section>
      </div>
      <PrintedJob job={job} />
    </>
  );
}

/** Everything that happened, asked for when it is opened. */
function Log({ job }: { job: number }) {
  return (
    <Disclosure title="Log" className="mt-2">
      <LogLines job={job} />
    </Disclosure>
  );
}

function LogLines({ job }: { job: number }) {
  const { units } = usePreferences();
  const log = useJobLog(job, units);
  return (
    <>
      {log.error && <Failure error={log.error} retry={() => void log.refetch()} />}
      <a className={`${buttonLook()} mb-2`} href={jobLogAddress(job, units)} download>
        Log as CSV
      </a>
      <ol className="text-fine">
        {log.data?.map((line, n) => (
          <li key={n} className="border-t border-line py-1">
            <span className="text-soft">
              {dayAndTime(line.at)}
              {line.until !== line.at && ` to ${clock(line.until)}`}
              {line.by && line.by !== "screen" && `, ${line.by}`}
            </span>
            <span className="block">{line.text}</span>
          </li>
        ))}
      </ol>
    </>
  );
}

function FromTheSide({ job }: { job: Job }) {
  return (
    <div className="mt-3">
      <h2 className="font-bold">From the side</h2>
      {job.side ? (
        <Drawn side={job.side} />
      ) : (
        <p className="text-lesser text-soft">
          Type the gap to the jaws and how far they reach: then it is drawn here, with every
          clearance.
        </p>
      )}
    </div>
  );
}

function Drawn({ side }: { side: Side }) {
  const [paper, size] = useSize<HTMLDivElement>();
  // With the table under it there is more to show.
  const height = side.centre === null ? 270 : 360;
  return (
    <div ref={paper} className="bg-paper" style={{ height }}>
      {size.width > 0 && <SideDrawing side={side} width={size.width} height={height} />}
    </div>
  );
}

/** What to do, the figure to hit, why, and what was found. */
function Step({
  job,
  step,
  number,
  next,
  children,
}: {
  job: Job;
  step: JobStep;
  number: number;
  next: boolean;
  children?: React.ReactNode;
}) {
  const { units } = usePreferences();
  const saving = useStepFigure(job.id, units);
  const kept = step.result?.figure ?? "";
  // What is typed stays, whatever another device records meanwhile.
  const [typed, setTyped] = useState<{ figure: string; over: string }>();
  const figure = typed?.figure ?? kept;
  const done = step.result?.done ?? false;
  const card = useRef<HTMLDivElement>(null);
  // Opened anew, the work goes on where it stood.
  useEffect(() => {
    if (next) card.current?.scrollIntoView({ block: "center" });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only when it is opened
  }, []);
  const wrong = refusedAt(saving.error);
  const [why, setWhy] = useState("");
  // On a phone a step that is done is its heading, until it is looked at.
  const [open, setOpen] = useState(false);
  const folded = done && !open && !saving.error ? "phone:hidden" : "";
  const record = (ready: boolean, accepted = step.result?.accepted ?? "") =>
    saving.mutate(
      { step: step.code, figure: figure.trim(), done: ready, accepted },
      { onSuccess: () => setTyped(undefined) },
    );
  return (
    <div
      ref={card}
      className={`grid grid-cols-[44px_minmax(0,1fr)] gap-2 border-b border-line py-3 ${next ? "border-l-4 border-l-blue bg-blue-bg pl-1" : "pl-2"}`}
    >
      <button
        type="button"
        aria-pressed={done}
        aria-label={done ? `${step.title}: done` : `${number} ${step.title}: not done`}
        className={`grid h-11 w-11 place-items-center rounded-sm border-2 font-mono text-large font-bold ${done ? "border-good bg-good text-paper" : "border-steel-2 bg-paper text-ink"}`}
        onClick={() => record(!done)}
      >
        {done ? "✓" : number}
      </button>
      <div>
        <div className="flex items-start justify-between gap-2">
          <h2 className="font-bold">
            {step.title}
            {step.figure && (
              <span className="ml-2 font-mono text-lesser font-bold">{step.figure}</span>
            )}
          </h2>
          {done && (
            <button
              type="button"
              aria-expanded={open}
              aria-label={`${step.title}: what was done`}
              className="-my-2 hidden min-h-11 shrink-0 px-3 font-bold text-blue phone:block"
              onClick={() => setOpen(!open)}
            >
              {open ? "▾" : "▸"}
            </button>
          )}
        </div>
        {folded && (
          <p className="hidden text-fine text-soft phone:block">
            {[kept, step.result && `done ${dayAndTime(step.result.at)}`].filter(Boolean).join(", ")}
          </p>
        )}
        <div className={folded}>
          <p className="text-lesser">
            <Strong text={step.do} />
          </p>
          <p className="text-fine text-soft">{step.why}</p>
          {step.caution && (
            <Callout tone="wrong" as="p" small className="mt-1">
              {step.caution}
            </Callout>
          )}
          {step.asks && (
            <form
              className="mt-2 flex max-w-md items-end gap-2"
              onSubmit={(event) => {
                event.preventDefault();
                record(true, "");
              }}
            >
              <TextField
                label={FOUND[step.asks]}
                value={figure}
                onChange={(next) => {
                  setTyped({ figure: next, over: typed?.over ?? kept });
                  saving.reset();
                }}
                problem={wrong("figure")}
                note={
                  typed && typed.over !== kept
                    ? `Recorded meanwhile: ${kept || "none"}.`
                    : undefined
                }
                numeric
              />
              <Button type="submit" disabled={!figure.trim()}>
                Save
              </Button>
            </form>
          )}
          {step.result?.text && (
            <Callout role="status" tone="note" as="p" className="mt-1">
              <Strong text={step.result.text} />
            </Callout>
          )}
          {step.result?.out && !done && (
            <form
              className="mt-2 flex max-w-md items-end gap-2"
              onSubmit={(event) => {
                event.preventDefault();
                record(true, why.trim());
                setWhy("");
              }}
            >
              <TextField
                label="Outside: taken all the same, because"
                value={why}
                onChange={setWhy}
              />
              <Button type="submit" disabled={!why.trim() || saving.isPending}>
                Accept
              </Button>
            </form>
          )}
          {step.result?.accepted && (
            <p className="text-fine text-soft">accepted: {step.result.accepted}</p>
          )}
          {saving.error && !wrong("figure") && <Failure error={saving.error} />}
          {done && step.result && (
            <p className="text-fine text-soft">done {dayAndTime(step.result.at)}</p>
          )}
          {step.result && step.result.earlier.length > 0 && (
            <p className="text-fine text-soft">
              before:{" "}
              {step.result.earlier.map(({ figure, at }) => `${figure} (${clock(at)})`).join(", ")}
            </p>
          )}
          {children}
        </div>
      </div>
    </div>
  );
}

const FOUND = {
  diameter: "Diameter found",
  width: "Width found",
  runout: "Whole reading",
  span: "Span found",
};

/** Into the rack; where steps are still open that is asked about first. */
function IntoRack({ job }: { job: Job }) {
  const { units } = usePreferences();
  const rack = useRackJob(job.id, units);
  const tell = useTell();
  const open = job.steps.filter((s) => s.code !== "rack" && !s.result?.done).map((s) => s.title);
  const [asking, setAsking] = useState(false);
  const put = () =>
    rack.mutate(undefined, {
      onSuccess: () => tell({ text: `${job.title} is in the rack.`, done: true }),
    });
  if (job.done)
    return (
      <p className="mt-1">
        In the rack since {day(job.done)}.{" "}
        <Link className="font-bold underline underline-offset-2" to="/rack">
          See the rack
        </Link>
      </p>
    );
  return (
    <>
      <Button
        look="main"
        className="mt-2"
        disabled={rack.isPending || asking}
        onClick={() => (open.length > 0 ? setAsking(true) : put())}
      >
        Put it into the rack
      </Button>
      {asking && (
        <Callout role="alert" tone="note" className="mt-2">
          <p>
            {open.length === 1 ? "A step is" : `${open.length} steps are`} still open:{" "}
            {open.join(", ")}.
          </p>
          <div className="mt-1 flex gap-2">
            <Button onClick={put} disabled={rack.isPending}>
              Put it in, leave them open
            </Button>
            <Button look="quiet" onClick={() => setAsking(false)}>
              Cancel
            </Button>
          </div>
        </Callout>
      )}
      {rack.error && <Failure error={rack.error} />}
    </>
  );
}
