import { useSyncExternalStore } from "react";

import { answered, api } from "../api/client";
import { shopChanged } from "../api/send";

/** Something done that can be undone: a change of the shop, by its number, or of this page alone. */
type Step = { change: number } | { text: string; back: () => void };

let steps: Step[] = [];
const listeners = new Set<() => void>();
// The number that an undo itself gets is no step: it is not undone again.
let undoing = false;

function put(next: Step[]) {
  steps = next;
  for (const listener of listeners) listener();
}

shopChanged.listen((change) => {
  if (!undoing) put([...steps, { change }]);
});

/** Note something done on this page alone. */
export function noteStep(text: string, back: () => void) {
  put([...steps, { text, back }]);
}

/** Take back the last step; what was taken back, and what of it could not be, in sentences. */
export async function undoLast(): Promise<string[]> {
  const last = steps.at(-1);
  if (!last || undoing) return [];
  if ("back" in last) {
    put(steps.slice(0, -1));
    last.back();
    return [`Undone: ${last.text}`];
  }
  undoing = true;
  try {
    const { text, left } = await answered(api.POST("/api/changes/{change}/undo", { params: { path: { change: last.change } } }));
    return [`Undone: ${text}`, ...left];
  } finally {
    undoing = false;
    put(steps.filter((step) => step !== last));
  }
}

/** How many steps can be undone here. */
export function useSteps(): number {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    () => steps.length,
  );
}
