import type { ChartRow } from "../api/client";
import { HEX } from "./Nut";

export type Standing = ChartRow["standing"];

export const STANDINGS: [Standing, string][] = [
  ["exact", "exact"],
  ["good", "good"],
  ["poor", "poor"],
  ["no_room", "no room"],
  ["needs_wheel", "needs a wheel"],
  ["out_of_reach", "out of reach"],
];

/** How a pitch stands, as a nut: full, half, empty; crossed where there is no room, open with a plus where a wheel is wanted. */
export function StandingSign({ standing, size = 20 }: { standing: Standing; size?: number }) {
  return (
    <svg viewBox="-1 0 26 24" width={size} height={size} aria-hidden className="shrink-0">
      <StandingShape standing={standing} />
    </svg>
  );
}

/** The same as parts of a drawing, 24 across with its middle at 12, 12. */
export function StandingShape({ standing }: { standing: Standing }) {
  const bad = standing === "poor" || standing === "no_room" || standing === "out_of_reach";
  const colour = bad ? "var(--oxide)" : standing === "needs_wheel" ? "var(--blue)" : "var(--good)";
  if (standing === "out_of_reach") return <path d="M3 12 H21" stroke={colour} strokeWidth={3} />;
  return (
    <>
      <path d={HEX} fill="var(--paper)" stroke={colour} strokeWidth={1.8} strokeLinejoin="round" strokeDasharray={standing === "needs_wheel" ? "4 2.4" : undefined} />
      {standing === "exact" && <path d={`${HEX} M12 7 A5 5 0 1 0 12 17 A5 5 0 1 0 12 7 Z`} fill={colour} fillRule="evenodd" />}
      {standing === "good" && <path d="M12 1.2 L6 1.2 L0.6 12 L6 22.8 L12 22.8 L12 17 A5 5 0 0 1 12 7 Z" fill={colour} />}
      {(standing === "good" || standing === "poor") && <circle cx={12} cy={12} r={5} fill="none" stroke={colour} strokeWidth={1.6} />}
      {standing === "no_room" && <path d="M4 3.5 L20 20.5 M20 3.5 L4 20.5" stroke={colour} strokeWidth={2} />}
      {standing === "needs_wheel" && <path d="M12 6 V18 M6 12 H18" stroke={colour} strokeWidth={2.4} />}
    </>
  );
}
