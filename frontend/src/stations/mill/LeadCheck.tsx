import { useEffect, useState } from "react";

import { refusedAt } from "../../api/client";
import { type HelixReading, type HelixSetUp, useExpected, useLeadCheck } from "../../api/mill";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { Choice } from "../../kit/Form";
import { Segmented } from "../../kit/Segmented";
import { TextField } from "../../kit/TextField";
import { useAnew } from "../../kit/useAnew";
import { useDebouncedValue } from "../../kit/useDebouncedValue";
import { CheckAnswer } from "../../planning/CheckAnswer";

/** A slip that may explain a reading, as the set-up would stand with it. */
export interface Suspicion {
  text: string;
  stands: HelixSetUp;
}

type Kind = HelixReading["kind"];
const READ: Record<Kind, { label: string; example: string; over: string; off: string }> = {
  degrees: { label: "Work turned, °", example: "119.4", over: "Table moved", off: "0.5" },
  crank: { label: "Crank turned", example: "19 44/49", over: "Table moved", off: "0.1" },
  line: { label: "Angle of the line, °", example: "22.6", over: "Work’s diameter", off: "0.5" },
};

/** Move the table by hand and type what the work turned, or the angle of a scribed line: told yes, or what went wrong. */
export function LeadCheck(props: {
  machine: string;
  ask: string;
  set: HelixSetUp;
  suspected?: Suspicion;
  suspect: (slip?: Suspicion) => void;
}) {
  const { machine, set, suspect } = props;
  const { units, initials } = usePreferences();
  const planned = set.sheet.check_over;
  const [kind, setKind] = useState<Kind>("degrees");
  const [measured, setMeasured] = useState("");
  const about = `${set.train} ${planned}`;
  const [travel, setTravel] = useAnew(about, planned);
  const [diameter, setDiameter] = useState("");
  const [off, setOff] = useState("");
  const [turned, setTurned] = useState<HelixReading["turned"]>("not_looked");
  const line = kind === "line";
  const check = useLeadCheck(machine, props.ask, set.train, units, initials);
  const expected = useExpected(machine, set.train, useDebouncedValue(travel, 250), units);
  const { reset } = check;
  useEffect(() => reset(), [about, reset]);
  const wrong = refusedAt(check.error);
  // A reading of other travel is no answer about this.
  const type = (change: () => void) => {
    change();
    suspect(undefined);
    reset();
  };
  const { label, example, over, off: usual } = READ[kind];
  return (
    <form
      className="mt-3 border border-line bg-paper p-3 text-lesser"
      onSubmit={(event) => {
        event.preventDefault();
        suspect(undefined);
        const looked = line ? "not_looked" : turned;
        check.mutate({ kind, measured, over: line ? diameter : travel, off, turned: looked });
      }}
    >
      <h3 className="font-bold">What did you read?</h3>
      <Segmented
        label="What was read"
        className="mt-2 text-fine"
        value={kind}
        options={[
          ["degrees", "Degrees"],
          ["crank", "Crank"],
          ["line", "Line"],
        ]}
        onChange={(k) => type(() => setKind(k))}
      />
      <div className="mt-2 flex gap-2">
        <TextField
          label={over}
          value={line ? diameter : travel}
          onChange={(t) => type(() => (line ? setDiameter(t) : setTravel(t)))}
          example={line ? "40 mm" : undefined}
          problem={wrong("over")}
        />
        <TextField
          label={`± ${kind === "crank" ? "turns" : "°"}`}
          className="max-w-22"
          value={off}
          onChange={(t) => type(() => setOff(t))}
          example={usual}
          problem={wrong("off")}
          numeric
        />
      </div>
      {!line && (
        <p role="status" className="mt-1 text-fine">
          {expected.data && (
            <>
              Must be: <b className="font-mono">{expected.data.degrees}</b>, crank{" "}
              {expected.data.crank}
            </>
          )}
          {expected.error && <span className="text-oxide">{expected.error.message}</span>}
        </p>
      )}
      <div className="mt-2">
        <TextField
          label={label}
          value={measured}
          onChange={(t) => type(() => setMeasured(t))}
          example={example}
          problem={wrong("measured")}
        />
      </div>
      {!line && (
        <div className="mt-2">
          <Choice
            label="Which way did it turn?"
            value={turned}
            options={[
              ["not_looked", "not looked"],
              ["right_way", "as the sheet says"],
              ["other_way", "the other way"],
            ]}
            change={(t) => type(() => setTurned(t))}
          />
        </div>
      )}
      <Button
        type="submit"
        className="mt-3 w-full"
        disabled={!measured.trim() || (line && !diameter.trim())}
      >
        Check
      </Button>
      <CheckAnswer
        answer={check.data}
        waiting={check.isPending}
        failed={["measured", "over", "off"].some(wrong) ? undefined : check.error?.message}
        shown={props.suspected?.text}
        look={suspect}
      />
    </form>
  );
}
