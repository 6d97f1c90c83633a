import { useSearchParams } from "react-router";

import { useDividingChart } from "../../api/dividing";
import { useMachines } from "../../api/machines";
import { Button, buttonLook } from "../../kit/Button";
import { Choice } from "../../kit/Form";
import { Failure } from "../../app/Notice";
import { Working } from "../../kit/Working";

/** How every count from 2 to 400 is had on one head, for the wall beside it. */
export default function ChartOfWays() {
  const machines = useMachines();
  const [search, setSearch] = useSearchParams();
  const heads = machines.data?.filter((m) => m.divides && !m.archived) ?? [];
  const machine = search.get("on") ?? heads[0]?.slug ?? "";
  const chart = useDividingChart(machine, 400);
  const { lines } = chart;
  return (
    <div className="h-full overflow-y-auto p-6 print:overflow-visible print:p-0 tall:h-auto">
      <div className="flex flex-wrap items-end gap-3 print:hidden">
        <h1 className="mr-3 text-2xl font-bold">Dividing chart</h1>
        <div className="w-52">
          <Choice
            label="On"
            value={machine}
            options={heads.map((h) => [h.slug, h.name])}
            change={(on) => setSearch({ on })}
          />
        </div>
        <Button look="main" onClick={() => window.print()} disabled={!chart.done}>
          Print
        </Button>
        {chart.done && (
          <a className={buttonLook()} href={`/api/dividing/${machine}/chart.csv`} download>
            Table as CSV
          </a>
        )}
      </div>
      <h1 className="hidden text-lesser font-bold print:block">
        {chart.machine}: dividing, 2 to 400
      </h1>
      {machines.data && !heads.length && (
        <p className="mt-3">There is no head or table yet. Add one on Machines.</p>
      )}
      {chart.error && <Failure error={chart.error} retry={chart.retry} />}
      {!chart.done && !chart.error && machine && <Working text="Working out 399 counts …" />}
      <ol
        aria-label="Counts"
        className="mt-4 columns-3 gap-6 text-fine print:mt-1 print:columns-3! print:gap-3 print:text-print-least print:leading-tight tall:columns-2 phone:columns-1"
      >
        {lines.map((line) => (
          <li
            key={line.divisions}
            className="flex min-h-7 break-inside-avoid gap-2 border-b border-line py-0.5 print:min-h-0 print:border-0 print:py-0"
          >
            <b className="w-9 shrink-0 text-right font-mono print:w-5">{line.divisions}</b>
            <span className="min-w-0">
              {line.text || line.head}
              {!line.exact && line.kind && <span className="text-oxide"> {line.accuracy}</span>}
            </span>
          </li>
        ))}
      </ol>
    </div>
  );
}
