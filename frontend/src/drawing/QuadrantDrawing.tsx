import { lazy, Suspense, useMemo, useState } from "react";

import type { Drawing, Outline, Schemas } from "../api/client";
import { coverOutline } from "./coverOutline";
import { Cover } from "./Cover";
import { dropName, onEnter, useInHand } from "./inHand";
import { hole, wheelPath } from "./outline";
import { scaleText } from "./paper";
import type { QuadrantEdits } from "./QuadrantHandles";
import { Senses } from "./Senses";
import { TitleBlock } from "./TitleBlock";
import { useTurning } from "./useTurning";
import type { Point } from "./point";
import { type View, viewOf } from "./view";
import { ARM, countText, placeWords, slotNameAt } from "./words";

// Only a record's own drawing has handles.
const QuadrantHandles = lazy(() =>
  import("./QuadrantHandles").then((m) => ({ default: m.QuadrantHandles })),
);

type Wheel = Schemas["DrawnWheel"];
type Clearance = Schemas["DrawnClearance"];

/** The end view to scale: everything in it is where the core says it is. */
export function QuadrantDrawing(props: {
  drawing: Drawing;
  outlines: Outline[];
  machine: string;
  train: string;
  width: number;
  height: number;
  turning: boolean;
  /** Only the scale in the title, where there is little room. */
  terse?: boolean;
  /** What is done when parts of the quadrant are dragged; only where they can be. */
  edits?: QuadrantEdits;
}) {
  const { drawing, outlines, width, height } = props;
  const fitting = useMemo(
    () => viewOf(drawing, outlines, width, height, props.edits?.swing),
    [drawing, outlines, width, height, props.edits?.swing],
  );
  // While something is dragged the scale stands still under the hand.
  const [still, setStill] = useState<View>();
  const view = still ?? fitting;
  const paths = useMemo(() => new Map(outlines.map((o) => [o.teeth, wheelPath(o)])), [outlines]);
  const svg = useTurning(props.turning, `${props.train} ${props.machine}`);
  const wheels = drawing.wheels
    .map((wheel, n) => ({ wheel, n }))
    .sort((a, b) => a.wheel.plane - b.wheel.plane);
  const hand = useInHand();
  const cover = useMemo(
    () => coverOutline(drawing, view, width, height),
    [drawing, view, width, height],
  );
  const words = useMemo(
    () => placeWords(drawing, outlines, view, width, height, cover),
    [drawing, outlines, view, width, height, cover],
  );
  return (
    <svg
      ref={svg}
      width={width}
      height={height}
      role={hand || props.edits ? "group" : "img"}
      aria-label={described(drawing, props.machine)}
      className="block select-none"
    >
      {cover && words.cover && <Cover outline={cover} at={words.cover} />}
      <Slots drawing={drawing} view={view} />
      {wheels.map(({ wheel, n }) => (
        <WheelShape
          key={n}
          wheel={wheel}
          place={n}
          drawing={drawing}
          view={view}
          path={paths.get(wheel.teeth) ?? ""}
          bore={outlines.find((o) => o.teeth === wheel.teeth)?.bore_radius_mm ?? 1}
        />
      ))}
      <g className="pointer-events-none">
        <Shafts drawing={drawing} view={view} names={words.names} />
        <Senses drawing={drawing} counts={words.counts} view={view} outlines={outlines} />
        {drawing.clearances.map((c, n) => (
          <Dimension
            key={n}
            clearance={c}
            view={view}
            number={n + 1}
            at={words.figures[n]!}
            above={marksAbove(drawing, view, n)}
          />
        ))}
        {drawing.wheels.map((wheel, n) => (
          <Count key={n} wheel={wheel} {...words.counts[n]!} />
        ))}
        <TitleBlock
          name={props.terse || !props.machine ? "" : `${props.machine}, end view`}
          scale={drawing.to_scale ? scaleText(view.scale) : "in proportion"}
          width={width}
          height={height}
        />
      </g>
      <IdlerPlaces drawing={drawing} view={view} />
      {props.edits && drawing.slots.length > 0 && (
        <Suspense fallback={null}>
          <QuadrantHandles drawing={drawing} view={view} hold={setStill} edits={props.edits} />
        </Suspense>
      )}
    </svg>
  );
}

