import { refusedAt } from "../../api/client";
import { Button } from "../../kit/Button";

/** Save what is typed, delete the record, or leave it as it was; above, why it is not saved where no field shows it. */
export function SaveButtons(props: {
  save: { error: Error | null; isPending: boolean };
  /** The fields that show what is wrong with them. */
  shown: string[];
  remove?: () => void;
  close: () => void;
}) {
  const { save, remove } = props;
  return (
    <>
      {save.error && !props.shown.some(refusedAt(save.error)) && (
        <p role="alert" className="text-oxide">
          {save.error.message}
        </p>
      )}
      <div className="mt-1 flex gap-2">
        <Button type="submit" look="main" className="flex-1" disabled={save.isPending}>
          Save
        </Button>
        {remove && (
          <Button onClick={remove} disabled={save.isPending}>
            Delete
          </Button>
        )}
        <Button look="quiet" onClick={props.close}>
          Cancel
        </Button>
      </div>
    </>
  );
}
