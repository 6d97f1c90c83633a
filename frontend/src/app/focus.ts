import { type RefObject, useEffect } from "react";

import { Refusal } from "../api/client";

/** So long a form may take to show what was refused, ms; what was said of it before may stand until then. */
const SHOWN = 1500;

let sent: HTMLFormElement | null = null;

/** After a refused Save the focus is in the first field that is at fault, of the form that was sent last. */
export function focusFault(error: unknown) {
  if (!(error instanceof Refusal)) return;
  const end = performance.now() + SHOWN;
  let last: HTMLElement | null = null;
  const look = () => {
    const fault = sent?.isConnected ? sent.querySelector<HTMLElement>("[aria-invalid=true]") : null;
    // Whoever has gone on to another field meanwhile stays there. A button that waits for its answer has no focus.
    const here = document.activeElement;
    if (last ? here !== last : here !== document.body && !sent?.contains(here)) return;
    if (fault && fault !== last) fault.focus();
    last = fault ?? last;
    if (performance.now() < end) requestAnimationFrame(look);
  };
  requestAnimationFrame(look);
}

/** Where something that had the focus goes away, the focus stays near: in the nearest part that is still there. */
export function useKeptFocus(main: RefObject<HTMLElement | null>) {
  useEffect(() => {
    let around: HTMLElement[] = [];
    const note = ({ target }: FocusEvent) => {
      around = [];
      for (let at = target as HTMLElement | null; at && at !== document.body; at = at.parentElement)
        around.push(at);
    };
    const submitted = ({ target }: Event) => {
      if (target instanceof HTMLFormElement) sent = target;
    };
    const gone = new MutationObserver(() => {
      if (document.activeElement !== document.body || around[0]?.isConnected !== false) return;
      const near = around.find((at) => at.isConnected && at !== main.current);
      around = [];
      if (!near || !main.current?.contains(near)) return;
      if (near.tabIndex < 0) near.tabIndex = -1;
      near.focus({ preventScroll: true });
    });
    if (main.current) gone.observe(main.current, { childList: true, subtree: true });
    addEventListener("focusin", note);
    addEventListener("submit", submitted, true);
    return () => {
      gone.disconnect();
      removeEventListener("focusin", note);
      removeEventListener("submit", submitted, true);
    };
  }, [main]);
}
