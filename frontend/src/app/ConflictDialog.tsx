import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";

import { conflict } from "../api/saving";
import { useShared } from "../api/shared";
import { Button } from "../kit/Button";

/** Both sides of what two people changed, to choose from. */
export function ConflictDialog() {
  const open = useShared(conflict);
  if (!open) return null;
  return (
    <Dialog open onClose={() => open.answer(false)} className="relative z-50">
      <div className="fixed inset-0 bg-black/40" aria-hidden />
      <div className="fixed inset-0 grid place-items-center overflow-y-auto p-4">
        <DialogPanel className="w-full max-w-2xl rounded-sm border-2 border-enamel bg-paper p-6 text-ink">
          <DialogTitle className="text-xl font-bold">
            Somebody else changed this meanwhile
          </DialogTitle>
          <table className="mt-3 w-full text-left">
            <thead>
              <tr className="border-b-2 border-ink text-[14px] text-soft">
                <th scope="col" className="py-1 pr-4 font-normal">
                  Field
                </th>
                <th scope="col" className="py-1 pr-4 font-normal">
                  Yours
                </th>
                <th scope="col" className="py-1 font-normal">
                  Theirs
                </th>
              </tr>
            </thead>
            <tbody>
              {open.sides.map(({ field, yours, theirs }) => (
                <tr key={field} className="border-b border-line">
                  <th scope="row" className="py-1.5 pr-4 font-normal text-soft">
                    {field.replaceAll("_", " ")}
                  </th>
                  <td className="py-1.5 pr-4 font-mono font-bold">{yours || "(empty)"}</td>
                  <td className="py-1.5 font-mono">{theirs || "(empty)"}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <div className="mt-4 flex gap-2">
            <Button look="main" onClick={() => open.answer(true)}>
              Save mine
            </Button>
            <Button onClick={() => open.answer(false)} autoFocus>
              Leave theirs
            </Button>
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
