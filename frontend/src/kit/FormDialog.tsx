import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { type ReactNode, useState } from "react";

import { Leave, LEAVE } from "./Leave";

/** A short form over the screen: Enter sends it, Escape leaves it; it asks first where something was typed. */
export function FormDialog({
  title,
  close,
  submit,
  children,
}: {
  title: string;
  close: () => void;
  submit: () => void;
  children: ReactNode;
}) {
  const [typed, setTyped] = useState(false);
  const [asking, setAsking] = useState(false);
  return (
    <Dialog open onClose={() => (typed ? setAsking(!asking) : close())} className="relative z-40">
      <div className="fixed inset-0 bg-black/40" aria-hidden />
      <div className="fixed inset-0 grid place-items-center overflow-y-auto p-4">
        <DialogPanel className="w-full max-w-md rounded-sm border-2 border-enamel bg-paper p-6 text-ink">
          <DialogTitle className="text-xl font-bold">{title}</DialogTitle>
          <form
            className="mt-3 flex flex-col gap-3"
            onInput={() => setTyped(true)}
            onSubmit={(event) => {
              event.preventDefault();
              submit();
            }}
          >
            {children}
          </form>
          {asking && (
            <div role="alert" className="mt-4 border-t-2 border-oxide pt-3">
              <b>{LEAVE}</b>
              <Leave stay={() => setAsking(false)} leave={close} />
            </div>
          )}
        </DialogPanel>
      </div>
    </Dialog>
  );
}
