import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";

import { type Day, useDay } from "../../api/lathe";
import { useMachines } from "../../api/machines";
import { Failed } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { meritOf, Nut } from "../../drawing/Nut";
import { Button } from "../../kit/Button";
import { Callout } from "../../kit/Callout";
import { Checkbox } from "../../kit/Checkbox";
import { FIELD } from "../../kit/TextField";
import { Working } from "../../kit/Working";
import { TrainFraction } from "../../planning/TrainFraction";

const MOST = 12;
const EXAMPLE = "M14x2\n1.25 mm\n20 tpi\nM10";

/** What is to be done on a lathe, put into the order in which least is changed. */
export default function DayStation() {
  const { machine = "" } = useParams();
  const { units } = usePreferences();
  const [search, setSearch] = useSearchParams();
  const asks = search.getAll("do");
  const back = search.get("back") === "1";
  const [typed, setTyped] = useState(asks.join("\n"));
  const day = useDay(machine, asks, back, units);
  const machines = useMachines();
  const name = machines.data?.find((m) => m.slug === machine)?.name ?? machine;
  const lines = typed
    .split("\n")
    .map((line) => line.trim())
    .filter(Boolean);
  const plan = (putBack: boolean, asked = lines) => {
    const next = new URLSearchParams(asked.map((ask) => ["do", ask]));
    if (putBack) next.set("back", "1");
    setSearch(next, { replace: true });
  };
  return (
    <div className="grid h-full grid-cols-[300px_minmax(0,1fr)] print:block tall:h-auto tall:grid-cols-1">
      <form
        aria-label="What is to be done"
        className="min-h-0 overflow-y-auto border-r border-line p-4 print:hidden tall:border-r-0 tall:border-b"
        onSubmit={(event) => {
          event.preventDefault();
          plan(back);
        }}
      >
        <h1 className="text-heading font-bold">{name}’s day</h1>
        <label className="mt-2 block text-fine text-soft" htmlFor="day-asks">
          Threads and feeds, a line each
        </label>
        <textarea
          id="day-asks"
          rows={8}
          spellCheck={false}
          className={`${FIELD} py-2 font-mono placeholder:text-soft`}
          placeholder={EXAMPLE}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
        {lines.length > MOST && (
          <p role="alert" className="text-fine text-oxide">
            Enter up to {MOST} lines.
          </p>
        )}
        <Checkbox
          label="Put back what is on now"
          ticked={back}
          change={(ticked) => plan(ticked, asks)}
        />
        <Button
          look="main"
          type="submit"
          className="mt-3 w-full"
          disabled={lines.length === 0 || lines.length > MOST}
        >
          Find the order
        </Button>
        <p className="mt-3 text-fine text-soft">
          The order and the trains are chosen together, so that the fewest wheels are put on. It
          begins with what is on the lathe now. For an exact train enter it as in{" "}
          <code className="font-mono">M14x2 within 0%</code>.
        </p>
      </form>
      <section aria-label="Order" className="min-h-0 overflow-y-auto bg-paper p-4 print:p-0">
        {asks.length === 0 ? (
          <p className="text-soft">Enter what is to be done.</p>
        ) : day.error ? (
          <Failed error={day.error} retry={() => void day.refetch()} />
        ) : day.data ? (
          <Found day={day.data} machine={machine} name={name} />
        ) : (
          <Working text="Looking for the order …" />
        )}
      </section>
    </div>
  );
}

function Found({ day, machine, name }: { day: Day; machine: string; name: string }) {
  return (
    <>
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="hidden text-heading font-bold print:block">{name}’s day</h2>
        <p role="status" className="flex-1 text-large font-bold">
          {day.says}
        </p>
        {day.turns.length > 0 && (
          <Button className="print:hidden" onClick={() => window.print()}>
            Print
          </Button>
        )}
      </div>
      {day.left_out.map((one) => (
        <Callout key={one.line} tone="wrong" className="mt-2">
          <b>{one.text}</b>: {one.says}
        </Callout>
      ))}
      <ol aria-label="In this order" className="mt-3">
        {day.turns.map((turn, n) => (
          <li
            key={turn.line}
            className="grid break-inside-avoid grid-cols-[40px_minmax(0,1fr)] gap-2 border-t border-line py-3"
          >
            <span className="grid h-10 w-10 place-items-center rounded-sm border-2 border-steel-2 font-mono text-large font-bold">
              {n + 1}
            </span>
            <div>
              <p className="flex flex-wrap items-center gap-x-4 gap-y-1">
                <b className="text-large">{turn.ask}</b>
                <span className="flex items-center gap-1.5 text-lesser">
                  <Nut merit={meritOf(turn.candidate.goes, turn.candidate.relative_error === 0)} />
                  {turn.candidate.verdict_head}
                </span>
                <span className="text-lesser text-soft">{turn.candidate.error}</span>
                <Link
                  className="ml-auto inline-flex min-h-11 items-center font-bold text-blue underline underline-offset-4 print:hidden"
                  to={`/lathe/${machine}?${new URLSearchParams({ ask: turn.ask, train: turn.candidate.train })}`}
                >
                  Set-up
                </Link>
              </p>
              <div className="mt-1 flex flex-wrap items-start gap-x-6 gap-y-2">
                <span>
                  <TrainFraction stages={turn.candidate.stages} text={turn.candidate.text} />
                  {turn.candidate.levers && (
                    <span className="mt-1 block text-lesser">{turn.candidate.levers}</span>
                  )}
                </span>
                <div className="text-lesser">
                  <p className="font-bold">{turn.work}</p>
                  <ul>
                    {turn.changes.map((change) => (
                      <li key={change}>{change}</li>
                    ))}
                  </ul>
                </div>
              </div>
            </div>
          </li>
        ))}
      </ol>
      {day.back !== null && (
        <p className="border-t border-line py-3">
          <b>At the end</b>, what is on now: {day.back}.
        </p>
      )}
    </>
  );
}
