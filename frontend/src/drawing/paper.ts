export const MM_PER_INCH = 25.4;

/** Squared paper under a drawing. */
export const PAPER =
  "bg-[linear-gradient(var(--grid)_1px,transparent_1px),linear-gradient(90deg,var(--grid)_1px,transparent_1px)] bg-size-[19px_19px]";

/** CSS pixels in a millimetre of paper. */
const PX_PER_MM = 96 / MM_PER_INCH;

/** `1 : 3.0`, `12 : 1`: how large a drawing with this many px to the mm stands on the paper or screen. */
export function scaleText(scale: number): string {
  const times = scale / PX_PER_MM;
  return times >= 1 ? `${times.toFixed(times < 10 ? 1 : 0)} : 1` : `1 : ${(1 / times).toFixed(1)}`;
}
