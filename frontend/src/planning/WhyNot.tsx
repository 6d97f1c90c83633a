import type { Schemas } from "../api/client";
import { Callout } from "../kit/Callout";
import { Button } from "../kit/Button";

/** A train of whatever machine that is looked at. */
interface ShownTrain {
  goes_on: boolean;
  reasons: string[];
  advice: Schemas["AdviceOut"] | null;
  drawing: Schemas["Drawing"];
}

/** Over a drawing of what may have gone wrong: what that is, and the way back. */
export function AsItMayStand({ text, back }: { text: string; back?: () => void }) {
  return (
    <Callout role="note" tone="wrong" small className="flex items-center justify-between gap-3">
      <span>
        <b>As it may stand now:</b> {text}
      </span>
      <Button className="shrink-0" onClick={back}>
        Back to the plan
      </Button>
    </Callout>
  );
}

/** Everything that keeps the train off, fouls with the number they have in the drawing; and what puts the hand right. */
export function WhyNot({
  candidate,
  take,
}: {
  candidate: ShownTrain;
  take?: (train: string) => void;
}) {
  const fouls = candidate.drawing.clearances.filter((c) => c.fouls);
  const others = candidate.reasons.filter((reason) => !fouls.some((f) => f.between === reason));
  const { advice } = candidate;
  return (
    <Callout role="note" tone="wrong" small>
      <b>{candidate.goes_on ? "Not yet:" : "Does not fit:"}</b>
      <ul>
        {fouls.map((foul, n) => (
          <li key={n}>
            <b className="font-mono text-oxide">
              ◆ {candidate.drawing.clearances.indexOf(foul) + 1}
            </b>{" "}
            {foul.between}
          </li>
        ))}
        {others.map((reason) => (
          <li key={reason}>{reason}</li>
        ))}
      </ul>
      {advice && (
        <p className="mt-1 flex items-center justify-between gap-3">
          {advice.text}
          {take && <Button onClick={() => take(advice.train)}>Do that</Button>}
        </p>
      )}
    </Callout>
  );
}

/** The train as it may stand, with the wheels marked that are not where the plan has them. */
export function withSlip<C extends ShownTrain>(candidate: C, planned: C): C {
  const wheels = candidate.drawing.wheels.map((wheel) => {
    const there = planned.drawing.wheels.some(
      (p) => p.shaft === wheel.shaft && p.plane === wheel.plane && p.teeth === wheel.teeth,
    );
    return { ...wheel, fouls: !there };
  });
  return { ...candidate, drawing: { ...candidate.drawing, wheels } };
}
