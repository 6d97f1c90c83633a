import { type KeyboardEvent, useState } from "react";

import type { StandIn } from "../../api/standIns";
import { usePreferences } from "../../app/preferences";
import { Button } from "../../kit/Button";
import { TextField } from "../../kit/TextField";
import { useDrag } from "./useDrag";

const LONGEST = 150;
const MM_PER_INCH = 25.4;
// How far a key moves the jaw, mm.
const KEYS: Record<string, number> = {
  ArrowRight: 0.01,
  ArrowUp: 0.01,
  ArrowLeft: -0.01,
  ArrowDown: -0.01,
  PageUp: 1,
  PageDown: -1,
};
const [LEFT, WIDTH] = [14, 300];

/** A caliper whose jaw is dragged; its button sends the figure into the field that is open. */
export function Caliper({ one }: { one: StandIn }) {
  const { units } = usePreferences();
  const [open, setOpen] = useState(29.56);
  const [tried, setTried] = useState("");
  const set = (mm: number) => setOpen(Math.round(Math.min(LONGEST, Math.max(0, mm)) * 100) / 100);
  const [fine, setFine] = useState(open);
  const drag = useDrag(
    (right, _, width) => {
      const next = Math.min(
        LONGEST,
        Math.max(0, fine + (right / width) * (WIDTH + 2 * LEFT) * 0.5),
      );
      setFine(next);
      set(next);
    },
    () => undefined,
  );
  const keys = (event: KeyboardEvent) => {
    const by = KEYS[event.key];
    if (by === undefined) return;
    event.preventDefault();
    set(open + by);
    setFine(open + by);
  };
  const figure =
    units === "mm" ? `${open.toFixed(2)} mm` : `${(open / MM_PER_INCH).toFixed(4)} inch`;
  const jaw = LEFT + open * 2 * (WIDTH / (2 * LONGEST));
  return (
    <>
      <svg
        {...drag}
        viewBox={`0 0 ${WIDTH + 2 * LEFT} 92`}
        role="slider"
        tabIndex={0}
        aria-label="Caliper"
        aria-valuemin={0}
        aria-valuemax={LONGEST}
        aria-valuenow={open}
        aria-valuetext={figure}
        onKeyDown={keys}
        className="block w-full cursor-ew-resize"
      >
        <rect x={4} y={14} width={WIDTH + 2 * LEFT - 8} height={22} fill="var(--steel)" />
        {Array.from({ length: LONGEST / 5 + 1 }, (_, n) => (
          <line
            key={n}
            x1={LEFT + (n * 5 * WIDTH) / LONGEST}
            x2={LEFT + (n * 5 * WIDTH) / LONGEST}
            y1={36}
            y2={n % 2 ? 31 : 27}
            stroke="var(--ink)"
          />
        ))}
        <path
          d={`M4 14 H${LEFT} V88 L4 60 Z`}
          fill="var(--steel-2)"
          stroke="var(--ink)"
          strokeWidth={1}
        />
        <path
          d={`M${jaw} 6 H${jaw + 62} V44 H${jaw + 12} L${jaw + 12} 60 L${jaw} 88 Z`}
          fill="var(--brass-bg)"
          stroke="var(--brass)"
          strokeWidth={1.5}
        />
      </svg>
      <p className="text-center font-mono text-heading font-bold">{figure}</p>
      <div className="mt-1 flex items-end gap-2">
        <TextField
          label="Try it here"
          value={tried}
          onChange={setTried}
          note="Or open any other field."
        />
        {/* The field that is open stays open. */}
        <Button
          className="mb-6"
          onPointerDown={(event) => event.preventDefault()}
          onMouseDown={(event) => event.preventDefault()}
          onClick={() => one.say({ figure })}
        >
          Send
        </Button>
      </div>
    </>
  );
}
