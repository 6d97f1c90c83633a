import { useState } from "react";

import { refusedAt } from "../../api/client";
import { type HobPlan, useBacklash, useRolling } from "../../api/hobber";
import { Failure } from "../../app/Notice";
import { usePreferences } from "../../app/preferences";
import { PairDrawing } from "../../drawing/PairDrawing";
import { RollingDrawing } from "../../drawing/RollingDrawing";
import { Button } from "../../kit/Button";
import { TextField } from "../../kit/TextField";
import { Figures } from "../../planning/Figures";

/** Sizes of the wheel, the hob's rack making its tooth, and the pair in mesh. */
export function HobbedWheel({ plan }: { plan: HobPlan }) {
  const rolling = useRolling(plan.ask.canonical);
  const pair = plan.pair.length > 0;
  return (
    <div className="mt-2">
      {plan.wheel.length === 0 && (
        <p className="text-soft">
          Say the pitch, like {plan.ask.canonical} m2: then sizes, depth and what to measure stand
          here.
        </p>
      )}
      <Figures figures={plan.wheel} />
      {pair && (
        <>
          <h3 className="mt-3 font-bold">With its mate of {plan.ask.mate}</h3>
          {rolling.data && <PairDrawing rolling={rolling.data} />}
          <Figures figures={plan.pair} />
          <Backlash ask={plan.ask.canonical} />
        </>
      )}
      <h3 className="mt-3 mb-1 font-bold">How the tooth is made</h3>
      {rolling.error && <Failure error={rolling.error} retry={() => void rolling.refetch()} />}
      {rolling.data && <RollingDrawing rolling={rolling.data} />}
    </div>
  );
}

/** Backlash of the pair from the spans that were measured. */
function Backlash({ ask }: { ask: string }) {
  const { units } = usePreferences();
  const [typed, setTyped] = useState({ span: "", mate_span: "", centres: "" });
  const backlash = useBacklash(ask, units);
  const wrong = refusedAt(backlash.error);
  const field = (name: keyof typeof typed, label: string, example?: string) => (
    <TextField
      label={label}
      value={typed[name]}
      onChange={(text) => {
        setTyped({ ...typed, [name]: text });
        backlash.reset();
      }}
      example={example}
      problem={wrong(name)}
      numeric
    />
  );
  return (
    <form
      className="mt-2 border border-line bg-paper p-3 text-lesser"
      onSubmit={(event) => {
        event.preventDefault();
        backlash.mutate(typed);
      }}
    >
      <h4 className="font-bold">Backlash from measured spans</h4>
      <div className="mt-1 flex gap-2">
        {field("span", "Span of the wheel")}
        {field("mate_span", "of its mate")}
      </div>
      {field("centres", "Shafts apart", "empty: as above")}
      <Button
        type="submit"
        className="mt-2 w-full"
        disabled={!typed.span.trim() || !typed.mate_span.trim()}
      >
        Work out
      </Button>
      <p
        role="status"
        className={`mt-2 min-h-6 ${backlash.data ? `border-l-4 px-2 ${backlash.data.good ? "border-good" : "border-oxide bg-oxide-bg"}` : ""}`}
      >
        {backlash.data?.text}
        {backlash.error && !["span", "mate_span", "centres"].some(wrong) && backlash.error.message}
      </p>
    </form>
  );
}
