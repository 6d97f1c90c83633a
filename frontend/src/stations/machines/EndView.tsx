import type { Schemas } from "../../api/client";
import { QuadrantDrawing } from "../../drawing/QuadrantDrawing";
import type { QuadrantEdits } from "../../drawing/QuadrantHandles";
import { useSize } from "../../drawing/useSize";
import { Typed } from "../../kit/Typed";

/** The quadrant as typed so far, drawn to be dragged, and a train known to go on to try it with. */
export function EndView(props: { told?: Schemas["PreviewOut"]; machine: string; train: string; setTrain: (train: string) => void; wrong?: string; edits: QuadrantEdits }) {
  const { told, train } = props;
  const [paper, size] = useSize<HTMLDivElement>();
  return (
    <section aria-label="End view" className="flex min-h-0 flex-col tall:h-[640px]">
      <div className="border-b border-line p-3">
        <Typed label="A train known to go on: does it, by this record?" value={train} onChange={props.setTrain} placeholder="76/66*32/78" problem={props.wrong} />
        {told?.train_text && (
          <p role="status" className={`mt-2 border-l-4 px-3 py-1.5 ${told.train_fits ? "border-good bg-paper" : "border-oxide bg-oxide-bg"}`}>
            {told.train_text}
          </p>
        )}
      </div>
      <div ref={paper} className="relative min-h-0 flex-1 bg-paper">
        {told?.drawing && size.width > 0 && (
          <div className="absolute inset-0">
            <QuadrantDrawing drawing={told.drawing} outlines={told.outlines} machine={props.machine} train={train} width={size.width} height={size.height} turning={false} edits={props.edits} />
          </div>
        )}
        {told && !told.drawing && <p className="grid h-full place-items-center text-soft">Fill in the shafts, the bosses and the slots: it is drawn here.</p>}
      </div>
    </section>
  );
}
