import { useState } from "react";
import { Link, useParams } from "react-router";

import { refusedAt } from "../../api/client";
import {
  type LeadCell,
  leadChartCsv,
  type LeadsOf,
  useLeadChart,
  useLeadWorth,
} from "../../api/mill";
import { useMachines } from "../../api/machines";
import { useAddress } from "../../app/address";
import { Failure } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { Button, buttonLook } from "../../kit/Button";
import { Checkbox } from "../../kit/Checkbox";
import { Disclosure } from "../../kit/Disclosure";
import { Choice } from "../../kit/Form";
import { TextField } from "../../kit/TextField";
import { Working } from "../../kit/Working";
import { StandingShape, STANDINGS, StandingSign } from "../../drawing/StandingSign";
import { WorthList } from "../../planning/WorthList";

type LeadStanding = LeadCell["standing"];
const USUAL: LeadsOf = { pitch: "m2", first: 12, last: 60, angles: "15 20 30 45", hand: "right" };

/** Counts against angles with the wheels and pairs there are: as a picture, a table, a plate to print. */
export default function LeadChartStation() {
  const { machine = "" } = useParams();
  const { units } = usePreferences();
  const [search, set] = useAddress();
  const name = useMachines().data?.find((m) => m.slug === machine)?.name ?? machine;
  const of: LeadsOf = {
    pitch: search.get("pitch") ?? USUAL.pitch,
    first: Number(search.get("first")) || USUAL.first,
    last: Number(search.get("last")) || USUAL.last,
    angles: search.get("angles") ?? USUAL.angles,
    hand: search.get("hand") === "left" ? "left" : "right",
  };
  const chart = useLeadChart(machine, of, units);
  const cells = chart.data?.cells ?? [];
  const hidden = new Set((search.get("hide") ?? "").split(" ").filter(Boolean));
  const shown = cells.filter((c) => !hidden.has(c.standing));
  const show = (standing: LeadStanding, on: boolean) => {
    const next = [...hidden].filter((one) => one !== standing);
    set({ hide: (on ? next : [...next, standing]).join(" ") });
  };
  return (
    <>
      <div className="grid h-full grid-cols-[248px_minmax(0,1fr)] print:hidden tall:h-auto tall:grid-cols-1">
        <section
          aria-label="What the chart shows"
          className="min-h-0 overflow-y-auto border-r border-line p-4 tall:border-r-0 tall:border-b"
        >
          <h1 className="text-heading font-bold">{name}’s leads</h1>
          <LeadChartForm
            key={JSON.stringify(of)}
            of={of}
            error={chart.error}
            take={(next) =>
              set(Object.fromEntries(Object.entries(next).map(([k, v]) => [k, String(v)])))
            }
          />
          <fieldset className="mt-3 tall:columns-3 phone:columns-1">
            <legend className="text-fine text-soft">Show</legend>
            {STANDINGS.map(([standing, text]) => (
              <Checkbox
                key={standing}
                label={text}
                before={<StandingSign standing={standing} />}
                behind={String(cells.filter((c) => c.standing === standing).length)}
                ticked={!hidden.has(standing)}
                change={(on) => show(standing, on)}
              />
            ))}
          </fieldset>
          <div className="mt-3 flex flex-col gap-2">
            <Button look="main" onClick={() => window.print()} disabled={!shown.length}>
              Print
            </Button>
            {cells.length > 0 && (
              <a className={buttonLook()} href={leadChartCsv(machine, of, units)} download>
                CSV
              </a>
            )}
          </div>
          {chart.data && (
            <Disclosure title="Which wheel is worth making" className="mt-3">
              <Worth machine={machine} name={name} of={of} />
            </Disclosure>
          )}
        </section>
        <section aria-label="Leads" className="min-h-0 overflow-y-auto p-4">
          {chart.error && !AT.some((field) => refusedAt(chart.error)(field)) && (
            <Failure error={chart.error} retry={() => void chart.refetch()} />
          )}
          {chart.isPending && <Working text="Looking at every lead …" />}
          {chart.data && (
            <>
              <Picture
                angles={chart.data.angles}
                cells={cells}
                hidden={hidden}
                machine={machine}
                title={`Teeth of ${chart.data.pitch}, ${of.hand}-hand, against helix angles`}
              />
              <Table cells={shown} machine={machine} />
            </>
          )}
        </section>
      </div>
      {chart.data && <Plate name={name} title={chart.data.pitch} of={of} cells={shown} />}
    </>
  );
}

