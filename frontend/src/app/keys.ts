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
  ["m", "record the train as mounted"],
  ["z", "undo what was done last"],
  ["u", "mm or inch"],
  ["n", "day or night"],
  ["?", "this list"],
];

/** Run `action` when `key` is pressed anywhere but in a field. */
export function useKey(key: string, action: () => void, enabled = true) {
  useEffect(() => {
    if (!enabled) return;
    const pressed = (event: KeyboardEvent) => {
      if (event.key !== key || event.ctrlKey || event.metaKey || event.altKey || isField(event.target)) return;
      event.preventDefault();
      action();
    };
    addEventListener("keydown", pressed);
    return () => removeEventListener("keydown", pressed);
  }, [key, action, enabled]);
}

function isField(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.matches("input:not([type=radio]):not([type=checkbox]), textarea, select") || target.isContentEditable ||
      target.closest("[role=dialog]") !== null)
  );
}
