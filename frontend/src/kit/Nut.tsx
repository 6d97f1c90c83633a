import type { Schemas } from "../api/client";

type Goes = Schemas["VerdictOut"]["goes"];

export const HEX = "M6 1.2 L18 1.2 L23.4 12 L18 22.8 L6 22.8 L0.6 12 Z";

/** Our sign of merit, always beside its words: a full nut, a half one, an empty one, a crossed one. */
export function Nut({ goes, size = 22 }: { goes: Goes; size?: number }) {
  const colour = goes === "freely" || goes === "mid_tolerance" ? "var(--good)" : "var(--oxide)";
  return (
    <svg viewBox="-1 0 26 24" width={size} height={size} aria-hidden className="shrink-0">
      {goes === "freely" && (
        <path d={`${HEX} M12 7 A5 5 0 1 0 12 17 A5 5 0 1 0 12 7 Z`} fill={colour} fillRule="evenodd" />
      )}
      {goes === "mid_tolerance" && (
        <path d="M12 1.2 L6 1.2 L0.6 12 L6 22.8 L12 22.8 L12 17 A5 5 0 0 1 12 7 Z" fill={colour} />
      )}
      <path d={HEX} fill="none" stroke={colour} strokeWidth="1.8" strokeLinejoin="round" />
      {goes !== "freely" && <circle cx="12" cy="12" r="5" fill="none" stroke={colour} strokeWidth="1.6" />}
      {goes === "not" && <path d="M4 3.5 L20 20.5 M20 3.5 L4 20.5" stroke={colour} strokeWidth="2" />}
    </svg>
  );
}
