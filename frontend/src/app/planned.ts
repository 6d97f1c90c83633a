import { HOBBER_WORDS } from "./kinds/hobber";
import { LATHE_WORDS } from "./kinds/lathe";
import { MILL_WORDS } from "./kinds/mill";

/** The kinds of machine that trains are planned for. Menu, machine choice, titles, addresses and cards come from here. */
export const PLANNED = [LATHE_WORDS, HOBBER_WORDS, MILL_WORDS] as const;

export type KindName = (typeof PLANNED)[number]["kind"];

/** What is said of this kind; undefined where no trains are planned for it. */
export function plannedKind(kind: string) {
  return PLANNED.find((one) => one.kind === kind);
}
