import type { Drawing, Outline, Schemas } from "../api/client";
import { Annotations, around, beside, type Circle, DIRECTIONS } from "./annotate";
import type { CoverOutline } from "./coverOutline";
import type { Point } from "./point";
import { FOOT, tipOf, type View } from "./view";

type Wheel = Schemas["DrawnWheel"];

// Width of a digit, of its height.
const CHAR = 0.62;
// A count stands in its wheel, smaller if need be, before it stands beside it.
const OUTSIDE = 60;
/** Width of a quadrant's arm, in radii of a stud's nut. */
export const ARM = 2.1;
// For each px that a name is farther from its shaft.
const FAR = 4;

/** Where counts, names and figures stand, px. */
export interface Words {
  counts: { at: Point; size: number }[];
  names: Point[];
  figures: Point[];
  cover?: Point;
}

/** Every word where it covers no rim and no other word: counts first, small wheels before large ones. */
export function placeWords(
  drawing: Drawing,
  outlines: Outline[],
  view: View,
  width: number,
  height: number,
  cover?: CoverOutline,
): Words {
  const { wheels, shafts } = drawing;
  const tips = wheels.map((w) => tipOf(w.teeth, outlines) * view.scale);
  const middle = (shaft: number) => view.at(shafts[shaft]!.x_mm, shafts[shaft]!.y_mm);
  const rims = wheels.map((w, n) => circle(middle(w.shaft), tips[n]!));
  const bosses = shafts.map((s, n) =>
    circle(middle(n), Math.max(4, s.boss_radius_mm * view.scale)),
  );
  const paper = new Annotations([...rims, ...bosses], width, height - FOOT + 12);
  for (const boss of bosses) paper.keep([boss.x, boss.y], 1.5 * boss.r, 1.5 * boss.r);
  for (const slot of drawing.slots) {
    const at = slotNameAt(slot, drawing, view);
    if (at) paper.keep([at.x + at.side * 22, at.y], 48, 16);
  }
  const counts: Words["counts"] = [];
  const others = (shaft: number) => rims.filter((_, n) => wheels[n]!.shaft !== shaft);
  for (const n of [...wheels.keys()].sort((a, b) => tips[a]! - tips[b]!)) {
    const wheel = wheels[n]!;
    const [tip, wide] = [tips[n]!, CHAR * countText(wheel).length];
    const usual = Math.min(38, Math.max(15, wheel.label_mm * view.scale * 1.35));
    const centre = middle(wheel.shaft);
    const inner = rims.filter((r, k) => wheels[k]!.shaft === wheel.shaft && r.r < tip);
    const spots = [usual, 0.8 * usual, 0.6 * usual]
      .filter((size) => size >= 14 || size === usual)
      .flatMap((size) => [
        { at: view.spot(wheel.label), wide: wide * size, high: size },
        ...around(
          centre,
          [0.62, 0.5, 0.56, 0.68, 0.74].map((s) => s * tip),
          wide * size,
          size,
        ),
        ...around(centre, [tip + 0.8 * size, tip + 1.2 * size], wide * size, size).map((spot) => ({
          ...spot,
          cost: OUTSIDE,
        })),
      ]);
    const { at, high } = paper.place(spots, [...others(wheel.shaft), ...inner]);
    counts[n] = { at, size: high };
  }
  for (const spot of senseSpots(drawing, counts, view, outlines)) paper.keep(spot, 26, 26);
  const names = shafts.map((shaft, n) => {
    const out = bosses[n]!.r;
    const away = [13, 26, 44, 70, 110].map((d) => out + d);
    // A name far from its shaft is worse than one that a rim runs through.
    const spots = beside(middle(n), away, shaft.name.length * 7.2, 15).map((spot, k) => ({
      ...spot,
      cost: FAR * (away[Math.floor(k / DIRECTIONS)]! - away[0]!),
    }));
    return paper.place(spots, others(n)).at;
  });
  const wide = (cover?.text.length ?? 0) * 7.2;
  const named =
    cover &&
    paper.place(
      cover.spots.map((at) => ({ at, wide, high: 16 })),
      [],
    ).at;
  const figures = drawing.clearances.map((c) => {
    const [[x1, y1], [x2, y2]] = [view.spot(c.start), view.spot(c.end)];
    const at: Point = [(x1 + x2) / 2, (y1 + y2) / 2];
    return paper.place(beside(at, [34, 48, 66, 90, 124], c.text.length * 8.4 + 14, 28), [], at).at;
  });
  return { counts, names, figures, cover: named };
}

function circle([x, y]: Point, r: number): Circle {
  return { x, y, r };
}

/** Colour is never the only difference: what fouls or has slipped has its mark. */
export function countText(wheel: Wheel): string {
  return `${wheel.fouls ? "◆" : ""}${wheel.teeth}`;
}

/** An arc that says which way a shaft turns. Away from the wheel's count, inside the rim where there is room. */
export function senseOf(
  n: number,
  drawing: Drawing,
  counts: Words["counts"],
  view: View,
  outlines: Outline[],
) {
  const wheel = drawing.wheels[n]!;
  const shaft = drawing.shafts[wheel.shaft]!;
  const [x, y] = view.at(shaft.x_mm, shaft.y_mm);
  const pitch = outlines.find((o) => o.teeth === wheel.teeth)?.pitch_radius_mm ?? 0;
  const r = view.scale * pitch < 75 ? view.scale * pitch + 14 : 0.86 * view.scale * pitch;
  const [cx, cy] = counts[n]!.at;
  return { x, y, r, middle: Math.atan2(cy - y, cx - x) + Math.PI };
}

/** The wheels whose turning is shown, where it is known: the first and the last. */
export function shaftsWithSense(drawing: Drawing): number[] {
  const ends = [0, drawing.wheels.length - 1];
  return ends.filter((n) => (drawing.wheels[n]?.turns ?? 0) !== 0);
}

function senseSpots(
  drawing: Drawing,
  counts: Words["counts"],
  view: View,
  outlines: Outline[],
): Point[] {
  return shaftsWithSense(drawing).map((n) => {
    const { x, y, r, middle } = senseOf(n, drawing, counts, view, outlines);
    return [x + r * Math.cos(middle), y + r * Math.sin(middle)];
  });
}

/** Where a slot’s name stands: beside its far end. Only of slots that the train uses, or of a bare quadrant. */
// px that the name of a slot takes beside its arm.
const SLOT_NAME = 64;

export function slotNameAt(slot: Drawing["slots"][number], drawing: Drawing, view: View) {
  const bare = drawing.wheels.length === 0;
  if (!bare && !drawing.shafts.some((shaft) => shaft.slot === slot.name)) return undefined;
  const [dx, dy] = [Math.cos(slot.angle_rad), Math.sin(slot.angle_rad)];
  const [x, y] = view.at(dx * slot.farthest_mm, dy * slot.farthest_mm);
  // On the side away from the arm, unless that is off the paper.
  const outward = dx < 0 ? -1 : 1;
  const side =
    x + outward * SLOT_NAME < 0 || x + outward * SLOT_NAME > view.width ? -outward : outward;
  const arm = (drawing.shafts[1]?.boss_radius_mm ?? 10) * ARM * view.scale;
  return { x: x + side * (arm / 2 + 8), y, side };
}