function described(drawing: Drawing, machine: string): string {
  const wheels = drawing.wheels.map(
    (w) => `${w.teeth} ${w.role} on the ${drawing.shafts[w.shaft]?.name}`,
  );
  return `${machine}, end view from the gear side: ${wheels.join(", ")}`;
}

/** The quadrant's arms with their slots, swung to where the train wants them. */
function Slots({ drawing, view }: { drawing: Drawing; view: View }) {
  const stud = drawing.shafts[1]?.boss_radius_mm ?? 10;
  return drawing.slots.map((slot) => {
    const [dx, dy] = [Math.cos(slot.angle_rad), Math.sin(slot.angle_rad)];
    const [x0, y0] = view.at(0, 0);
    const [x1, y1] = view.at(dx * slot.nearest_mm, dy * slot.nearest_mm);
    const [x2, y2] = view.at(dx * slot.farthest_mm, dy * slot.farthest_mm);
    const arm = stud * ARM * view.scale;
    const name = slotNameAt(slot, drawing, view);
    return (
      <g key={slot.name} strokeLinecap="round" opacity={name ? 1 : 0.55}>
        <line
          x1={x0}
          y1={y0}
          x2={x2}
          y2={y2}
          stroke="var(--steel-2)"
          strokeWidth={arm + 2}
          opacity={0.55}
        />
        <line x1={x0} y1={y0} x2={x2} y2={y2} stroke="var(--grid)" strokeWidth={arm} />
        <line
          x1={x1}
          y1={y1}
          x2={x2}
          y2={y2}
          stroke="var(--steel-2)"
          strokeWidth={arm * 0.36 + 2}
        />
        <line x1={x1} y1={y1} x2={x2} y2={y2} stroke="var(--paper)" strokeWidth={arm * 0.36} />
        {name && (
          <text
            x={name.x}
            y={name.y}
            fontSize={14}
            textAnchor={name.side < 0 ? "end" : "start"}
            dominantBaseline="middle"
            className="fill-ink"
            stroke="var(--paper)"
            strokeWidth={5}
            strokeLinejoin="round"
            paintOrder="stroke"
          >
            {slot.name}
          </text>
        )}
      </g>
    );
  });
}

const INKS: Record<Wheel["state"], { line: string; inner: string; outer: string }> = {
  proposed: { line: "var(--blue)", inner: "var(--blue-bg)", outer: "var(--blue-in)" },
  mounted: { line: "var(--brass-line)", inner: "var(--brass-bg)", outer: "var(--brass-bg)" },
  missing: { line: "var(--soft)", inner: "var(--paper)", outer: "var(--paper)" },
};

