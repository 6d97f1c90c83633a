import type { Schemas } from "../../api/client";
import { Strong } from "../../kit/Strong";

/** How much the error takes up of what the job allows: it runs free up to the dashed mark, with care up to the full one. */
export function ClearanceBar({ verdict }: { verdict: Schemas["VerdictOut"] }) {
  const full = verdict.at_most * 1.12 || 1;
  const share = (amount: number) => `${Math.min(100, (amount / full) * 100)}%`;
  const over = verdict.taken_up > verdict.at_most;
  const marks =
    verdict.freely < verdict.at_most ? [verdict.freely, verdict.at_most] : [verdict.at_most];
  return (
    <div className="mt-3 text-fine text-soft">
      <div className="relative h-6 border border-ink bg-paper" aria-hidden>
        <div
          className={`absolute inset-y-0 left-0 ${over ? "bg-oxide" : "bg-blue"}`}
          style={{ width: share(verdict.taken_up), minWidth: verdict.taken_up > 0 ? 4 : 0 }}
        />
        {marks.map((amount) => (
          <div
            key={amount}
            className={`absolute -inset-y-1.5 border-l-2 ${amount === verdict.at_most ? "border-solid" : "border-dashed"} border-oxide`}
            style={{ left: share(amount) }}
          />
        ))}
      </div>
      <p className="mt-1.5">
        <Strong text={verdict.bar} />
      </p>
    </div>
  );
}
