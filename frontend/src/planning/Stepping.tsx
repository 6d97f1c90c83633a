import { type ReactNode, useEffect, useState } from "react";

import { type Plate, useMoves, type Way } from "../api/dividing";
import { PlateDrawing } from "../drawing/PlateDrawing";
import { useSize } from "../drawing/useSize";
import { Button } from "../kit/Button";

/** The plate, and its moves one after the other, once round. */
export function Stepping({
  way,
  plate,
  divisions,
  children,
}: {
  way: Way;
  plate: Plate;
  divisions: number;
  /** What stands before the buttons. */
  children?: ReactNode;
}) {
  const [done, setDone] = useState(0);
  const [running, setRunning] = useState(false);
  const [paper, size] = useSize<HTMLDivElement>();
  const all = useMoves(way.machine ?? "", divisions, way.number, plate.moves.length < divisions);
  const moves = all.data ?? plate.moves;
  const last = moves.length;
  useEffect(() => {
    if (!running || done >= last) return;
    const timer = setTimeout(
      () => {
        setDone(done + 1);
        if (done + 1 >= last) setRunning(false);
      },
      done ? 1700 : 300,
    );
    return () => clearTimeout(timer);
  }, [running, done, last]);
  const move = moves[done - 1];
  const side = Math.min(size.width, size.height);
  return (
    <div className="flex min-h-0 flex-col">
      <div ref={paper} className="relative min-h-0 flex-1 bg-paper">
        <div className="absolute inset-0 grid place-items-center">
          {side > 0 && <PlateDrawing plate={plate} move={move} done={done} size={side} />}
        </div>
        {plate.lock && (
          <p className="absolute bottom-2 left-3 text-fine text-soft">
            Square: the lock pin behind the plate, in the {plate.lock}.
          </p>
        )}
        {!plate.measured && (
          <p className="absolute right-3 bottom-2 text-fine text-soft">
            Circles are drawn evenly: their diameters are not on record.
          </p>
        )}
      </div>
      {last > 0 && (
        <div className="flex items-center gap-2 border-t border-line bg-chalk p-2">
          {children}
          <Button onClick={() => setDone(0)} disabled={done === 0}>
            From the start
          </Button>
          <Button
            onClick={() => setDone(done - 1)}
            disabled={done === 0}
            aria-label="One move back"
          >
            ◂
          </Button>
          <Button look="main" onClick={() => setDone(done + 1)} disabled={done >= last}>
            Next tooth
          </Button>
          <Button
            onClick={() => (done >= last ? (setDone(0), setRunning(true)) : setRunning(!running))}
          >
            {running ? "Stop" : "Run"}
          </Button>
          <p role="status" className="min-w-0 flex-1 text-right">
            {done === divisions ? (
              <>
                all <b className="font-mono text-heading">{divisions}</b> are done; this is the
                first again
              </>
            ) : (
              <>
                tooth <b className="font-mono text-heading">{done + 1}</b> of {divisions}
              </>
            )}
            {move ? `: ${move.text}` : ": pin in hole 0"}
            {all.error && <span className="block text-oxide">{all.error.message}</span>}
          </p>
        </div>
      )}
    </div>
  );
}
