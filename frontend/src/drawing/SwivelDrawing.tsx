import type { Schemas } from "../api/client";

const [WIDTH, HEIGHT] = [276, 168];
const [MIDDLE_X, MIDDLE_Y] = [138, 84];
const HOB = { length: 150, radius: 32 };

/** The hob before the work as the operator sees it: the head turned, the teeth behind it leaning as they will be cut. The
 * thread on the far side, where it cuts, is dashed, and lies along the teeth. */
export function SwivelDrawing({ swivel }: { swivel: Schemas["SwivelOut"] }) {
  const lines = Array.from({ length: 13 }, (_, n) => (n - 6) * 20);
  const threads = Array.from({ length: 9 }, (_, n) => (n - 4) * 15);
  const lean = (degrees: number) => Math.tan((degrees * Math.PI) / 180);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      width="100%"
      role="img"
      aria-label={`Hob head turned ${Math.abs(swivel.turned).toFixed(2)} degrees ${swivel.turned < 0 ? "anticlockwise" : "clockwise"}, seen with the hob between you and the work`}
      className="block max-w-[340px]"
    >
      <clipPath id="work">
        <rect x={8} y={10} width={WIDTH - 16} height={HEIGHT - 20} />
      </clipPath>
      <clipPath id="hob">
        <rect
          x={-HOB.length / 2}
          y={-HOB.radius}
          width={HOB.length}
          height={2 * HOB.radius}
          rx={4}
        />
      </clipPath>
      <g clipPath="url(#work)">
        <rect
          x={8}
          y={10}
          width={WIDTH - 16}
          height={HEIGHT - 20}
          fill="var(--steel)"
          stroke="var(--steel-2)"
        />
        {lines.map((x) => (
          <line
            key={x}
            x1={MIDDLE_X + x - lean(swivel.teeth) * MIDDLE_Y}
            y1={HEIGHT}
            x2={MIDDLE_X + x + lean(swivel.teeth) * MIDDLE_Y}
            y2={0}
            stroke="var(--steel-2)"
            strokeWidth={7}
          />
        ))}
      </g>
      <line
        x1={14}
        y1={MIDDLE_Y}
        x2={WIDTH - 14}
        y2={MIDDLE_Y}
        stroke="var(--ink)"
        strokeWidth={0.8}
        strokeDasharray="8 3 2 3"
      />
      <g transform={`translate(${MIDDLE_X} ${MIDDLE_Y}) rotate(${swivel.turned})`}>
        <rect
          x={-HOB.length / 2}
          y={-HOB.radius}
          width={HOB.length}
          height={2 * HOB.radius}
          rx={4}
          fill="var(--paper)"
          fillOpacity={0.86}
          stroke="var(--ink)"
          strokeWidth={1.6}
        />
        <line
          x1={-HOB.length / 2 - 22}
          y1={0}
          x2={HOB.length / 2 + 22}
          y2={0}
          stroke="var(--ink)"
          strokeWidth={0.8}
          strokeDasharray="8 3 2 3"
        />
        <g clipPath="url(#hob)">
          {threads.map((x) => (
            <g key={x}>
              <line
                x1={x + lean(swivel.thread) * HOB.radius}
                y1={HOB.radius}
                x2={x - lean(swivel.thread) * HOB.radius}
                y2={-HOB.radius}
                stroke="var(--steel-2)"
                strokeWidth={2.6}
              />
              <line
                x1={x - lean(swivel.thread) * HOB.radius}
                y1={HOB.radius}
                x2={x + lean(swivel.thread) * HOB.radius}
                y2={-HOB.radius}
                stroke="var(--blue)"
                strokeWidth={1.6}
                strokeDasharray="4 3"
              />
            </g>
          ))}
        </g>
      </g>
      <text x={WIDTH - 12} y={HEIGHT - 14} textAnchor="end" fontSize={14} fill="var(--ink)">
        {swivel.turned === 0 ? "straight" : swivel.turned < 0 ? "right end up" : "right end down"}
      </text>
    </svg>
  );
}
