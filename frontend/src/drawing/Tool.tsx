import type { Schemas } from "../api/client";
import type { ToPaper } from "./point";

/** Where a point of the wheel, mm from its centre and y upward, is on the paper. */

const JAW = {
  fill: "var(--brass-bg)",
  fillOpacity: 0.85,
  stroke: "var(--brass-line)",
  strokeWidth: 1.8,
};
// px: a jaw's width, half the length of one that comes from the side, how far one from above reaches beyond the tips.
const [WIDE, HALF, ABOVE] = [18, 42, 24];

/** A measuring tool on a wheel: over a span or a chord its jaws come from above and are joined, else from the sides. */
export function Tool({
  tool,
  at,
  scale,
  tip,
}: {
  tool: Schemas["DrawnTool"];
  at: ToPaper;
  scale: number;
  tip: number;
}) {
  const [left, y] = at(tool.left_mm, tool.height_mm);
  const [right] = at(tool.right_mm, tool.height_mm);
  const fromAbove = tool.height_mm > tip / 2;
  const top = fromAbove ? at(0, tip)[1] - ABOVE : y - HALF;
  // As far below the touch as leaves it to be seen.
  const foot = fromAbove ? y + Math.min(26, 0.6 * (tip - tool.height_mm) * scale + 8) : y + HALF;
  return (
    <g>
      {tool.pins.map((pin) => {
        const [cx, cy] = at(pin.x_mm, pin.y_mm);
        return (
          <circle
            key={cx}
            cx={cx}
            cy={cy}
            r={(tool.pin_mm / 2) * scale}
            fill="var(--brass)"
            stroke="var(--paper)"
          />
        );
      })}
      <rect x={left - WIDE} y={top} width={WIDE} height={foot - top} {...JAW} />
      <rect x={right} y={top} width={WIDE} height={foot - top} {...JAW} />
      {fromAbove && (
        <rect x={left - WIDE} y={top - 14} width={right - left + 2 * WIDE} height={14} {...JAW} />
      )}
      {tool.touching.map((point) => {
        const [x, height] = at(point.x_mm, point.y_mm);
        return <circle key={`${x} ${height}`} cx={x} cy={height} r={3.4} fill="var(--oxide)" />;
      })}
    </g>
  );
}
