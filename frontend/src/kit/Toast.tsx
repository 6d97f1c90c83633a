import { createContext, type ReactNode, useCallback, useContext, useMemo, useState } from "react";

import { useKey } from "../app/keys";
import { Button } from "./Button";

interface Told {
  text: string;
  undo?: () => void;
}

const Context = createContext<(told: Told) => void>(() => {});

/** What was just done, with a way back. It stays until the next thing, or until it is put away. */
export function ToastProvider({ children }: { children: ReactNode }) {
  const [told, setTold] = useState<Told | null>(null);
  const tell = useMemo(() => (next: Told) => setTold(next), []);
  const undo = useCallback(() => {
    told?.undo?.();
    setTold(null);
  }, [told]);
  useKey("z", undo, told?.undo !== undefined);
  return (
    <Context value={tell}>
      {children}
      <div role="status" aria-label="What was done" className="pointer-events-none fixed inset-x-0 bottom-54 z-30 flex justify-center px-4 print:hidden">
        {told && (
          <div className="pointer-events-auto flex items-center gap-3 rounded-sm border-2 border-brass-line bg-paper py-2 pr-2 pl-4 shadow-lg">
            <span>{told.text}</span>
            {told.undo && <Button onClick={undo}>Undo</Button>}
            <Button look="quiet" aria-label="Put away" onClick={() => setTold(null)}>
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
