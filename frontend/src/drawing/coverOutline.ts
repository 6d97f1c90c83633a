import type { Drawing } from "../api/client";
import type { Point } from "./point";
import type { View } from "./view";

/** The cover's outline on the paper: what would lie off it is at its edge, with a break in the line. */
export interface CoverOutline {
  corners: Point[];
  breaks: { x: number; y: number; turn: number }[];
  text: string;
  /** Where its name may stand, the best place first. */
  spots: Point[];
}

// px between the paper's edge and what is drawn at it.
const EDGE = 7;
// An edge shorter than this has no room for a break, px.
const SHORT = 60;

export function coverOutline(
  drawing: Drawing,
  view: View,
  width: number,
  height: number,
): CoverOutline | undefined {
  if (!drawing.cover) return undefined;
  const real = drawing.cover.map(view.spot);
  const corners = real.map(([x, y]): Point => [
    Math.min(width - EDGE, Math.max(EDGE, x)),
    Math.min(height - EDGE, Math.max(EDGE, y)),
  ]);
  const breaks = corners.flatMap((start, n) => {
    const next = (n + 1) % corners.length;
    const [dx, dy] = minus(corners[next]!, start);
    const moved = [n, next].some((k) => Math.hypot(...minus(corners[k]!, real[k]!)) > 1);
    if (!moved || Math.hypot(dx, dy) < SHORT) return [];
    const turn = (Math.atan2(dy, dx) * 180) / Math.PI;
    return [{ x: start[0] + dx / 2, y: start[1] + dy / 2, turn }];
  });
  const text = breaks.length ? "cover, farther out" : "cover";
  const wide = text.length * 7.2;
  const [left, right] = [
    Math.min(...corners.map((c) => c[0])),
    Math.max(...corners.map((c) => c[0])),
  ];
  const [top, bottom] = [
    Math.min(...corners.map((c) => c[1])),
    Math.max(...corners.map((c) => c[1])),
  ];
  const along = [0, 0.2, 0.4, 0.6, 0.8, 1].map(
    (share) => left + 10 + wide / 2 + share * Math.max(0, right - left - wide - 20),
  );
  const spots = [top + 14, bottom - 14].flatMap((y) => along.map((x): Point => [x, y]));
  return { corners, breaks, text, spots };
}

function minus([ax, ay]: Point, [bx, by]: Point): Point {
  return [ax - bx, ay - by];
}
