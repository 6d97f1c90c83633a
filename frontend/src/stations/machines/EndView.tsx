import type { Schemas } from "../../api/client";
import { DrawingNotes } from "../../drawing/DrawingNotes";
import { QuadrantDrawing } from "../../drawing/QuadrantDrawing";
import { useSize } from "../../drawing/useSize";
import { Callout } from "../../kit/Callout";
import { TextField } from "../../kit/TextField";
import { useQuadrantEdits } from "./QuadrantFields";

/** The quadrant as typed so far, drawn to be dragged, and a train known to go on to try it with. */
export function EndView(props: {
  preview?: Schemas["PreviewOut"];
  machine: string;
  train: string;
  setTrain: (train: string) => void;
  wrong?: string;
  /** Where the drawn quadrant is in the record. */
  part: string;
}) {
  const { preview, train } = props;
  const [paper, size] = useSize<HTMLDivElement>();
  const edits = useQuadrantEdits(props.part, preview?.drawing);
  return (
    <section aria-label="End view" className="flex min-h-0 flex-col tall:h-[640px]">
      <div className="border-b border-line p-3">
        <TextField
          label="Try a train on this record"
          value={train}
          onChange={props.setTrain}
          example="76/66*32/78"
          problem={props.wrong}
        />
        {preview?.train_text && (
          <Callout
            role="status"
            as="p"
            tone={preview.train_fits ? "good" : "wrong"}
            className="mt-2"
          >
            {preview.train_text}
          </Callout>
        )}
      </div>
      <div ref={paper} className="relative min-h-0 flex-1 bg-paper">
        {preview?.drawing && size.width > 0 && (
          <div className="absolute inset-0">
            <QuadrantDrawing
              drawing={preview.drawing}
              outlines={preview.outlines}
              machine={props.machine}
              train={train}
              width={size.width}
              height={size.height}
              turning={false}
              edits={edits}
            />
          </div>
        )}
        {preview?.drawing && <DrawingNotes drawing={preview.drawing} />}
        {preview && !preview.drawing && (
          <p className="grid h-full place-items-center p-6 text-center text-soft">
            The end view is drawn here as soon as the distance of the shafts and a slot are known.
          </p>
        )}
      </div>
    </section>
  );
}
