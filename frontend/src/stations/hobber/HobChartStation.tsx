import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";

import { type HobChartRow, hobChartCsv, useHobChart, useHobWorth } from "../../api/hobber";
import { useMachines } from "../../api/machines";
import { Failure } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { Button, buttonLook } from "../../kit/Button";
import { Checkbox } from "../../kit/Checkbox";
import { Disclosure } from "../../kit/Disclosure";
import { TextField } from "../../kit/TextField";
import { Working } from "../../kit/Working";
import { CountShape, CountSign } from "../../planning/CountSign";
import { WorthList } from "../../planning/WorthList";

type CountStanding = HobChartRow["standing"];

const STANDINGS: [CountStanding, string][] = [
  ["exact", "exact"],
  ["other_pair", "with another reversing pair"],
  ["made_up", "by the differential"],
  ["needs_wheel", "needs a wheel"],
  ["no_room", "no room"],
  ["nothing", "nothing"],
];
const [FIRST, LAST, FEWEST, MOST] = [6, 200, 4, 1000];
// Cells of the picture in a row.
const ACROSS = 20;

/** Every count against the wheels held: as a picture, a table, a plate to print. */
export default function HobChartStation() {
  const { machine = "" } = useParams();
  const { units } = usePreferences();
  const [search, setSearch] = useSearchParams();
  const row = useMachines().data?.find((m) => m.slug === machine);
  const name = row?.name ?? machine;
  const ends = [whole(search.get("first"), FIRST), whole(search.get("last"), LAST)];
  const [first, last] = [Math.min(...ends), Math.max(...ends)];
  const chart = useHobChart(machine, first, last, units);
  const hidden = new Set(search.getAll("hide"));
  const shown = chart.rows.filter((r) => !hidden.has(r.standing));
  const done = chart.done === chart.parts;
  const show = (standing: CountStanding, on: boolean) => {
    const next = new URLSearchParams(search);
    next.delete("hide");
    for (const one of hidden) if (one !== standing) next.append("hide", one);
    if (!on) next.append("hide", standing);
    setSearch(next, { replace: true });
  };
  return (
    <>
      <div className="grid h-full grid-cols-[232px_minmax(0,1fr)] print:hidden tall:h-auto tall:grid-cols-1">
        <section
          aria-label="What the chart shows"
          className="min-h-0 overflow-y-auto border-r border-line p-4 tall:border-r-0 tall:border-b"
        >
          <h1 className="text-heading font-bold">{name}’s counts</h1>
          <Counts first={first} last={last} key={`${first} ${last}`} />
          <fieldset className="mt-3 tall:columns-3 phone:columns-1">
            <legend className="text-fine text-soft">Show</legend>
            {STANDINGS.map(([standing, text]) => (
              <Checkbox
                key={standing}
                label={text}
                before={<CountSign standing={standing} />}
                behind={String(chart.rows.filter((r) => r.standing === standing).length)}
                ticked={!hidden.has(standing)}
                change={(on) => show(standing, on)}
              />
            ))}
          </fieldset>
          <div className="mt-3 flex flex-col gap-2">
            <Button look="main" onClick={() => window.print()} disabled={!done || !shown.length}>
              Print
            </Button>
            {chart.rows.length > 0 && (
              <a className={buttonLook()} href={hobChartCsv(machine, first, last, units)} download>
                CSV
              </a>
            )}
          </div>
          <Worth machine={machine} name={name} first={first} last={last} />
        </section>
        <section aria-label="Counts" className="min-h-0 overflow-y-auto p-4">
          {chart.error && <Failure error={chart.error} retry={chart.retry} />}
          {!done && !chart.error && (
            <Working text={`Looking at every count: ${chart.rows.length} so far …`} />
          )}
          <Picture rows={chart.rows} hidden={hidden} machine={machine} />
          <table className="mt-4 w-full border-collapse text-left text-lesser">
            <thead>
              <tr className="border-b border-ink">
                {["Teeth", "", "Constant", "Index train", "Note"].map((head, n) => (
                  <th key={n} className="py-1 pr-3">
                    {head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {shown.map((r) => (
                <tr key={r.teeth} className="border-b border-line align-top">
                  <td className="pr-3">
                    <Link
                      className="inline-flex min-h-11 min-w-11 items-center font-mono text-large font-bold underline underline-offset-2"
                      to={address(machine, r)}
                    >
                      {r.teeth}
                    </Link>
                  </td>
                  <td className="py-2.5 pr-3">
                    <span className="flex items-center gap-2">
                      <CountSign standing={r.standing} /> {r.standing_text}
                    </span>
                  </td>
                  <td className="py-2.5 pr-3 font-mono">{r.constant}</td>
                  <td className="py-2.5 pr-3 font-mono font-bold">{r.text}</td>
                  <td className="py-2.5 text-soft">{r.note}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      </div>
      {done && <Plate name={name} rows={shown} />}
    </>
  );
}

function address(machine: string, row: HobChartRow): string {
  const query = new URLSearchParams({ ask: row.ask, ...(row.train && { train: row.train }) });
  return `/hobber/${machine}?${query}`;
}

function whole(text: string | null, usual: number): number {
  return text && /^\d{1,4}$/.test(text) ? Math.min(MOST, Math.max(FEWEST, Number(text))) : usual;
}

/** From which count to which; as typed until it is taken. */
function Counts({ first, last }: { first: number; last: number }) {
  const [search, setSearch] = useSearchParams();
  const [typed, setTyped] = useState({ first: String(first), last: String(last) });
  const [wrong, setWrong] = useState<{ first?: string; last?: string }>({});
  const take = () => {
    const problem = (text: string) =>
      /^\d{1,4}$/.test(text.trim()) && Number(text) >= FEWEST && Number(text) <= MOST
        ? undefined
        : `Type a whole number from ${FEWEST} to ${MOST}.`;
    const problems = { first: problem(typed.first), last: problem(typed.last) };
    if (!problems.first && !problems.last && Number(typed.first) > Number(typed.last))
      problems.last = `Type ${typed.first} or more.`;
    setWrong(problems);
    if (problems.first || problems.last) return;
    const next = new URLSearchParams(search);
    next.set("first", typed.first.trim());
    next.set("last", typed.last.trim());
    setSearch(next, { replace: true });
  };
  return (
    <form
      className="mt-2"
      onSubmit={(event) => {
        event.preventDefault();
        take();
      }}
    >
      <div className="flex gap-2">
        <TextField
          label="From"
          value={typed.first}
          onChange={(text) => setTyped({ ...typed, first: text })}
          problem={wrong.first}
          numeric
        />
        <TextField
          label="to teeth"
          value={typed.last}
          onChange={(text) => setTyped({ ...typed, last: text })}
          problem={wrong.last}
          numeric
        />
      </div>
      <Button type="submit" className="mt-2 w-full">
        Show these counts
      </Button>
    </form>
  );
}

/** All counts side by side, twenty in a row, each with the sign that says how it stands. */
function Picture({
  rows,
  hidden,
  machine,
}: {
  rows: HobChartRow[];
  hidden: Set<string>;
  machine: string;
}) {
  if (rows.length === 0) return null;
  const start = Math.floor(rows[0]!.teeth / ACROSS) * ACROSS;
  return (
    <ol
      aria-label="Counts"
      className="grid grid-cols-[repeat(20,minmax(44px,1fr))] gap-px overflow-x-auto bg-line p-px tall:grid-cols-[repeat(10,minmax(44px,1fr))] phone:grid-cols-[repeat(5,minmax(44px,1fr))]"
    >
      {Array.from({ length: rows[0]!.teeth - start }, (_, n) => (
        <li key={`empty ${n}`} aria-hidden className="bg-chalk tall:hidden" />
      ))}
      {rows.map((r) => (
        <li key={r.teeth} className="bg-paper">
          <Link
            to={address(machine, r)}
            title={[r.standing_text, r.text, r.note].filter(Boolean).join(": ")}
            aria-label={`${r.teeth} teeth: ${r.standing_text}`}
            className={`flex min-h-11 flex-col items-center justify-center ${hidden.has(r.standing) ? "opacity-20" : ""} hover:bg-blue-bg`}
          >
            <b className="font-mono text-lesser leading-tight">{r.teeth}</b>
            <svg viewBox="-1 0 26 24" width={18} height={16} aria-hidden>
              <CountShape standing={r.standing} />
            </svg>
          </Link>
        </li>
      ))}
      {Array.from({ length: (ACROSS - ((rows.at(-1)!.teeth + 1) % ACROSS)) % ACROSS }, (_, n) => (
        <li key={`rest ${n}`} aria-hidden className="bg-chalk tall:hidden" />
      ))}
    </ol>
  );
}

function Worth({
  machine,
  name,
  first,
  last,
}: {
  machine: string;
  name: string;
  first: number;
  last: number;
}) {
  const worth = useHobWorth(machine, first, last);
  return (
    <Disclosure title="Which wheel is worth making" className="mt-3" open>
      <WorthList worth={worth} machine={name} />
    </Disclosure>
  );
}

/** A train as it is engraved, idlers between strokes: `24/75/37`, `48/37 40/80`. */
function short(row: HobChartRow): string {
  return row.stages.map((s) => [s.driver, ...s.idlers, s.driven].join("/")).join(" ");
}

/** The plate for the machine: every count with its wheels, in columns. Only the printer sees it. */
function Plate({ name, rows }: { name: string; rows: HobChartRow[] }) {
  return (
    <article className="hidden text-print-fine leading-[1.25] text-black print:block" aria-hidden>
      <h1 className="border-b-2 border-black text-print-title font-bold">
        {name}: index trains {rows[0]?.teeth} to {rows.at(-1)?.teeth}
      </h1>
      <p>
        Constant and train, from the drive shaft; an idler stands between two strokes. D: with the
        differential, see its sheet. +: a wheel of it is not held.
      </p>
      <ol className="mt-1 columns-4 gap-4">
        {rows.map((r) => (
          <li key={r.teeth} className="flex break-inside-avoid gap-1 border-b border-line">
            <b className="w-[7mm] font-mono">{r.teeth}</b>
            <span className="w-[6mm] font-mono">{r.constant}</span>
            <span className="font-mono">
              {r.standing === "made_up" ? "D " : r.standing === "needs_wheel" ? "+ " : ""}
              {short(r) || "–"}
            </span>
          </li>
        ))}
      </ol>
    </article>
  );
}
