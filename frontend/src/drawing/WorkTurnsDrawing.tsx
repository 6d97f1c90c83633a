import type { Schemas } from "../api/client";

const [WIDTH, HEIGHT] = [520, 330];
const [X, Y, R] = [250, 168, 74];
const TEETH = 24;

/** The table from its right-hand end: which way the work turns while the table goes away or comes nearer. The operator
 * stands at the left in this view, the column is at the right. */
export function WorkTurnsDrawing({
  turning,
  left,
}: {
  turning: Schemas["TurningOut"];
  /** Whether the table moves left, which is away from whoever looks from its right-hand end. */
  left: boolean;
}) {
  const way = left ? turning.moving_left : turning.moving_right;
  const clock = way === "clockwise" ? 1 : -1;
  const point = (degrees: number, r: number): [number, number] => {
    const a = (degrees * Math.PI) / 180;
    return [X + r * Math.cos(a), Y + r * Math.sin(a)];
  };
  const arrow = R + 26;
  const [start, end] = [point(-90 - clock * 62, arrow), point(-90 + clock * 62, arrow)];
  const lean = point(-90 + clock * 50, arrow);
  const along = Math.atan2(end[1] - lean[1], end[0] - lean[0]);
  const wing = (side: number) => [
    end[0] - 18 * Math.cos(along + side * 0.42),
    end[1] - 18 * Math.sin(along + side * 0.42),
  ];
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="block h-full max-h-full w-full select-none"
      role="img"
      aria-label={`Seen from the right-hand end of the table: it moves ${left ? "left, away from you" : "right, toward you"}, the work turns ${way}`}
    >
      <rect x={448} y={20} width={60} height={290} fill="var(--steel)" stroke="var(--ink)" />
      <text x={478} y={300} textAnchor="middle" fontSize={18} className="fill-ink">
        column
      </text>
      {/* The cutter on its arbor, above the work. */}
      <rect
        x={X - 60}
        y={30}
        width={198 + 60}
        height={14}
        fill="var(--paper)"
        stroke="var(--ink)"
      />
      <rect x={X - 5} y={6} width={10} height={62} fill="var(--ink)" fillOpacity={0.85} />
      <text x={X + 70} y={24} fontSize={18} className="fill-ink">
        arbor and cutter
      </text>
      <g stroke="var(--ink)" strokeWidth={1.4}>
        <rect x={X - 112} y={Y + R + 14} width={224} height={30} fill="var(--steel)" />
        <rect x={X - 70} y={Y + R + 44} width={140} height={22} fill="var(--paper)" />
      </g>
      <g>
        <circle
          cx={X}
          cy={Y}
          r={R}
          fill="var(--brass-bg)"
          stroke="var(--brass)"
          strokeWidth={1.6}
        />
        {Array.from({ length: TEETH }, (_, n) => {
          const [[x1, y1], [x2, y2]] = [
            point((n * 360) / TEETH, R - 11),
            point((n * 360) / TEETH, R),
          ];
          return <line key={n} {...{ x1, y1, x2, y2 }} stroke="var(--brass)" strokeWidth={2} />;
        })}
        <circle cx={X} cy={Y} r={13} fill="var(--paper)" stroke="var(--brass)" strokeWidth={1.4} />
      </g>
      <path
        d={`M${start.join(" ")}A${arrow} ${arrow} 0 0 ${clock > 0 ? 1 : 0} ${end.join(" ")}`}
        fill="none"
        stroke="var(--blue)"
        strokeWidth={5}
      />
      <polygon
        points={[end, wing(1), wing(-1)].map((p) => p.join(",")).join(" ")}
        fill="var(--blue)"
      />
      {/* An arrow that flies away shows its feathers, one that comes its tip. */}
      <g transform={`translate(${X - 82} ${Y + R + 29})`} stroke="var(--ink)" strokeWidth={2}>
        <circle r={11} fill="var(--paper)" />
        {left ? <path d="M-7 -7L7 7M-7 7L7 -7" /> : <circle r={3} fill="var(--ink)" />}
      </g>
      <text x={X - 60} y={Y + R + 34} fontSize={18} className="fill-ink">
        table goes {left ? "left, away" : "right, nearer"}
      </text>
      <text x={16} y={Y + R + 34} fontSize={18} className="fill-ink">
        operator
      </text>
      <text x={16} y={40} fontSize={24} className="fill-ink font-bold">
        {way}
      </text>
    </svg>
  );
}
