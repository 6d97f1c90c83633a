import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import { useSyncExternalStore } from "react";

import { Refusal, type Schemas } from "../api/client";
import { Button } from "../kit/Button";

type Side = Schemas["Side"];
type Versions = Record<string, number>;

/** What was changed by somebody else was left as it is. */
export class TheirsStands extends Error {
  constructor() {
    super("Not saved: the other change stands.");
  }
}

interface Question {
  sides: Side[];
  answer: (mine: boolean) => void;
}

let question: Question | null = null;
const listeners = new Set<() => void>();

function ask(next: Question | null) {
  question = next;
  for (const listener of listeners) listener();
}

/** Save, and where somebody else changed the same meanwhile, ask whose change is to stand. `write` gets the versions to
 * send: none at first, then those that are there now. Throws TheirsStands where the other one is to stand. */
export async function saving<T>(write: (now?: Versions) => Promise<T>): Promise<T> {
  try {
    return await write();
  } catch (error) {
    if (!(error instanceof Refusal) || error.problem.status !== 409 || !error.problem.sides?.length) throw error;
    const { sides, versions = {} } = error.problem;
    const mine = await new Promise<boolean>((answer) => ask({ sides, answer }));
    ask(null);
    if (!mine) throw new TheirsStands();
    return saving(() => write(versions));
  }
}

/** Both sides of what two people changed, to choose from. */
export function ConflictDialog() {
  const open = useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    () => question,
  );
  if (!open) return null;
  return (
    <Dialog open onClose={() => open.answer(false)} className="relative z-50">
      <div className="fixed inset-0 bg-black/40" aria-hidden />
      <div className="fixed inset-0 grid place-items-center overflow-y-auto p-4">
        <DialogPanel className="w-full max-w-2xl rounded-sm border-2 border-enamel bg-paper p-6 text-ink">
          <DialogTitle className="text-xl font-bold">Somebody else changed this meanwhile</DialogTitle>
          <table className="mt-3 w-full text-left">
            <thead>
              <tr className="border-b-2 border-ink text-[14px] text-soft">
                <th scope="col" className="py-1 pr-4 font-normal">Field</th>
                <th scope="col" className="py-1 pr-4 font-normal">Yours</th>
                <th scope="col" className="py-1 font-normal">Theirs</th>
              </tr>
            </thead>
            <tbody>
              {open.sides.map(({ field, yours, theirs }) => (
                <tr key={field} className="border-b border-line">
                  <th scope="row" className="py-1.5 pr-4 font-normal text-soft">{field.replaceAll("_", " ")}</th>
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
