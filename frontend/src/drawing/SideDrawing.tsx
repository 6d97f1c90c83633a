import type { Side } from "../api/jobs";
import { scaleText } from "./paper";

const MARGIN = 10;
// mm of jaw drawn.
const JAW = 16;

/** Blank, what holds it, cutter and collar from the side, where the cut is done; to scale, with every clearance. */
export function SideDrawing({
  side,
  width,
  height,
}: {
  side: Side;
  width: number;
  height: number;
}) {
  const left = Math.min(-side.past - side.cutter / 2, -side.jaw_gap - JAW) - 2;
  const right = Math.max(side.face + 10, -side.past + side.cutter / 2);
  const low = -Math.max(side.radius, side.jaw_radius) * 0.25;
  const high = side.axis + side.cutter / 2;
  const scale = Math.min(
    (width - 2 * MARGIN) / (right - left),
    (height - 2 * MARGIN - 18) / (high - low),
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
  const foul = (clear: number) => (clear < 0 ? "var(--oxide)" : "var(--ink)");
  const axis = [at(left, 0), at(right, 0)] as const;
  const deep = [at(0, side.radius - side.depth), at(side.face, side.radius - side.depth)] as const;
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={`from the side: jaws ${side.texts.jaws}, collar ${side.texts.collar}, past the face ${side.texts.past}`}
      className="block"
    >
      <g stroke="var(--ink)" strokeWidth={1.2}>
        <rect {...block(0, low, side.face, side.radius)} fill="var(--brass-bg)" />
        <rect
          {...block(-side.jaw_gap - JAW, low, -side.jaw_gap, side.jaw_radius)}
          fill="var(--steel)"
          stroke={foul(side.to_jaws)}
          strokeWidth={side.to_jaws < 0 ? 2.6 : 1.2}
        />
        {side.spacer > 0 && (
          <rect
            {...block(-side.spacer, low, 0, side.jaw_radius * 0.5)}
            fill="none"
            strokeDasharray="4 3"
          />
        )}
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
          stroke={foul(side.to_collar)}
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
        <text x={MARGIN} y={height - 6}>
          jaws <tspan className="font-mono font-bold">{side.texts.jaws}</tspan>, collar{" "}
          <tspan className="font-mono font-bold">{side.texts.collar}</tspan>
        </text>
        <text x={width - MARGIN} y={height - 6} textAnchor="end">
          {scaleText(scale)}
        </text>
      </g>
    </svg>
  );
}
