import { useState } from "react";
import { Link, useNavigate } from "react-router";

import { useArchiveMachine, useDeleteMachine, useMachines } from "../../api/machines";
import { Failure } from "../../app/Notice";
import { useTell } from "../../app/Toast";
import { Button, buttonLook } from "../../kit/Button";
import { DialogFrame } from "../../kit/DialogFrame";

/** At the foot of a machine's record: save what was typed, or not; of a known one, another like it, or none. */
export function RecordButtons(props: {
  busy: boolean;
  className: string;
  /** The machine, where it is known, and where another like it is begun. */
  known?: { slug: string; name: string; copy: string };
  /** The machine is deleted: what was typed need not be saved any more. */
  deleted: () => void;
}) {
  const { known } = props;
  return (
    <div className={`flex flex-wrap gap-2 ${props.className}`}>
      <Button type="submit" look="main" className="flex-1" disabled={props.busy}>
        Save
      </Button>
      <Link className={buttonLook()} to="/machines">
        Cancel
      </Link>
      {known && (
        <>
          <Link className={buttonLook()} to={known.copy}>
            Copy
          </Link>
          <Archive slug={known.slug} name={known.name} />
          <Delete {...known} deleted={props.deleted} />
        </>
      )}
    </div>
  );
}

/** Puts a machine away, or takes it into use again. */
export function ArchiveButton(props: {
  slug: string;
  name: string;
  archived: boolean;
  done?: () => void;
}) {
  const { slug, name, archived } = props;
  const archive = useArchiveMachine(slug);
  const tell = useTell();
  return (
    <Button
      disabled={archive.isPending}
      onClick={() =>
        archive.mutate(!archived, {
          onSuccess: () => {
            tell({
              text: archived ? `${name} is in use again.` : `${name} is archived.`,
              done: true,
            });
            props.done?.();
          },
          onError: (error) => tell({ text: error.message }),
        })
      }
    >
      {archived ? "Use again" : "Archive"}
    </Button>
  );
}

/** The same in a record. Something half typed there is asked for before the page is left. */
function Archive(props: { slug: string; name: string }) {
  const navigate = useNavigate();
  const archived = useMachines().data?.find(({ slug }) => slug === props.slug)?.archived ?? false;
  return (
    <ArchiveButton
      slug={props.slug}
      name={props.name}
      archived={archived}
      done={() => void navigate("/machines")}
    />
  );
}

function Delete(props: { slug: string; name: string; deleted: () => void }) {
  const { slug, name, deleted } = props;
  const [asking, setAsking] = useState(false);
  const remove = useDeleteMachine(slug);
  const navigate = useNavigate();
  const tell = useTell();
  const close = () => {
    setAsking(false);
    remove.reset();
  };
  const gone = () => {
    deleted();
    tell({ text: `${name} is deleted.`, done: true });
    void navigate("/machines");
  };
  return (
    <>
      <Button onClick={() => setAsking(true)}>Delete</Button>
      {asking && (
        <DialogFrame title={`Delete ${name}?`} close={close}>
          <p className="mt-2">
            Its wheels stay in the rack and belong to no machine. Jobs keep its name. Undo brings it
            back.
          </p>
          {remove.error && <Failure error={remove.error} />}
          <div className="mt-4 flex gap-2">
            <Button
              look="main"
              disabled={remove.isPending}
              onClick={() => remove.mutate(undefined, { onSuccess: gone })}
            >
              Delete
            </Button>
            <Button onClick={close}>Cancel</Button>
          </div>
        </DialogFrame>
      )}
    </>
  );
}
