import type { PointerEvent as Pressed } from "react";

import type { Drawing } from "../api/client";
import { arcRadius, RADIANS, turned } from "./swing";
import type { Point } from "./point";
import type { View } from "./view";

/** What is told when a part of a quadrant is dragged. mm and degrees, the screw's centre at nought. */
export interface QuadrantEdits {
  /** Where slot A may point, degrees from level right; null where that is not known. */
  swing: [number, number] | null;
  moveFirst: (x: number, y: number) => void;
  moveSlot: (slot: number, end: "nearest" | "farthest", distance: number, angle: number) => void;
  moveSwing: (end: 0 | 1, angle: number) => void;
  /** The same by this many mm or degrees, from what is typed and not from what is drawn yet. */
  nudgeFirst: (dx: number, dy: number) => void;
  nudgeSlot: (slot: number, end: "nearest" | "farthest", by: number) => void;
  nudgeSwing: (end: 0 | 1, by: number) => void;
  moveCorner: (corner: number, x: number, y: number) => void;
}

const STEPS: Record<string, Point> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** Everything of a quadrant that can be dragged, or moved a millimetre (a degree) at a time by the arrow keys. */
export function QuadrantHandles({
  drawing,
  view,
  hold,
  edits,
}: {
  drawing: Drawing;
  view: View;
  hold: (view?: View) => void;
  edits: QuadrantEdits;
}) {
  const first = drawing.shafts[0]!;
  const radius = arcRadius(drawing);
  const swing = edits.swing ?? [];
  const ends = swing.map((degrees) => view.at(...turned(radius, degrees * RADIANS)));
  const wide = edits.swing && edits.swing[1] - edits.swing[0] > 180 ? 1 : 0;
  const grip = { view, hold };
  return (
    <>
      {edits.swing && (
        <path
          d={`M${ends[0]!.join(" ")}A${radius * view.scale} ${radius * view.scale} 0 ${wide} 0 ${ends[1]!.join(" ")}`}
          fill="none"
          stroke="var(--brass-line)"
          strokeWidth={1.6}
          strokeDasharray="7 5"
        />
      )}
      {swing.map((degrees, n) => (
        <Grip
          key={`swing${n}`}
          {...grip}
          at={turned(radius, degrees * RADIANS)}
          name={`swing ${n ? "to" : "from"} ${degrees}°`}
          move={(x, y) => edits.moveSwing(n as 0 | 1, Math.atan2(y, x) / RADIANS)}
          nudge={(dx, dy) => edits.nudgeSwing(n as 0 | 1, dy - dx)}
        >
          {(x, y) => (
            <text
              x={x}
              y={y}
              textAnchor="middle"
              dominantBaseline="central"
              fontSize={14}
              className="fill-brass"
            >
              {degrees}°
            </text>
          )}
        </Grip>
      ))}
      {(drawing.cover ?? []).map(({ x_mm, y_mm }, n) => (
        <Grip
          key={`corner${n}`}
          {...grip}
          at={[x_mm, y_mm]}
          square
          name={`corner ${n + 1} of the cover`}
          move={(x, y) => edits.moveCorner(n, x, y)}
        />
      ))}
      {drawing.slots.flatMap((slot, n) =>
        (["nearest", "farthest"] as const).map((end) => (
          <Grip
            key={`${slot.name}${end}`}
            {...grip}
            at={turned(end === "nearest" ? slot.nearest_mm : slot.farthest_mm, slot.angle_rad)}
            square
            name={`${slot.name}, ${end} end`}
            move={(x, y) => edits.moveSlot(n, end, Math.hypot(x, y), Math.atan2(y, x) / RADIANS)}
            nudge={(dx, dy) => edits.nudgeSlot(n, end, dx + dy)}
          />
        )),
      )}
      <Grip
        {...grip}
        at={[first.x_mm, first.y_mm]}
        radius={Math.max(24, first.boss_radius_mm * view.scale)}
        name="first shaft"
        move={edits.moveFirst}
        nudge={edits.nudgeFirst}
      >
        {(x, y) => (
          <path
            d={`M${x - 12} ${y}H${x + 12}M${x} ${y - 12}V${y + 12}`}
            stroke="var(--brass)"
            strokeWidth={2}
          />
        )}
      </Grip>
    </>
  );
}

/** One thing to take hold of: seen small, felt as large as a finger. */
function Grip(props: {
  view: View;
  hold: (view?: View) => void;
  at: Point;
  name: string;
  move: (x: number, y: number) => void;
  nudge?: (dx: number, dy: number) => void;
  square?: boolean;
  radius?: number;
  children?: (x: number, y: number) => React.ReactNode;
}) {
  const { view, hold, move, radius = props.square ? 8 : 18 } = props;
  const [x, y] = view.at(...props.at);
  const press = (event: Pressed<SVGGElement>) => {
    event.preventDefault();
    const board = event.currentTarget.ownerSVGElement!.getBoundingClientRect();
    const done = new AbortController();
    hold(view);
    const to = (e: PointerEvent) => move(...view.back(e.clientX - board.x, e.clientY - board.y));
    addEventListener("pointermove", to, { signal: done.signal });
    const end = () => {
      done.abort();
      hold(undefined);
    };
    addEventListener("pointerup", end, { signal: done.signal });
    addEventListener("pointercancel", end, { signal: done.signal });
  };
  const look = {
    fill: "var(--brass-bg)",
    fillOpacity: 0.75,
    stroke: "var(--brass-line)",
    strokeWidth: 2.2,
  };
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={`${props.name}: drag it, or move it with the arrow keys`}
      className="cursor-move touch-none"
      onPointerDown={press}
      onKeyDown={(event) => {
        const step = STEPS[event.key];
        if (!step) return;
        event.preventDefault();
        if (props.nudge) props.nudge(...step);
        else move(props.at[0] + step[0], props.at[1] + step[1]);
      }}
    >
      <title>{props.name}</title>
      <circle cx={x} cy={y} r={Math.max(22, radius)} fill="transparent" />
      {props.square ? (
        <rect x={x - radius} y={y - radius} width={2 * radius} height={2 * radius} {...look} />
      ) : (
        <circle cx={x} cy={y} r={radius} {...look} />
      )}
      {props.children?.(x, y)}
    </g>
  );
}
