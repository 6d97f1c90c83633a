import { useMutation } from "@tanstack/react-query";

import { useChanges } from "../api/shop";
import { dayAndTime } from "../kit/date";
import { Callout } from "../kit/Callout";
import { Button } from "../kit/Button";
import { DialogFrame } from "../kit/DialogFrame";
import { Failure } from "./Notice";
import { undoChange } from "./undo";

/** The latest changes of the shop, by whomever, each with its undo. */
export function ChangesDialog({ open, close }: { open: boolean; close: () => void }) {
  const changes = useChanges(open);
  const undo = useMutation({ mutationFn: undoChange });
  const shut = () => {
    undo.reset();
    close();
  };
  return (
    <DialogFrame title="Latest changes" open={open} close={shut} wide="max-w-xl">
      <div role="status" className="mt-2">
        {undo.data && (
          <Callout tone="good" as="p">
            {undo.data.join(" ")}
          </Callout>
        )}
        {undo.error && <Failure error={undo.error} />}
        {changes.error && <Failure error={changes.error} retry={() => void changes.refetch()} />}
        {changes.data?.length === 0 && <p>Nothing was changed yet.</p>}
      </div>
      <ol className="mt-2 min-h-0 flex-1 overflow-y-auto">
        {changes.data?.map(({ id, at, text, undone, is_undo }) => (
          <li
            key={id}
            className="grid min-h-14 grid-cols-[1fr_auto] items-center gap-3 border-b border-line py-1.5"
          >
            <span className={undone ? "text-soft line-through" : ""}>
              {text}
              <span className="block text-fine text-soft">{dayAndTime(at)}</span>
            </span>
            {!undone && !is_undo && (
              <Button
                disabled={undo.isPending}
                aria-label={`Undo: ${text}`}
                onClick={() => undo.mutate(id)}
              >
                Undo
              </Button>
            )}
          </li>
        ))}
      </ol>
      <Button look="main" className="mt-4 self-start" onClick={shut} autoFocus>
        Close
      </Button>
    </DialogFrame>
  );
}
