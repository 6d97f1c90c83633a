import { useMemo, useState } from "react";

import type { Outline, Schemas } from "../api/client";
import { Button } from "../kit/Button";
import { wheelPath } from "./outline";
import { useTurning } from "./useTurning";

const [WIDTH, HEIGHT, MARGIN] = [296, 230, 10];
const STILL = "(prefers-reduced-motion: reduce)";

/** The wheel and its mate in mesh, as they are cut, at their distance; they turn when they are told to. */
export function PairDrawing({ rolling }: { rolling: Schemas["RollingOut"] }) {
  const [turning, setTurning] = useState(!matchMedia(STILL).matches);
  const { wheel, mate, centres_mm: apart } = rolling;
  const svg = useTurning(turning, `${wheel.teeth} ${mate?.teeth}`);
  const paths = useMemo(
    () => [wheel, mate].map((one) => (one ? wheelPath(one) : "")),
    [wheel, mate],
  );
  if (!mate || !apart) return null;
  const across = wheel.tip_radius_mm + apart + mate.tip_radius_mm;
  const high = 2 * Math.max(wheel.tip_radius_mm, mate.tip_radius_mm);
  const scale = Math.min((WIDTH - 2 * MARGIN) / across, (HEIGHT - 2 * MARGIN) / high);
  const left = WIDTH / 2 - (across / 2 - wheel.tip_radius_mm) * scale;
  // A tooth of the first points at the second, which has a gap there.
  const parts: [Outline, string, number, number, number][] = [
    [wheel, paths[0]!, left, 0, 1],
    [mate, paths[1]!, left + apart * scale, 180 + 180 / mate.teeth, -wheel.teeth / mate.teeth],
  ];
  return (
    <div className="relative">
      <svg
        ref={svg}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        width="100%"
        role="img"
        aria-label={`${wheel.teeth} and ${mate.teeth} teeth in mesh`}
        className="block border border-line bg-paper"
      >
        {parts.map(([one, path, x, turned, turns], n) => (
          <g key={n} transform={`translate(${x} ${HEIGHT / 2})`}>
            <g data-turns={turns}>
              <path
                d={path}
                transform={`scale(${scale} ${-scale}) rotate(${turned})`}
                fill={n === 0 ? "var(--steel)" : "var(--blue-bg)"}
                stroke={n === 0 ? "var(--ink)" : "var(--blue)"}
                strokeWidth={1}
                vectorEffect="non-scaling-stroke"
              />
              <path d="M-6 0H6M0 -6V6" stroke="var(--ink)" strokeWidth={0.8} />
            </g>
            <circle
              r={one.pitch_radius_mm * scale}
              fill="none"
              stroke="var(--soft)"
              strokeWidth={0.8}
              strokeDasharray="9 3 2 3"
            />
            <text
              y={-one.pitch_radius_mm * scale * 0.45}
              textAnchor="middle"
              fontSize={17}
              className="fill-ink font-mono font-bold"
            >
              {one.teeth}
            </text>
          </g>
        ))}
      </svg>
      <Button
        className="absolute right-1 bottom-1"
        aria-pressed={turning}
        onClick={() => setTurning(!turning)}
      >
        {turning ? "Stop" : "Turn"}
      </Button>
    </div>
  );
}
