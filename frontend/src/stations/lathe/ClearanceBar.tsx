import type { Schemas } from "../../api/client";

/** How much of the clearance the pitch error takes up, against the guaranteed one and that of a mid-tolerance screw. */
export function ClearanceBar({ verdict }: { verdict: Schemas["VerdictOut"] }) {
  const full = verdict.mid_tolerance_um * 1.12;
  const share = (um: number) => `${Math.min(100, (um / full) * 100)}%`;
  const over = verdict.taken_up_um > verdict.mid_tolerance_um;
  return (
    <div className="mt-3 text-[14px] text-soft">
      <div className="relative h-6 border border-ink bg-paper" aria-hidden>
        <div className={`absolute inset-y-0 left-0 ${over ? "bg-oxide" : "bg-blue"}`} style={{ width: share(verdict.taken_up_um), minWidth: verdict.taken_up_um > 0 ? 4 : 0 }} />
        {[verdict.allowance_um, verdict.mid_tolerance_um].map((um, n) => (
          <div key={um} className={`absolute -inset-y-1.5 border-l-2 ${n ? "border-solid" : "border-dashed"} border-oxide`} style={{ left: share(um) }} />
        ))}
      </div>
      <p className="mt-1.5">
        Takes up <b className="text-ink">{verdict.taken_up}</b> of the clearance: {verdict.allowance} is guaranteed (dashed), {verdict.mid_tolerance} when cut to the
        middle of tolerance.
      </p>
    </div>
  );
}
