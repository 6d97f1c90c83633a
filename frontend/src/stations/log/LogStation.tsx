import { useState } from "react";
import { Link, useSearchParams } from "react-router";

import { refusedAt } from "../../api/client";
import {
  type LogEntry,
  type LogFilter,
  logFileAddress,
  useAddNote,
  useCorrect,
  useLog,
} from "../../api/log";
import { useMachines } from "../../api/machines";
import { Failed } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { Button, buttonLook } from "../../kit/Button";
import { clock, day } from "../../kit/date";
import { Choice } from "../../kit/Form";
import { TextField } from "../../kit/TextField";
import { useDebouncedValue } from "../../kit/useDebouncedValue";
import { Working } from "../../kit/Working";
import { OUTCOMES } from "../../planning/LastTime";

const KINDS: [LogFilter["kind"], string][] = [
  ["", "all"],
  ["done", "done"],
  ["change", "changes"],
  ["note", "notes"],
];

/** What was done and how it came out, day by day. */
export default function LogStation() {
  const [search, setSearch] = useSearchParams();
  const filter: LogFilter = {
    machine: search.get("machine") ?? "",
    kind: (search.get("kind") ?? "") as LogFilter["kind"],
    outcome: (search.get("outcome") ?? "") as LogFilter["outcome"],
    text: search.get("text") ?? "",
  };
  const machines = useMachines().data ?? [];
  const log = useLog({ ...filter, text: useDebouncedValue(filter.text, 200) });
  const set = (changes: Partial<LogFilter>) => {
    const next = new URLSearchParams(search);
    for (const [name, value] of Object.entries(changes))
      if (value) next.set(name, value);
      else next.delete(name);
    setSearch(next, { replace: true });
  };
  const entries = log.data?.pages.flat() ?? [];
  const days = byDay(entries);
  return (
    <div className="h-full overflow-y-auto p-6 print:p-0 phone:p-3">
      <div className="mx-auto max-w-4xl">
        <h1 className="text-title font-bold">Log</h1>
        <div className="mt-2 flex flex-wrap items-end gap-2 print:hidden">
          <TextField
            label="Words"
            className="min-w-40"
            value={filter.text}
            onChange={(text) => set({ text })}
            example="M14x2 tight"
          />
          <Choice
            label="Machine"
            value={filter.machine}
            options={[["", "all"], ...machines.map(({ name }): [string, string] => [name, name])]}
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
          <Button onClick={() => window.print()}>Print</Button>
          <a className={buttonLook()} href={logFileAddress(filter)} download>
            CSV
          </a>
        </div>
        <NewNote />
        {log.error && <Failed error={log.error} retry={() => void log.refetch()} />}
        {!log.data && !log.error && <Working text="Reading the log …" />}
        {log.data && entries.length === 0 && (
          <p className="mt-6 text-soft">Nothing in the log is like that.</p>
        )}
        {days.map(([on, some]) => (
          <section key={on} aria-label={on} className="mt-5">
            <h2 className="font-bold">{on}</h2>
            <ul className="border border-line bg-paper">
              {some.map((entry) => (
                <li key={entry.id} className="border-b border-line px-4 py-2 last:border-b-0">
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
      className="mt-3 flex items-end gap-2 print:hidden"
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
      {add.error && !wrong("note") && <Failed error={add.error} />}
    </form>
  );
}

function Entry({ entry }: { entry: LogEntry }) {
  const [correcting, setCorrecting] = useState(false);
  const struck = entry.correction;
  const place =
    entry.slug && entry.ask ? addressOf(entry) : entry.slug ? `/machines/${entry.slug}` : undefined;
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
        {!struck && entry.kind !== "change" && !correcting && (
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
      {struck && (
        <p className="text-lesser text-oxide">
          Struck through {day(struck.at)}
          {struck.by && `, ${struck.by}`}: {struck.reason}
        </p>
      )}
      {correcting && !struck && <Correction entry={entry.id} close={() => setCorrecting(false)} />}
    </>
  );
}

/** The station with that ask and set-up; the log knows machines of three kinds by what is asked of them. */
function addressOf(entry: LogEntry): string {
  const kind = entry.station ?? "lathe";
  return `/${kind}/${entry.slug}?${new URLSearchParams({ ask: entry.ask, ...(entry.train && { train: entry.train }) })}`;
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
      {correct.error && !wrong("reason") && <Failed error={correct.error} />}
    </form>
  );
}
