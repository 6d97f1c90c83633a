import { useShelf } from "../../api/machines";
import type { OnNow } from "../../api/planned";
import { usePreferences } from "../../app/preferences";
import { QuadrantDrawing } from "../../drawing/QuadrantDrawing";

const [WIDE, HIGH] = [420, 320];

/** What is on a machine now, drawn to scale. useOnNow: of its kind. */
export function OnItNow(props: { useOnNow: OnNow; machine: string; name: string }) {
  const { useOnNow, machine, name } = props;
  const { units } = usePreferences();
  const on = useOnNow(machine, units);
  const shelf = useShelf(machine).data;
  if (!on || !shelf) return null;
  return (
    <div className="mt-2 flex flex-wrap gap-4">
      {on.drawn.map(({ title, drawing }) => (
        <figure key={title} className="break-inside-avoid border border-line bg-paper p-2">
          {title && <figcaption className="font-bold capitalize">{title}</figcaption>}
          <QuadrantDrawing
            drawing={{ ...drawing, clearances: [] }}
            outlines={[...shelf.outlines, ...on.outlines]}
            machine={name}
            train={title}
            width={WIDE}
            height={HIGH}
            turning={false}
            terse
          />
        </figure>
      ))}
    </div>
  );
}
