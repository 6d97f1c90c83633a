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
    <div className={`${className} border-l-4 border-oxide bg-oxide-bg px-3 py-2 text-[15px]`}>
      <b>{of.goes_on ? "Not yet: " : "Does not go on: "}</b>
      {of.reasons.join("; ")}.
    </div>
  );
}