const AT = ["pitch", "first", "last", "angles"];

function address(machine: string, cell: LeadCell): string {
  const query = new URLSearchParams({
    ask: cell.ask,
    ...(cell.train && { train: cell.train }),
  });
  return `/mill/${machine}?${query}`;
}

/** Pitch, counts, angles and hand; as typed until they are taken. */
function LeadChartForm({
  of,
  error,
  take,
}: {
  of: LeadsOf;
  error: Error | null;
  take: (of: LeadsOf) => void;
}) {
  const [typed, setTyped] = useState({
    ...of,
    first: String(of.first),
    last: String(of.last),
  });
  const [wrong, setWrong] = useState<{ first?: string; last?: string }>({});
  const refused = refusedAt(error);
  const whole = (text: string) =>
    /^\d{1,4}$/.test(text.trim()) && Number(text) >= 4 && Number(text) <= 1000
      ? undefined
      : "Type a whole number from 4 to 1000.";
  return (
    <form
      className="mt-2 flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        const problems = { first: whole(typed.first), last: whole(typed.last) };
        setWrong(problems);
        if (!problems.first && !problems.last)
          take({ ...typed, first: Number(typed.first), last: Number(typed.last) });
      }}
    >
      <TextField
        label="Normal module or DP"
        value={typed.pitch}
        onChange={(pitch) => setTyped({ ...typed, pitch })}
        problem={refused("pitch")}
      />
      <div className="flex gap-2">
        <TextField
          label="From"
          value={typed.first}
          onChange={(first) => setTyped({ ...typed, first })}
          problem={wrong.first ?? refused("first")}
          numeric
        />
        <TextField
          label="to teeth"
          value={typed.last}
          onChange={(last) => setTyped({ ...typed, last })}
          problem={wrong.last ?? refused("last")}
          numeric
        />
      </div>
      <TextField
        label="Helix angles, spaces between"
        value={typed.angles}
        onChange={(angles) => setTyped({ ...typed, angles })}
        problem={refused("angles")}
      />
      <Choice
        label="Hand"
        value={typed.hand}
        options={[
          ["right", "right-hand"],
          ["left", "left-hand"],
        ]}
        change={(hand) => setTyped({ ...typed, hand })}
      />
      <Button type="submit">Show these leads</Button>
    </form>
  );
}

