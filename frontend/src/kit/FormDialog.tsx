import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import type { ReactNode } from "react";

/** A short form over the screen: Enter sends it, Escape leaves it. */
export function FormDialog({ title, close, submit, children }: { title: string; close: () => void; submit: () => void; children: ReactNode }) {
  return (
    <Dialog open onClose={close} className="relative z-40">
      <div className="fixed inset-0 bg-black/40" aria-hidden />
      <div className="fixed inset-0 grid place-items-center overflow-y-auto p-4">
        <DialogPanel className="w-full max-w-md rounded-sm border-2 border-enamel bg-paper p-6 text-ink">
          <DialogTitle className="text-xl font-bold">{title}</DialogTitle>
          <form
            className="mt-3 flex flex-col gap-3"
            onSubmit={(event) => {
              event.preventDefault();
              submit();
            }}
          >
            {children}
          </form>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
