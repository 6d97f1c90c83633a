import type { Goes } from "../api/client";

const HEX = "M6 1.2 L18 1.2 L23.4 12 L18 22.8 L6 22.8 L0.6 12 Z";

/** How well a train does for its job; `exact` where nothing is off at all. */
export type Merit = Goes | "exact";

/** Our sign of merit, always beside its words, the same on lists, charts and paper: a full nut with its thread drawn in
 * where it is exact, a full one, a half one, an empty one, a crossed one. */
export function Nut({
  merit,
  size = 22,
  plain = false,
}: {
  merit: Merit;
  size?: number;
  plain?: boolean;
}) {
  return (
    <svg viewBox="-1 0 26 24" width={size} height={size} aria-hidden className="shrink-0">
      <NutShape merit={merit} plain={plain} />
    </svg>
  );
}

/** The same as parts of a drawing, 24 across with its middle at 12, 12; `plain` in black, for paper. */
export function NutShape({ merit, plain = false }: { merit: Merit; plain?: boolean }) {
  const does = merit === "exact" || merit === "freely" || merit === "mid_tolerance";
  const colour = plain ? "#000" : does ? "var(--good)" : "var(--oxide)";
  const full = merit === "exact" || merit === "freely";
  return (
    <>
      <path
        d={HEX}
        fill={plain ? "#fff" : "var(--paper)"}
        stroke={colour}
        strokeWidth="1.8"
        strokeLinejoin="round"
      />
      {full && (
        <path
          d={`${HEX} M12 7 A5 5 0 1 0 12 17 A5 5 0 1 0 12 7 Z`}
          fill={colour}
          fillRule="evenodd"
        />
      )}
      {merit === "exact" && <circle cx="12" cy="12" r="2.6" fill={colour} />}
      {merit === "mid_tolerance" && (
        <path d="M12 1.2 L6 1.2 L0.6 12 L6 22.8 L12 22.8 L12 17 A5 5 0 0 1 12 7 Z" fill={colour} />
      )}
      {!full && <circle cx="12" cy="12" r="5" fill="none" stroke={colour} strokeWidth="1.6" />}
      {merit === "not" && (
        <path d="M4 3.5 L20 20.5 M20 3.5 L4 20.5" stroke={colour} strokeWidth="2" />
      )}
    </>
  );
}

/** The merit of a train that is listed or charted. */
export function meritOf(goes: Goes, exact: boolean): Merit {
  return exact ? "exact" : goes;
}
