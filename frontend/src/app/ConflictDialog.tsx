import { conflict } from "../api/saving";
import { useShared } from "../api/shared";
import { Button } from "../kit/Button";
import { DialogFrame } from "../kit/DialogFrame";

/** Both sides of what two people changed, to choose from. */
export function ConflictDialog() {
  const open = useShared(conflict);
  if (!open) return null;
  return (
    <DialogFrame
      title="Somebody else changed this meanwhile"
      close={() => open.answer(false)}
      wide="max-w-2xl"
      above
    >
      <table className="mt-3 w-full text-left">
        <thead>
          <tr className="border-b-2 border-ink text-fine text-soft">
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
          Keep theirs
        </Button>
      </div>
    </DialogFrame>
  );
}
