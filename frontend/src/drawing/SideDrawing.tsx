import type { Side } from "../api/jobs";
import { scaleText } from "./paper";

const MARGIN = 10;
// mm of jaw drawn.
const JAW = 16;
const BESIDE = ["jaws", "collar", "nut", "table"];
// mm of table drawn.
const TABLE = 8;

/**
 * Blank, what holds it, nut, table, cutter and collar from the side, to scale, with every clearance: the cutter where
 * the cut is done, and dashed where it begins.
 */
export function SideDrawing({
  side,
  width,
  height,
}: {
  side: Side;
  width: number;
  height: number;
}) {
  const named = BESIDE.filter((what) => side.texts[what]);
  const foot = 10 + 20 * Math.ceil((named.length + 2) / 2);
  const left = Math.min(-side.past - side.cutter / 2, -side.jaw_gap - JAW) - 2;
  const right = Math.max(side.face + side.past + side.cutter / 2, side.face + side.nut) + 2;
  const whole = side.centre !== null;
  const low = whole
    ? -Math.max(side.centre ?? 0, side.radius, side.jaw_radius) - TABLE
    : -Math.max(side.radius, side.jaw_radius) * 0.25;
  // Cut away below where no table is drawn.
  const under = (radius: number) => (whole ? -radius : low);
  const high = side.axis + side.cutter / 2;
  const scale = Math.min(
    (width - 2 * MARGIN) / (right - left),
    (height - MARGIN - foot) / (high - low),
  );
  const at = (x: number, y: number): [number, number] => [
    width / 2 + (x - (left + right) / 2) * scale,
    MARGIN + (high - y) * scale,
  ];
  const block = (x1: number, y1: number, x2: number, y2: number) => {
    const [[a, b], [c, d]] = [at(x1, y2), at(x2, y1)];
    return { x: a, y: b, width: c - a, height: d - b };
  };
  const [cx, cy] = at(-side.past, side.axis);
  const [bx, by] = at(side.face + side.past, side.axis);
  const look = (what: string) =>
    side.fouls.includes(what)
      ? { stroke: "var(--oxide)", strokeWidth: 2.6 }
      : { stroke: "var(--ink)", strokeWidth: 1.2 };
  const axis = [at(left, 0), at(right, 0)] as const;
  const deep = [at(0, side.radius - side.depth), at(side.face, side.radius - side.depth)] as const;
  const cells: [string, string, boolean][] = [
    ...named.map((what): [string, string, boolean] => [
      `${what === "jaws" ? side.held : what} clear`,
      side.texts[what] ?? "",
      side.fouls.includes(what),
    ]),
    ["travel", side.texts.travel ?? "", false],
    ["scale", scaleText(scale), false],
  ];
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`from the side: ${named.map((what) => `${what} ${side.texts[what]}`).join(", ")}, past the face ${side.texts.past}`}
      className="block"
    >
      <g stroke="var(--ink)" strokeWidth={1.2}>
        {side.centre !== null && (
          <rect
            {...block(left, -side.centre - TABLE, right, -side.centre)}
            fill="var(--steel)"
            {...look("table")}
          />
        )}
        <rect {...block(0, under(side.radius), side.face, side.radius)} fill="var(--brass-bg)" />
        <rect
          {...block(-side.jaw_gap - JAW, under(side.jaw_radius), -side.jaw_gap, side.jaw_radius)}
          fill="var(--steel)"
          {...look("jaws")}
        />
        {side.mandrel > 0 && (
          <rect
            {...block(-side.jaw_gap, under(side.mandrel), side.face + side.nut, side.mandrel)}
            fill="var(--steel)"
          />
        )}
        {side.nut > 0 && (
          <rect
            {...block(side.face, under(side.nut_radius), side.face + side.nut, side.nut_radius)}
            fill="var(--steel)"
            {...look("nut")}
          />
        )}
        {side.spacer > 0 && (
          <rect
            {...block(-side.spacer, under(side.jaw_radius * 0.5), 0, side.jaw_radius * 0.5)}
            fill="none"
            strokeDasharray="4 3"
          />
        )}
        <circle
          cx={bx}
          cy={by}
          r={(side.cutter / 2) * scale}
          fill="none"
          strokeDasharray="4 3"
          strokeWidth={0.9}
        />
        <line x1={bx} y1={by} x2={cx} y2={cy} strokeDasharray="4 3" strokeWidth={0.9} />
        <circle
          cx={cx}
          cy={cy}
          r={(side.cutter / 2) * scale}
          fill="var(--paper)"
          fillOpacity={0.55}
          strokeWidth={1.6}
        />
        <circle
          cx={cx}
          cy={cy}
          r={(side.collar / 2) * scale}
          fill="var(--steel)"
          {...look("collar")}
        />
        <line
          x1={axis[0][0]}
          y1={axis[0][1]}
          x2={axis[1][0]}
          y2={axis[1][1]}
          strokeDasharray="10 3 2 3"
          strokeWidth={0.9}
        />
        <line
          x1={deep[0][0]}
          y1={deep[0][1]}
          x2={deep[1][0]}
          y2={deep[1][1]}
          strokeDasharray="4 3"
        />
      </g>
      <g fontSize={14} className="fill-ink">
        {cells.map(([name, value, wrong], n) => (
          <text
            key={name}
            x={MARGIN + (n % 2) * (width / 2)}
            y={height - foot + 20 + 20 * (n >> 1)}
          >
            {name}{" "}
            <tspan className={`font-mono font-bold ${wrong ? "fill-oxide" : ""}`}>{value}</tspan>
          </text>
        ))}
      </g>
    </svg>
  );
}
