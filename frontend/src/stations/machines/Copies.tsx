import { useState } from "react";

import type { Schemas } from "../../api/client";
import { copyAddress, useCopies, useCopy, useMakeCopy, useRestoreCopy } from "../../api/shop";
import { Failure } from "../../app/Notice";
import { Button, buttonLook } from "../../kit/Button";
import { dayAndTime } from "../../kit/date";
import { DialogFrame } from "../../kit/DialogFrame";
import { Disclosure } from "../../kit/Disclosure";

type Copy = Schemas["CopyOut"];

/** Copies of the shop: when the last was made; each can be fetched, and put back after a look into it. */
export function Copies() {
  const copies = useCopies();
  const make = useMakeCopy();
  const [chosen, setChosen] = useState<Copy>();
  if (copies.error) return <Failure error={copies.error} retry={() => void copies.refetch()} />;
  if (!copies.data) return null;
  const { copies: every, daily, folder } = copies.data;
  const newest = every[0];
  return (
    <section aria-label="Copies" className="border border-line bg-paper p-5">
      <h2 className="text-xl font-bold">Copies</h2>
      <p className="mt-1">
        {newest ? `The last copy was made ${dayAndTime(newest.made)}.` : "There is no copy yet."}{" "}
        {daily && "One is made by itself on each day that something changed."}
      </p>
      <p className="text-fine text-soft">
        They lie in <code className="font-mono break-all">{folder}</code>. Keep one on another disk
        too.
      </p>
      <div className="mt-3 flex flex-wrap gap-2">
        <Button look="main" disabled={make.isPending} onClick={() => make.mutate()}>
          Make a copy
        </Button>
        {newest && (
          <a className={buttonLook()} href={copyAddress(newest.name)} download>
            Download
          </a>
        )}
      </div>
      {make.error && <Failure error={make.error} />}
      {every.length > 0 && (
        <Disclosure title="All copies" state={String(every.length)} className="mt-2">
          <ul>
            {every.map((copy) => (
              <li
                key={copy.name}
                className="flex flex-wrap items-center gap-2 border-b border-line py-1.5"
              >
                <span className="min-w-48 flex-1">
                  <b>{dayAndTime(copy.made)}</b>
                  {copy.before_restore && ", kept before a copy was restored"}
                  <span className="block text-fine text-soft">
                    {copy.name}, {size(copy.bytes)}
                  </span>
                </span>
                <a
                  className={buttonLook("quiet")}
                  href={copyAddress(copy.name)}
                  aria-label={`Download ${copy.name}`}
                  download
                >
                  Download
                </a>
                <Button
                  look="quiet"
                  aria-label={`Restore ${copy.name}`}
                  onClick={() => setChosen(copy)}
                >
                  Restore
                </Button>
              </li>
            ))}
          </ul>
        </Disclosure>
      )}
      {chosen && <Restore copy={chosen} close={() => setChosen(undefined)} />}
    </section>
  );
}

/** A look into a copy, before it is put in the place of the shop. */
function Restore({ copy, close }: { copy: Copy; close: () => void }) {
  const holds = useCopy(copy.name);
  const restore = useRestoreCopy();
  return (
    <DialogFrame title={`Copy of ${dayAndTime(copy.made)}`} close={close}>
      {holds.data && (
        <>
          <p>It holds {holds.data.text}.</p>
          {holds.data.changed && <p>The last change in it: {dayAndTime(holds.data.changed)}.</p>}
          <p className="mt-2">
            Restore puts it in the place of the shop, on every device. The shop as it is now is kept
            as a copy. Who may sign in stays as it is.
          </p>
        </>
      )}
      {holds.error && <Failure error={holds.error} />}
      {restore.error && <Failure error={restore.error} />}
      <div className="mt-4 flex flex-wrap gap-2">
        <Button
          look="main"
          disabled={!holds.data || restore.isPending}
          onClick={() => restore.mutate(copy.name)}
        >
          Restore
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </DialogFrame>
  );
}

function size(bytes: number): string {
  return bytes < 1e6
    ? `${Math.max(1, Math.round(bytes / 1e3))} kB`
    : `${(bytes / 1e6).toFixed(1)} MB`;
}
