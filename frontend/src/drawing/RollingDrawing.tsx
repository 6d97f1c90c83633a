import { useEffect, useMemo, useState } from "react";

import type { Schemas } from "../api/client";
import { Button } from "../kit/Button";
import { wheelPath } from "./outline";

type Rolling = Schemas["RollingOut"];

const [WIDTH, HEIGHT] = [296, 220];
// Teeth of the rack drawn to either side, places of its tooth left behind in the gap.
const [BESIDE, LEFT_BEHIND] = [3, 25];
const SECONDS = 7;

/** The hob's rack rolling through the gap: scrubbed by hand or run; its places left behind show what makes the flank. */
export function RollingDrawing({ rolling }: { rolling: Rolling }) {
  const [share, setShare] = useState(0.5);
  const [running, setRunning] = useState(false);
  useEffect(() => {
    if (!running) return;
    let frame = 0;
    let last: number | undefined;
    const step = (now: number) => {
      const passed = last === undefined ? 0 : (now - last) / 1000 / SECONDS;
      setShare((before) => (before + passed) % 1);
      last = now;
      frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  }, [running]);

  const { pitch_radius_mm: pitch, rack_pitch_mm: step, rolls_rad: rolls } = rolling;
  const turn = (2 * share - 1) * rolls;
  const scale = WIDTH / (3.6 * step);
  const wheel = useMemo(() => wheelPath(rolling.wheel), [rolling.wheel]);
  const tooth = useMemo(
    () => `M${rolling.rack.map((p) => `${p.x_mm} ${p.y_mm + pitch}`).join("L")}Z`,
    [rolling.rack, pitch],
  );
  const degrees = (radians: number) => (radians * 180) / Math.PI;
  // A gap of the wheel stands upward: its first tooth lies along the x axis.
  const upright = 90 + 180 / rolling.wheel.teeth;
  const line = { fill: "none", vectorEffect: "non-scaling-stroke" as const };
  return (
    <div>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        width="100%"
        role="img"
        aria-label={rolling.text}
        className="block border border-line bg-paper"
      >
        <clipPath id="blank">
          <circle r={rolling.wheel.tip_radius_mm} />
        </clipPath>
        <g
          transform={`translate(${WIDTH / 2} ${HEIGHT * 0.4}) scale(${scale} ${-scale}) translate(0 ${-pitch})`}
        >
          <g transform={`rotate(${-degrees(turn)})`}>
            <path
              d={wheel}
              transform={`rotate(${upright})`}
              fill="var(--steel)"
              stroke="var(--ink)"
              strokeWidth={1.4}
              vectorEffect="non-scaling-stroke"
            />
            <g clipPath="url(#blank)">
              {Array.from({ length: LEFT_BEHIND }, (_, n) => {
                const at = ((2 * n) / (LEFT_BEHIND - 1) - 1) * rolls;
                return (
                  <path
                    key={n}
                    d={tooth}
                    transform={`rotate(${degrees(at)}) translate(${pitch * at} 0)`}
                    stroke="var(--blue)"
                    strokeWidth={0.6}
                    opacity={0.45}
                    {...line}
                  />
                );
              })}
            </g>
          </g>
          <circle r={pitch} stroke="var(--soft)" strokeDasharray="9 3 2 3" {...line} />
          <g transform={`translate(${pitch * turn} 0)`}>
            {Array.from({ length: 2 * BESIDE + 1 }, (_, n) => (
              <path
                key={n}
                d={tooth}
                transform={`translate(${(n - BESIDE) * step} 0)`}
                fill="var(--brass-bg)"
                fillOpacity={0.8}
                stroke="var(--brass-line)"
                strokeWidth={1.6}
                vectorEffect="non-scaling-stroke"
              />
            ))}
          </g>
        </g>
      </svg>
      <div className="mt-1 flex items-center gap-2">
        <input
          type="range"
          min={0}
          max={1}
          step={0.005}
          value={share}
          aria-label="Roll the hob’s rack through the gap"
          className="min-h-11 min-w-0 flex-1"
          onChange={(event) => {
            setRunning(false);
            setShare(Number(event.target.value));
          }}
        />
        <Button aria-pressed={running} onClick={() => setRunning(!running)}>
          {running ? "Stop" : "Run"}
        </Button>
      </div>
      <p
        className={`text-fine ${rolling.undercut ? "border-l-4 border-oxide bg-oxide-bg px-2" : "text-soft"}`}
      >
        {rolling.text}
      </p>
    </div>
  );
}
