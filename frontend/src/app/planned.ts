/** The kinds of machine that trains are planned for. Menu, machine choice, titles, addresses and cards come from here. */
export const PLANNED = [
  {
    kind: "lathe",
    title: "Lathe",
    plan: "Plan a thread",
    example: "M14x2, 26 tpi",
    pages: [
      { path: "chart", name: "Chart", title: "Chart" },
      { path: "unknown", name: "Constants", title: "Constants" },
      { path: "plate", name: "Plate", title: "Plate" },
    ],
  },
  {
    kind: "hobber",
    title: "Hobber",
    plan: "Plan a wheel",
    example: "37, hob 24 m2",
    pages: [
      { path: "chart", name: "Chart", title: "Counts" },
      { path: "plate", name: "Table", title: "Table" },
    ],
  },
  {
    kind: "mill",
    title: "Mill",
    plan: "Plan a helix",
    example: "helix 24 m2 30° left, lead 300 mm",
    pages: [
      { path: "chart", name: "Leads", title: "Leads" },
      { path: "plate", name: "Table", title: "Table" },
    ],
  },
] as const;

export type Planned = (typeof PLANNED)[number]["kind"];

/** What is said of this kind; undefined where no trains are planned for it. */
export function plannedKind(kind: string) {
  return PLANNED.find((one) => one.kind === kind);
}
