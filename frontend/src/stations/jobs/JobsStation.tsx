import { useEffect, useState } from "react";
import { Link, useLocation, useNavigate, useSearchParams } from "react-router";

import { refusedAt } from "../../api/client";
import {
  type JobFields,
  type ScrewFields,
  useAddJob,
  useJobs,
  useScrewWheel,
} from "../../api/jobs";
import { Failure } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { day } from "../../kit/date";
import { Button, buttonLook } from "../../kit/Button";
import { Choice } from "../../kit/Form";
import { Disclosure } from "../../kit/Disclosure";
import { TextField } from "../../kit/TextField";
import { Figures } from "../../planning/Figures";

/** Wheels that are being made, and a new one. */
export default function JobsStation() {
  const { units } = usePreferences();
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const jobs = useJobs();
  const add = useAddJob(units);
  const line = search.get("ask") ?? "";
  const [ask, setAsk] = useState(line);
  const wrong = refusedAt(add.error);
  const put = (job: JobFields) =>
    add.mutate(job, { onSuccess: ({ id }) => void navigate(`/jobs/${id}`) });
  const wanted = (): JobFields => {
    // Family, mill and its set-up go with the ask that they came with.
    const came = ask === line ? search : new URLSearchParams();
    const family = Number(came.get("family")) || null;
    return {
      ask,
      family,
      mill: came.get("mill") ?? "",
      train: came.get("train") ?? "",
      again: false,
    };
  };
  // Led here by a button that starts a job: it is started, once.
  const { state } = useLocation();
  const starts = (state as { start?: boolean } | null)?.start === true;
  useEffect(() => {
    if (!starts) return;
    void navigate(`/jobs?${search}`, { replace: true, state: null });
    put(wanted());
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only that it is to be started sets this off
  }, [starts]);
  return (
    <div className="h-full overflow-y-auto p-6 phone:p-3">
      <div className="mx-auto max-w-3xl">
        <h1 className="text-title font-bold">Jobs</h1>
        <form
          className="mt-3 flex items-end gap-2 border border-line bg-paper p-4 phone:flex-col phone:items-stretch"
          onSubmit={(event) => {
            event.preventDefault();
            put(wanted());
          }}
        >
          <TextField
            label="What is to be made"
            value={ask}
            onChange={(next) => {
              setAsk(next);
              add.reset();
            }}
            example="make 57 for Plover, make 24 m2 30° left"
            problem={wrong("ask")}
          />
          <Button look="main" type="submit" disabled={!ask.trim()}>
            Add the job
          </Button>
        </form>
        {add.error && !wrong("ask") && (
          <Failure error={add.error}>
            {wrong("again") && add.variables && (
              <Button className="mt-2" onClick={() => put({ ...add.variables, again: true })}>
                Make another
              </Button>
            )}
          </Failure>
        )}
        <Disclosure title="A wheel that runs in a lead screw" className="mt-2">
          <ForAScrew
            make={(screw) =>
              put({ ask: "", family: null, mill: "", train: "", screw, again: false })
            }
          />
        </Disclosure>
        {jobs.error && <Failure error={jobs.error} retry={() => void jobs.refetch()} />}
        {jobs.data?.length === 0 && <p className="mt-4">No wheel is being made.</p>}
        <ul className="mt-4 flex flex-col gap-2">
          {jobs.data?.map((job) => (
            <li
              key={job.id}
              className="flex items-center gap-4 border border-line bg-paper px-4 py-2 phone:flex-wrap"
            >
              <Link
                to={`/jobs/${job.id}`}
                className="flex min-h-11 min-w-0 flex-1 flex-col justify-center"
              >
                <b className="text-large underline underline-offset-2">{job.title}</b>
                <span className="text-fine text-soft">
                  {job.state}, begun {day(job.begun)}
                </span>
              </Link>
              {job.cutting && !job.done && (
                <Link className={buttonLook("main")} to={`/jobs/${job.id}/session`}>
                  Go on cutting
                </Link>
              )}
            </li>
          ))}
        </ul>
      </div>
    </div>
  );
}

/** Of a thread dial or a carriage pinion: count, pitch, tilt and the height of the cutter. */
function ForAScrew({ make }: { make: (screw: ScrewFields) => void }) {
  const { units } = usePreferences();
  const [typed, setTyped] = useState<ScrewFields>({
    screw: "",
    diameter: "",
    threads: "",
    face: "10 mm",
    starts: "1",
    hand: "right",
  });
  const screwWheel = useScrewWheel(units);
  const wrong = refusedAt(screwWheel.error);
  const text = (name: Exclude<keyof ScrewFields, "hand">, label: string, example: string) => (
    <TextField
      label={label}
      value={typed[name]}
      onChange={(value) => {
        setTyped({ ...typed, [name]: value });
        screwWheel.reset();
      }}
      example={example}
      problem={wrong(name)}
    />
  );
  return (
    <form
      className="border border-line bg-paper p-4"
      onSubmit={(event) => {
        event.preventDefault();
        screwWheel.mutate(typed);
      }}
    >
      <div className="flex gap-2 phone:flex-wrap">
        {text("screw", "Screw", "4 tpi, 6 mm")}
        {text("diameter", "Its pitch diameter", "28 mm")}
        {text("threads", "Threads a turn", "16")}
        {text("starts", "Starts", "1")}
        {text("face", "Face of the wheel", "10 mm")}
        <Choice
          label="Its hand"
          value={typed.hand}
          options={[
            ["right", "right"],
            ["left", "left"],
          ]}
          change={(hand) => {
            setTyped({ ...typed, hand });
            screwWheel.reset();
          }}
        />
      </div>
      <Button type="submit" className="mt-3">
        Work it out
      </Button>
      <div role="status" className="mt-2">
        {screwWheel.error && !["screw", "diameter", "threads", "face"].some(wrong) && (
          <p className="text-oxide">{screwWheel.error.message}</p>
        )}
        {screwWheel.data && (
          <>
            <Figures figures={screwWheel.data.figures.map((f) => ({ ...f, wrong: false }))} />
            <Button onClick={() => make(typed)}>Make it: a job</Button>
          </>
        )}
      </div>
    </form>
  );
}
