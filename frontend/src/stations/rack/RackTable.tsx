import type { Family, RackWheel } from "../../api/client";

/** The rack as a list: every record a line, chosen by its box. */
export function RackTable({
  groups,
  chosen,
  toggle,
}: {
  groups: { family: Family | null; wheels: RackWheel[] }[];
  chosen: Set<number>;
  toggle: (id: number) => void;
}) {
  return (
    <table className="w-full border-collapse text-left text-lesser">
      <thead>
        <tr className="border-b-2 border-ink text-fine text-soft">
          {["", "Teeth", "Held", "Condition", "Machine", "Place", "Material", "Note"].map(
            (head, n) => (
              <th key={n} scope="col" className="py-1 pr-3 font-normal">
                {head}
              </th>
            ),
          )}
        </tr>
      </thead>
      {groups.map(({ family, wheels }) => (
        <tbody key={family?.id ?? 0}>
          <tr>
            <th scope="rowgroup" colSpan={8} className="pt-4 pb-1 font-bold">
              {family?.name ?? "Not recognised yet"}{" "}
              <span className="font-normal text-soft">{family?.text}</span>
            </th>
          </tr>
          {wheels.map((wheel) => (
            <tr
              key={wheel.id}
              className={`border-b border-line ${chosen.has(wheel.id) ? "bg-blue-bg" : ""}`}
            >
              <td className="w-11">
                <label className="grid size-11 cursor-pointer place-items-center">
                  <input
                    type="checkbox"
                    checked={chosen.has(wheel.id)}
                    onChange={() => toggle(wheel.id)}
                    aria-label={`choose the ${wheel.teeth}`}
                    className="size-5 accent-enamel"
                  />
                </label>
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
          ))}
        </tbody>
      ))}
    </table>
  );
}
