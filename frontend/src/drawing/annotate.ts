import type { Point } from "./point";

/** A rim or a boss on the paper, px. */
export interface Circle {
  x: number;
  y: number;
  r: number;
}

/** What a word covers, px. */
interface Box {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

const WORD = 1000;
const OFF_PAPER = 800;
const RIM = 300;
const LEADER = 120;
const FOREIGN = 400;
/** Directions that are tried round a point. */
export const DIRECTIONS = 16;
const SMALLER = 4;

/** A place that a word may have, and how large it would be there. */
export interface Spot {
  at: Point;
  wide: number;
  high: number;
  /** What is against it. */
  cost?: number;
}

/** Puts words on a drawing one after the other, each where it covers no rim and no other word. */
export class Annotations {
  private readonly taken: Box[] = [];

  constructor(
    private readonly circles: Circle[],
    private readonly width: number,
    private readonly height: number,
  ) {}

  /** Keep the place of something that is drawn there already. */
  keep([x, y]: Point, wide: number, high: number) {
    this.taken.push(box(x, y, wide, high));
  }

  /** The best of these spots for a word, the first of equals. `foreign`: circles that it had better not stand in, for
   *  it belongs to another. `from`: where a line leads to it from. */
  place(spots: Spot[], foreign: Circle[], from?: Point): Spot {
    let best = spots[0]!;
    let least = Infinity;
    spots.forEach((spot, n) => {
      const cost =
        this.cost(spot, foreign, from) + n * 0.1 + (spots[0]!.high - spot.high) * SMALLER * 0.1;
      if (cost < least) [best, least] = [spot, cost];
    });
    this.keep(best.at, best.wide, best.high);
    return best;
  }

  private cost({ at: [x, y], wide, high }: Spot, foreign: Circle[], from?: Point): number {
    const word = box(x, y, wide, high);
    const paper =
      word.left < 4 || word.top < 4 || word.right > this.width - 4 || word.bottom > this.height - 4;
    const covered = this.taken.filter((other) => overlap(word, other)).length;
    const rims = this.circles.filter((circle) => crosses(word, circle)).length;
    const led = from ? this.circles.filter((c) => within(c, from) !== within(c, [x, y])).length : 0;
    const strange = foreign.filter((circle) => within(circle, [x, y])).length;
    return (paper ? OFF_PAPER : 0) + covered * WORD + rims * RIM + led * LEADER + strange * FOREIGN;
  }
}

function box(x: number, y: number, wide: number, high: number): Box {
  return { left: x - wide / 2, right: x + wide / 2, top: y - high / 2, bottom: y + high / 2 };
}

function overlap(one: Box, other: Box): boolean {
  return (
    one.left < other.right + 3 &&
    other.left < one.right + 3 &&
    one.top < other.bottom + 2 &&
    other.top < one.bottom + 2
  );
}

/** Whether the circle's line runs through the box, or close by. */
function crosses(word: Box, { x, y, r }: Circle): boolean {
  const dx = Math.max(word.left - x, 0, x - word.right);
  const dy = Math.max(word.top - y, 0, y - word.bottom);
  const farX = Math.max(Math.abs(word.left - x), Math.abs(word.right - x));
  const farY = Math.max(Math.abs(word.top - y), Math.abs(word.bottom - y));
  return Math.hypot(dx, dy) < r + 3 && Math.hypot(farX, farY) > r - 3;
}

function within({ x, y, r }: Circle, [px, py]: Point): boolean {
  return Math.hypot(px - x, py - y) < r;
}

/** Spots round a point, this many px from it, nearest first; the first direction is straight below. */
export function around([x, y]: Point, distances: number[], wide: number, high: number): Spot[] {
  return distances.flatMap((distance) =>
    Array.from({ length: DIRECTIONS }, (_, n): Spot => {
      const side = n % 2 ? -1 : 1;
      const angle = Math.PI / 2 + (side * Math.ceil(n / 2) * 2 * Math.PI) / DIRECTIONS;
      return { at: [x + distance * Math.cos(angle), y + distance * Math.sin(angle)], wide, high };
    }),
  );
}

/** The same for a word beside a circle: its near side is so far from the middle. */
export function beside(middle: Point, distances: number[], wide: number, high: number): Spot[] {
  return around(middle, distances, wide, high).map(({ at: [x, y] }) => {
    const angle = Math.atan2(y - middle[1], x - middle[0]);
    return { at: [x + (wide / 2) * Math.cos(angle), y], wide, high };
  });
}
