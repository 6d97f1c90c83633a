import { PLANNED } from "./planned";

/** A page of the menu. Pages within are shown while its station is open. */
export interface MenuPage {
  to: string;
  name: string;
  within?: MenuPage[];
  /** What is reached from it has no place of its own in the menu. */
  holds?: boolean;
}

/** The pages that belong to no machine, in their order in the menu. */
export const PAGES: MenuPage[] = [
  {
    to: "/rack",
    name: "Rack",
    within: [
      { to: "/rack/sets", name: "Sets" },
      { to: "/rack/stores", name: "Stores" },
    ],
  },
  { to: "/wheel", name: "Wheel" },
  {
    to: "/dividing",
    name: "Dividing",
    within: [
      { to: "/dividing/chart", name: "Chart" },
      { to: "/dividing/disc", name: "Disc" },
      { to: "/dividing/plate", name: "Plate" },
    ],
  },
  { to: "/jobs", name: "Jobs", within: [{ to: "/jobs/devices", name: "Devices" }], holds: true },
  { to: "/day", name: "Day" },
  { to: "/log", name: "Log" },
  { to: "/machines", name: "Machines", holds: true },
];

/** What the page at an address is about: whose help and whose keys are shown. */
export type Topic =
  | (typeof PLANNED)[number]["kind"]
  | "chart"
  | "constants"
  | "day"
  | "table"
  | "rack"
  | "sets"
  | "stores"
  | "wheel"
  | "dividing"
  | "disc"
  | "jobs"
  | "session"
  | "today"
  | "devices"
  | "log"
  | "book"
  | "machines"
  | "record";

const TOPIC_OF = { chart: "chart", unknown: "constants", plate: "table" } as const;

// The first that answers holds.
const TOPICS: [RegExp, Topic, string][] = [
  [/^\/machines\/new\/unknown/, "constants", "Constants"],
  [/^\/machines\/new\/plate/, "table", "Add a machine"],
  ...PLANNED.flatMap(({ kind, title, pages }): [RegExp, Topic, string][] => [
    ...pages.map((page): [RegExp, Topic, string] => [
      new RegExp(`^/${kind}/[^/]+/${page.path}`),
      TOPIC_OF[page.path],
      page.title,
    ]),
    [new RegExp(`^/${kind}`), kind, title],
  ]),
  [/^\/rack\/sets/, "sets", "Sets"],
  [/^\/rack\/stores/, "stores", "Stores"],
  [/^\/rack/, "rack", "Rack"],
  [/^\/wheel/, "wheel", "Wheel"],
  [/^\/dividing\/chart/, "dividing", "Dividing chart"],
  [/^\/dividing\/(disc|plate)/, "disc", "Discs and hole plates"],
  [/^\/dividing/, "dividing", "Dividing"],
  [/^\/jobs\/\d+\/session/, "session", "Cutting"],
  [/^\/jobs\/devices/, "devices", "Devices"],
  [/^\/jobs/, "jobs", "Jobs"],
  [/^\/day/, "day", "Day"],
  [/^\/today/, "today", "Today"],
  [/^\/log\/./, "book", "Machine’s book"],
  [/^\/log/, "log", "Log"],
  [/^\/machines\/new/, "record", "Add a machine"],
  [/^\/machines\/./, "record", "Machine record"],
  [/^\/machines/, "machines", "Machines"],
];

/** What a page is about and what it is called; undefined for an address that is none of these. */
export function topicOf(pathname: string): { topic: Topic; title: string } | undefined {
  const row = TOPICS.find(([path]) => path.test(pathname));
  return row && { topic: row[1], title: row[2] };
}
