import { Link, useParams } from "react-router";

import {
  type Book,
  type SetUpInUse,
  stationAddress,
  useBook,
  useLog,
  usePin,
  useTakeScrew,
  useUnpin,
} from "../../api/log";
import { useMachines } from "../../api/machines";
import { type PlateKind, useKeptPlate, usePlate } from "../../api/plates";
import { Failure } from "../../app/Notice";
import { plannedKind } from "../../app/planned";
import { usePreferences } from "../../app/preferences";
import { useTell } from "../../app/Toast";
import { Button } from "../../kit/Button";
import { day } from "../../kit/date";
import { Working } from "../../kit/Working";
import { LogLink } from "../../planning/LastTime";
import { PlateTable } from "../machines/PlateTable";
import { OnItNow } from "./OnItNow";
import { ReadingsPlot } from "./ReadingsPlot";

const ALL = {
  kind: "",
  outcome: "",
  text: "",
  teeth: "",
  since: "",
  until: "",
  entry: "",
} as const;

/** A machine's book: its record, the set-ups it is used with, what its readings say, and its log. */
export default function BookStation() {
  const { machine = "" } = useParams();
  const { units } = usePreferences();
  const book = useBook(machine, units);
  const row = useMachines().data?.find((m) => m.slug === machine);
  const log = useLog({ ...ALL, machine }, units);
  const planned = row && plannedKind(row.kind);
  if (book.error) {
    return (
      <div className="p-6">
        <Failure error={book.error} retry={() => void book.refetch()} />
      </div>
    );
  }
  return (
    <div className="h-full overflow-y-auto p-6 print:p-0 phone:p-3">
      <div className="mx-auto max-w-4xl">
        <div className="flex flex-wrap items-start gap-3">
          <h1 className="text-title font-bold">Book of {row?.name ?? machine}</h1>
          <Button className="ml-auto print:hidden" onClick={() => window.print()}>
            Print
          </Button>
        </div>
        {!book.data && <Working text="Reading the log …" />}
        {row && (
          <section aria-label="Record" className="mt-3">
            <h2 className="text-heading font-bold">Record</h2>
            <dl className="mt-1 grid grid-cols-[max-content_1fr] gap-x-4 gap-y-1 border border-line bg-paper p-4">
              {row.facts.map(({ label, text }) => (
                <div key={label} className="contents">
                  <dt className="text-soft">{label}</dt>
                  <dd>{text}</dd>
                </div>
              ))}
              <dt className="text-soft">On it now</dt>
              <dd className="font-mono">{row.mounted_text ?? "nothing"}</dd>
            </dl>
            <p className="flex flex-wrap gap-x-4 print:hidden">
              <LogLink to={`/machines/${machine}`}>Open the record</LogLink>
              {planned && (
                <LogLink to={`/${planned.kind}/${machine}/plate`}>{planned.plate.title}</LogLink>
              )}
              <a
                className="inline-flex min-h-11 items-center font-bold text-blue underline underline-offset-4"
                href={`/api/shop/file.zip?machine=${machine}`}
                download
              >
                Export this machine
              </a>
            </p>
          </section>
        )}
        {row && planned && (
          <OnItNow
            key={planned.kind}
            useOnNow={planned.useOnNow}
            machine={machine}
            name={row.name}
          />
        )}
        {planned && <ItsPlate kind={planned.kind} machine={machine} />}
        {book.data && <SetUps book={book.data} machine={machine} station={planned?.kind} />}
        {book.data && <Readings book={book.data} machine={machine} />}
        <section aria-label="Log" className="mt-6">
          <h2 className="text-heading font-bold">Log</h2>
          <ul className="mt-1 border border-line bg-paper">
            {log.data?.pages.flat().map((entry) => (
              <li
                key={entry.id}
                className="grid grid-cols-[110px_1fr] gap-x-3 border-b border-line px-4 py-1.5 last:border-b-0"
              >
                <span className="text-soft">{day(entry.at)}</span>
                <span>
                  <span className={entry.correction ? "line-through decoration-oxide" : ""}>
                    {entry.text}
                  </span>
                  {entry.correction && (
                    <span className="block text-oxide">
                      {entry.correction.reason}
                      {entry.correction.by && `, ${entry.correction.by}`}
                    </span>
                  )}
                </span>
              </li>
            ))}
          </ul>
          {log.data?.pages[0]?.length === 0 && <p className="text-soft">No entry so far.</p>}
          {log.hasNextPage && (
            <Button className="mt-2 print:hidden" onClick={() => void log.fetchNextPage()}>
              Older entries
            </Button>
          )}
          <p className="print:hidden">
            <LogLink to={`/log?machine=${machine}`}>Search these</LogLink>
          </p>
        </section>
      </div>
    </div>
  );
}

