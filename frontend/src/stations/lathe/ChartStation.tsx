import { Link, useNavigate, useParams, useSearchParams } from "react-router";

import type { ChartRow } from "../../api/client";
import { chartCsvAddress, type List, useChart, useLists, useSlower } from "../../api/lathe";
import { useMachines } from "../../api/machines";
import { usePreferences } from "../../app/preferences";
import { ChartPicture } from "../../drawing/ChartPicture";
import { useSize } from "../../drawing/useSize";
import { Callout } from "../../kit/Callout";
import { Button, buttonLook } from "../../kit/Button";
import { Failure } from "../../app/Notice";
import { Nut } from "../../drawing/Nut";
import { Segmented } from "../../kit/Segmented";
import { type Standing, STANDINGS, StandingSign } from "../../drawing/StandingSign";
import { Strong } from "../../kit/Strong";
import { Checkbox } from "../../kit/Checkbox";
import { Working } from "../../kit/Working";
import { WorthMaking } from "./WorthMaking";
import { MakeLink } from "../../planning/MakeLink";

const FIRST: Record<"threads" | "feeds", List[]> = {
  threads: ["metric", "per_inch"],
  feeds: ["feeds_along", "feeds_across"],
};

/** Every pitch of the chosen lists against the wheels held, as a picture, a table, and a plate for the gear cover. */
export default function ChartStation() {
  const { machine = "" } = useParams();
  const { units } = usePreferences();
  const navigate = useNavigate();
  const [search, setSearch] = useSearchParams();
  const machines = useMachines();
  const known = machines.data?.find((m) => m.slug === machine);
  const name = known?.name ?? machine;
  const unknown = known?.not_known ?? [];
  const offered = useLists(machine);
  const feeds = search.get("of") === "feeds";
  const possible = offered.data?.filter((o) => o.feeds === feeds) ?? [];
  const listed = search.getAll("list") as List[];
  const lists = possible
    .map((o) => o.of)
    .filter((of) => (listed.length ? listed : FIRST[feeds ? "feeds" : "threads"]).includes(of));
  const lines = possible.filter((o) => lists.includes(o.of)).reduce((sum, o) => sum + o.pitches, 0);
  const chart = useChart(machine, lists, lines, units);
  const hidden = new Set(search.getAll("hide") as Standing[]);
  const shown = chart.rows.filter((row) => !hidden.has(row.standing));
  const lanes = possible
    .filter((o) => lists.includes(o.of))
    .map((o) => ({ name: o.text, rows: shown.filter((row) => row.of === o.of) }));
  const [board, size] = useSize<HTMLDivElement>();

  const set = (key: string, values: string[]) => {
    const next = new URLSearchParams(search);
    next.delete(key);
    for (const value of values) next.append(key, value);
    setSearch(next, { replace: true });
  };
  const take = (row: ChartRow) => {
    const next = new URLSearchParams({ ask: row.ask, ...(row.train && { train: row.train }) });
    void navigate(`/lathe/${machine}?${next}`);
  };
  const done = chart.done === chart.parts;
  return (
    <>
      <div className="grid h-full grid-cols-[232px_minmax(0,1fr)] print:hidden tall:h-auto tall:grid-cols-1">
        <section
          aria-label="What the chart shows"
          className="min-h-0 overflow-y-auto border-r border-line p-4 tall:border-r-0 tall:border-b"
        >
          <h1 className="text-heading font-bold">{name}’s chart</h1>
          <Segmented
            label="Threads or feeds"
            className="mt-2"
            value={feeds ? "feeds" : "threads"}
            options={[
              ["threads", "Threads"],
              ["feeds", "Feeds"],
            ]}
            onChange={(of) => setSearch(of === "feeds" ? { of } : {}, { replace: true })}
          />
          <fieldset className="mt-3 tall:columns-3 phone:columns-1">
            <legend className="text-fine text-soft">Lists</legend>
            {possible.map((o) => (
              <Checkbox
                key={o.of}
                label={o.text}
                behind={String(o.pitches)}
                ticked={lists.includes(o.of)}
                change={(on) =>
                  set("list", on ? [...lists, o.of] : lists.filter((l) => l !== o.of))
                }
              />
            ))}
          </fieldset>
          <fieldset className="mt-3 tall:columns-3 phone:columns-1">
            <legend className="text-fine text-soft">Show</legend>
            {STANDINGS.map(([standing, text]) => (
              <Checkbox
                key={standing}
                label={text}
                before={<StandingSign standing={standing} />}
                behind={String(chart.rows.filter((row) => row.standing === standing).length)}
                ticked={!hidden.has(standing)}
                change={(on) =>
                  set(
                    "hide",
                    on ? [...hidden].filter((h) => h !== standing) : [...hidden, standing],
                  )
                }
              />
            ))}
          </fieldset>
          <div className="mt-3 flex flex-col gap-2">
            <Button look="main" onClick={() => window.print()} disabled={!done || !shown.length}>
              Print for the gear cover
            </Button>
            <Button
              onClick={() => set("worth", search.get("worth") ? [] : ["1"])}
              aria-pressed={search.get("worth") !== null}
              disabled={!lists.length}
              className="leading-tight whitespace-normal!"
            >
              Which wheel is worth making?
            </Button>
            {done && lines > chart.mostInAFile && (
              <p className="text-fine text-soft">
                A table as CSV has up to {chart.mostInAFile} lines: tick fewer lists.
              </p>
            )}
            {lists.length > 0 && lines <= chart.mostInAFile && (
              <a className={buttonLook()} href={chartCsvAddress(machine, lists, units)} download>
                Table as CSV
              </a>
            )}
          </div>
        </section>
        <section aria-label="Chart" className="min-h-0 overflow-y-auto p-4" tabIndex={0}>
          {offered.error && <Failure error={offered.error} retry={() => void offered.refetch()} />}
          {chart.error && <Failure error={chart.error} retry={chart.retry} />}
          {!done && !chart.error && (
            <Working
              text={`Working out ${lines} pitches …`}
              share={chart.done / Math.max(1, chart.parts)}
            />
          )}
          {feeds && <Slowest machine={machine} name={name} />}
          {search.get("worth") !== null && lists.length > 0 && (
            <WorthMaking machine={machine} lists={lists} close={() => set("worth", [])} />
          )}
          {lists.length === 0 && offered.data && <p>Tick a list at the left.</p>}
          {unknown.length > 0 && (
            <Callout tone="note" as="p" small className="mb-3">
              {unknown.join(" ")}
            </Callout>
          )}
          <div ref={board} className="border border-line bg-paper">
            <ChartPicture
              lanes={lanes.filter((lane) => lane.rows.length)}
              feeds={feeds}
              units={units}
              width={size.width}
              take={take}
            />
          </div>
          {shown.length > 0 && <Table lanes={lanes} machine={machine} name={name} feeds={feeds} />}
          {done && chart.rows.length > 0 && shown.length === 0 && (
            <p className="mt-3">Nothing of what is ticked under “Show”.</p>
          )}
        </section>
      </div>
      <Plate lanes={lanes} name={name} unknown={unknown} />
    </>
  );
}

