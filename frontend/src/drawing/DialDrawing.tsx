import type { Schemas } from "../api/client";

const SIZE = 116;
const MIDDLE = SIZE / 2;

/** The thread dial with its marks: those at which the half-nuts may close are filled. */
export function DialDrawing({ dial }: { dial: Schemas["DialOut"] }) {
  const at = (mark: number, radius: number) => {
    const angle = ((mark - 1) / dial.marks) * 2 * Math.PI - Math.PI / 2;
    return [MIDDLE + radius * Math.cos(angle), MIDDLE + radius * Math.sin(angle)] as const;
  };
  return (
    <svg
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      width={SIZE}
      height={SIZE}
      role="img"
      aria-label={`thread dial, close at ${dial.serving.join(", ")} of ${dial.marks} marks`}
      className="shrink-0"
    >
      <circle
        cx={MIDDLE}
        cy={MIDDLE}
        r={54}
        fill="var(--paper)"
        stroke="var(--ink)"
        strokeWidth={1.6}
      />
      {Array.from({ length: dial.marks }, (_, n) => n + 1).map((mark) => {
        const serves = dial.serving.includes(mark);
        const [x1, y1] = at(mark, 54);
        const [x2, y2] = at(mark, serves ? 44 : 48);
        const [x, y] = at(mark, 32);
        return (
          <g key={mark}>
            <line
              x1={x1}
              y1={y1}
              x2={x2}
              y2={y2}
              stroke={serves ? "var(--ink)" : "var(--steel-2)"}
              strokeWidth={serves ? 4 : 1.5}
            />
            {serves && <circle cx={x} cy={y} r={11} fill="var(--enamel-2)" />}
            <text
              x={x}
              y={y}
              textAnchor="middle"
              dominantBaseline="central"
              fontSize={15}
              className="font-mono font-bold"
              fill={serves ? "#f7f6f0" : "var(--soft)"}
            >
              {mark}
            </text>
          </g>
        );
      })}
      <circle cx={MIDDLE} cy={MIDDLE} r={5} fill="var(--ink)" />
    </svg>
  );
}
