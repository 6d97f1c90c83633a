import type { Family, Schemas } from "../../api/client";

/** What stands out: doubles, gaps, and wheels that go with nothing or are not good, one line a reason. */
export function StandingOut({
  families,
  standing,
  choose,
}: {
  families: Family[];
  standing: Schemas["StandingOut"][];
  choose: (ids: number[]) => void;
}) {
  const uneven = families.filter((f) => f.doubles.length || f.gaps.length);
  if (!standing.length && !uneven.length) return null;
  return (
    <div className="mt-5 border-t border-line pt-3 text-lesser">
      <h2 className="font-bold">What stands out</h2>
      {uneven.map((f) => (
        <p key={f.id} className="mt-1">
          {f.name}:{" "}
          {[
            f.doubles.length && `double ${f.doubles.join(" ")}`,
            f.gaps.length && `missing ${f.gaps.join(" ")}`,
          ]
            .filter(Boolean)
            .join("; ")}
        </p>
      ))}
      {standing.map(({ why, wheels, teeth, ids }) => (
        <button
          key={why}
          type="button"
          onClick={() => choose(ids)}
          className="mt-1 block min-h-11 w-full border-l-4 border-oxide bg-oxide-bg px-3 py-1 text-left"
        >
          {wheels > 1 && `${wheels} wheels, `}
          <b className="font-mono">{teeth.join(" ")}</b>
          {wheels > teeth.length && " …"} {why}
        </button>
      ))}
    </div>
  );
}
