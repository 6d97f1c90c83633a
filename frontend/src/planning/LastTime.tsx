import { createContext, useContext } from "react";
import { Link } from "react-router";

import { type LogEntry, useDone, useLastTime, usePin } from "../api/log";
import { Failure } from "../app/Notice";
import { usePreferences } from "../app/preferences";
import { useTell } from "../app/Toast";
import { Button } from "../kit/Button";
import { Callout } from "../kit/Callout";
import { day } from "../kit/date";
import { Disclosure } from "../kit/Disclosure";
import { DoneForm } from "./DoneForm";
import { Photograph, PhotoButton } from "./Photograph";

interface LoggedTrain {
  machine: string;
  ask: string;
  /** What is looked at, as requests name it. */
  train: string;
  /** The first of today's list. */
  first?: { train: string; text: string };
  take: (train: string) => void;
}

const Context = createContext<LoggedTrain | undefined>(undefined);
/** Says what the sheet within is about; nothing where nothing is asked. */
export const LoggedProvider = Context.Provider;

export function LogLink({ to, children }: { to: string; children: string }) {
  return (
    <Link
      className="inline-flex min-h-11 items-center font-bold text-blue underline underline-offset-4"
      to={to}
    >
      {children}
    </Link>
  );
}

/** What was done for this ask before, to be set up as then. */
export function LastTime() {
  const of = useContext(Context);
  return of && <Before {...of} />;
}

function Before({ machine, ask, train, first, take }: LoggedTrain) {
  const { units } = usePreferences();
  const last = useLastTime(machine, ask, units).data;
  const [newest, ...older] = last?.entries ?? [];
  if (!last || !newest) return null;
  const then = last.as_then;
  return (
    <section
      aria-label="Last time"
      className="my-3 border border-line bg-paper p-3 text-lesser print:hidden"
    >
      <h3 className="font-bold">Last time</h3>
      <Entry entry={newest} />
      {then && then.changed.length > 0 && (
        <Callout tone="note" small className="mt-2">
          <p className="font-bold">Changed since</p>
          {then.changed.map((one) => (
            <p key={`${one.at} ${one.text}`}>
              {day(one.at)}: {one.text}
            </p>
          ))}
        </Callout>
      )}
      {then?.lacking && <p className="mt-1 text-oxide">{then.lacking}</p>}
      {then && then.train !== train && (
        <Button className="mt-2 w-full" onClick={() => take(then.train)}>
          Set up as then: {then.text}
        </Button>
      )}
      {then && first && first.train !== then.train && (
        <p className="mt-1">
          Today the first of the list is <span className="font-mono">{first.text}</span>.
        </p>
      )}
      {older.length > 0 && (
        <Disclosure title="Before that" state={String(older.length)}>
          {older.map((entry) => (
            <Entry key={entry.id} entry={entry} />
          ))}
        </Disclosure>
      )}
    </section>
  );
}

function Entry({ entry }: { entry: LogEntry }) {
  return (
    <p className="mt-1">
      <span className="block text-soft">
        {day(entry.at)}
        {entry.by && `, ${entry.by}`}
      </span>
      {entry.text}
      {entry.photo && <Photograph name={entry.photo} of={entry.text} />}
    </p>
  );
}

/** One tap to say how it came out; a pin; the way to the log. */
export function Done() {
  const of = useContext(Context);
  return (
    of && (
      <section aria-label="Log" className="mt-4 border-t border-line pt-3 text-lesser print:hidden">
        <SayDone {...of} />
        <PhotoButton about={of} />
        <p className="mt-1 flex flex-wrap gap-x-4">
          <LogLink to="/log">Whole log</LogLink>
          <LogLink to={`/log/${of.machine}`}>Book of this machine</LogLink>
        </p>
      </section>
    )
  );
}

function SayDone({ machine, ask, train }: LoggedTrain) {
  const done = useDone();
  const pin = usePin();
  const tell = useTell();
  const keep = () =>
    pin.mutate(
      { machine, ask, train },
      { onSuccess: () => tell({ text: `Pinned: ${ask}. It stands under Today.`, done: true }) },
    );
  return (
    <>
      <h3 className="font-bold">Done</h3>
      <DoneForm
        ask={ask}
        pending={done.isPending}
        error={done.error}
        say={(report, then) => done.mutate({ machine, ask, train, ...report }, { onSuccess: then })}
      />
      <Button look="quiet" className="mt-1" disabled={pin.isPending} onClick={keep}>
        Pin to Today
      </Button>
      {pin.error && <Failure error={pin.error} />}
    </>
  );
}
