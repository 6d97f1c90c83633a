import { useEffect, useState } from "react";

import { useKept } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { Disclosure } from "../../kit/Disclosure";

/** What a key of a pedal, a remote or a caliper that types can be learned for. */
export const ACTIONS = { done: "Cut – next", back: "Back", measure: "To the figure" } as const;
export type Action = keyof typeof ACTIONS;
export type KeyMap = Partial<Record<Action, string>>;

// What the page needs itself.
const TAKEN = new Set(["Tab", "Escape", "Shift", "Control", "Alt", "Meta"]);

function isKeyMap(kept: unknown): boolean {
  return (
    typeof kept === "object" &&
    kept !== null &&
    Object.entries(kept).every(([name, key]) => name in ACTIONS && typeof key === "string")
  );
}

/** The keys that were learned, kept in this browser. */
export function useKeyMap() {
  return useKept<KeyMap>("sessionKeys", {}, isKeyMap);
}

/** The action of a key that was pressed; undefined for none. */
export function actionOf(learned: KeyMap, key: string): Action | undefined {
  return (Object.keys(ACTIONS) as Action[]).find((action) => learned[action] === key);
}

/** A pedal, a remote or a caliper that types: the key that it sends is learned by pressing it. */
export function LearnedKeys(props: {
  learned: KeyMap;
  keep: (next: KeyMap) => void;
  /** While a key is learned nothing else takes it. */
  listening: (on: boolean) => void;
}) {
  const { learned, keep, listening } = props;
  const [learning, setLearning] = useState<Action>();
  useEffect(() => {
    listening(learning !== undefined);
    if (!learning) return;
    const pressed = (event: KeyboardEvent) => {
      event.preventDefault();
      event.stopPropagation();
      if (event.key !== "Escape") {
        if (TAKEN.has(event.key)) return;
        const others = Object.entries(learned).filter(([, key]) => key !== event.key);
        keep({ ...(Object.fromEntries(others) as KeyMap), [learning]: event.key });
      }
      setLearning(undefined);
    };
    addEventListener("keydown", pressed, true);
    return () => removeEventListener("keydown", pressed, true);
  }, [learning, learned, keep, listening]);
  return (
    <Disclosure title="A key of a pedal or a remote" className="mt-1">
      <p className="text-fine text-soft">
        Press Learn, then the pedal. The space bar and Enter say that a cut is made always.
      </p>
      <ul>
        {(Object.keys(ACTIONS) as Action[]).map((action) => (
          <li key={action} className="flex flex-wrap items-center gap-2 border-t border-line py-1">
            <span className="flex-1">
              {ACTIONS[action]}
              {learned[action] && <b className="ml-2 font-mono">{named(learned[action])}</b>}
            </span>
            <Button
              aria-label={`Learn: ${ACTIONS[action]}`}
              aria-pressed={learning === action}
              onClick={() => setLearning(learning === action ? undefined : action)}
            >
              {learning === action ? "Press the key …" : "Learn"}
            </Button>
            {learned[action] && (
              <Button
                aria-label={`Forget: ${ACTIONS[action]}`}
                onClick={() => keep(without(learned, action))}
              >
                Forget
              </Button>
            )}
          </li>
        ))}
      </ul>
    </Disclosure>
  );
}

function without(learned: KeyMap, action: Action): KeyMap {
  return Object.fromEntries(Object.entries(learned).filter(([name]) => name !== action));
}

function named(key: string): string {
  return key === " " ? "space bar" : key;
}
