import { type KeyboardEvent, useCallback, useState } from "react";

import type { StandIn } from "../../api/standIns";
import { Button } from "../../kit/Button";
import { TextField } from "../../kit/TextField";
import { Noise, QUIET } from "./Noise";
import { useDrag } from "./useDrag";
import { useGoal } from "./useGoal";

// Turns in a reading: faster than that nobody turns a crank.
const FASTEST = 0.08;
// ms in which it bounces where it came to rest, and turns that a small bounce is wide, for a circle of 20.
const [BOUNCES, WIDE] = [300, 0.001];
const [FEWEST, MOST] = [2, 1000];
const SIZE = 190;

/** An encoder on a crank, or on what the work turns with. Let go, it falls into the nearest hole or mark. */
export function Crank({ one }: { one: StandIn }) {
  const onCrank = one.on === "crank";
  const [typed, setTyped] = useState(onCrank ? "20" : "57");
  const [noises, setNoises] = useState(QUIET);
  const count = Math.round(Number(typed));
  const wrong = !(count >= FEWEST && count <= MOST);
  const holes = wrong ? 20 : count;
  const { bounce, loss, over } = noises;
  const read = useCallback(
    (at: number, still: number) => {
      if (Math.random() < Number(loss)) return;
      const swing = still < BOUNCES ? Math.cos(still / 12) * Math.exp(-still / 90) : 0;
      one.say({ turned: round(at + (swing * Number(bounce) * WIDE * 20) / holes) });
    },
    [one, bounce, loss, holes],
  );
  const crank = useGoal(onCrank ? FASTEST : FASTEST / 20, read);
  const rest = () => {
    const past = Math.random() < Number(over) ? 1 : 0;
    crank.to((Math.round(crank.where() * holes) + past) / holes);
  };
  const step = (places: number) => {
    crank.by(places / holes);
    rest();
  };
  const drag = useDrag((_, turns) => crank.by(turns), rest);
  const keys = (event: KeyboardEvent) => {
    const places = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    const turns = { PageUp: 1, PageDown: -1 }[event.key];
    if (places === undefined && turns === undefined) return;
    event.preventDefault();
    step(places ?? turns! * holes);
  };
  const place = onCrank ? "hole" : "mark";
  return (
    <>
      <svg
        {...drag}
        viewBox={`${-SIZE / 2} ${-SIZE / 2} ${SIZE} ${SIZE}`}
        role="slider"
        tabIndex={0}
        aria-label={onCrank ? "Crank" : "Table"}
        aria-valuenow={round(crank.at)}
        aria-valuetext={`${crank.at.toFixed(3)} turns`}
        onKeyDown={keys}
        className="mx-auto block w-full max-w-[190px] cursor-grab"
      >
        <circle r={SIZE / 2 - 4} fill="var(--paper)" stroke="var(--steel-2)" strokeWidth={1.5} />
        {Array.from({ length: Math.min(holes, 120) }, (_, n) => {
          const angle = (n / Math.min(holes, 120)) * 2 * Math.PI - Math.PI / 2;
          const [x, y] = [Math.cos(angle) * 78, Math.sin(angle) * 78];
          return onCrank ? (
            <circle key={n} cx={x} cy={y} r={n ? 2.2 : 3.6} fill="var(--ink)" />
          ) : (
            <line
              key={n}
              x1={x}
              y1={y}
              x2={x * 1.12}
              y2={y * 1.12}
              stroke="var(--ink)"
              strokeWidth={n ? 1 : 3}
            />
          );
        })}
        <g transform={`rotate(${crank.at * 360})`}>
          <path d="M-7 12 H7 L5 -78 H-5 Z" fill="var(--steel)" stroke="var(--ink)" />
          <circle cy={-78} r={13} fill="var(--brass-bg)" stroke="var(--brass)" strokeWidth={2} />
          <circle cy={-78} r={3} fill="var(--ink)" />
        </g>
        <circle r={11} fill="var(--steel)" stroke="var(--ink)" />
      </svg>
      <div className="mt-2 grid grid-cols-4 gap-1">
        <Button className="px-1!" onClick={() => step(-holes)} aria-label="Back 1 turn">
          −1 turn
        </Button>
        <Button className="px-1!" onClick={() => step(-1)} aria-label={`Back 1 ${place}`}>
          −1 {place}
        </Button>
        <Button className="px-1!" onClick={() => step(1)} aria-label={`On 1 ${place}`}>
          +1 {place}
        </Button>
        <Button className="px-1!" onClick={() => step(holes)} aria-label="On 1 turn">
          +1 turn
        </Button>
      </div>
      <div className="mt-2 flex">
        <TextField
          label={onCrank ? "Holes of the circle" : "Marks round"}
          value={typed}
          onChange={setTyped}
          numeric
          problem={wrong ? `Enter ${FEWEST} to ${MOST}.` : undefined}
        />
      </div>
      <Noise noises={noises} change={setNoises} over={`One ${place} too far`} />
    </>
  );
}

function round(value: number): number {
  return Math.round(value * 1e6) / 1e6;
}
