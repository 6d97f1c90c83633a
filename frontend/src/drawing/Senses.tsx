import type { Drawing, Outline } from "../api/client";
import type { Point } from "./point";
import type { View } from "./view";
import { senseOf, shaftsWithSense, type Words } from "./words";

/** Which way the first and the last shaft turn. */
export function Senses(props: {
  drawing: Drawing;
  counts: Words["counts"];
  view: View;
  outlines: Outline[];
}) {
  const { drawing } = props;
  return shaftsWithSense(drawing).map((n) => {
    const { x, y, r, middle } = senseOf(n, drawing, props.counts, props.view, props.outlines);
    // px run downward, so that what turns anticlockwise runs against the angle.
    const way = -Math.sign(drawing.wheels[n]!.turns);
    const point = (angle: number, radius: number): Point => [
      x + radius * Math.cos(angle),
      y + radius * Math.sin(angle),
    ];
    const [start, end] = [point(middle - way * 0.55, r), point(middle + way * 0.55, r)];
    const lean = middle + way * (0.55 - Math.min(0.35, 11 / r));
    const head = [point(lean, r + 5), end, point(lean, r - 5)];
    return (
      <g key={n} fill="none" stroke="var(--ink)" strokeWidth={2}>
        <path d={`M${start.join(" ")}A${r} ${r} 0 0 ${way > 0 ? 1 : 0} ${end.join(" ")}`} />
        <polygon
          points={head.map((p) => p.join(",")).join(" ")}
          fill="var(--ink)"
          strokeWidth={1}
        />
      </g>
    );
  });
}
