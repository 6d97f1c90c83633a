import type { ChartRow, Goes } from "../api/client";
import { type Merit, NutShape } from "./Nut";

export type Standing = ChartRow["standing"];

export const STANDINGS: [Standing, string][] = [
  ["exact", "exact"],
  ["good", "good"],
  ["poor", "poor"],
  ["no_room", "no room"],
  ["needs_wheel", "needs a wheel"],
  ["out_of_reach", "out of reach"],
];

// What a standing is mostly like, where no train is there to say how well it goes.
const USUAL: Partial<Record<Standing, Merit>> = { exact: "exact", good: "freely", poor: "partly" };

/** How a pitch stands: the nut of its train where it has one; else a sign that is no nut. */
export function StandingSign({
  standing,
  goes,
  size = 20,
  plain,
}: {
  standing: Standing;
  goes?: Goes | null;
  size?: number;
  plain?: boolean;
}) {
  return (
    <svg viewBox="-1 0 26 24" width={size} height={size} aria-hidden className="shrink-0">
      <StandingShape standing={standing} goes={goes} plain={plain} />
    </svg>
  );
}

/** The same as parts of a drawing, 24 across with its middle at 12, 12. */
export function StandingShape({
  standing,
  goes,
  plain,
}: {
  standing: Standing;
  goes?: Goes | null;
  plain?: boolean;
}) {
  const usual = USUAL[standing];
  if (usual) return <NutShape merit={usual === "exact" ? usual : (goes ?? usual)} plain={plain} />;
  if (standing === "needs_wheel") {
    return (
      <>
        <circle
          cx={12}
          cy={12}
          r={10}
          fill="var(--paper)"
          stroke="var(--blue)"
          strokeWidth={1.8}
          strokeDasharray="4 2.4"
        />
        <path d="M12 6 V18 M6 12 H18" stroke="var(--blue)" strokeWidth={2.4} />
      </>
    );
  }
  if (standing === "no_room") {
    return (
      <>
        <circle cx={8.6} cy={12} r={7.4} fill="none" stroke="var(--oxide)" strokeWidth={1.8} />
        <circle cx={15.4} cy={12} r={7.4} fill="none" stroke="var(--oxide)" strokeWidth={1.8} />
      </>
    );
  }
  return <path d="M3 12 H21" stroke="var(--oxide)" strokeWidth={3} />;
}
