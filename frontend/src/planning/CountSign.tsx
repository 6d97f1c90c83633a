import type { HobChartRow } from "../api/hobber";
import { NutShape } from "../drawing/Nut";
import { StandingShape } from "../drawing/StandingSign";

type CountStanding = HobChartRow["standing"];

/** How a count stands, beside its words: the sign of an exact train; a ring with two wheels where the differential makes
 * it up; the signs of the lathe's chart for the rest. */
export function CountSign({ standing, size = 20 }: { standing: CountStanding; size?: number }) {
  return (
    <svg viewBox="-1 0 26 24" width={size} height={size} aria-hidden className="shrink-0">
      <CountShape standing={standing} />
    </svg>
  );
}

/** The same as part of a drawing, 24 across with its middle at 12, 12. */
export function CountShape({ standing }: { standing: CountStanding }) {
  switch (standing) {
    case "exact":
      return <NutShape merit="exact" />;
    case "other_pair":
      return <NutShape merit="mid_tolerance" />;
    case "made_up":
      return (
        <>
          <circle cx={8} cy={12} r={7} fill="none" stroke="var(--good)" strokeWidth={2.2} />
          <path d="M15 12 H23 M19 8 V16" stroke="var(--good)" strokeWidth={2.4} />
        </>
      );
    case "nothing":
      return <StandingShape standing="out_of_reach" />;
    default:
      return <StandingShape standing={standing} />;
  }
}
