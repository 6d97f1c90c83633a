import { useState } from "react";

import type { Family, RackWheel, Schemas } from "../../api/client";
import { NO_READINGS, useIdentify } from "../../api/rack";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { TextField } from "../../kit/TextField";
import { Likely } from "./IdentifyPanel";

type Identity = Schemas["IdentityOut"];

/** Several wheels that belong together: a tip diameter of each tells more than many readings of one. */
export function SetPanel(props: {
  wheels: RackWheel[];
  families: Family[];
  becomes: (family: Family) => void;
  newFamily: (identity: Identity) => void;
  close: () => void;
}) {
  const { units } = usePreferences();
  const [tips, setTips] = useState<Record<number, string>>(() =>
    Object.fromEntries(props.wheels.map((w) => [w.id, String(w.measured.tip_diameter ?? "")])),
  );
  const identify = useIdentify(units);
  const measured = props.wheels.filter((w) => tips[w.id]?.trim());
  const ask = () =>
    identify.mutate({
      wheels: measured.slice(0, 12).map((w) => ({
        ...NO_READINGS,
        // How it was measured counts for as long as it is what was measured.
        ...(tips[w.id] === w.measured.tip_diameter && howMeasured(w.measured)),
        teeth: String(w.teeth),
        tip_diameter: tips[w.id] ?? "",
        worn: w.condition === "worn",
      })),
      keep: null,
    });
  return (
    <div className="flex flex-col gap-3">
      <div className="flex items-start justify-between gap-2">
        <h2 className="text-heading font-bold">What are they?</h2>
        <Button look="quiet" onClick={props.close} aria-label="Close">
          ✕
        </Button>
      </div>
      <p className="text-lesser text-soft">
        For wheels of one set: caliper over the tips of a few, large and small.
      </p>
      <form
        className="flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          ask();
        }}
      >
        {props.wheels.slice(0, 12).map((wheel) => (
          <TextField
            key={wheel.id}
            label={`${wheel.teeth} teeth, over the tips`}
            value={tips[wheel.id] ?? ""}
            onChange={(t) => setTips((now) => ({ ...now, [wheel.id]: t }))}
            example="60.9 mm"
          />
        ))}
        <Button type="submit" look="main" disabled={!measured.length}>
          Find out
        </Button>
      </form>
      {identify.error && (
        <p role="alert" className="text-oxide">
          {identify.error.message}
        </p>
      )}
      {identify.data && (
        <ol role="status">
          {identify.data.identities.slice(0, 4).map((identity, n) => (
            <Likely
              key={n}
              identity={identity}
              first={n === 0}
              families={props.families}
              becomes={props.becomes}
              newFamily={props.newFamily}
              several
            />
          ))}
        </ol>
      )}
    </div>
  );
}

function howMeasured({ tip_method, tip_off }: RackWheel["measured"]) {
  return {
    tip_method: tip_method === "micrometer" || tip_method === "true" ? tip_method : "caliper",
    tip_off: String(tip_off ?? ""),
  } as const;
}
