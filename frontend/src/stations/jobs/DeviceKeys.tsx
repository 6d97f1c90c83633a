import { useState } from "react";

import { useAddDeviceKey, useDeviceKeys, useRemoveDeviceKey } from "../../api/devices";
import { refusedAt } from "../../api/client";
import { Failure } from "../../app/Notice";
import { Button } from "../../kit/Button";
import { Callout } from "../../kit/Callout";
import { dayAndTime } from "../../kit/date";
import { TextField } from "../../kit/TextField";

/** Keys by which devices are let in: made here, shown once, taken back. */
export function DeviceKeys() {
  const known = useDeviceKeys();
  const add = useAddDeviceKey();
  const remove = useRemoveDeviceKey();
  const [name, setName] = useState("");
  const wrong = refusedAt(add.error);
  if (!known.data || (!known.data.asks && known.data.keys.length === 0)) return null;
  return (
    <section aria-labelledby="device-keys" className="mt-8">
      <h2 id="device-keys" className="text-heading font-bold">
        Keys of devices
      </h2>
      <p>
        {known.data.asks
          ? "Each device says its key in its first line. Without one it is not let in."
          : "As this server runs now, devices need no key."}
      </p>
      <ul className="mt-2">
        {known.data.keys.map((key) => (
          <li key={key.number} className="flex items-center gap-3 border-b border-line py-1.5">
            <span className="flex-1">
              <b>{key.name}</b>
              <span className="block text-fine text-soft">made {dayAndTime(key.made)}</span>
            </span>
            <Button
              aria-label={`Take back the key of ${key.name}`}
              onClick={() => remove.mutate(key.number)}
            >
              Take back
            </Button>
          </li>
        ))}
      </ul>
      {remove.error && <Failure error={remove.error} />}
      {add.data && (
        <Callout role="status" tone="note" className="mt-2">
          <p className="font-bold">The key of {add.data.name}. It is shown only now.</p>
          <code className="mt-1 block font-mono break-all select-all">{add.data.key}</code>
          <p className="mt-1 text-fine">
            In its first line: <code className="font-mono">{`"key": "${add.data.key}"`}</code>
          </p>
        </Callout>
      )}
      <form
        className="mt-2 flex max-w-md items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate(name, { onSuccess: () => setName("") });
        }}
      >
        <TextField
          label="Key for"
          example="crank of Heron"
          value={name}
          onChange={(next) => {
            setName(next);
            if (add.error) add.reset();
          }}
          problem={wrong("name")}
        />
        <Button type="submit" disabled={!name.trim() || add.isPending}>
          Add
        </Button>
      </form>
      {add.error && !wrong("name") && <Failure error={add.error} />}
    </section>
  );
}
