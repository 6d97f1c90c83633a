import { useEffect, useState } from "react";

import { refusedAt } from "../../api/client";
import { type SetUp, useHobProof } from "../../api/hobbing";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { Segmented } from "../../kit/Segmented";
import { TextField } from "../../kit/TextField";
import { Working } from "../../kit/Working";

/** A slip that may explain a reading, as it would stand in the boxes. */
export interface Suspected {
  text: string;
  stands: SetUp;
}

/** Type what the table turned or the marks that were counted: told yes, or what went wrong; a slip chosen is drawn. */
export function HobProof(props: {
  machine: string;
  ask: string;
  set: SetUp;
  suspected?: Suspected;
  suspect: (slip?: Suspected) => void;
}) {
  const { set, suspect } = props;
  const { units } = usePreferences();
  const planned = String(set.sheet.proof_turns);
  const [kind, setKind] = useState<"angle" | "marks">("angle");
  const [measured, setMeasured] = useState("");
  const [turns, setTurns] = useState(planned);
  const [off, setOff] = useState("");
  const proof = useHobProof(props.machine, props.ask, set.trains, units);
  const { reset } = proof;
  useEffect(() => {
    setTurns(planned);
    reset();
  }, [set.trains, planned, reset]);
  const wrong = refusedAt(proof.error);
  const told = proof.data;
  // A reading of other turns is no answer about these.
  const type = (change: () => void) => {
    change();
    suspect(undefined);
    reset();
  };
  const angle = kind === "angle";
  return (
    <form
      className="mt-3 border border-line bg-paper p-3 text-[15px]"
      onSubmit={(event) => {
        event.preventDefault();
        suspect(undefined);
        proof.mutate({ kind, measured, turns: angle ? turns : "1", off: angle ? off : "" });
      }}
    >
      <h3 className="font-bold">What did you read?</h3>
      <Segmented
        label="What was read"
        className="mt-2 text-[14px]"
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
      <div role="status" className="mt-2">
        {proof.error && !["measured", "turns", "off"].some(wrong) && (
          <p className="text-oxide">{proof.error.message}</p>
        )}
        {proof.isPending && <Working text="Looking for the slip …" />}
        {told && (
          <p
            className={`border-l-4 px-2 py-1 ${told.agrees ? "border-good" : "border-oxide bg-oxide-bg"}`}
          >
            {told.text}
          </p>
        )}
      </div>
      {told && told.slips.length > 0 && (
        <ol className="mt-2 flex flex-col gap-2">
          {told.slips.map(({ text, stands }) => {
            const shown = props.suspected?.text === text;
            return (
              <li key={text}>
                <button
                  type="button"
                  aria-pressed={shown}
                  className={`min-h-11 w-full rounded-sm border px-2 py-2 text-left ${shown ? "border-blue bg-blue-bg" : "border-line"}`}
                  onClick={() => suspect(shown ? undefined : { text, stands })}
                >
                  {text}
                </button>
              </li>
            );
          })}
        </ol>
      )}
      {told?.next_text && (
        <p className="mt-2 border-l-4 border-blue bg-blue-bg px-2 py-1">{told.next_text}</p>
      )}
    </form>
  );
}
