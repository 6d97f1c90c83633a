import {
  type KeyboardEvent,
  type PointerEvent,
  useId,
  useLayoutEffect,
  useRef,
  useState,
} from "react";

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

// Every tenth tooth is numbered; of more than this many the marks are small.
const [EVERY, MANY] = [10, 40];
const [WHOLE, CLOSER, CLOSEST] = [1, 2, 4];
// Parts of the picture within which a drag is a tap: a finger is not still.
const STILL = 0.02;
// What an arrow key moves the cross by, as a part of the picture; and with Shift.
const [STEP, FINE] = [0.02, 0.002];
const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** The picture with a mark at each tooth, every tenth numbered. A tap shows a place on it, a drag a line; closer, a drag
 * moves the picture unless it is to draw. With keys a cross is moved, and shows what a finger would. */
export function PaintedPhoto({
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
  const [draws, setDraws] = useState(false);
  const [cross, setCross] = useState<Place>();
  const keys = useId();
  const frame = useRef<HTMLDivElement>(null);
  // Closer, its middle is looked at first.
  useLayoutEffect(() => {
    const box = frame.current;
    box?.scrollTo(
      (box.scrollWidth - box.clientWidth) / 2,
      (box.scrollHeight - box.clientHeight) / 2,
    );
  }, [zoom]);
  const whole = zoom === WHOLE;
  const dragDraws = whole || draws;
  const show = ({ from, to }: Line) => {
    setDrawn(undefined);
    // Closer, less of the picture is under a finger.
    if (Math.hypot(to.x - from.x, to.y - from.y) < STILL / zoom) tap(to);
    else drag({ from, to });
  };
  const end = (event: PointerEvent<HTMLElement>) => {
    const to = placeIn(event);
    const from = drawn?.from ?? to;
    if (dragDraws || Math.hypot(to.x - from.x, to.y - from.y) < STILL / zoom) show({ from, to });
    else setDrawn(undefined);
  };
  const press = (event: KeyboardEvent) => {
    const at = cross ?? { x: 0.5, y: 0.5 };
    const way = ARROWS[event.key];
    if (way) {
      const step = event.shiftKey ? FINE : STEP;
      const to = { x: within(at.x + way[0] * step), y: within(at.y + way[1] * step) };
      setCross(to);
      if (drawn) setDrawn({ from: drawn.from, to });
    } else if (event.key === " ") setDrawn({ from: at, to: at });
    else if (event.key === "Enter") show(drawn ?? { from: at, to: at });
    else if (event.key === "Escape" && drawn) setDrawn(undefined);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const shown = drawn ?? line;
  return (
    <div className="mt-3">
      <div ref={frame} className="max-h-[60vh] w-fit max-w-full overflow-auto border border-line">
        <div
          className="relative w-fit"
          style={whole ? undefined : { width: `${zoom * 100}%`, maxWidth: "none" }}
        >
          <button
            type="button"
            aria-label={label}
            aria-describedby={cross ? keys : undefined}
            className={`block cursor-crosshair ${dragDraws ? "touch-none" : ""}`}
            onKeyDown={press}
            onFocus={(event) =>
              event.currentTarget.matches(":focus-visible") && setCross({ x: 0.5, y: 0.5 })
            }
            onBlur={() => setCross(undefined)}
            onPointerDown={(event) => {
              setCross(undefined);
              if (dragDraws) event.currentTarget.setPointerCapture(event.pointerId);
              const from = placeIn(event);
              setDrawn({ from, to: from });
            }}
            onPointerMove={(event) =>
              dragDraws && drawn && setDrawn({ from: drawn.from, to: placeIn(event) })
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
            {cross && <Cross at={cross} />}
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
      {cross && (
        <p id={keys} className="mt-1 text-fine text-soft">
          Arrow keys move the cross, with Shift a little. Enter shows the place. Space begins a
          line, Enter ends it.
        </p>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        <Button disabled={zoom === CLOSEST} onClick={() => setZoom(whole ? CLOSER : CLOSEST)}>
          Zoom in
        </Button>
        <Button disabled={whole} onClick={() => setZoom(WHOLE)}>
          Whole picture
        </Button>
        {!whole && (
          <Button onClick={() => setDraws(!draws)}>
            {draws ? "Move the picture" : "Draw a line"}
          </Button>
        )}
      </div>
    </div>
  );
}

function placeIn(event: PointerEvent<HTMLElement>): Place {
  const box = event.currentTarget.getBoundingClientRect();
  return {
    x: within((event.clientX - box.left) / box.width),
    y: within((event.clientY - box.top) / box.height),
  };
}

function within(part: number): number {
  return Math.min(1, Math.max(0, part));
}

function Cross({ at }: { at: Place }) {
  const bar = "absolute -translate-x-1/2 -translate-y-1/2 bg-[#f7f6f0] outline-1 outline-[#1d2a28]";
  return (
    <span className="absolute" style={{ left: `${at.x * 100}%`, top: `${at.y * 100}%` }}>
      <span className={`${bar} h-8 w-0.5`} />
      <span className={`${bar} h-0.5 w-8`} />
    </span>
  );
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
