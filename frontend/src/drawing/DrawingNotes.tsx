import type { Drawing } from "../api/client";

/** What a drawing does not show of the real thing, over its corner. */
export function DrawingNotes({ drawing }: { drawing: Drawing }) {
  if (drawing.notes.length === 0) return null;
  return (
    <div className="pointer-events-none absolute top-2 left-2 max-w-[34em] bg-paper/85 px-2 text-fine">
      {drawing.notes.map((note) => (
        <p key={note}>{note}</p>
      ))}
    </div>
  );
}
