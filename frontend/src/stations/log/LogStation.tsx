import { useState } from "react";
import { Link, useSearchParams } from "react-router";

import { refusedAt } from "../../api/client";
import {
  type LogEntry,
  type LogFilter,
  logFileAddress,
  stationAddress,
  useAddNote,
  useCorrect,
  useLog,
} from "../../api/log";
import { useMachines } from "../../api/machines";
import { Failure } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { Button, buttonLook } from "../../kit/Button";
import { clock, day, dayAndTime } from "../../kit/date";
import { Choice } from "../../kit/Form";
import { TextField } from "../../kit/TextField";
import { useDebouncedValue } from "../../kit/useDebouncedValue";
import { Working } from "../../kit/Working";
import { OUTCOMES } from "../../planning/DoneForm";
import { LogLink } from "../../planning/LastTime";
import { Photograph, PhotoButton } from "../../planning/Photograph";

const KINDS: [LogFilter["kind"], string][] = [
  ["", "all"],
  ["done", "done"],
  ["check", "checks"],
  ["job", "jobs"],
  ["change", "changes"],
  ["note", "notes"],
];
const DAY = /^\d{4}-\d{2}-\d{2}$/;

/** What the address says; a word that is none of those that may stand there is read as nothing. */
function filterOf(search: URLSearchParams): LogFilter {
  const param = (name: keyof LogFilter) => search.get(name) ?? "";
  const one = (value: string, of: [string, string][]) =>
    of.some(([v]) => v === value) ? value : "";
  const on = (value: string) => (DAY.test(value) ? value : "");
  return {
    machine: param("machine"),
    kind: one(param("kind"), KINDS) as LogFilter["kind"],
    outcome: one(param("outcome"), OUTCOMES) as LogFilter["outcome"],
    text: param("text"),
    teeth: param("teeth"),
    since: on(param("since")),
    until: on(param("until")),
    entry: param("entry"),
  };
}

/** What was done and how it came out, day by day. */
export default function LogStation() {
  const [search, setSearch] = useSearchParams();
  const { units } = usePreferences();
  const filter = filterOf(search);
  // On a telephone the fields fold away; what was found stays in sight.
  const [open, setOpen] = useState(Object.values(filter).some(Boolean));
  const machines = useMachines().data ?? [];
  const log = useLog(
    {
      ...filter,
      text: useDebouncedValue(filter.text, 200),
      teeth: useDebouncedValue(filter.teeth, 200),
    },
    units,
  );
  const set = (changes: Partial<LogFilter>) => {
    const next = new URLSearchParams(search);
    for (const [name, value] of Object.entries(changes))
      if (value) next.set(name, value);
      else next.delete(name);
    setSearch(next, { replace: true });
  };
  const named = machines.find((m) => m.slug === filter.machine);
  const entries = log.data?.pages.flat() ?? [];
  const days = byDay(entries);
  return (
    <div className="h-full overflow-y-auto p-6 print:p-0 phone:p-3">
      <div className="mx-auto max-w-4xl">
        <h1 className="text-title font-bold">{named ? `Log of ${named.name}` : "Log"}</h1>
        {named && (
          <p className="print:hidden">
            <LogLink to={`/log/${named.slug}`}>{`Book of ${named.name}`}</LogLink>
          </p>
        )}
        <Button
          look="quiet"
          className="mt-2 hidden! phone:inline-flex!"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          Find in the log
        </Button>
        <div
          className={`mt-2 grid grid-cols-4 items-end gap-2 print:hidden phone:grid-cols-2 ${open ? "" : "phone:hidden"}`}
        >
          <TextField
            label="Words"
            value={filter.text}
            onChange={(text) => set({ text })}
            example="M14x2 tight"
          />
          <Choice
            label="Machine"
            value={filter.machine}
            options={[
              ["", "all"],
              ...machines.map(({ slug, name }): [string, string] => [slug, name]),
            ]}
            change={(machine) => set({ machine })}
          />
          <Choice
            label="Kind"
            value={filter.kind}
            options={KINDS}
            change={(kind) => set({ kind })}
          />
          <Choice
            label="Came out"
            value={filter.outcome}
            options={[["", "all"], ...OUTCOMES]}
            change={(outcome) => set({ outcome })}
          />
          <TextField
            label="Wheel"
            value={filter.teeth}
            onChange={(teeth) => set({ teeth })}
            example="66"
            numeric
          />
          <DayField label="From" value={filter.since} change={(since) => set({ since })} />
          <DayField label="To" value={filter.until} change={(until) => set({ until })} />
          {filter.entry && (
            <Button className="col-span-full" onClick={() => set({ entry: "" })}>
              No. {filter.entry} alone is shown. Show all
            </Button>
          )}
          <div className="flex gap-2">
            <Button className="flex-1" onClick={() => window.print()}>
              Print
            </Button>
            <a
              className={`${buttonLook()} flex-1`}
              href={logFileAddress("pdf", filter, units)}
              target="_blank"
              rel="noreferrer"
            >
              PDF
            </a>
            <a
              className={`${buttonLook()} flex-1`}
              href={logFileAddress("csv", filter, units)}
              download
            >
              CSV
            </a>
          </div>
        </div>
        <NewNote />
        {log.error && <Failure error={log.error} retry={() => void log.refetch()} />}
        {!log.data && !log.error && <Working text="Reading the log …" />}
        {log.data && entries.length === 0 && (
          <p className="mt-6 text-soft">Nothing in the log is like that.</p>
        )}
        {days.map(([on, some]) => (
          <section key={on} aria-label={on} className="mt-5">
            <h2 className="font-bold">{on}</h2>
            <ul className="border border-line bg-paper">
              {some.map((entry) => (
                <li key={entry.id} className="border-b border-line px-4 py-1 last:border-b-0">
                  <Entry entry={entry} />
                </li>
              ))}
            </ul>
          </section>
        ))}
        {log.hasNextPage && (
          <Button
            className="mt-4 print:hidden"
            disabled={log.isFetchingNextPage}
            onClick={() => void log.fetchNextPage()}
          >
            Older entries
          </Button>
        )}
      </div>
    </div>
  );
}

