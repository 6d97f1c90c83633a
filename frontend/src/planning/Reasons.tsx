import { Callout } from "../kit/Callout";
/** Why a set-up does not go on, or not yet; nothing where nothing is against it. */
export function Reasons({
  of,
  className = "mt-2",
}: {
  of: { goes_on: boolean; reasons: string[] };
  className?: string;
}) {
  if (of.reasons.length === 0) return null;
  return (
    <Callout tone="wrong" small className={className}>
      <b>{of.goes_on ? "Not yet: " : "Does not fit: "}</b>
      {of.reasons.join("; ")}.
    </Callout>
  );
}
