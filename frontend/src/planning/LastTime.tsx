import { useState } from "react";
import { Link } from "react-router";

import { refusedAt } from "../api/client";
import { type LogEntry, type Outcome, useDone, useLastTime } from "../api/log";
import { Failed } from "../app/Notice";
import { usePreferences } from "../app/preferences";
import { useTell } from "../app/Toast";
import { Button } from "../kit/Button";
import { day } from "../kit/date";
import { TextField } from "../kit/TextField";

export const OUTCOMES: [Outcome, string][] = [
  ["ran_free", "Ran free"],
  ["tight", "Tight"],
  ["scrapped", "Scrapped"],
];

/** What was done for this ask before, to be set up as then; and one tap to say how it came out now. */
export function LastTime({
  machine,
  ask,
  train,
  take,
}: {
  machine: string;
  ask: string;
  train: string;
  take: (train: string) => void;
}) {
  const last = useLastTime(machine, ask);
  const done = useDone();
  const tell = useTell();
  const { initials, setInitials } = usePreferences();
  const [note, setNote] = useState("");
  const wrong = refusedAt(done.error);
  const say = (outcome: Outcome, name: string) =>
    done.mutate(
      { machine, ask, train, outcome, note, by: initials },
      {
        onSuccess: () => {
          setNote("");
          tell({ text: `In the log: ${ask}, ${name.toLowerCase()}.`, done: true });
        },
      },
    );
  return (
    <section aria-label="Log" className="mt-4 border-t border-line pt-3 text-lesser print:hidden">
      {last.data && last.data.length > 0 && (
        <>
          <h3 className="font-bold">Last time</h3>
          <ul>
            {last.data.map((entry) => (
              <Before key={entry.id} entry={entry} train={train} take={take} />
            ))}
          </ul>
        </>
      )}
      <h3 className="mt-2 font-bold">Done</h3>
      <div className="mt-1 flex flex-wrap gap-2">
        {OUTCOMES.map(([outcome, name]) => (
          <Button
            key={outcome}
            className="px-3!"
            disabled={done.isPending}
            onClick={() => say(outcome, name)}
          >
            {name}
          </Button>
        ))}
      </div>
      <div className="mt-2 flex gap-2">
        <TextField label="Note" value={note} onChange={setNote} problem={wrong("note")} />
        <TextField
          label="Initials"
          className="max-w-22"
          value={initials}
          onChange={(next) => setInitials(next.slice(0, 12))}
          problem={wrong("by")}
        />
      </div>
      {done.error && !wrong("note") && !wrong("by") && <Failed error={done.error} />}
      <Link
        className="mt-1 inline-flex min-h-11 items-center font-bold text-blue underline underline-offset-4"
        to="/log"
      >
        Whole log
      </Link>
    </section>
  );
}

function Before({
  entry,
  train,
  take,
}: {
  entry: LogEntry;
  train: string;
  take: (train: string) => void;
}) {
  return (
    <li className="border-t border-line py-1.5">
      <span className="text-soft">
        {day(entry.at)}
        {entry.by && `, ${entry.by}`}
      </span>
      <span className="block">{entry.text}</span>
      {entry.train && entry.train !== train && (
        <Button look="quiet" className="mt-1" onClick={() => take(entry.train)}>
          Set up as then
        </Button>
      )}
    </li>
  );
}
