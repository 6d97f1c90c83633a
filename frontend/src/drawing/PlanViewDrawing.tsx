import type { Schemas } from "../api/client";
import { scaleText } from "./paper";
import { TitleBlock } from "./TitleBlock";
import type { ToPaper } from "./point";

type View = Schemas["ViewOut"];
type Spot = Schemas["Spot"];

const MARGIN = 14;
const FOOT = 62;
// mm of the column drawn behind its face, and how wide it is drawn.
const [COLUMN_DEEP, COLUMN_WIDE] = [60, 300];

/** The mill from above as the operator stands, to scale: the table as it is swung, work, cutter, arbor and column; the
 * work itself once more, larger. */
export function PlanViewDrawing(props: {
  view: View;
  machine: string;
  width: number;
  height: number;
  /** Black on white, without words that the sheet has beside it. */
  plain?: boolean;
}) {
  const { view, width, height } = props;
  const corners = [...view.table, ...view.begins, ...view.ends, ...view.square];
  const xs = corners.map((p) => p.x_mm);
  const [left, right] = [Math.min(...xs, -COLUMN_WIDE / 2), Math.max(...xs, COLUMN_WIDE / 2)];
  const low = Math.min(...corners.map((p) => p.y_mm));
  const high = Math.max(view.column_mm + COLUMN_DEEP, ...corners.map((p) => p.y_mm));
  const scale = Math.max(
    0.02,
    Math.min((width - 2 * MARGIN) / (right - left), (height - MARGIN - FOOT) / (high - low)),
  );
  const middle = (left + right) / 2;
  const spare = (height - MARGIN - FOOT - (high - low) * scale) / 2;
  const at: ToPaper = (x, y) => [
    width / 2 + (x - middle) * scale,
    MARGIN + spare + (high - y) * scale,
  ];
  const points = (spots: Spot[]) =>
    spots
      .map((p) =>
        at(p.x_mm, p.y_mm)
          .map((n) => n.toFixed(1))
          .join(","),
      )
      .join(" ");
  const ghost = { fill: "none", stroke: "var(--soft)", strokeDasharray: "5 4", strokeWidth: 1 };
  const wrong = view.fouls || view.how === "neither";
  const [faceX, faceY] = at(-COLUMN_WIDE / 2, view.column_mm);
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-label={spoken(view)}
      className="block select-none"
    >
      <Hatching />
      <rect
        x={faceX}
        y={faceY - COLUMN_DEEP * scale}
        width={COLUMN_WIDE * scale}
        height={COLUMN_DEEP * scale}
        fill="url(#hatched)"
      />
      <line
        x1={faceX}
        y1={faceY}
        x2={faceX + COLUMN_WIDE * scale}
        y2={faceY}
        stroke="var(--ink)"
        strokeWidth={2.4}
      />
      {!props.plain && (
        <Word x={faceX + 8} y={faceY - COLUMN_DEEP * scale + 10}>
          column
        </Word>
      )}
      {view.square.length > 0 && <polygon points={points(view.square)} {...ghost} />}
      <polygon
        points={points(view.table)}
        fill="var(--steel)"
        stroke={wrong ? "var(--oxide)" : "var(--ink)"}
        strokeWidth={wrong ? 2.6 : 1.6}
      />
      <Slots table={view.table} at={at} />
      <polygon points={points(view.begins)} {...ghost} />
      <polygon points={points(view.ends)} {...ghost} />
      <polygon
        points={points(view.head)}
        fill="var(--paper)"
        stroke="var(--ink)"
        strokeWidth={1.2}
      />
      <polygon
        points={points(view.tail)}
        fill="var(--paper)"
        stroke="var(--ink)"
        strokeWidth={1.2}
      />
      <Work view={view} points={points} wide={1} />
      {!props.plain && <ViewHeads view={view} at={at} />}
      {!props.plain && <Distance view={view} at={at} />}
      <Angle view={view} at={at} scale={scale} />
      {!props.plain && (
        <>
          <Detail view={view} width={width} height={height} />
          <Operator x={Math.max(at(0, 0)[0], width - 180)} y={height - 54} />
        </>
      )}
      <TitleBlock
        name={props.plain ? "from above" : `${props.machine}, from above`}
        scale={view.to_scale ? scaleText(scale) : "in proportion"}
        width={width}
        height={height}
      />
    </svg>
  );
}

