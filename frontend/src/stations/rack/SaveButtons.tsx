import { Button } from "../../kit/Button";

/** Save what is typed, delete the record, or leave it as it was. */
export function SaveButtons({
  remove,
  close,
  pending,
}: {
  remove?: () => void;
  close: () => void;
  pending: boolean;
}) {
  return (
    <div className="mt-1 flex gap-2">
      <Button type="submit" look="main" className="flex-1" disabled={pending}>
        Save
      </Button>
      {remove && (
        <Button onClick={remove} disabled={pending}>
          Delete
        </Button>
      )}
      <Button look="quiet" onClick={close}>
        Cancel
      </Button>
    </div>
  );
}
