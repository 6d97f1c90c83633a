import { Field, Input, Label, Select } from "@headlessui/react";
import { useEffect, useState } from "react";

import { type Candidate, type Outline, Refusal, type Schemas } from "../../api/client";
import { useMethods, useProof } from "../../api/questions";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";

/** A slip that may explain a reading, as it would stand on the lathe. */
export interface Suspected {
  text: string;
  candidate: Candidate;
  outlines: Outline[];
}

const FIELD = "min-h-11 w-full rounded-sm border border-steel-2 bg-paper px-2";

/** Type what the scratch pass measured: told yes, or what went wrong; a slip chosen is drawn. */
export function ProofCheck(props: { machine: string; ask: string; candidate: Candidate; suspected?: Suspected; suspect: (slip?: Suspected) => void }) {
  const { candidate, suspect } = props;
  const { units } = usePreferences();
  const planned = candidate.sheet.scratch_turns;
  const [turns, setTurns] = useState(String(planned));
  const [measured, setMeasured] = useState("");
  const [method, setMethod] = useState<Schemas["Method"]>("caliper");
  const proof = useProof(props.machine, props.ask, candidate.train, units);
  const methods = useMethods(units);
  const { reset } = proof;
  useEffect(() => {
    setTurns(String(planned));
    reset();
  }, [candidate.train, planned, reset]);
  const problem = proof.error instanceof Refusal ? proof.error.problem.errors?.[0] : undefined;
  const told = proof.data;
  return (
    <form
      className="mt-3 border border-line bg-paper p-3 text-[15px]"
      onSubmit={(event) => {
        event.preventDefault();
        suspect(undefined);
        proof.mutate({ measured, turns: Number(turns) || 0, method });
      }}
    >
      <h3 className="font-bold">What did you measure?</h3>
      <div className="mt-2 flex gap-2">
        <Field className="min-w-0 flex-1">
          <Label className="text-[14px] text-soft">Length</Label>
          <Input value={measured} onChange={(e) => setMeasured(e.target.value)} placeholder={units === "mm" ? "mm" : "in"} inputMode="decimal" className={`${FIELD} font-mono`} invalid={problem?.field === "measured"} />
        </Field>
        <Field className="w-20">
          <Label className="text-[14px] text-soft">over turns</Label>
          <Input value={turns} onChange={(e) => setTurns(e.target.value)} inputMode="numeric" className={`${FIELD} font-mono`} invalid={problem?.field === "turns"} />
        </Field>
      </div>
      <Field className="mt-2">
        <Label className="text-[14px] text-soft">with</Label>
        <Select value={method} onChange={(e) => setMethod(e.target.value as Schemas["Method"])} className={FIELD}>
          {methods.data?.map(({ method: value, text }) => (
            <option key={value} value={value}>
              {text}
            </option>
          ))}
        </Select>
      </Field>
      <Button type="submit" className="mt-3 w-full" disabled={!measured.trim()}>
        Is it right?
      </Button>
      <div role="status" className="mt-2">
        {proof.error && <p className="text-oxide">{problem ? `${problem.says} ${problem.would_do}` : proof.error.message}</p>}
        {told && <p className={`border-l-4 px-2 py-1 ${told.agrees ? "border-good" : "border-oxide bg-oxide-bg"}`}>{told.text}</p>}
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
                  onClick={() => suspect(shown ? undefined : { text, candidate: stands, outlines: told.outlines })}
                >
                  {text}
                </button>
              </li>
            );
          })}
        </ol>
      )}
    </form>
  );
}