function spoken(view: View): string {
  const way = view.turned > 0 ? "right-hand" : "left-hand";
  const over =
    view.how === "head"
      ? `table square, cutter head swivelled ${view.degrees.toFixed(2)} degrees`
      : `table swung ${view.degrees.toFixed(2)} degrees, its ${way} end toward the column`;
  return `From above: ${over}${view.fouls ? "; the table meets the column" : ""}`;
}

function Hatching() {
  return (
    <pattern
      id="hatched"
      width={8}
      height={8}
      patternUnits="userSpaceOnUse"
      patternTransform="rotate(45)"
    >
      <rect width={8} height={8} fill="var(--chalk)" />
      <line x1={0} y1={0} x2={0} y2={8} stroke="var(--steel-2)" strokeWidth={1.6} />
    </pattern>
  );
}

/** Work with its tooth lines, arbor and cutter. */
function Work({
  view,
  points,
  wide,
}: {
  view: View;
  points: (spots: Spot[]) => string;
  wide: number;
}) {
  return (
    <>
      <polygon
        points={points(view.work)}
        fill="var(--brass-bg)"
        stroke="var(--brass-line)"
        strokeWidth={1.4}
      />
      {view.teeth.map((line, n) => (
        <polyline
          key={n}
          points={points(line)}
          fill="none"
          stroke="var(--brass)"
          strokeWidth={0.8 * wide}
        />
      ))}
      <polygon
        points={points(view.arbor)}
        fill="var(--paper)"
        fillOpacity={0.8}
        stroke="var(--ink)"
        strokeWidth={1}
      />
      <polygon points={points(view.cutter)} fill="var(--ink)" fillOpacity={0.85} />
    </>
  );
}

/** T-slots along the table, so that its way is seen. */
function Slots({ table, at }: { table: Spot[]; at: ToPaper }) {
  const [a, b, c, d] = table;
  if (!a || !b || !c || !d) return null;
  const between = (p: Spot, q: Spot, part: number) =>
    at(p.x_mm + (q.x_mm - p.x_mm) * part, p.y_mm + (q.y_mm - p.y_mm) * part);
  return [0.25, 0.5, 0.75].map((part) => {
    const [[x1, y1], [x2, y2]] = [between(a, d, part), between(b, c, part)];
    return <line key={part} {...{ x1, y1, x2, y2 }} stroke="var(--steel-2)" strokeWidth={1.4} />;
  });
}

/** Which block on the table is the dividing head. */
function ViewHeads({ view, at }: { view: View; at: ToPaper }) {
  const [x, y] = at(...middleOf(view.head));
  return (
    <Word x={x} y={y} middle>
      head
    </Word>
  );
}

function middleOf(spots: Spot[]): [number, number] {
  const sum = (of: (p: Spot) => number) => spots.reduce((s, p) => s + of(p), 0) / spots.length;
  return [sum((p) => p.x_mm), sum((p) => p.y_mm)];
}

/** From the table's middle to the column's face. */
function Distance({ view, at }: { view: View; at: ToPaper }) {
  // Beside the arbor, on the side where the table lies lower.
  const beside = (view.turned > 0 ? -1 : 1) * 90;
  const [x, y1] = at(beside, 0);
  const [, y2] = at(beside, view.column_mm);
  const [from] = at(0, 0);
  const wide = view.column_text.length * 8.2 + 12;
  return (
    <g stroke="var(--ink)" strokeWidth={1}>
      <line x1={from} y1={y1} x2={x + Math.sign(x - from) * 8} y2={y1} strokeDasharray="3 3" />
      <line x1={x} y1={y1} x2={x} y2={y2} />
      {[
        [y1, -1],
        [y2, 1],
      ].map(([y, way]) => (
        <path key={way} d={`M${x} ${y}l-4 ${way! * 9}h8Z`} fill="var(--ink)" stroke="none" />
      ))}
      <rect
        x={x - wide / 2}
        y={y1 + (y2 - y1) * 0.62 - 12}
        width={wide}
        height={24}
        fill="var(--paper)"
        stroke={view.fouls ? "var(--oxide)" : "var(--ink)"}
      />
      <text
        x={x}
        y={y1 + (y2 - y1) * 0.62}
        textAnchor="middle"
        dominantBaseline="central"
        fontSize={14}
        stroke="none"
        className="fill-ink font-mono"
      >
        {view.column_text}
      </text>
    </g>
  );
}

