import type { Family, Outline, RackWheel } from "../api/client";
import { hole, wheelPath } from "./outline";

const LARGEST = 118;
const LEAST = 40;
const LABEL = 40;

/** Wheels of one family hanging on their pegs in order of size, all of the board to one scale. */
export function PegBoard(props: {
  wheels: RackWheel[];
  outlines: Outline[];
  scale: number;
  chosen: Set<number>;
  /** A wheel was pressed; `beside`: with a key held that chooses it beside the others. */
  choose: (id: number, beside: boolean) => void;
}) {
  const outlines = new Map(props.outlines.map((o) => [o.teeth, o]));
  return (
    <ul className="flex flex-wrap items-end gap-x-2 gap-y-3">
      {props.wheels.map((wheel) => (
        <Peg
          key={wheel.id}
          wheel={wheel}
          outline={outlines.get(wheel.teeth)}
          scale={props.scale}
          chosen={props.chosen.has(wheel.id)}
          choose={(beside) => props.choose(wheel.id, beside)}
        />
      ))}
    </ul>
  );
}

/** px per mm so that the largest wheel of the board still hangs well. */
export function boardScale(families: Family[], unknown: Outline[]): number {
  const tips = [...families.flatMap((f) => f.outlines), ...unknown].map((o) => o.tip_radius_mm);
  return Math.min(1.6, LARGEST / (2 * Math.max(20, ...tips)));
}

function Peg({
  wheel,
  outline,
  scale,
  chosen,
  choose,
}: {
  wheel: RackWheel;
  outline?: Outline;
  scale: number;
  chosen: boolean;
  choose: (beside: boolean) => void;
}) {
  const radius = (outline?.tip_radius_mm ?? 20) * scale;
  const missing = wheel.count === 0;
  const wide = Math.max(2 * radius + 4, LEAST);
  const line = missing
    ? "var(--steel-2)"
    : wheel.stray || wheel.condition !== "good"
      ? "var(--oxide)"
      : wheel.mounted
        ? "var(--brass-line)"
        : "var(--steel-2)";
  const fill = missing ? "none" : wheel.mounted ? "var(--brass-bg)" : "var(--steel)";
  const state = missing
    ? "missing"
    : wheel.condition !== "good"
      ? wheel.condition
      : wheel.mounted
        ? "on"
        : "";
  return (
    <li>
      <button
        type="button"
        aria-pressed={chosen}
        title={described(wheel)}
        onClick={(event) => choose(event.ctrlKey || event.metaKey || event.shiftKey)}
        className={`flex min-h-11 flex-col items-center rounded-sm border-2 px-0.5 pt-1 ${chosen ? "border-blue bg-blue-bg" : "border-transparent hover:border-line"}`}
      >
        <span className="sr-only">{described(wheel)}</span>
        <span
          aria-hidden
          className="flex h-8 items-end gap-1 font-mono text-heading leading-none font-bold"
        >
          {wheel.teeth}
          {wheel.count > 1 && (
            <span className="text-fine font-normal text-soft">×{wheel.count}</span>
          )}
        </span>
        <svg width={wide} height={Math.max(2 * radius + 4, 12)} aria-hidden>
          {outline && (
            <path
              d={wheelPath(outline) + hole(outline.bore_radius_mm || 3)}
              transform={`translate(${wide / 2} ${radius + 2}) scale(${scale} ${-scale})`}
              fill={fill}
              fillRule="evenodd"
              stroke={line}
              strokeWidth={wheel.stray || wheel.condition !== "good" ? 1.8 : 1}
              strokeDasharray={missing || wheel.family === null ? "3 2" : undefined}
              vectorEffect="non-scaling-stroke"
            />
          )}
        </svg>
        <span
          aria-hidden
          className={`text-fine leading-tight ${state === "on" ? "text-brass" : state === "missing" ? "text-soft" : "text-oxide"}`}
          style={{ minHeight: LABEL / 2 }}
        >
          {state}
        </span>
      </button>
    </li>
  );
}

function described(wheel: RackWheel): string {
  const parts = [
    `${wheel.teeth} teeth`,
    wheel.count === 0 ? "missing" : wheel.count > 1 ? `${wheel.count} of them` : "",
    wheel.condition === "good" ? "" : wheel.condition,
  ];
  parts.push(
    wheel.mounted ? `on ${wheel.machine_name} now` : (wheel.machine_name ?? ""),
    wheel.place,
    wheel.note,
    wheel.stray ?? "",
  );
  return parts.filter(Boolean).join(", ");
}