/** A wheel; where wheels can be moved it is taken by a press, and others are put in its place. */
function WheelShape(props: {
  wheel: Wheel;
  place: number;
  drawing: Drawing;
  view: View;
  path: string;
  bore: number;
}) {
  const { wheel, place, drawing, view } = props;
  const hand = useInHand();
  const target = { kind: "wheel", at: place } as const;
  const mine = { teeth: wheel.teeth, at: place };
  const inHand = hand?.held?.at === place;
  const movable = hand && {
    role: "button",
    tabIndex: 0,
    "aria-label":
      hand.held && !inHand
        ? `Put the ${hand.held.teeth} in place of the ${wheel.teeth}`
        : `${wheel.teeth} ${wheel.role}, pick up`,
    "data-drop": dropName(target),
    className: "cursor-grab touch-none",
    onPointerDown: (event: React.PointerEvent) => hand.press(event, mine, target),
    onKeyDown: (event: React.KeyboardEvent) => {
      if (wheel.role === "idler" && (event.key === "Delete" || event.key === "Backspace")) {
        hand.take(mine);
        requestAnimationFrame(() => hand.drop({ kind: "shelf" }));
      } else
        onEnter(() =>
          hand.held && !inHand ? hand.drop(target) : hand.take(inHand ? undefined : mine),
        )(event);
    },
  };
  const shaft = drawing.shafts[wheel.shaft]!;
  const [x, y] = view.at(shaft.x_mm, shaft.y_mm);
  const ink = INKS[wheel.state];
  return (
    <g transform={`translate(${x} ${y}) scale(${view.scale} ${-view.scale})`} {...movable}>
      <g data-turns={wheel.turns}>
        <path
          d={props.path + hole(props.bore)}
          transform={`rotate(${(wheel.phase_rad * 180) / Math.PI})`}
          fill={wheel.plane ? ink.outer : ink.inner}
          fillOpacity={wheel.plane ? 0.86 : 0.94}
          fillRule="evenodd"
          stroke={wheel.fouls ? "var(--oxide)" : inHand ? "var(--brass-line)" : ink.line}
          strokeWidth={inHand ? 4 : wheel.fouls ? 2.2 : hand?.held ? 2.4 : 1.4}
          strokeDasharray={wheel.state === "missing" ? "6 4" : undefined}
          vectorEffect="non-scaling-stroke"
        />
      </g>
    </g>
  );
}

/** While a wheel off the shelf is in the hand: the places where it could stand as idler. */
function IdlerPlaces({ drawing, view }: { drawing: Drawing; view: View }) {
  const hand = useInHand();
  if (!hand?.held || hand.held.at !== undefined) return null;
  const { teeth } = hand.held;
  return drawing.meshes.map(({ after, at }) => {
    const [x, y] = view.spot(at);
    const target = { kind: "mesh", after } as const;
    const [one, other] = [drawing.wheels[after]!.teeth, drawing.wheels[after + 1]!.teeth];
    return (
      <g
        key={after}
        role="button"
        tabIndex={0}
        aria-label={`Put the ${teeth} as idler between ${one} and ${other}`}
        data-drop={dropName(target)}
        className="cursor-pointer"
        onClick={() => hand.drop(target)}
        onKeyDown={onEnter(() => hand.drop(target))}
      >
        <circle
          cx={x}
          cy={y}
          r={22}
          fill="var(--brass-bg)"
          stroke="var(--brass-line)"
          strokeWidth={2.5}
        />
        <path
          d={`M${x - 10} ${y}H${x + 10}M${x} ${y - 10}V${y + 10}`}
          stroke="var(--brass)"
          strokeWidth={3.5}
        />
        <title>{`as idler between ${one} and ${other}`}</title>
      </g>
    );
  });
}

function Shafts({ drawing, view, names }: { drawing: Drawing; view: View; names: Point[] }) {
  return drawing.shafts.map((shaft, n) => {
    const [x, y] = view.at(shaft.x_mm, shaft.y_mm);
    const radius = Math.max(3, shaft.boss_radius_mm * view.scale);
    const cross = radius * 1.35;
    const [nameX, nameY] = names[n]!;
    return (
      <g key={n}>
        <circle
          cx={x}
          cy={y}
          r={radius}
          fill="var(--paper)"
          stroke="var(--ink)"
          strokeWidth={1.4}
        />
        <path
          d={`M${x - cross} ${y}H${x + cross}M${x} ${y - cross}V${y + cross}`}
          stroke="var(--ink)"
          strokeWidth={0.8}
        />
        <text
          x={nameX}
          y={nameY}
          textAnchor="middle"
          dominantBaseline="central"
          fontSize={14}
          className="fill-ink"
          stroke="var(--paper)"
          strokeWidth={4}
          strokeOpacity={0.8}
          strokeLinejoin="round"
          paintOrder="stroke"
        >
          {shaft.name}
        </text>
      </g>
    );
  });
}

