import type { ReactNode } from "react";
import { Link } from "react-router";

import { useJobs } from "../../api/jobs";
import { stationAddress, useToday, useUnpin } from "../../api/log";
import { Failure } from "../../app/Notice";
import { plannedKind } from "../../app/planned";
import { usePreferences } from "../../app/preferences";
import { Button, buttonLook } from "../../kit/Button";
import { day } from "../../kit/date";
import { Working } from "../../kit/Working";
import { LogLink } from "../../planning/LastTime";

/** What one comes to: what is on each machine, what is being made, what is kept at hand, what was done last. */
export default function TodayStation() {
  const { units } = usePreferences();
  const today = useToday(units);
  const jobs = useJobs();
  const open = jobs.data?.filter((job) => !job.done) ?? [];
  const unpin = useUnpin();
  if (today.error) {
    return (
      <div className="p-6">
        <Failure error={today.error} retry={() => void today.refetch()} />
      </div>
    );
  }
  if (!today.data) {
    return (
      <div className="p-6">
        <Working text="Looking at the shop …" />
      </div>
    );
  }
  const { machines, pins, done, missing } = today.data;
  return (
    <div className="h-full overflow-y-auto p-6 phone:p-3">
      <div className="mx-auto max-w-5xl">
        <h1 className="text-title font-bold">Today</h1>
        <Part title="On the machines">
          {machines.length === 0 && (
            <p>
              No machine yet. <LogLink to="/machines">Add one</LogLink>
            </p>
          )}
          <ul className="grid grid-cols-2 gap-3 phone:grid-cols-1">
            {machines.map((m) => (
              <li key={m.slug}>
                <Link
                  to={
                    m.ask
                      ? stationAddress(m.station, m.slug, m.ask, m.train)
                      : `/${m.station}/${m.slug}`
                  }
                  className="block h-full border border-line bg-paper px-4 py-3 hover:bg-blue-bg"
                >
                  <span className="flex items-baseline justify-between gap-3">
                    <b className="text-large">{m.name}</b>
                    <span className="text-fine text-soft">{plannedKind(m.station)?.title}</span>
                  </span>
                  {m.text ? (
                    <span className="block font-mono font-bold">{m.text}</span>
                  ) : (
                    <span className="block text-soft">Nothing is on it.</span>
                  )}
                  {m.since && (
                    <span className="block text-soft">
                      {m.ask && `For ${m.ask}, `}
                      {m.ask ? "since" : "Since"} {day(m.since)}
                    </span>
                  )}
                </Link>
              </li>
            ))}
          </ul>
        </Part>
        {open.length > 0 && (
          <Part title="Being made">
            <List>
              {open.map((job) => (
                <li key={job.id} className="border-b border-line last:border-b-0">
                  <Link
                    to={job.cutting ? `/jobs/${job.id}/session` : `/jobs/${job.id}`}
                    className="flex min-h-11 flex-wrap items-center gap-x-4 px-4 py-2 hover:bg-blue-bg"
                  >
                    <b>{job.title}</b>
                    <span className="text-soft">{job.state}</span>
                  </Link>
                </li>
              ))}
            </List>
          </Part>
        )}
        {pins.length > 0 && (
          <Part title="Pinned">
            <List>
              {pins.map((pin) => (
                <li
                  key={pin.id}
                  className="flex items-center border-b border-line pr-2 last:border-b-0"
                >
                  <Link
                    to={stationAddress(pin.station, pin.slug, pin.ask, pin.train)}
                    className="flex min-h-11 flex-1 flex-wrap items-center gap-x-4 px-4 py-2 hover:bg-blue-bg"
                  >
                    <b>{pin.ask}</b>
                    <span>{pin.machine}</span>
                    <span className="font-mono text-soft">{pin.text}</span>
                  </Link>
                  <Button
                    look="quiet"
                    aria-label={`Unpin ${pin.ask} on ${pin.machine}`}
                    disabled={unpin.isPending}
                    onClick={() => unpin.mutate(pin.id)}
                  >
                    Unpin
                  </Button>
                </li>
              ))}
            </List>
            {unpin.error && <Failure error={unpin.error} />}
          </Part>
        )}
        {missing.length > 0 && (
          <Part title="Wheels missing">
            <p className="border border-line bg-paper px-4 py-2">
              {missing.map(({ machine, teeth }) => (
                <span key={machine} className="block">
                  <b>{machine}</b> <span className="font-mono">{teeth.join(", ")}</span>
                </span>
              ))}
            </p>
          </Part>
        )}
        <Part title="Done last">
          {done.length === 0 ? (
            <p className="text-soft">Nothing is said to be done yet.</p>
          ) : (
            <List>
              {done.map((entry) => (
                <li
                  key={entry.id}
                  className="flex flex-wrap gap-x-4 border-b border-line px-4 py-2 last:border-b-0"
                >
                  <span className="text-soft">
                    {day(entry.at)}
                    {entry.by && `, ${entry.by}`}
                  </span>
                  <span className={entry.correction ? "line-through decoration-oxide" : ""}>
                    {entry.text}
                  </span>
                </li>
              ))}
            </List>
          )}
          <p>
            <Link className={`${buttonLook()} mt-2`} to="/log">
              Whole log
            </Link>
          </p>
        </Part>
      </div>
    </div>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title} className="mt-5">
      <h2 className="mb-1 text-heading font-bold">{title}</h2>
      {children}
    </section>
  );
}

function List({ children }: { children: ReactNode }) {
  return <ul className="border border-line bg-paper">{children}</ul>;
}
