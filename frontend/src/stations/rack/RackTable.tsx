import type { Family, RackWheel } from "../../api/client";
import type { RackOrder } from "../../api/rack";

const COLUMNS: [RackOrder["by"] | "note", string][] = [
  ["teeth", "Teeth"],
  ["held", "Held"],
  ["condition", "Condition"],
  ["machine", "Machine"],
  ["place", "Place"],
  ["material", "Material"],
  ["note", "Note"],
];

/** The rack as a list: every record a line, chosen by its box, in the order of any column. */
export function RackTable(props: {
  groups: { family: Family | null; title: string; wheels: RackWheel[] }[];
  /** All wheels in one list, where they are sorted by a column. */
  flat?: RackWheel[];
  sorted: RackOrder;
  sort: (by: RackOrder) => void;
  chosen: Set<number>;
  choose: (ids: Set<number>) => void;
}) {
  const { groups, flat, sorted, sort, chosen, choose } = props;
  const shown = flat ?? groups.flatMap(({ wheels }) => wheels);
  const all = shown.length > 0 && shown.every(({ id }) => chosen.has(id));
  const chooseAll = () => {
    const ids = shown.map(({ id }) => id);
    choose(new Set(all ? [...chosen].filter((id) => !ids.includes(id)) : [...chosen, ...ids]));
  };
  const line = (wheel: RackWheel) => (
    <Line
      key={wheel.id}
      wheel={wheel}
      chosen={chosen.has(wheel.id)}
      toggle={() => {
        const next = new Set(chosen);
        if (!next.delete(wheel.id)) next.add(wheel.id);
        choose(next);
      }}
    />
  );
  return (
    <table className="w-full border-collapse text-left text-lesser">
      <thead>
        <tr className="border-b-2 border-ink text-fine text-soft">
          <th scope="col">
            <Box label="choose all that are shown" ticked={all} toggle={chooseAll} />
          </th>
          {COLUMNS.map(([by, name]) => (
            <th
              key={by}
              scope="col"
              aria-sort={by === sorted.by ? (sorted.down ? "descending" : "ascending") : undefined}
              className="pr-3 font-normal"
            >
              {by === "note" ? (
                name
              ) : (
                <button
                  type="button"
                  className="min-h-11 text-left hover:text-ink"
                  onClick={() => sort(next(sorted, by))}
                >
                  {name} {by === sorted.by && (sorted.down ? "▼" : "▲")}
                </button>
              )}
            </th>
          ))}
        </tr>
      </thead>
      {flat ? (
        <tbody>{flat.map(line)}</tbody>
      ) : (
        groups.map(({ family, title, wheels }) => (
          <tbody key={title}>
            <tr>
              <th scope="rowgroup" colSpan={8} className="pt-4 pb-1 font-bold">
                {title} <span className="font-normal text-soft">{family?.text}</span>
              </th>
            </tr>
            {wheels.map(line)}
          </tbody>
        ))
      )}
    </table>
  );
}

/** A column pressed: up, then down, then by family again. */
function next(sorted: RackOrder, by: RackOrder["by"]): RackOrder {
  if (sorted.by !== by) return { by, down: false };
  return sorted.down ? { by: "family", down: false } : { by, down: true };
}

function Line(props: { wheel: RackWheel; chosen: boolean; toggle: () => void }) {
  const { wheel } = props;
  return (
    <tr className={`border-b border-line ${props.chosen ? "bg-blue-bg" : ""}`}>
      <td className="w-11">
        <Box label={`choose the ${wheel.teeth}`} ticked={props.chosen} toggle={props.toggle} />
      </td>
      <td className="pr-3 font-mono text-large font-bold">{wheel.teeth}</td>
      <td className="pr-3 font-mono">{wheel.count || "missing"}</td>
      <td className={`pr-3 ${wheel.condition === "good" ? "" : "font-bold text-oxide"}`}>
        {wheel.condition}
      </td>
      <td className="pr-3">
        {wheel.machine_name}
        {wheel.mounted > 0 && <span className="text-brass"> (on)</span>}
      </td>
      <td className="pr-3">{wheel.place}</td>
      <td className="pr-3">{wheel.material}</td>
      <td className="text-soft">{[wheel.note, wheel.stray].filter(Boolean).join("; ")}</td>
    </tr>
  );
}

function Box(props: { label: string; ticked: boolean; toggle: () => void }) {
  return (
    <label className="grid size-11 cursor-pointer place-items-center">
      <input
        type="checkbox"
        checked={props.ticked}
        onChange={props.toggle}
        aria-label={props.label}
        className="size-5 accent-enamel"
      />
    </label>
  );
}
