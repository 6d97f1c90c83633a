import type { CoverOutline } from "./coverOutline";
import type { Point } from "./point";

/** The cover's outline with its name. */
export function Cover({ outline, at }: { outline: CoverOutline; at: Point }) {
  return (
    <g className="fill-none">
      <polygon
        points={outline.corners.map((c) => c.join(",")).join(" ")}
        stroke="var(--steel-2)"
        strokeWidth={2}
        strokeDasharray="12 7"
      />
      {outline.breaks.map(({ x, y, turn }, n) => (
        <g key={n} transform={`translate(${x} ${y}) rotate(${turn})`}>
          <rect x={-15} y={-6} width={30} height={12} fill="var(--paper)" />
          <path d="M-15 0H-7L-3 -7L3 7L7 0H15" stroke="var(--steel-2)" strokeWidth={2} />
        </g>
      ))}
      <text
        x={at[0]}
        y={at[1]}
        textAnchor="middle"
        dominantBaseline="central"
        fontSize={14}
        className="fill-ink"
      >
        {outline.text}
      </text>
    </g>
  );
}
