import type { MachineRecord } from "../../api/stores";

/** What a machine may be beside a lathe, and how it is called. */
export const KINDS: { kind: MachineRecord["kind"]; path: string; a: string; what: string }[] = [
  { kind: "head", path: "head", a: "a dividing head", what: "Worm, plates, gears of its own." },
  {
    kind: "rotary table",
    path: "rotary-table",
    a: "a rotary table",
    what: "A worm under a table, with plates or read by its graduations.",
  },
  {
    kind: "spin indexer",
    path: "spin-indexer",
    a: "a spin indexer",
    what: "Holes on the spindle itself, and a second row for the degrees between.",
  },
  {
    kind: "collet block",
    path: "collet-block",
    a: "a collet block",
    what: "A block with 4 or 6 flats, turned over in the vice.",
  },
  {
    kind: "hobber",
    path: "hobber",
    a: "a hobber",
    what: "Index, feed and differential trains are worked out from its constants.",
  },
  {
    kind: "mill",
    path: "mill",
    a: "a mill",
    what: "What turns the work while the table moves: its screw, its lead attachment, the head on it.",
  },
];
