import { useLayoutEffect } from "react";

import type { Topic } from "./pages";
import { PLANNED } from "./planned";

const PLANNING: Topic[] = PLANNED.map(({ kind }) => kind);

interface Key {
  key: string;
  does: string;
  /** The pages where it does something; everywhere where none is said. */
  at?: Topic[];
}

/** Every key and what it does, as the help under `?` shows it. */
const KEYS: Key[] = [
  { key: "↑ ↓", does: "another train, in the list", at: PLANNING },
  { key: "o", does: "order: least trouble or most exact", at: PLANNING },
  { key: "t", does: "turn the wheels, or stop them", at: PLANNING },
  ...PLANNED.flatMap(({ kind, keys }) => keys.map((key): Key => ({ ...key, at: [kind] }))),
  { key: "p", does: "print the set-up sheet", at: PLANNING },
  { key: "d", does: "download the sheet as PDF", at: PLANNING },
  { key: "m", does: "record the train as fitted", at: PLANNING },
  { key: "z", does: "undo what was just done; later, the latest changes" },
  { key: "/", does: "go to the ask line" },
  { key: "Ctrl K", does: "search the shop and its pages" },
  { key: "u", does: "mm or inch" },
  { key: "n", does: "day or night" },
  { key: "?", does: "this help" },
];

/** Keys that change what is on record. */
export const WRITING = ["m", "z"];

/** The keys of a page, its own first. */
export function keysAt(topic: Topic | undefined): Key[] {
  return KEYS.filter(({ at }) => !at || (topic && at.includes(topic)));
}

let letters = true;
let writing = true;

/** Let single letters do something, or nothing; and those that change what is on record. */
export function allowLetters(on: boolean, thatWrite: boolean) {
  letters = on;
  writing = thatWrite;
}

/** Run `action` when `key` is pressed while nothing is open or focused that takes keys itself; `onControls` false: nor
 * while the focus is on a button or a link, where another key was meant. */
export function useKey(key: string, action: () => void, enabled = true, onControls = true) {
  useLayoutEffect(() => {
    if (!enabled) return;
    const pressed = (event: KeyboardEvent) => {
      if (
        event.key !== key ||
        event.ctrlKey ||
        event.metaKey ||
        event.altKey ||
        event.repeat ||
        event.defaultPrevented
      )
        return;
      if (!letters || isOpen() || takesKeys(event.target)) return;
      if (WRITING.includes(key) && !writing) return;
      if (!onControls && isControl(event.target)) return;
      event.preventDefault();
      action();
    };
    addEventListener("keydown", pressed);
    return () => removeEventListener("keydown", pressed);
  }, [key, action, enabled, onControls]);
}

/** Run `action` when `key` is pressed with Ctrl, or Cmd, wherever the focus is; not over a dialog. */
export function useCtrlKey(key: string, action: () => void) {
  useLayoutEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== key || !(event.ctrlKey || event.metaKey)) return;
      if (event.altKey || event.shiftKey || event.repeat) return;
      event.preventDefault();
      if (document.querySelector("[role=dialog]") === null) action();
    };
    addEventListener("keydown", pressed);
    return () => removeEventListener("keydown", pressed);
  }, [key, action]);
}

/** A dialog or a list is open. */
function isOpen(): boolean {
  return (
    document.querySelector("[role=dialog], [role=listbox]:not([hidden]), [role=menu]") !== null
  );
}

function takesKeys(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.matches(
      "input:not([type=radio]):not([type=checkbox]), textarea, select, [role=option], [role=combobox], [aria-haspopup]",
    ) ||
      target.isContentEditable)
  );
}

function isControl(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    target.matches("button, a[href], summary, input[type=checkbox], [role=switch], [role=tab]")
  );
}
