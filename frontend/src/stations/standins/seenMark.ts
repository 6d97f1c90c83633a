/** Which mark of a printed disc stands under the pointer, found in the picture alone. */

/** A mark in a picture. at: its middle, px from the left; wide: px. */
interface Mark {
  at: number;
  wide: number;
}

// A mark is darker than the paper by this much of what the picture has from bright to dark.
const DARK = 0.5;
// The least that a picture must have from bright to dark, of 255, and what counts as the first mark beside the others.
const [CONTRAST, FIRST, TOO_WIDE] = [45, 1.7, 3.2];
// With fewer marks in the picture it is not seen which one is broad.
const FEWEST = 3;
// From one picture to the next it turns on by less than this, in marks; else it is not known which one it is.
const FARTHEST = 0.45;

/** The marks of a picture, told by its columns' mean brightness. */
export function marksIn(columns: readonly number[]): Mark[] {
  const sorted = [...columns].sort((a, b) => a - b);
  const [dark, paper] = [sorted[0] ?? 0, sorted[Math.floor(sorted.length * 0.7)] ?? 0];
  if (paper - dark < CONTRAST) return [];
  const edge = paper - (paper - dark) * DARK;
  const marks: Mark[] = [];
  let from = -1;
  columns.forEach((bright, x) => {
    if (bright < edge && from < 0) from = x;
    const ends = from >= 0 && (bright >= edge || x === columns.length - 1);
    if (!ends) return;
    // One that is cut off by the edge has its middle elsewhere.
    if (from > 0 && bright >= edge) marks.push(weighed(columns, from, x, paper, dark));
    from = -1;
  });
  return marks;
}

function weighed(
  columns: readonly number[],
  from: number,
  to: number,
  paper: number,
  dark: number,
): Mark {
  const [first, last] = [Math.max(0, from - 2), Math.min(columns.length, to + 2)];
  let [sum, moment] = [0, 0];
  for (let x = first; x < last; x++) {
    const weight = Math.max(0, paper - columns[x]!);
    sum += weight;
    moment += weight * (x + 0.5);
  }
  // By how much ink there is: an edge between two columns, or grain, does not make it broader.
  return { at: moment / sum, wide: sum / (paper - dark) };
}

/** The mark under the pointer, from 1, with its fraction; null where the picture does not carry it.
 *
 * Numbers grow to the left, for turned on the disc goes to the right. The first mark is broader than the others: from it
 * they are counted. Where it is out of sight they are counted on from `last`, what was seen before. */
export function seenMark(
  columns: readonly number[],
  count: number,
  last: number | null,
): number | null {
  const marks = marksIn(columns);
  const pointer = columns.length / 2;
  const right = marks.findIndex((mark) => mark.at > pointer);
  const [before, after] = [marks[right - 1], marks[right]];
  if (!before || !after || marks.length < FEWEST) return null;
  const apart = after.at - before.at;
  // Marks stand evenly: where one between is hidden nothing is told.
  if (!evenly(marks, apart)) return null;
  const part = (pointer - before.at) / apart;
  const wide = marks.map((mark) => mark.wide).sort((a, b) => a - b);
  const usual = wide[Math.floor((wide.length - 1) / 2)]!;
  // What is broader than any mark lies over them.
  if (wide.at(-1)! > usual * TOO_WIDE) return null;
  const first = marks.findIndex((mark) => mark.wide > usual * FIRST);
  const whole =
    first >= 0 ? first - (right - 1) : last === null ? null : Math.round(last - 1 + part);
  if (whole === null) return null;
  const seen = ((((whole - part) % count) + count) % count) + 1;
  if (first < 0 && last !== null && Math.abs(shortWay(seen - last, count)) > FARTHEST) return null;
  return seen;
}

/** A mark with its fraction, in this many digits. Just short of the first one it is the first one, not one more than
 * there are. */
export function markText(mark: number, count: number, digits: number): string {
  const tidy = Number(mark.toFixed(digits));
  return (tidy >= count + 1 ? tidy - count : tidy).toFixed(digits);
}

function evenly(marks: Mark[], apart: number): boolean {
  return marks.every((mark, n) => {
    const before = marks[n - 1];
    return !before || Math.abs(mark.at - before.at - apart) < apart / 8;
  });
}

function shortWay(off: number, count: number): number {
  return off - Math.round(off / count) * count;
}
