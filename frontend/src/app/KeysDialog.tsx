import { Button } from "../kit/Button";
import { Checkbox } from "../kit/Checkbox";
import { DialogFrame } from "../kit/DialogFrame";
import { KEYS } from "./keys";
import { usePreferences } from "./preferences";

export function KeysDialog({ open, close }: { open: boolean; close: () => void }) {
  const { keys, setKeys } = usePreferences();
  return (
    <DialogFrame title="Keys" open={open} close={close}>
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
      <Button look="main" className="mt-4 self-start" onClick={close} autoFocus>
        Close
      </Button>
    </DialogFrame>
  );
}