/** A row for every angle, a column for every count. */
function Picture(props: {
  title: string;
  angles: { text: string; cannot: string | null }[];
  cells: LeadCell[];
  hidden: Set<string>;
  machine: string;
}) {
  const counts = [...new Set(props.cells.map((c) => c.teeth))];
  return (
    <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Picture of the leads">
      <table className="border-collapse text-center">
        <caption className="mb-1 text-left font-bold">
          {props.title}
          {props.angles.map(
            ({ text, cannot }) =>
              cannot && (
                <span key={text} className="block border-l-4 border-oxide px-2 font-normal">
                  {cannot}.
                </span>
              ),
          )}
        </caption>
        <thead>
          <tr>
            <th className="sticky left-0 z-10 bg-chalk" />
            {counts.map((count) => (
              <th key={count} scope="col" className="min-w-11 font-mono text-lesser">
                {count}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {props.angles.map(({ text: angle, cannot }) => (
            <tr key={angle}>
              <th
                scope="row"
                className={`sticky left-0 z-10 bg-chalk pr-2 text-right font-mono text-lesser ${cannot ? "text-oxide line-through" : ""}`}
              >
                {angle}
              </th>
              {props.cells
                .filter((c) => c.angle === angle)
                .map((cell) => (
                  <td key={cell.teeth} className="border border-line bg-paper p-0">
                    <Link
                      to={address(props.machine, cell)}
                      title={[cell.standing_text, cell.text, cell.note].filter(Boolean).join(": ")}
                      aria-label={`${cell.teeth} teeth at ${cell.angle}: ${cell.standing_text}`}
                      className={`grid min-h-11 place-items-center hover:bg-blue-bg ${props.hidden.has(cell.standing) ? "opacity-20" : ""}`}
                    >
                      <svg viewBox="-1 0 26 24" width={20} height={18} aria-hidden>
                        <StandingShape standing={cell.standing} goes={cell.goes} />
                      </svg>
                    </Link>
                  </td>
                ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Table({ cells, machine }: { cells: LeadCell[]; machine: string }) {
  return (
    <div className="mt-4 overflow-x-auto" tabIndex={0} role="group" aria-label="Table of the leads">
      <table className="w-full border-collapse text-left text-lesser">
        <thead>
          <tr className="border-b border-ink">
            {["Teeth", "Helix", "Lead", "", "Wheels", "Worm pair", "Error"].map((head, n) => (
              <th key={n} className="py-1 pr-3">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {cells.map((c) => (
            <tr key={c.ask} className="border-b border-line align-top">
              <td className="pr-3">
                <Link
                  className="inline-flex min-h-11 min-w-11 items-center font-mono text-large font-bold underline underline-offset-2"
                  to={address(machine, c)}
                  aria-label={`${c.teeth} teeth at ${c.angle}`}
                >
                  {c.teeth}
                </Link>
              </td>
              <td className="py-2.5 pr-3 font-mono">{c.angle}</td>
              <td className="py-2.5 pr-3 font-mono whitespace-nowrap">{c.lead}</td>
              <td className="py-2.5 pr-3">
                <span className="flex items-center gap-2">
                  <StandingSign standing={c.standing} goes={c.goes} /> {c.standing_text}
                </span>
              </td>
              <td className="py-2.5 pr-3 font-mono font-bold whitespace-nowrap">{c.wheels}</td>
              <td className="py-2.5 pr-3 whitespace-nowrap">{c.pair?.replace("pair ", "")}</td>
              <td className="py-2.5 text-soft">{c.note}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Asked for when it is opened. */
function Worth({ machine, name, of }: { machine: string; name: string; of: LeadsOf }) {
  const worth = useLeadWorth(machine, of);
  return <WorthList worth={worth} machine={name} />;
}

/** The plate for the machine: every count and angle with its pair and wheels, in columns. Only the printer sees it. */
function Plate(props: { name: string; title: string; of: LeadsOf; cells: LeadCell[] }) {
  const { cells, of } = props;
  return (
    <article className="hidden text-print-fine leading-[1.25] text-black print:block" aria-hidden>
      <h1 className="border-b-2 border-black text-print-title font-bold">
        {props.name}: leads of {props.title}, {of.hand}-hand
      </h1>
      <p>
        Teeth, helix, pair, wheels from the table’s side; an idler stands between two strokes. +: a
        wheel of it is not held.
      </p>
      <ol className="mt-1 columns-3 gap-4">
        {cells.map((c) => (
          <li key={c.ask} className="flex break-inside-avoid gap-1 border-b border-line">
            <b className="w-[7mm] font-mono">{c.teeth}</b>
            <span className="w-[8mm] font-mono">{c.angle}</span>
            <span className="font-mono">
              {c.standing === "needs_wheel" ? "+ " : ""}
              {c.stages.map((s) => [s.driver, ...s.idlers, s.driven].join("/")).join(" ") || "–"}
              {c.pair ? `, ${c.pair}` : ""}
            </span>
          </li>
        ))}
      </ol>
    </article>
  );
}
