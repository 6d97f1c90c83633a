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
import { noteStep, undoLast, useSteps } from "./undo";
import { Button } from "../kit/Button";

interface Notice {
  text: string;
  /** Changed on this page alone: the way back. A change of the shop has its own. */
  back?: () => void;
  /** Whether something was done that can be undone. */
  done?: boolean;
}

const Context = createContext<(notice: Notice) => void>(() => {});

/** What was just done, with a way back, step by step. It stays until the next thing, or until it is put away. */
export function ToastProvider({ children }: { children: ReactNode }) {
  const [notice, setNotice] = useState<Notice | null>(null);
  const steps = useSteps();
  const before = useRef<Element | null>(null);
  const tell = useMemo(
    () => (next: Notice) => {
      if (next.back) noteStep(next.text, next.back);
      setNotice({ ...next, done: next.done ?? next.back !== undefined });
    },
    [],
  );
  const undo = useCallback(() => {
    undoLast().then(
      (texts) => texts.length > 0 && setNotice({ text: texts.join(" "), done: true }),
      (error: Error) => setNotice({ text: `Not undone: ${error.message}`, done: true }),
    );
  }, []);
  useKey("z", undo, steps > 0);
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
