import { useState } from "react";

import { refusedAt, type Schemas } from "../api/client";
import { useEffort, useSaveEffort } from "../api/machines";
import { Failure } from "../app/Notice";
import { useTell } from "../app/Toast";
import { Button } from "../kit/Button";
import { DialogFrame } from "../kit/DialogFrame";
import { TextField } from "../kit/TextField";
import { Working } from "../kit/Working";

/** What a change at each place of a machine takes, said once: the order of a day's work goes by it. */
export function EffortButton({ slug, name }: { slug: string; name: string }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Effort</Button>
      {open && <Effort slug={slug} name={name} close={() => setOpen(false)} />}
    </>
  );
}

function Effort({ slug, name, close }: { slug: string; name: string; close: () => void }) {
  const effort = useEffort(slug);
  return (
    <DialogFrame title={`Effort of a change on ${name}`} close={close}>
      <p className="mt-1">
        A wheel at a place that is easy to reach is 1. Enter more for a place that is a pain to
        reach: the day’s order then leaves it alone.
      </p>
      {effort.error && <Failure error={effort.error} />}
      {effort.data ? (
        <Weights weights={effort.data.weights} slug={slug} name={name} close={close} />
      ) : (
        !effort.error && <Working text="Looking …" />
      )}
    </DialogFrame>
  );
}

function Weights({
  weights,
  slug,
  name,
  close,
}: {
  weights: Schemas["WeightOut"][];
  slug: string;
  name: string;
  close: () => void;
}) {
  const [typed, setTyped] = useState(() =>
    Object.fromEntries(weights.map((one) => [one.field, one.typed])),
  );
  const save = useSaveEffort(slug);
  const tell = useTell();
  const wrong = refusedAt(save.error);
  const elsewhere = save.error && !weights.some((one) => wrong(one.field));
  return (
    <form
      className="mt-3 flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate(typed, {
          onSuccess: () => {
            tell({ text: `Saved what a change takes on ${name}.`, done: true });
            close();
          },
        });
      }}
    >
      <div className="grid grid-cols-2 gap-3 phone:grid-cols-1">
        {weights.map((one) => (
          <TextField
            key={one.field}
            label={one.label}
            value={typed[one.field] ?? ""}
            onChange={(next) => setTyped({ ...typed, [one.field]: next })}
            problem={wrong(one.field)}
            example={one.usual}
            numeric
          />
        ))}
      </div>
      {elsewhere && <Failure error={save.error} />}
      <div className="flex flex-wrap gap-2">
        <Button look="main" type="submit" disabled={save.isPending}>
          Save
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </form>
  );
}
