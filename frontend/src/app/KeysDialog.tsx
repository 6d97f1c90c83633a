import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";

import { Button } from "../kit/Button";
import { Checkbox } from "../kit/Checkbox";
import { KEYS } from "./keys";
import { usePreferences } from "./preferences";

export function KeysDialog({ open, close }: { open: boolean; close: () => void }) {
  const { keys, setKeys } = usePreferences();
  return (
    <Dialog open={open} onClose={close} className="relative z-40 print:hidden">
      <div className="fixed inset-0 bg-black/40" aria-hidden />
      <div className="fixed inset-0 grid place-items-center p-4">
        <DialogPanel className="w-full max-w-md rounded-sm border-2 border-enamel bg-paper p-6 text-ink">
          <DialogTitle className="text-xl font-bold">Keys</DialogTitle>
          <dl className="mt-4 grid grid-cols-[auto_1fr] gap-x-5 gap-y-2">
            {KEYS.map(([key, does]) => (
              <div key={key} className="contents">
                <dt>
                  <kbd className="inline-block min-w-9 rounded-sm border border-line bg-chalk px-2 py-0.5 text-center font-mono font-bold">
                    {key}
                  </kbd>
                </dt>
                <dd>{does}</dd>
              </div>
            ))}
          </dl>
          <p className="mt-4 text-soft">
            They do nothing while you are in a field, a list or a dialog. Esc leaves the field.
          </p>
          <div className="mt-2">
            <Checkbox label="Use single keys" ticked={keys} change={setKeys} />
          </div>
          <Button look="main" className="mt-4" onClick={close} autoFocus>
            Close
          </Button>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