/** What is on the machine's plate, line by line. */
function ItsPlate({ kind, machine }: { kind: PlateKind; machine: string }) {
  const lines = useKeptPlate(machine).data?.lines ?? "";
  const plate = usePlate(kind, lines, machine).data;
  if (!lines.trim() || !plate) return null;
  const title = plannedKind(kind)?.plate.title ?? "Plate";
  return (
    <section aria-label={title} className="mt-6">
      <h2 className="text-heading font-bold">{title}</h2>
      <PlateTable plate={plate} />
    </section>
  );
}

function SetUps({ book, machine, station }: { book: Book; machine: string; station?: string }) {
  if (!station) return null;
  return (
    <section aria-label="Set-ups in use" className="mt-6">
      <h2 className="text-heading font-bold">Set-ups in use</h2>
      {book.set_ups.length === 0 && (
        <p className="text-soft">None was recorded as fitted so far.</p>
      )}
      <ul className="mt-1 border border-line bg-paper empty:hidden">
        {book.set_ups.map((one) => (
          <li
            key={`${one.ask} ${one.train}`}
            className="flex flex-wrap items-center gap-x-4 border-b border-line px-4 py-1 last:border-b-0"
          >
            <span className="min-w-24 font-bold">{one.ask || "not said what for"}</span>
            <span className="font-mono">{one.text}</span>
            <span className="text-soft">
              {one.times > 0
                ? `${times(one.times)}, last ${day(one.last)}`
                : "pinned, not used yet"}
            </span>
            <span className="ml-auto flex gap-2 print:hidden">
              {one.ask && (
                <Link
                  className="inline-flex min-h-11 items-center font-bold text-blue underline underline-offset-4"
                  to={stationAddress(station, machine, one.ask, one.train)}
                >
                  Open
                </Link>
              )}
              <PinButton machine={machine} of={one} />
            </span>
          </li>
        ))}
      </ul>
      {book.wheels.length > 0 && (
        <p className="mt-2">
          <b>Wheels by how often they were put on:</b>{" "}
          {book.wheels.map(({ teeth, times: n }) => `${teeth} (${n})`).join(", ")}.
        </p>
      )}
    </section>
  );
}

function times(n: number): string {
  return n === 1 ? "once" : n === 2 ? "twice" : `${n} times`;
}

function PinButton({ machine, of }: { machine: string; of: SetUpInUse }) {
  const pin = usePin();
  const unpin = useUnpin();
  const failed = pin.error ?? unpin.error;
  if (!of.ask) return null;
  return (
    <>
      <Button
        look="quiet"
        disabled={pin.isPending || unpin.isPending}
        onClick={() =>
          of.pin === null
            ? pin.mutate({ machine, ask: of.ask, train: of.train })
            : unpin.mutate(of.pin)
        }
      >
        {of.pin === null ? "Pin" : "Unpin"}
      </Button>
      {failed && <Failure error={failed} />}
    </>
  );
}

function Readings({ book, machine }: { book: Book; machine: string }) {
  const take = useTakeScrew(machine);
  const tell = useTell();
  if (book.readings.length === 0) return null;
  return (
    <section aria-label="Readings of the lead" className="mt-6 break-inside-avoid">
      <h2 className="text-heading font-bold">Readings of the lead</h2>
      <p className="mt-1">{book.says}</p>
      <ReadingsPlot book={book} />
      {book.screw && (
        <div className="mt-2 flex flex-wrap items-center gap-3 print:hidden">
          <span>
            By them the screw’s lead is <b className="font-mono">{book.screw}</b>. A screw that is
            worn in one place is right in another: measure there too before it goes into the record.
          </span>
          <Button
            disabled={take.isPending}
            onClick={() =>
              take.mutate(undefined, {
                onSuccess: () =>
                  tell({ text: `The screw of ${book.machine} is ${book.screw}.`, done: true }),
              })
            }
          >
            Put it into the record
          </Button>
        </div>
      )}
      {take.error && <Failure error={take.error} />}
    </section>
  );
}