function byDay(entries: LogEntry[]): [string, LogEntry[]][] {
  const days: [string, LogEntry[]][] = [];
  for (const entry of entries) {
    const on = day(entry.at);
    const last = days.at(-1);
    if (last?.[0] === on) last[1].push(entry);
    else days.push([on, [entry]]);
  }
  return days;
}

function NewNote() {
  const add = useAddNote();
  const { initials } = usePreferences();
  const [note, setNote] = useState("");
  const wrong = refusedAt(add.error);
  return (
    <form
      className="mt-3 flex flex-wrap items-end gap-2 print:hidden"
      onSubmit={(event) => {
        event.preventDefault();
        add.mutate({ note, by: initials }, { onSuccess: () => setNote("") });
      }}
    >
      <TextField
        label="A note for the log"
        value={note}
        onChange={(next) => {
          setNote(next);
          if (add.error) add.reset();
        }}
        problem={wrong("note")}
      />
      <Button type="submit" disabled={!note.trim() || add.isPending}>
        Add
      </Button>
      <PhotoButton note={note} done={() => setNote("")} />
      {add.error && !wrong("note") && <Failure error={add.error} />}
    </form>
  );
}

function Entry({ entry }: { entry: LogEntry }) {
  const [correcting, setCorrecting] = useState(false);
  const struck = entry.correction;
  const place = placeOf(entry);
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <span className="font-mono text-fine text-soft">{clock(entry.at)}</span>
        <span className={`min-w-0 flex-1 ${struck ? "line-through decoration-oxide" : ""}`}>
          {entry.text}
        </span>
        {entry.by && <span className="text-soft">{entry.by}</span>}
        {place && (
          <Link
            className="inline-flex min-h-11 items-center font-bold text-blue underline underline-offset-4 print:hidden"
            to={place}
          >
            Open
          </Link>
        )}
        {entry.may_correct && !correcting && (
          <Button
            look="quiet"
            className="print:hidden"
            aria-label={`Correct: ${entry.text}`}
            onClick={() => setCorrecting(true)}
          >
            Correct
          </Button>
        )}
      </div>
      {entry.photo && <Photograph name={entry.photo} of={entry.text} />}
      {struck && (
        <p className="text-lesser text-oxide">
          Struck through {dayAndTime(struck.at)}
          {struck.by && `, ${struck.by}`}: {struck.reason}
        </p>
      )}
      {correcting && !struck && <Correction entry={entry.id} close={() => setCorrecting(false)} />}
    </>
  );
}

/** Where what an entry is about is to be seen. */
function placeOf({ job, slug, station, ask, train }: LogEntry): string | undefined {
  if (job) return `/jobs/${job}`;
  if (!slug) return undefined;
  return station && ask ? stationAddress(station, slug, ask, train) : `/machines/${slug}`;
}

function DayField(props: { label: string; value: string; change: (value: string) => void }) {
  const { label, value, change } = props;
  return (
    <label className="text-fine text-soft">
      {label}
      <input
        type="date"
        className="mt-0.5 block min-h-11 w-full rounded-sm border border-steel-2 bg-paper px-2 font-mono text-base text-ink"
        value={value}
        onChange={(e) => change(e.target.value)}
      />
    </label>
  );
}

function Correction({ entry, close }: { entry: number; close: () => void }) {
  const correct = useCorrect();
  const { initials } = usePreferences();
  const [reason, setReason] = useState("");
  const wrong = refusedAt(correct.error);
  return (
    <form
      className="mt-1 flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        correct.mutate({ entry, reason, by: initials }, { onSuccess: close });
      }}
    >
      <TextField
        label="What is wrong, and what holds"
        className="min-w-52"
        value={reason}
        onChange={setReason}
        problem={wrong("reason")}
      />
      <Button type="submit" disabled={!reason.trim() || correct.isPending}>
        Strike through
      </Button>
      <Button onClick={close}>Cancel</Button>
      {correct.error && !wrong("reason") && <Failure error={correct.error} />}
    </form>
  );
}
