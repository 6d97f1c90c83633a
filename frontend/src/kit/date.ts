const DAY = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric" });
const TIME = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit" });
const SECOND = new Intl.DateTimeFormat("en-GB", {
  hour: "2-digit",
  minute: "2-digit",
  second: "2-digit",
});

/** A day as it is written everywhere here, whatever the browser's own way: `29 Nov 2026`. */
export function day(at: string): string {
  return DAY.format(new Date(at));
}

/** The same with the time: `29 Nov 2026, 14:05`. */
export function dayAndTime(at: string): string {
  return `${day(at)}, ${TIME.format(new Date(at))}`;
}

/** The time of day: `14:05`. */
export function timeOfDay(at: string): string {
  return TIME.format(new Date(at));
}

/** The time of day to the second: `14:05:09`. */
export function clock(at: string): string {
  return SECOND.format(new Date(at));
}
