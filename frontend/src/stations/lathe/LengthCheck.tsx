import { useEffect, useState } from "react";

import { type Candidate, type Outline, Refusal, refusedAt, type Schemas } from "../../api/client";
import { useLengthCheck } from "../../api/lathe";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { TextField } from "../../kit/TextField";
import { useAnew } from "../../kit/useAnew";
import { CheckAnswer } from "../../planning/CheckAnswer";
import { MeasuredWith } from "./MeasuredWith";

/** A slip that may explain a reading, as it would stand on the lathe. */
export interface Suspicion {
  text: string;
  candidate: Candidate;
  outlines: Outline[];
}

/** Type what the scratch pass measured: told yes, or what went wrong; a slip chosen is drawn. */
export function LengthCheck(props: {
  machine: string;
  ask: string;
  candidate: Candidate;
  suspected?: Suspicion;
  suspect: (slip?: Suspicion) => void;
}) {
  const { candidate, suspect } = props;
  const { units, initials } = usePreferences();
  const planned = candidate.sheet.check_over;
  const about = `${candidate.train} ${planned}`;
  const [turns, setTurns] = useAnew(about, planned);
  const [measured, setMeasured] = useState("");
  const [off, setOff] = useState("");
  const [method, setMethod] = useState<Schemas["Method"]>("caliper");
  const check = useLengthCheck(props.machine, props.ask, candidate.train, units, initials);
  const { reset } = check;
  useEffect(() => reset(), [about, reset]);
  const problem = check.error instanceof Refusal ? check.error.problem.errors?.[0] : undefined;
  const wrong = refusedAt(check.error);
  // A reading of one turn is not an answer about another train, other turns or another length.
  const answer = check.data;
  const type = (change: () => void) => {
    change();
    suspect(undefined);
    reset();
  };
  return (
    <form
      className="mt-3 border border-line bg-paper p-3 text-lesser"
      onSubmit={(event) => {
        event.preventDefault();
        suspect(undefined);
        check.mutate({ measured, turns, method, off });
      }}
    >
      <h3 className="font-bold">What did you measure?</h3>
      <p className="text-fine text-soft">
        {candidate.verdict.job === "feed"
          ? "How far the tool went."
          : "Over scratches or a thread, or how far the carriage went; a gauge’s pitch counts as one turn."}
      </p>
      <div className="mt-2 flex gap-2">
        <TextField
          label="Length"
          value={measured}
          onChange={(t) => type(() => setMeasured(t))}
          example={units === "mm" ? "mm" : "in"}
          problem={wrong("measured")}
          numeric
        />
        <TextField
          label="over turns"
          className="max-w-22"
          value={turns}
          onChange={(t) => type(() => setTurns(t))}
          problem={wrong("turns")}
          numeric
        />
      </div>
      <MeasuredWith
        label="with"
        method={method}
        setMethod={(m) => type(() => setMethod(m))}
        off={off}
        setOff={(t) => type(() => setOff(t))}
        problem={wrong("off")}
      />
      <Button type="submit" className="mt-3 w-full" disabled={!measured.trim()}>
        Check
      </Button>
      <CheckAnswer
        answer={answer}
        waiting={check.isPending}
        failed={problem ? undefined : check.error?.message}
        shown={props.suspected?.text}
        look={(slip) =>
          suspect(
            slip && { text: slip.text, candidate: slip.stands, outlines: answer?.outlines ?? [] },
          )
        }
      />
    </form>
  );
}