function Count(props: { wheel: Wheel; at: Point; size: number }) {
  const { wheel, size } = props;
  const [x, y] = props.at;
  const text = countText(wheel);
  // What is on now is underlined.
  const colour = wheel.fouls
    ? "var(--oxide)"
    : wheel.state === "mounted"
      ? "var(--brass)"
      : wheel.state === "missing"
        ? "var(--soft)"
        : "var(--blue)";
  return (
    <>
      <text
        x={x}
        y={y}
        fontSize={size}
        textAnchor="middle"
        dominantBaseline="central"
        className="font-mono font-bold"
        fill={colour}
        stroke={wheel.plane ? INKS[wheel.state].outer : INKS[wheel.state].inner}
        strokeWidth={5}
        strokeLinejoin="round"
        paintOrder="stroke"
      >
        {text}
      </text>
      {wheel.state === "mounted" && (
        <line
          x1={x - size * 0.3 * text.length}
          x2={x + size * 0.3 * text.length}
          y1={y + size * 0.52}
          y2={y + size * 0.52}
          stroke={colour}
          strokeWidth={Math.max(2, size * 0.09)}
        />
      )}
    </>
  );
}

/** How many foul marks before this one would cover it. */
function marksAbove(drawing: Drawing, view: View, n: number): number {
  const middle = (c: Clearance) => {
    const [[x1, y1], [x2, y2]] = [view.spot(c.start), view.spot(c.end)];
    return [(x1 + x2) / 2, (y1 + y2) / 2] as Point;
  };
  const [x, y] = middle(drawing.clearances[n]!);
  return drawing.clearances
    .slice(0, n)
    .filter((c) => c.fouls && Math.hypot(middle(c)[0] - x, middle(c)[1] - y) < 30).length;
}

/** A clearance with its figure; where something fouls, a numbered mark at the place. */
function Dimension({
  clearance,
  view,
  number,
  at,
  above,
}: {
  clearance: Clearance;
  view: View;
  number: number;
  at: Point;
  above: number;
}) {
  const [x1, y1] = view.spot(clearance.start);
  const [x2, y2] = view.spot(clearance.end);
  const [mx, my] = [(x1 + x2) / 2, (y1 + y2) / 2];
  if (clearance.fouls) {
    return (
      <g>
        <line x1={x1} y1={y1} x2={x2} y2={y2} stroke="var(--oxide)" strokeWidth={5} />
        <g transform={`translate(0 ${above * 34})`}>
          <path
            d={`M${mx} ${my - 15}L${mx + 15} ${my}L${mx} ${my + 15}L${mx - 15} ${my}Z`}
            fill="var(--oxide)"
            stroke="var(--paper)"
            strokeWidth={2}
          />
          <text
            x={mx}
            y={my}
            textAnchor="middle"
            dominantBaseline="central"
            fontSize={15}
            className="font-mono font-bold"
            fill="var(--paper)"
          >
            {number}
          </text>
        </g>
      </g>
    );
  }
  const wide = clearance.text.length * 8.4 + 14;
  const [bx, by] = at;
  return (
    <g>
      <line x1={x1} y1={y1} x2={x2} y2={y2} stroke="var(--ink)" strokeWidth={2.6} />
      <path d={`M${mx} ${my}L${bx} ${by}`} stroke="var(--ink)" strokeWidth={1} />
      <rect
        x={bx - wide / 2}
        y={by - 13}
        width={wide}
        height={26}
        rx={2}
        fill="var(--paper)"
        stroke="var(--ink)"
        strokeWidth={1.2}
      />
      <text
        x={bx}
        y={by}
        textAnchor="middle"
        dominantBaseline="central"
        fontSize={14}
        className="fill-ink font-mono"
      >
        {clearance.text}
      </text>
      <title>{clearance.between}</title>
    </g>
  );
}
