import { useEffect, useState } from "react";

import { refusedAt } from "../../api/client";
import { type SetUp, useHobCheck } from "../../api/hobber";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { Segmented } from "../../kit/Segmented";
import { TextField } from "../../kit/TextField";
import { useAnew } from "../../kit/useAnew";
import { CheckAnswer } from "../../planning/CheckAnswer";

/** A slip that may explain a reading, as it would stand in the boxes. */
export interface Suspicion {
  text: string;
  stands: SetUp;
}

/** Type what the table turned or the marks that were counted: told yes, or what went wrong; a slip chosen is drawn. */
export function HobCheck(props: {
  machine: string;
  ask: string;
  set: SetUp;
  suspected?: Suspicion;
  suspect: (slip?: Suspicion) => void;
}) {
  const { set, suspect } = props;
  const { units, initials } = usePreferences();
  const planned = set.sheet.check_over;
  const [kind, setKind] = useState<"angle" | "marks">("angle");
  const [measured, setMeasured] = useState("");
  const about = `${set.train} ${planned}`;
  const [turns, setTurns] = useAnew(about, planned);
  const [off, setOff] = useState("");
  const check = useHobCheck(props.machine, props.ask, set.train, units, initials);
  const { reset } = check;
  useEffect(() => reset(), [about, reset]);
  const wrong = refusedAt(check.error);
  // A reading of other turns is no answer about these.
  const type = (change: () => void) => {
    change();
    suspect(undefined);
    reset();
  };
  const angle = kind === "angle";
  return (
    <form
      className="mt-3 border border-line bg-paper p-3 text-lesser"
      onSubmit={(event) => {
        event.preventDefault();
        suspect(undefined);
        check.mutate({ kind, measured, turns: angle ? turns : "1", off: angle ? off : "" });
      }}
    >
      <h3 className="font-bold">What did you read?</h3>
      <Segmented
        label="What was read"
        className="mt-2 text-fine"
        value={kind}
        options={[
          ["angle", "Table angle"],
          ["marks", "Marks counted"],
        ]}
        onChange={(k) => type(() => setKind(k))}
      />
      <div className="mt-2 flex gap-2">
        <TextField
          label={angle ? "Table turned, °" : "Marks round the blank"}
          value={measured}
          onChange={(t) => type(() => setMeasured(t))}
          problem={wrong("measured")}
          numeric
        />
        {angle && (
          <TextField
            label="hob turns"
            className="max-w-22"
            value={turns}
            onChange={(t) => type(() => setTurns(t))}
            problem={wrong("turns")}
            numeric
          />
        )}
        {angle && (
          <TextField
            label="± °"
            className="max-w-18"
            value={off}
            onChange={(t) => type(() => setOff(t))}
            example="0.5"
            problem={wrong("off")}
            numeric
          />
        )}
      </div>
      <Button type="submit" className="mt-3 w-full" disabled={!measured.trim()}>
        Check
      </Button>
      <CheckAnswer
        answer={check.data}
        waiting={check.isPending}
        failed={["measured", "turns", "off"].some(wrong) ? undefined : check.error?.message}
        shown={props.suspected?.text}
        look={suspect}
      />
    </form>
  );
}
