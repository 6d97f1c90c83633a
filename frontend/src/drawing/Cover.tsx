import type { Drawing } from "../api/client";
import type { Point, View } from "./view";

/** The cover's outline. What would lie off the paper is drawn at its edge with a break in the line. */
export function Cover(props: { drawing: Drawing; view: View; width: number; height: number }) {
  const { drawing, view, width, height } = props;
  if (!drawing.cover) return null;
  const corners = drawing.cover.map(view.spot);
  const inside = corners.map(([x, y]): Point => [
    Math.min(width - 7, Math.max(7, x)),
    Math.min(height - 7, Math.max(7, y)),
  ]);
  const breaks = inside.flatMap((start, n) => {
    const next = (n + 1) % inside.length;
    const end = inside[next]!;
    const moved = [n, next].some((k) => Math.hypot(...minus(inside[k]!, corners[k]!)) > 1);
    const [dx, dy] = minus(end, start);
    const long = Math.hypot(dx, dy);
    if (!moved || long < 60) return [];
    const turn = (Math.atan2(dy, dx) * 180) / Math.PI;
    return [{ x: start[0] + dx / 2, y: start[1] + dy / 2, turn }];
  });
  const [x, y] = inside.reduce((best, c) => (c[0] + c[1] < best[0] + best[1] ? c : best));
  return (
    <g className="fill-none">
      <polygon
        points={inside.map((c) => c.join(",")).join(" ")}
        stroke="var(--steel-2)"
        strokeWidth={2}
        strokeDasharray="12 7"
      />
      {breaks.map((at, n) => (
        <g key={n} transform={`translate(${at.x} ${at.y}) rotate(${at.turn})`}>
          <rect x={-15} y={-6} width={30} height={12} fill="var(--paper)" />
          <path d="M-15 0H-7L-3 -7L3 7L7 0H15" stroke="var(--steel-2)" strokeWidth={2} />
        </g>
      ))}
      <text x={x + 10} y={y + 18} fontSize={14} className="fill-ink">
        {breaks.length ? "cover, farther out" : "cover"}
      </text>
    </g>
  );
}

function minus([ax, ay]: Point, [bx, by]: Point): Point {
  return [ax - bx, ay - by];
}
