import type { WheelSizes } from "../api/making";
import { hole, wheelPath } from "./outline";

export type Shown = "span" | "pins" | "chord";

// px around the wheel, for the jaws.
const MARGIN = 56;

/** The wheel with true flanks and where it is measured; `near` from 0, all of it, to 1, one tooth. */
export function WheelDrawing({ wheel, shown, near, width, height }: { wheel: WheelSizes; shown: Shown; near: number; width: number; height: number }) {
  const { teeth, tip_radius_mm: tip, pitch_radius_mm: pitch } = wheel.outline;
  const { measure } = wheel;
  const step = (2 * Math.PI) / teeth;
  // For a span over an even count a gap stands on top, else a tooth.
  const turn = Math.PI / 2 + (shown === "span" && measure.over % 2 === 0 ? step / 2 : 0);
  const smallest = Math.min(width, height) / 2 - MARGIN;
  const whole = smallest / tip;
  const depth = tip - wheel.root_radius_mm;
  const close = Math.max(whole, (height - 2 * MARGIN) / (1.9 * depth));
  const scale = whole * (close / whole) ** near;
  // Near, the tooth on top stands in the middle; far, the wheel's centre does.
  const middle = (tip - depth / 2) * (whole === close ? 0 : (scale - whole) / (close - whole) > 0 ? Math.min(1, near * 1.4) : 0);
  const at = (x: number, y: number) => [width / 2 + x * scale, height / 2 - (y - middle) * scale] as const;
  const [cx, cy] = at(0, 0);
  const rings: [string, number, string][] = [
    ["tip", tip, "2 3"],
    ["pitch", pitch, "9 3 2 3"],
    ["base", wheel.base_radius_mm, "5 4"],
    ["root", wheel.root_radius_mm, "2 3"],
  ];
  const named = scale * depth > 70;
  return (
    <svg width={width} height={height} role="img" aria-label={`${wheel.title}, ${SAID[shown]}`} className="block select-none">
      <path d={wheelPath(wheel.outline) + bore(wheel)} transform={`translate(${cx} ${cy}) scale(${scale} ${-scale}) rotate(${(turn * 180) / Math.PI})`} fill="var(--steel)" fillRule="evenodd" stroke="var(--ink)" strokeWidth={1.5} vectorEffect="non-scaling-stroke" />
      {wheel.outline.bore_radius_mm > 0 && <path d={`M${cx - 8} ${cy}H${cx + 8}M${cx} ${cy - 8}V${cy + 8}`} stroke="var(--ink)" strokeWidth={0.8} />}
      {rings.map(([name, radius, dash]) => (
        <circle key={name} cx={cx} cy={cy} r={radius * scale} fill="none" stroke={name === "pitch" ? "var(--blue)" : "var(--soft)"} strokeWidth={1} strokeDasharray={dash} opacity={named || name === "pitch" ? 1 : 0} />
      ))}
      {named &&
        spread(rings.map(([name, radius]) => ({ name, y: at(0, radius)[1] }))).map(({ name, y }) => (
          <text key={name} x={width - 12} y={y} textAnchor="end" dominantBaseline="central" fontSize={14} fill={name === "pitch" ? "var(--blue)" : "var(--soft)"} stroke="var(--paper)" strokeWidth={5} paintOrder="stroke">
            {name} circle
          </text>
        ))}
      {shown === "span" && <Span wheel={wheel} at={at} scale={scale} />}
      {shown === "pins" && <Pins wheel={wheel} at={at} scale={scale} turn={turn} step={step} />}
      {shown === "chord" && <Chord wheel={wheel} at={at} />}
    </svg>
  );
}

const SAID: Record<Shown, string> = { span: "jaws over a span of teeth", pins: "pins in opposite gaps", chord: "a tooth across its chord" };

type At = (x: number, y: number) => readonly [number, number];

const JAW = { fill: "var(--brass-bg)", fillOpacity: 0.85, stroke: "var(--brass-line)", strokeWidth: 1.8 };

/** Jaws touch the flanks where the line through both touches the base circle: at its height over the middle. */
function Span({ wheel, at, scale }: { wheel: WheelSizes; at: At; scale: number }) {
  const { jaw_mm: jaw } = wheel.measure;
  const touch = wheel.base_radius_mm;
  const tip = wheel.outline.tip_radius_mm;
  const [left, y] = at(-jaw, touch);
  const [right] = at(jaw, touch);
  const top = at(0, tip)[1] - 22;
  const foot = y + Math.min(26, 0.6 * (tip - wheel.root_radius_mm) * scale);
  const wide = 20;
  return (
    <g>
      <rect x={left - wide} y={top} width={wide} height={foot - top} {...JAW} />
      <rect x={right} y={top} width={wide} height={foot - top} {...JAW} />
      <rect x={left - wide} y={top - 16} width={right - left + 2 * wide} height={16} {...JAW} />
      {[left, right].map((x) => (
        <circle key={x} cx={x} cy={y} r={3.4} fill="var(--oxide)" />
      ))}
    </g>
  );
}

function Pins({ wheel, at, scale, turn, step }: { wheel: WheelSizes; at: At; scale: number; turn: number; step: number }) {
  const { pin_mm: pin, pins_radius_mm: radius } = wheel.measure;
  const first = turn + step / 2 + Math.round((Math.PI - turn - step / 2) / step) * step;
  const second = first + Math.floor(wheel.teeth / 2) * step;
  return [first, second].map((angle) => {
    const [x, y] = at(radius * Math.cos(angle), radius * Math.sin(angle));
    const out = (pin / 2) * scale;
    const side = Math.cos(angle) > 0 ? 1 : -1;
    return (
      <g key={angle}>
        <rect x={side > 0 ? x + out : x - out - 18} y={y - 44} width={18} height={88} {...JAW} />
        <circle cx={x} cy={y} r={out} fill="var(--brass)" stroke="var(--paper)" />
      </g>
    );
  });
}

function Chord({ wheel, at }: { wheel: WheelSizes; at: At }) {
  const { chord_mm: chord, chord_height_mm: deep } = wheel.measure;
  const tip = wheel.outline.tip_radius_mm;
  const [left, y] = at(-chord / 2, tip - deep);
  const [right] = at(chord / 2, tip - deep);
  const top = at(0, tip)[1];
  return (
    <g>
      <rect x={left - 18} y={top - 26} width={18} height={y - top + 26 + 8} {...JAW} />
      <rect x={right} y={top - 26} width={18} height={y - top + 26 + 8} {...JAW} />
      <rect x={left - 18} y={top - 14} width={right - left + 36} height={14} {...JAW} />
      <path d={`M${left} ${y}H${right}`} stroke="var(--oxide)" strokeWidth={2.4} />
    </g>
  );
}

/** The bore with its keyway half as deep as wide, along the first tooth's line. */
function bore(wheel: WheelSizes): string {
  const radius = wheel.outline.bore_radius_mm;
  const key = wheel.key_mm / 2;
  if (!radius) return "";
  if (!key || key >= radius) return hole(radius);
  const x = Math.sqrt(radius ** 2 - key ** 2);
  return `M${x} ${key}A${radius} ${radius} 0 1 1 ${x} ${-key}H${radius + key}V${key}Z`;
}

/** Words on a line kept apart, so that none covers the next. */
function spread(words: { name: string; y: number }[]): { name: string; y: number }[] {
  const sorted = [...words].sort((a, b) => a.y - b.y);
  for (let n = 1; n < sorted.length; n++) sorted[n] = { ...sorted[n]!, y: Math.max(sorted[n]!.y, sorted[n - 1]!.y + 17) };
  return sorted;
}
