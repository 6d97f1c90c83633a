import type { ChartRow, Units } from "../api/client";
import { StandingShape } from "./StandingSign";
import { onEnter } from "./inHand";
import { MM_PER_INCH } from "./paper";

const LABEL = 128;
const MARK = 20;
const STEP = 24;
const TICKS: Record<Units, number[]> = {
  mm: [0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20],
  inch: [0.0005, 0.001, 0.002, 0.005, 0.01, 0.02, 0.05, 0.1, 0.2, 0.5, 1],
};
const UNIT: Record<Units, string> = { mm: "mm", inch: "in" };
const TICKS_TPI = [4, 6, 8, 10, 14, 20, 28, 40, 60, 80];

interface Lane {
  name: string;
  rows: ChartRow[];
}

/** Every pitch at its place on one scale from fine to coarse, a lane for each list, as the nut that says how it stands. */
export function ChartPicture({
  lanes,
  feeds,
  units,
  width,
  take,
}: {
  lanes: Lane[];
  feeds: boolean;
  units: Units;
  width: number;
  take: (row: ChartRow) => void;
}) {
  const all = lanes.flatMap((lane) => lane.rows);
  if (!all.length || width < 300) return null;
  const [low, high] = [
    Math.min(...all.map((r) => r.pitch_mm)),
    Math.max(...all.map((r) => r.pitch_mm)),
  ];
  const room = width - LABEL - 24;
  const x = (mm: number) =>
    LABEL +
    12 +
    (high > low ? (Math.log(mm / low) / Math.log(high / low)) * (room - MARK) : room / 2) +
    MARK / 2;
  const tall = lanes.map((lane) => {
    const placed = stacked(lane.rows, x);
    const depth = 1 + Math.max(0, ...placed.map((p) => p.level));
    return { ...lane, placed, height: depth * STEP };
  });
  const below = (count: number) =>
    tall.slice(0, count).reduce((y, lane) => y + lane.height + 14, 30);
  const drawn = tall.map((lane, n) => ({ ...lane, top: below(n) }));
  const height = below(tall.length) + 26;
  const inside = (mm: number) => mm >= low * 0.98 && mm <= high * 1.02;
  return (
    <svg
      width={width}
      height={height}
      role="group"
      aria-label="pitches from fine to coarse"
      className="block"
    >
      {TICKS[units]
        .map((tick) => [tick, units === "mm" ? tick : tick * MM_PER_INCH] as const)
        .filter(([, mm]) => inside(mm))
        .map(([tick, mm]) => (
          <g key={tick}>
            <line x1={x(mm)} y1={22} x2={x(mm)} y2={height - 24} stroke="var(--line)" />
            <text
              x={x(mm)}
              y={height - 8}
              textAnchor="middle"
              fontSize={14}
              fill="var(--soft)"
              className="font-mono"
            >
              {tick}
            </text>
          </g>
        ))}
      <text x={8} y={height - 8} fontSize={14} fill="var(--soft)">
        {feeds ? `${UNIT[units]} per turn` : `pitch, ${UNIT[units]}`}
      </text>
      {!feeds &&
        TICKS_TPI.filter((t) => inside(MM_PER_INCH / t)).map((t) => (
          <g key={t}>
            <line
              x1={x(MM_PER_INCH / t)}
              y1={18}
              x2={x(MM_PER_INCH / t)}
              y2={24}
              stroke="var(--steel-2)"
            />
            <text
              x={x(MM_PER_INCH / t)}
              y={13}
              textAnchor="middle"
              fontSize={14}
              fill="var(--soft)"
              className="font-mono"
            >
              {t}
            </text>
          </g>
        ))}
      {!feeds && (
        <text x={8} y={13} fontSize={14} fill="var(--soft)">
          to the inch
        </text>
      )}
      {drawn.map((lane) => (
        <g key={lane.name}>
          <text x={8} y={lane.top + lane.height / 2 + 5} fontSize={15} fill="var(--ink)">
            {lane.name}
          </text>
          <line
            x1={LABEL}
            y1={lane.top + lane.height + 6}
            x2={width - 8}
            y2={lane.top + lane.height + 6}
            stroke="var(--line)"
          />
          {lane.placed.map(({ row, at, level }) => (
            <g
              key={row.ask}
              role="link"
              tabIndex={0}
              aria-label={`${row.pitch}: ${row.standing_text}${row.text ? `, ${row.text}` : ""}`}
              transform={`translate(${at - MARK / 2} ${lane.top + level * STEP}) scale(${MARK / 24})`}
              className="group cursor-pointer outline-none"
              onClick={() => take(row)}
              onKeyDown={onEnter(() => take(row))}
            >
              <rect
                x={-2}
                y={-3}
                width={28}
                height={30}
                fill="transparent"
                className="group-focus-visible:stroke-blue group-focus-visible:stroke-3"
              />
              <StandingShape standing={row.standing} goes={row.goes} />
              <title>{`${row.pitch}${row.sizes && `, ${row.sizes}`}: ${row.standing_text}${row.text ? `, ${row.text}` : ""}`}</title>
            </g>
          ))}
        </g>
      ))}
    </svg>
  );
}

/** Marks that would cover each other stand one below the other. */
function stacked(rows: ChartRow[], x: (mm: number) => number) {
  const ends: number[] = [];
  return [...rows]
    .sort((a, b) => a.pitch_mm - b.pitch_mm)
    .map((row) => {
      const at = x(row.pitch_mm);
      let level = ends.findIndex((end) => end <= at - MARK / 2 - 2);
      if (level < 0) level = ends.length;
      ends[level] = at + MARK / 2;
      return { row, at, level };
    });
}
