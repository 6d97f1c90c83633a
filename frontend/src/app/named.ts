// `on 20 mm` says a diameter, not a machine.
const SIZE = /\son\s+(?:an?\s+)?[\d.][\d.,/ ]*(?:mm|cm|inch|in|")?(?=\s|$)/gi;

/** The machine that is said behind `on`, in small letters; empty where none is. */
export function nameIn(ask: string): string {
  return /\son\s+(\S.*)$/i.exec(ask.replace(SIZE, ""))?.[1]?.trim().toLowerCase() ?? "";
}
