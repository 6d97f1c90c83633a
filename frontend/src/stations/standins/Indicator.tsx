import { type KeyboardEvent, useCallback, useRef, useState } from "react";

import { useBeginRound } from "../../api/devices";
import type { StandIn } from "../../api/standIns";
import { Button } from "../../kit/Button";
import { TextField } from "../../kit/TextField";
import { useDrag } from "./useDrag";
import { useGoal } from "./useGoal";

// Readings once round, and how much of a turn it goes on between two looks.
const [READINGS, FASTEST] = [72, 1 / 72];
// How far a reading spreads, and what the dial goes round for, mm.
const [SPREAD, ROUND] = [0.002, 0.2];

/** An indicator on a blank that runs out. It tells a reading at each even step that the blank is turned on. */
export function Indicator({ one }: { one: StandIn }) {
  const [runout, setRunout] = useState("0.06");
  const [high, setHigh] = useState("130");
  const begin = useBeginRound();
  const lastStep = useRef(0);
  const wrongRunout = !(Number(runout) >= 0 && Number(runout) <= 5);
  const wrongHigh = !Number.isFinite(Number(high));
  const out = wrongRunout ? 0 : Number(runout);
  const at = wrongHigh ? 0 : Number(high);
  const read = useCallback(
    (turned: number) => {
      const step = Math.floor(turned * READINGS + 1e-6);
      if (step <= lastStep.current) return;
      lastStep.current = step;
      const spread = (Math.random() + Math.random() - 1) * SPREAD;
      one.say({ at: round(reading(step / READINGS, out, at) + spread) });
    },
    [one, out, at],
  );
  const blank = useGoal(FASTEST, read);
  const drag = useDrag(
    (_, turns) => blank.by(turns),
    () => undefined,
  );
  const keys = (event: KeyboardEvent) => {
    const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    blank.by(by / READINGS);
  };
  const shown = reading(blank.at, out, at);
  return (
    <>
      <svg
        viewBox="-95 -100 190 260"
        role="img"
        aria-label={`Indicator at ${shown.toFixed(3)} mm`}
        className="mx-auto block w-full max-w-[190px]"
      >
        <circle cy={-55} r={40} fill="var(--paper)" stroke="var(--ink)" strokeWidth={1.5} />
        {Array.from({ length: 20 }, (_, n) => (
          <line
            key={n}
            y1={-40 + (n % 5 ? 4 : 8)}
            y2={-40}
            transform={`translate(0 -55) rotate(${n * 18}) translate(0 2)`}
            stroke="var(--ink)"
            strokeWidth={n % 5 ? 0.8 : 1.6}
          />
        ))}
        <line
          y2={-32}
          transform={`translate(0 -55) rotate(${(shown / ROUND) * 360})`}
          stroke="var(--oxide)"
          strokeWidth={2}
        />
        <circle cy={-55} r={3} fill="var(--ink)" />
        <path d={`M0 -15 V${12 - shown * 60}`} stroke="var(--ink)" strokeWidth={4} />
        <g
          {...drag}
          role="slider"
          tabIndex={0}
          aria-label="Blank"
          aria-valuenow={Math.round(blank.at * 360)}
          aria-valuetext={`${Math.round(blank.at * 360)}°`}
          onKeyDown={keys}
          className="cursor-grab"
        >
          <g transform={`translate(0 82) rotate(${blank.at * 360})`}>
            <circle
              r={68}
              cx={Math.sin((-at * Math.PI) / 180) * out * 60}
              cy={-Math.cos((-at * Math.PI) / 180) * out * 60}
              fill="var(--brass-bg)"
              stroke="var(--brass)"
              strokeWidth={1.5}
            />
            <circle r={10} fill="var(--paper)" stroke="var(--brass)" />
            <path d="M0 -56 V-30" stroke="var(--brass)" strokeWidth={3} />
          </g>
        </g>
      </svg>
      <Button
        className="mt-2 w-full"
        onClick={() =>
          begin.mutate(one.number, {
            onSuccess: () => {
              const from = Math.round(blank.where() * READINGS) / READINGS;
              lastStep.current = from * READINGS;
              blank.to(from + 1);
            },
          })
        }
      >
        Turn the blank once
      </Button>
      <div className="mt-2 flex gap-2">
        <TextField
          label="Runout, mm"
          value={runout}
          onChange={setRunout}
          numeric
          problem={wrongRunout ? "Enter 0 to 5." : undefined}
        />
        <TextField
          label="High at, °"
          value={high}
          onChange={setHigh}
          numeric
          problem={wrongHigh ? "Enter degrees." : undefined}
        />
      </div>
    </>
  );
}

/** What the indicator reads when the blank has turned so far, mm. */
function reading(turned: number, runout: number, high: number): number {
  return (runout / 2) * Math.cos(turned * 2 * Math.PI - (high * Math.PI) / 180);
}

function round(value: number): number {
  return Math.round(value * 1e5) / 1e5;
}
