import type { Drawing, Outline, Schemas } from "../api/client";
import type { Point } from "./point";
import { swingPoints } from "./swing";

type Spot = Schemas["Spot"];

export interface View {
  /** px of a point in mm on the machine */
  at: (x: number, y: number) => Point;
  spot: (spot: Spot) => Point;
  /** mm on the machine of a point in px */
  back: (x: number, y: number) => Point;
  /** px per mm */
  scale: number;
  /** of the paper, px */
  width: number;
}

export const MARGIN = 26;
// Below the drawing, room for the title block.
export const FOOT = 58;

/** How much larger the wheels must come out before the cover is drawn broken instead of whole. */
const WORTH_BREAKING = 1.2;

/** Wheels and slots fit into the paper with a margin, upright, y upward; the cover too where that keeps them large. */
export function viewOf(
  drawing: Drawing,
  outlines: Outline[],
  width: number,
  height: number,
  swing?: [number, number] | null,
): View {
  // Without wheels the bare quadrant is the subject, every slot of it.
  const bare = drawing.wheels.length === 0;
  const points = drawing.wheels.flatMap((w): Point[] => {
    const { x_mm, y_mm } = drawing.shafts[w.shaft]!;
    const tip = tipOf(w.teeth, outlines);
    return [
      [x_mm - tip, y_mm - tip],
      [x_mm + tip, y_mm + tip],
    ];
  });
  if (bare) {
    for (const { x_mm, y_mm, boss_radius_mm: r } of drawing.shafts)
      points.push([x_mm - 2 * r, y_mm - 2 * r], [x_mm + 2 * r, y_mm + 2 * r]);
  }
  for (const slot of drawing.slots.filter(
    (s) => bare || drawing.shafts.some((shaft) => shaft.slot === s.name),
  )) {
    const end = slot.farthest_mm + 1.1 * (drawing.shafts[1]?.boss_radius_mm ?? 0);
    points.push([Math.cos(slot.angle_rad) * end, Math.sin(slot.angle_rad) * end]);
  }
  for (const { start, end } of drawing.clearances)
    points.push([start.x_mm, start.y_mm], [end.x_mm, end.y_mm]);
  if (swing) points.push(...swingPoints(drawing, swing));
  const cover = (drawing.cover ?? []).map((p): Point => [p.x_mm, p.y_mm]);
  const whole = fitted([...points, ...cover], width, height);
  const close = fitted(points, width, height);
  return bare || swing || close.scale < WORTH_BREAKING * whole.scale ? whole : close;
}

function fitted(points: Point[], width: number, height: number): View {
  const [xs, ys] = [points.map((p) => p[0]), points.map((p) => p[1])];
  const [left, right, low, high] = [
    Math.min(...xs),
    Math.max(...xs),
    Math.min(...ys),
    Math.max(...ys),
  ];
  const scale = Math.max(
    0.01,
    Math.min((width - 2 * MARGIN) / (right - left), (height - MARGIN - FOOT) / (high - low)),
  );
  const [cx, cy] = [(left + right) / 2, (low + high) / 2];
  const at = (x: number, y: number): Point => [
    width / 2 + (x - cx) * scale,
    (height + MARGIN - FOOT) / 2 - (y - cy) * scale,
  ];
  const back = (x: number, y: number): Point => [
    cx + (x - width / 2) / scale,
    cy - (y - (height + MARGIN - FOOT) / 2) / scale,
  ];
  return { scale, width, at, back, spot: ({ x_mm, y_mm }) => at(x_mm, y_mm) };
}

/** Tip radius of a wheel, mm; 0 where its outline is not there yet. */
export function tipOf(teeth: number, outlines: Outline[]): number {
  return outlines.find((o) => o.teeth === teeth)?.tip_radius_mm ?? 0;
}
