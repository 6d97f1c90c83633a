import { useEffect } from "react";

/** Every key and what it does, as the list under `?` shows it. */
export const KEYS: [string, string][] = [
  ["/", "go to the ask line"],
  ["↑ ↓", "another train, in the list"],
  ["o", "order: least trouble or most exact"],
  ["t", "turn the wheels, or stop them"],
  ["v", "the quadrant, or the thread in its nut"],
  ["p", "print the set-up sheet"],
  ["d", "download the sheet as PDF"],
  ["m", "record the train as mounted; z undoes it"],
  ["z", "undo what was done last"],
  ["u", "mm or inch"],
  ["n", "day or night"],
  ["?", "this list"],
];

let letters = true;

/** Let single letters do something, or nothing. */
export function allowLetters(on: boolean) {
  letters = on;
}

/** Run `action` when `key` is pressed while nothing is open or focused that takes keys itself. */
export function useKey(key: string, action: () => void, enabled = true) {
  useEffect(() => {
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
      event.preventDefault();
      action();
    };
    addEventListener("keydown", pressed);
    return () => removeEventListener("keydown", pressed);
  }, [key, action, enabled]);
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
