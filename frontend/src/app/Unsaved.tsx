import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { useEffect } from "react";
import { useBlocker } from "react-router";

import { Leave, LEAVE } from "../kit/Leave";

/** Asks before something half typed is left; `saved` is told true once it need not be asked any more. */
export function Unsaved({ typed, saved }: { typed: boolean; saved: { current: boolean } }) {
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) =>
      typed && !saved.current && currentLocation.pathname !== nextLocation.pathname,
  );
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
    <Dialog open onClose={() => blocker.reset()} className="relative z-50">
      <div className="fixed inset-0 bg-black/40" aria-hidden />
      <div className="fixed inset-0 grid place-items-center p-4">
        <DialogPanel className="w-full max-w-md rounded-sm border-2 border-enamel bg-paper p-6 text-ink">
          <DialogTitle className="text-xl font-bold">{LEAVE}</DialogTitle>
          <Leave stay={() => blocker.reset()} leave={() => blocker.proceed()} />
        </DialogPanel>
      </div>
    </Dialog>
  );
}
