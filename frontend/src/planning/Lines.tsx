import { Strong } from "../kit/Strong";

/** Sentences of a sheet under their title. */
export function Lines({ title, lines }: { title: string; lines: string[] }) {
  if (lines.length === 0) return null;
  return (
    <>
      <h3 className="mt-3 font-bold">{title}</h3>
      {lines.map((line) => (
        <p key={line} className="mt-1 text-lesser">
          <Strong text={line} />
        </p>
      ))}
    </>
  );
}
