import { useEffect } from "react";
import { useBlocker } from "react-router";

import { unsaved } from "../api/unsaved";

import { DialogFrame } from "../kit/DialogFrame";
import { Leave, LEAVE } from "../kit/Leave";

/** Asks before something half typed is left; `saved` is told true once it need not be asked any more. */
export function UnsavedGuard({ typed, saved }: { typed: boolean; saved: { current: boolean } }) {
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) =>
      typed && !saved.current && currentLocation.pathname !== nextLocation.pathname,
  );
  useEffect(() => {
    if (!typed) return;
    unsaved.set(unsaved.get() + 1);
    return () => unsaved.set(unsaved.get() - 1);
  }, [typed]);
  useEffect(() => {
    if (!typed) return;
    const leaving = (event: BeforeUnloadEvent) => {
      if (!saved.current) event.preventDefault();
    };
    addEventListener("beforeunload", leaving);
    return () => removeEventListener("beforeunload", leaving);
  }, [typed, saved]);
  if (blocker.state !== "blocked") return null;
  return (
    <DialogFrame title={LEAVE} close={() => blocker.reset()} above>
      <Leave stay={() => blocker.reset()} leave={() => blocker.proceed()} />
    </DialogFrame>
  );
}
