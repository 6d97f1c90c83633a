import type { Drawing } from "../api/client";
import type { Point } from "./point";

export const RADIANS = Math.PI / 180;
// mm that the swing's arc lies outside the first slot's end.
const BEYOND = 26;

/** Points that the swing's arc runs through, for the drawing to have room for it. */
export function swingPoints(drawing: Drawing, [low, high]: [number, number]): Point[] {
  const radius = arcRadius(drawing);
  return [0, 0.25, 0.5, 0.75, 1].map((part) =>
    turned(radius, (low + (high - low) * part) * RADIANS),
  );
}

/** mm from the pivot to the arc that shows the swing. */
export function arcRadius(drawing: Drawing): number {
  return (drawing.slots[0]?.farthest_mm ?? 100) + BEYOND;
}

/** The point so far from the pivot in a direction, radians. */
export function turned(radius: number, angle: number): Point {
  return [radius * Math.cos(angle), radius * Math.sin(angle)];
}
