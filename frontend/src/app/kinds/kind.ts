import type { OnNow } from "../../api/planned";
import type { Help } from "../helpText";

/** A page beside the station of a kind: where it is, what the menu calls it, and its title. */
export interface KindPage {
  path: "chart" | "unknown" | "plate";
  name: string;
  title: string;
}

/** What the screens say of a kind of machine that trains are planned for. */
export interface KindWords<K extends string> {
  kind: K;
  title: string;
  /** What planning is called on a button. */
  plan: string;
  /** Lines that it takes. */
  example: string;
  pages: KindPage[];
  /** Keys that do something of their own at its station. */
  keys: { key: string; does: string }[];
  /** The plate: what it and its lines are called, what a line begins with, and how one is typed. */
  plate: { title: string; lines: string; begins: string; examples: string[] };
  help: Help;
  useOnNow: OnNow;
}
