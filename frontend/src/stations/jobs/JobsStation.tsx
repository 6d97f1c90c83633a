import { useState } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";

import { refusedAt } from "../../api/client";
import { useAddJob, useJobs } from "../../api/jobs";
import { Failed } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { Button, buttonLook } from "../../kit/Button";
import { TextField } from "../../kit/TextField";

/** Wheels that are being made, and a new one. */
export default function JobsStation() {
  const { units } = usePreferences();
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const jobs = useJobs();
  const add = useAddJob(units);
  const asked = search.get("ask") ?? "";
  const [ask, setAsk] = useState(asked);
  const wrong = refusedAt(add.error);
  return (
    <div className="h-full overflow-y-auto p-6 phone:p-3">
      <div className="mx-auto max-w-3xl">
        <h1 className="text-[22px] font-bold">Jobs</h1>
        <form
          className="mt-3 flex items-end gap-2 border border-line bg-paper p-4 phone:flex-col phone:items-stretch"
          onSubmit={(event) => {
            event.preventDefault();
            add.mutate(ask || asked, {
              onSuccess: ({ id }) => void navigate(`/jobs/${id}`),
            });
          }}
        >
          <TextField
            label="What is to be made"
            value={ask}
            onChange={(next) => {
              setAsk(next);
              add.reset();
            }}
            example="make 57 for Plover"
            problem={wrong("ask")}
          />
          <Button look="main" type="submit" disabled={!(ask || asked).trim()}>
            Add the job
          </Button>
        </form>
        {add.error && !wrong("ask") && <Failed error={add.error} />}
        {jobs.error && <Failed error={jobs.error} retry={() => void jobs.refetch()} />}
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
                <b className="text-[18px] underline underline-offset-2">{job.title}</b>
                <span className="text-[14px] text-soft">
                  {job.state}, begun {new Date(job.begun).toLocaleDateString()}
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
