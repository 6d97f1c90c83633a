import { type PointerEvent, useState } from "react";

import type { Schemas } from "../../api/client";
import { Button } from "../../kit/Button";

type Wheel = Schemas["PhotoWheelOut"];
/** A place in a picture, as parts of its width and height. */
export interface Place {
  x: number;
  y: number;
}
export interface Line {
  from: Place;
  to: Place;
}

// Every tenth tooth is numbered; of more than so many the marks are small.
const [EVERY, MANY] = [10, 40];
const [WHOLE, CLOSER, CLOSEST] = [1, 2, 4];
// Parts of the picture within which a drag is a tap: a finger is not still.
const STILL = 0.02;

/** The picture with a mark at each tooth, every tenth numbered. A tap shows a place on it, a drag a line; closer, a drag
 * moves the picture. */
export function PhotoPainted({
  address,
  wheels,
  line,
  tooth,
  label,
  tap,
  drag,
}: {
  address: string;
  wheels: Wheel[];
  /** A line that was drawn before, and a tooth that was shown. */
  line?: Line;
  tooth?: Place;
  label: string;
  tap: (place: Place) => void;
  drag: (line: Line) => void;
}) {
  const [zoom, setZoom] = useState(WHOLE);
  const [drawn, setDrawn] = useState<Line>();
  const whole = zoom === WHOLE;
  const end = (event: PointerEvent<HTMLElement>) => {
    const to = placeIn(event);
    const from = drawn?.from ?? to;
    setDrawn(undefined);
    if (Math.hypot(to.x - from.x, to.y - from.y) < STILL) tap(to);
    else if (whole) drag({ from, to });
  };
  const shown = drawn ?? line;
  return (
    <div className="mt-3">
      <div className="max-h-[60vh] w-fit max-w-full overflow-auto border border-line">
        <div
          className="relative w-fit"
          style={whole ? undefined : { width: `${zoom * 100}%`, maxWidth: "none" }}
        >
          <button
            type="button"
            aria-label={label}
            className={`block cursor-crosshair ${whole ? "touch-none" : ""}`}
            onPointerDown={(event) => {
              if (whole) event.currentTarget.setPointerCapture(event.pointerId);
              const from = placeIn(event);
              setDrawn({ from, to: from });
            }}
            onPointerMove={(event) =>
              whole && drawn && setDrawn({ from: drawn.from, to: placeIn(event) })
            }
            onPointerUp={end}
            onPointerCancel={() => setDrawn(undefined)}
          >
            <img
              src={address}
              alt=""
              draggable={false}
              className={whole ? "max-h-[60vh] max-w-full" : "w-full max-w-none"}
            />
          </button>
          <div aria-hidden className="pointer-events-none absolute inset-0">
            {shown && <Drawn line={shown} />}
            {tooth && (
              <span
                className="absolute -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-[#f7f6f0] p-2 outline-2 outline-[#1d2a28]"
                style={{ left: `${tooth.x * 100}%`, top: `${tooth.y * 100}%` }}
              />
            )}
            {wheels.flatMap((wheel, w) =>
              wheel.marks.map((mark, n) => (
                <Mark key={`${w} ${n}`} mark={mark} number={n + 1} teeth={wheel.teeth} />
              )),
            )}
            {wheels.map((wheel, w) => (
              <span
                key={w}
                className="absolute -translate-x-1/2 -translate-y-1/2 rounded-sm bg-paper px-1.5 font-mono text-large font-bold text-ink"
                style={{ left: `${wheel.x * 100}%`, top: `${wheel.y * 100}%` }}
              >
                {wheel.teeth}
                {!wheel.sure && "?"}
              </span>
            ))}
          </div>
        </div>
      </div>
      <div className="mt-2 flex gap-2">
        <Button disabled={zoom === CLOSEST} onClick={() => setZoom(whole ? CLOSER : CLOSEST)}>
          Zoom in
        </Button>
        <Button disabled={whole} onClick={() => setZoom(WHOLE)}>
          Whole picture
        </Button>
      </div>
    </div>
  );
}

function placeIn(event: PointerEvent<HTMLElement>): Place {
  const box = event.currentTarget.getBoundingClientRect();
  const part = (at: number, length: number) => Math.min(1, Math.max(0, at / length));
  return {
    x: part(event.clientX - box.left, box.width),
    y: part(event.clientY - box.top, box.height),
  };
}

function Drawn({ line: { from, to } }: { line: Line }) {
  return (
    <svg className="absolute inset-0 size-full" viewBox="0 0 1 1" preserveAspectRatio="none">
      {(["#1d2a28", "#f7f6f0"] as const).map((colour, n) => (
        <line
          key={colour}
          x1={from.x}
          y1={from.y}
          x2={to.x}
          y2={to.y}
          stroke={colour}
          strokeWidth={n === 0 ? 5 : 2}
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
}

function Mark({
  mark,
  number,
  teeth,
}: {
  mark: Schemas["ToothMark"];
  number: number;
  teeth: number;
}) {
  const named = number === 1 || number % EVERY === 0;
  const size =
    teeth > MANY && !mark.doubtful ? "-top-0.5 -left-0.5 size-1" : "-top-1 -left-1 size-2";
  const shape = mark.doubtful
    ? "rotate-45 rounded-none bg-oxide outline-2 outline-[#f7f6f0]"
    : "rounded-full bg-[#f7f6f0] outline-1 outline-[#1d2a28]";
  return (
    <span className="absolute" style={{ left: `${mark.x * 100}%`, top: `${mark.y * 100}%` }}>
      <span className={`absolute ${size} ${shape}`} />
      {named && (
        <span className="absolute -translate-x-1/2 translate-y-1 rounded-sm bg-[#1d2a28] px-0.5 font-mono text-[11px] leading-tight text-[#f7f6f0]">
          {number}
        </span>
      )}
    </span>
  );
}