/** The angle that is set, with the way it is swung. */
function Angle({ view, at, scale }: { view: View; at: ToPaper; scale: number }) {
  if (view.degrees === 0) return null;
  const head = view.how === "head";
  // The arm along which the angle opens: the table's end that goes away, or the cutter's arbor toward the column.
  const start = head ? 90 : view.turned > 0 ? 0 : 180;
  const long = head
    ? view.column_mm * 0.8
    : Math.abs(Math.max(...view.table.map((p) => p.x_mm))) * 0.78;
  const to = (degrees: number, r = long): [number, number] => {
    const a = (degrees * Math.PI) / 180;
    return at(r * Math.cos(a), r * Math.sin(a));
  };
  const end = start + view.turned;
  const [x0, y0] = at(0, 0);
  const [[ax, ay], [bx, by]] = [to(start), to(end)];
  const r = long * scale;
  const [tx, ty] = to(start + view.turned / 2, long * 1.0);
  const text = `${Number(view.degrees.toFixed(2))}°`;
  // The head of the arrow lies along the arc.
  const way = Math.sign(view.turned);
  const [cx, cy] = to(end - way * Math.min(5, view.degrees / 2));
  const along = Math.atan2(by - cy, bx - cx);
  const wing = (side: number) => [
    bx - 11 * Math.cos(along + side * 0.4),
    by - 11 * Math.sin(along + side * 0.4),
  ];
  const colour = view.how === "neither" ? "var(--oxide)" : "var(--blue)";
  const wide = text.length * 11 + 14;
  return (
    <g stroke={colour} fill="none" strokeWidth={1.8}>
      <line x1={x0} y1={y0} x2={ax} y2={ay} strokeWidth={1} strokeDasharray="10 3 2 3" />
      <line x1={x0} y1={y0} x2={bx} y2={by} strokeWidth={1} strokeDasharray="10 3 2 3" />
      <path d={`M${ax} ${ay}A${r} ${r} 0 0 ${way > 0 ? 0 : 1} ${bx} ${by}`} />
      <polygon
        points={[[bx, by], wing(1), wing(-1)].map((p) => p.join(",")).join(" ")}
        fill={colour}
        stroke="none"
      />
      <rect
        x={tx - wide / 2}
        y={ty - 15}
        width={wide}
        height={30}
        fill="var(--paper)"
        strokeWidth={1.2}
      />
      <text
        x={tx}
        y={ty}
        textAnchor="middle"
        dominantBaseline="central"
        fontSize={19}
        stroke="none"
        className="fill-ink font-mono font-bold"
      >
        {text}
      </text>
    </g>
  );
}

/** The work under the cutter once more, larger, where the table leaves room. */
function Detail({ view, width, height }: { view: View; width: number; height: number }) {
  const radius = Math.min(width * 0.17, height * 0.2, 110);
  if (radius < 55) return null;
  const reach = Math.max(...view.work.map((p) => Math.hypot(p.x_mm, p.y_mm)));
  const scale = (radius * 0.8) / reach;
  // The end of the table that comes toward the operator is on the other side.
  const away = view.how === "head" || view.turned > 0 ? 1 : -1;
  const [x, y] = [
    away > 0 ? width - radius - 12 : radius + 12,
    height - FOOT - radius + (away > 0 ? -2 : 40),
  ];
  const points = (spots: Spot[]) =>
    spots.map((p) => `${(p.x_mm * scale).toFixed(1)},${(-p.y_mm * scale).toFixed(1)}`).join(" ");
  return (
    <g transform={`translate(${x} ${y})`}>
      <clipPath id="glass">
        <circle r={radius} />
      </clipPath>
      <circle r={radius} fill="var(--paper)" />
      <g clipPath="url(#glass)">
        <polygon points={points(view.table)} fill="var(--steel)" />
        <Work view={view} points={points} wide={1.8} />
      </g>
      <circle r={radius} fill="none" stroke="var(--ink)" strokeWidth={1.6} />
      <Word x={0} y={radius - 12} middle>
        {view.to_scale ? scaleText(scale) : ""}
      </Word>
    </g>
  );
}

/** Where one stands. */
function Operator({ x, y }: { x: number; y: number }) {
  return (
    <g>
      <path d={`M${x - 62} ${y + 2}l-6 -10l-6 10Z`} fill="var(--soft)" />
      <Word x={x} y={y} middle>
        you stand here
      </Word>
    </g>
  );
}

function Word({
  x,
  y,
  middle,
  children,
}: {
  x: number;
  y: number;
  middle?: boolean;
  children: string;
}) {
  return (
    <text
      x={x}
      y={y}
      textAnchor={middle ? "middle" : "start"}
      dominantBaseline="central"
      fontSize={14}
      className="fill-ink"
      stroke="var(--paper)"
      strokeWidth={4}
      paintOrder="stroke"
    >
      {children}
    </text>
  );
}
