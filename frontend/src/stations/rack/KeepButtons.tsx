import { Button } from "../../kit/Button";

/** Keep what is typed, take the record out, or leave it as it was. */
export function KeepButtons({ remove, close, pending }: { remove?: () => void; close: () => void; pending: boolean }) {
  return (
    <div className="mt-1 flex gap-2">
      <Button type="submit" look="main" className="flex-1" disabled={pending}>
        Keep it
      </Button>
      {remove && (
        <Button onClick={remove} disabled={pending}>
          Take out
        </Button>
      )}
      <Button look="quiet" onClick={close}>
        Cancel
      </Button>
    </div>
  );
}