/** The slowest feed these wheels give, and what would be slower. */
function Slowest({ machine, name }: { machine: string; name: string }) {
  const { units } = usePreferences();
  const slower = useSlower(machine, "feed 0.01 mm/rev", units, true);
  if (slower.error) return <Failure error={slower.error} retry={() => void slower.refetch()} />;
  if (!slower.data) return null;
  return (
    <Callout tone="hint" className="mb-3">
      <h2 className="font-bold">Slower on {name}, along the bed</h2>
      {slower.data.texts.map((line) => (
        <p key={line}>
          <Strong text={line} />
        </p>
      ))}
    </Callout>
  );
}

interface Lane {
  name: string;
  rows: ChartRow[];
}

function Table({
  lanes,
  machine,
  name,
  feeds,
}: {
  lanes: Lane[];
  machine: string;
  name: string;
  feeds: boolean;
}) {
  return (
    <table className="mt-4 w-full border-collapse text-left text-lesser">
      <thead>
        <tr className="border-b-2 border-ink text-fine text-soft">
          {[feeds ? "Feed" : "Pitch", feeds ? "" : "Sizes", "Train", "Error", "Result", ""].map(
            (head, n) => (
              <th key={n} scope="col" className="py-1 pr-3 font-normal">
                {head}
              </th>
            ),
          )}
        </tr>
      </thead>
      {lanes
        .filter((lane) => lane.rows.length)
        .map((lane) => (
          <tbody key={lane.name}>
            <tr>
              <th scope="rowgroup" colSpan={6} className="pt-4 pb-1 font-bold">
                {lane.name}
              </th>
            </tr>
            {lane.rows.map((row) => (
              <tr key={row.ask} className="border-b border-line hover:bg-blue-bg">
                <td className="pr-3">
                  <Link
                    className="flex min-h-11 items-center font-mono font-bold whitespace-nowrap text-blue underline-offset-4 hover:underline"
                    to={`/lathe/${machine}?${new URLSearchParams({ ask: row.ask, ...(row.train && { train: row.train }) })}`}
                  >
                    {row.pitch}
                  </Link>
                </td>
                <td className="max-w-56 pr-3 text-fine text-soft">{row.sizes}</td>
                <td className="pr-3 font-mono">
                  {row.standing !== "needs_wheel" && row.text}
                  {row.levers && <span className="text-soft"> · {row.levers}</span>}
                </td>
                <td className="pr-3 font-mono whitespace-nowrap">
                  {row.standing === "needs_wheel" ? "" : row.error}
                </td>
                <td className="pr-3">
                  <span className="flex items-center gap-2 whitespace-nowrap">
                    <StandingSign standing={row.standing} goes={row.goes} /> {row.standing_text}
                  </span>
                </td>
                <td className="text-fine text-soft">
                  {row.standing === "exact" ? "" : row.note}{" "}
                  {row.new !== null && (
                    <MakeLink teeth={row.new} machine={name} text={`Make the ${row.new}`} quiet />
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        ))}
    </table>
  );
}

/** The chart as a plate for the inside of the gear cover: pitch and train, in columns, nothing else. Only the printer sees it. */
function Plate({ lanes, name, unknown }: { lanes: Lane[]; name: string; unknown: string[] }) {
  return (
    <article className="hidden text-black print:block" aria-hidden>
      <header className="flex items-end justify-between border-b-3 border-black pb-1">
        <h1 className="text-print-figure leading-tight font-bold">{name}</h1>
        <p className="flex items-center gap-1.5 text-print">
          Drivers over driven, from the spindle to the screw. <Nut plain merit="exact" size={13} />{" "}
          exact, <Nut plain merit="freely" size={13} /> or{" "}
          <Nut plain merit="mid_tolerance" size={13} /> good, <Nut plain merit="partly" size={13} />{" "}
          or <Nut plain merit="not" size={13} /> poor.
        </p>
      </header>
      {unknown.length > 0 && <p className="mt-1 text-print">{unknown.join(" ")}</p>}
      <div className="mt-2 columns-2 gap-6 text-print">
        {lanes.map((lane) => {
          const rows = lane.rows.filter((row) => ["exact", "good", "poor"].includes(row.standing));
          if (!rows.length) return null;
          return (
            <section key={lane.name} className="mb-3">
              <h2 className="border-b border-black font-bold">{lane.name}</h2>
              {rows.map((row) => (
                <p
                  key={row.ask}
                  className="grid break-inside-avoid grid-cols-[23mm_5mm_1fr_auto] items-center border-b border-line"
                >
                  <b className="font-mono">{row.pitch}</b>
                  <StandingSign plain standing={row.standing} goes={row.goes} size={13} />
                  <span className="font-mono">
                    {row.text}
                    {row.levers && ` · ${row.levers}`}
                  </span>
                  <span className="max-w-28 truncate text-print-fine">{row.sizes}</span>
                </p>
              ))}
            </section>
          );
        })}
      </div>
      <p className="mt-3 border-t border-black pt-1 text-print font-bold">
        Isolate the lathe before the cover is opened; cover on before power.
      </p>
    </article>
  );
}
