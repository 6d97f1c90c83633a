import { useState } from "react";
import { Link, useParams } from "react-router";

import { Refusal, refusedAt, type Schemas } from "../../api/client";
import { useConstants } from "../../api/lathe";
import { usePreferences } from "../../app/preferences";
import { Callout } from "../../kit/Callout";
import { Button, buttonLook } from "../../kit/Button";
import { Failure } from "../../app/Notice";
import { TextField } from "../../kit/TextField";
import { MeasuredWith } from "./MeasuredWith";

const STEPS = [
  "Isolate the lathe. Open the gear cover and put any two equal wheels from first shaft to screw, with an idler between where it needs one; or count the train that is on.",
  "Close the half-nuts and take up the play by winding on a little.",
  "Note where the carriage stands. Turn the spindle by hand, in one direction, through as many whole turns as you have patience for.",
  "Measure how far the carriage went. Twenty turns tell twice as much as ten.",
];

/** Turns and travel of a lathe without papers: which screw and which first-shaft ratio it may have. */
export default function ConstantsStation() {
  const { units } = usePreferences();
  const { machine } = useParams();
  const [measured, setMeasured] = useState("");
  const [turns, setTurns] = useState("20");
  const [train, setTrain] = useState("");
  const [off, setOff] = useState("");
  const [method, setMethod] = useState<Schemas["Method"]>("rule");
  const constants = useConstants(units);
  const problem =
    constants.error instanceof Refusal ? constants.error.problem.errors?.[0] : undefined;
  const wrong = refusedAt(constants.error);
  const answer = constants.data;
  const likeliest = answer?.lathes[0];
  return (
    <div className="h-full overflow-y-auto p-6 tall:h-auto">
      <div className="mx-auto grid max-w-5xl grid-cols-2 gap-8 tall:grid-cols-1">
        <section>
          <h1 className="text-2xl font-bold">Identify an unknown lathe</h1>
          <p className="mt-1 text-soft">
            From turns and travel: the pitch of its screw, and how fast its first shaft turns.
          </p>
          <ol className="mt-4">
            {STEPS.map((step, n) => (
              <li key={step} className="grid grid-cols-[28px_1fr] border-t border-line py-2.5">
                <span className="font-mono font-bold text-soft">{n + 1}</span>
                <span>{step}</span>
              </li>
            ))}
          </ol>
          <Callout tone="wrong" as="p">
            Plug out or switch locked off while your hands are in the train.
          </Callout>
        </section>
        <section>
          <form
            className="border border-line bg-paper p-5"
            onSubmit={(event) => {
              event.preventDefault();
              constants.mutate({ measured, turns, method, off, train });
            }}
          >
            <div className="flex gap-3">
              <TextField
                label="Carriage moved"
                value={measured}
                onChange={setMeasured}
                example={units === "mm" ? "84.7 mm" : "3.33 in"}
                problem={wrong("measured")}
              />
              <TextField
                label="in spindle turns"
                className="max-w-32"
                value={turns}
                onChange={setTurns}
                problem={wrong("turns")}
                numeric
              />
            </div>
            <MeasuredWith
              label="measured with"
              method={method}
              setMethod={setMethod}
              off={off}
              setOff={setOff}
              problem={wrong("off")}
            />
            <div className="mt-3">
              <TextField
                label="Train that is on; empty for equal wheels"
                value={train}
                onChange={setTrain}
                example="40/60, or 20/80*40/50"
                problem={wrong("train") ?? wrong("mounted")}
              />
            </div>
            <Button type="submit" look="main" className="mt-4 w-full" disabled={!measured.trim()}>
              What lathe is it?
            </Button>
          </form>
          {constants.error && !problem && <Failure error={constants.error} />}
          <div role="status" className="mt-4">
            {answer && <p>{answer.text}</p>}
            {likeliest && (
              <Callout tone="good" as="p" className="mt-3">
                <span className="text-soft">Most likely</span>
                <b className="block text-heading">{likeliest.text}</b>
                <Use lathe={likeliest} machine={machine} />
              </Callout>
            )}
            {answer && answer.lathes.length > 1 && (
              <>
                <h2 className="mt-4 font-bold">Other possibilities</h2>
                <ol>
                  {answer.lathes.slice(1).map((lathe) => (
                    <li
                      key={lathe.text}
                      className="flex items-center justify-between gap-4 border-b border-line py-2"
                    >
                      <span className="flex-1">{lathe.text}</span>
                      <span className="text-fine whitespace-nowrap text-soft">
                        {lathe.off < 0.05
                          ? "right on it"
                          : `${Math.round(lathe.off * 100)} % of what the measurement may be off`}
                      </span>
                      <Use lathe={lathe} machine={machine} />
                    </li>
                  ))}
                </ol>
                <p className="mt-3 text-soft">
                  To tell the screw from the ratio, lay a thread gauge or a rule on the screw
                  itself.
                </p>
              </>
            )}
          </div>
        </section>
      </div>
    </div>
  );
}

/** Opens the record of the lathe, or of a new one, with these two filled in. */
function Use(props: { lathe: Schemas["ConstantOut"]; machine?: string }) {
  const { screw, first } = props.lathe;
  const to = `/machines/${props.machine ?? "new"}?${new URLSearchParams({ screw, first })}`;
  return (
    <Link className={`${buttonLook()} mt-1`} to={to} aria-label={`Use ${props.lathe.text}`}>
      Use in the record
    </Link>
  );
}
