/** A picture as painted in a field of 160 × 72. */
export interface Sketch {
  /** Middle, radius and what stands in it. */
  wheels?: [number, number, number, string?][];
  /** Not there: missing, or still to be made. */
  missing?: [number, number, number, string?][];
  /** Corner, width and height. */
  plates?: [number, number, number, number][];
  lines?: string[];
  words?: [number, number, string][];
}

export interface Help {
  /** What the page is for. */
  says: [string, string, string];
  /** Terms of the list of words that stand on the page. */
  words: string[];
  sketch: Sketch;
}
