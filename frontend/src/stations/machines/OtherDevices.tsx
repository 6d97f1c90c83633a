import { useState } from "react";

import { refusedAt } from "../../api/client";
import {
  useEndGuests,
  useEntry,
  useSetPassphrase,
  useSignOut,
  type EntryState,
} from "../../api/entry";
import { Failure } from "../../app/Notice";
import { pageElsewhere } from "../../app/elsewhere";
import { useTell } from "../../app/Toast";
import { Button } from "../../kit/Button";
import { dayAndTime } from "../../kit/date";
import { Disclosure } from "../../kit/Disclosure";
import { TextField } from "../../kit/TextField";

/** A tablet at the machine: how it gets here, who is signed in, the passphrase. */
export function OtherDevices() {
  const entry = useEntry();
  if (entry.error) return <Failure error={entry.error} retry={() => void entry.refetch()} />;
  if (!entry.data) return null;
  const { asks, address } = entry.data;
  return (
    <section aria-label="Other devices" className="border border-line bg-paper p-5">
      <h2 className="text-xl font-bold">Other devices</h2>
      {address ? (
        <>
          <p className="mt-1">
            Other devices reach it at <code className="font-mono break-all">{address}</code>
            {!asks && ". Anybody on the network can change the shop"}.
          </p>
          <Button look="main" className="mt-3" onClick={() => pageElsewhere.set(true)}>
            Use it on a tablet
          </Button>
        </>
      ) : (
        <p className="mt-1">
          Reachable from this computer only. To use it on a tablet, start it with{" "}
          <code className="font-mono">valleywind serve --host 0.0.0.0</code>.
        </p>
      )}
      {asks && <Guests guests={entry.data.guests} />}
      <Disclosure title="Passphrase" className="mt-3">
        <Passphrase state={entry.data} />
      </Disclosure>
    </section>
  );
}

/** Whoever is signed in; each can be signed out. */
function Guests({ guests }: { guests: EntryState["guests"] }) {
  const end = useEndGuests();
  const leave = useSignOut();
  const others = guests.filter((guest) => !guest.here).map((guest) => guest.key);
  return (
    <>
      <h3 className="mt-4 font-bold">Signed in</h3>
      {(end.error ?? leave.error) && <Failure error={(end.error ?? leave.error)!} />}
      <ul>
        {guests.map((guest) => (
          <li
            key={guest.key}
            className="flex flex-wrap items-center gap-3 border-b border-line py-1.5"
          >
            <span className="flex-1">
              <b>{guest.name}</b>
              {guest.here && ", this device"}
              {guest.looks_only && ", looks only"}
              <span className="block text-fine text-soft">since {dayAndTime(guest.begun)}</span>
            </span>
            <Button
              aria-label={`Sign out: ${guest.name}`}
              onClick={() =>
                guest.here
                  ? leave.mutate(undefined, { onSuccess: () => location.assign("/sign-in") })
                  : end.mutate([guest.key])
              }
            >
              Sign out
            </Button>
          </li>
        ))}
      </ul>
      {others.length > 1 && (
        <Button className="mt-2" onClick={() => end.mutate(others)}>
          Sign out all others
        </Button>
      )}
    </>
  );
}

function Passphrase({ state }: { state: EntryState }) {
  const set = useSetPassphrase();
  const tell = useTell();
  const [current, setCurrent] = useState("");
  const [passphrase, setPassphrase] = useState("");
  const wrong = refusedAt(set.error);
  const put = (next: string) =>
    set.mutate(
      { current, passphrase: next },
      {
        onSuccess: () => {
          setCurrent("");
          setPassphrase("");
          if (state.asks) location.assign("/sign-in");
          else
            tell({
              text: next ? "The passphrase is set." : "The passphrase is taken back.",
              done: true,
            });
        },
      },
    );
  return (
    <form
      className="mt-2 flex max-w-md flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        put(passphrase);
      }}
    >
      <p className="text-soft">
        On a network Valleywind asks for it. Every device has to sign in again after a change.
      </p>
      {state.has_passphrase && (
        <TextField
          label="Passphrase now"
          secret
          value={current}
          onChange={(next) => {
            setCurrent(next);
            set.reset();
          }}
          problem={wrong("current")}
        />
      )}
      <TextField
        label={state.has_passphrase ? "New passphrase" : "Passphrase, 8 characters or more"}
        secret
        value={passphrase}
        onChange={(next) => {
          setPassphrase(next);
          set.reset();
        }}
        problem={wrong("passphrase")}
      />
      {set.error && !wrong("current") && !wrong("passphrase") && <Failure error={set.error} />}
      <div className="flex flex-wrap gap-2">
        <Button look="main" type="submit" disabled={!passphrase || set.isPending}>
          Save
        </Button>
        {state.has_passphrase && !state.asks && (
          <Button disabled={!current || set.isPending} onClick={() => put("")}>
            Take it back
          </Button>
        )}
      </div>
    </form>
  );
}
