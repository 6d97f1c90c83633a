import { answered, api } from "../api/client";
import { shopChanged } from "../api/send";
import { Shared, useShared } from "../api/shared";

/** Something done that can be undone: a change of the shop, by its number, or of this page alone. */
type Step = { change: number } | { text: string; back: () => void };

const steps = new Shared<Step[]>([]);
/** Whether the latest changes are shown. */
export const changesShown = new Shared(false);

// The number that an undo itself gets is no step: it is not undone again.
let undoing = false;

shopChanged.listen((change) => {
  if (!undoing) steps.set([...steps.get(), { change }]);
});

/** Note something done on this page alone. */
export function noteStep(text: string, back: () => void) {
  steps.set([...steps.get(), { text, back }]);
}

/** Take back the last step; what was taken back, and what of it could not be, in sentences. */
export async function undoLast(): Promise<string[]> {
  const last = steps.get().at(-1);
  if (!last || undoing) return [];
  if ("back" in last) {
    steps.set(steps.get().slice(0, -1));
    last.back();
    return [`Undone: ${last.text}`];
  }
  return undoChange(last.change);
}

/** Take back a change of the shop, from wherever: it is no step any more, nor is its undo one. */
export async function undoChange(change: number): Promise<string[]> {
  undoing = true;
  try {
    const { text, left } = await answered(
      api.POST("/api/changes/{change}/undo", { params: { path: { change } } }),
    );
    return [`Undone: ${text}`, ...left];
  } finally {
    undoing = false;
    steps.set(steps.get().filter((step) => !("change" in step) || step.change !== change));
  }
}

/** The last step that can be undone, to see later whether it still can. */
export function lastStep(): unknown {
  return steps.get().at(-1);
}

/** Whether this step can still be undone here. */
export function isThere(step: unknown): boolean {
  return steps.get().some((one) => one === step);
}

/** How many steps can be undone here. */
export function useSteps(): number {
  return useShared(steps).length;
}
