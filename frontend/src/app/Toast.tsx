import {
  createContext,
  type ReactNode,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";

import { useKey } from "./keys";
import { changesShown, isThere, lastStep, noteStep, undoLast, useSteps } from "./undo";
import { Button } from "../kit/Button";

interface Notice {
  text: string;
  /** Changed on this page alone: the way back. A change of the shop has its own. */
  back?: () => void;
  /** Whether something was done that can be undone. */
  done?: boolean;
}

/** A notice goes by itself after so long, ms; not while somebody is at it. The way back stays under Latest changes. */
const STAYS = 20_000;

const Context = createContext<(notice: Notice) => void>(() => {});

/** What was just done, with a way back, step by step. It stays a while, until the next thing, until it is put away, or
 * until what it speaks of is undone elsewhere. */
export function ToastProvider({ children }: { children: ReactNode }) {
  const [notice, setNotice] = useState<Notice | null>(null);
  const steps = useSteps();
  const before = useRef<Element | null>(null);
  const box = useRef<HTMLDivElement>(null);
  // The step that the notice speaks of; undefined where it speaks of none.
  const about = useRef<unknown>(undefined);
  const tell = useMemo(
    () => (next: Notice) => {
      if (next.back) noteStep(next.text, next.back);
      about.current = next.done || next.back ? lastStep() : undefined;
      setNotice({ ...next, done: next.done ?? next.back !== undefined });
    },
    [],
  );
  const undo = useCallback(() => {
    undoLast().then(
      (texts) => {
        about.current = undefined;
        if (texts.length > 0) setNotice({ text: texts.join(" "), done: true });
      },
      (error: Error) => setNotice({ text: `Not undone: ${error.message}`, done: true }),
    );
  }, []);
  // Once the notice is gone, `z` shows the latest changes instead of undoing one that is not seen.
  const inSight = notice?.done === true;
  useKey("z", () => (inSight ? undo() : changesShown.set(true)), steps > 0);
  useEffect(() => {
    if (about.current !== undefined && !isThere(about.current)) setNotice(null);
  }, [steps]);
  useEffect(() => {
    if (!notice) return;
    const timer = setInterval(() => {
      if (!box.current?.matches(":hover, :focus-within")) setNotice(null);
    }, STAYS);
    return () => clearInterval(timer);
  }, [notice]);
  // A button that goes takes the focus with it: it goes back to where it was.
  useEffect(() => {
    if (notice) return;
    if (before.current instanceof HTMLElement && document.activeElement === document.body)
      before.current.focus();
  }, [notice]);
  const remember = (event: React.FocusEvent) => {
    if (!event.currentTarget.contains(event.relatedTarget)) before.current = event.relatedTarget;
  };
  return (
    <Context value={tell}>
      {children}
      <div
        role="status"
        aria-label="What was done"
        className="pointer-events-none fixed inset-x-0 bottom-54 z-30 flex justify-center px-4 print:hidden"
      >
        {notice && (
          <div
            ref={box}
            onFocus={remember}
            className="pointer-events-auto flex items-center gap-3 rounded-sm border-2 border-brass-line bg-paper py-2 pr-2 pl-4 shadow-lg"
          >
            <span>{notice.text}</span>
            {notice.done && steps > 0 && (
              <Button onClick={undo}>
                {notice.text.startsWith("Undone") ? "Undo the one before" : "Undo"}
              </Button>
            )}
            <Button look="quiet" aria-label="Close" onClick={() => setNotice(null)}>
              ✕
            </Button>
          </div>
        )}
      </div>
    </Context>
  );
}

export function useTell() {
  return useContext(Context);
}
