import type { WheelSizes } from "../api/wheel";
import { hole, wheelPath } from "./outline";
import { Tool } from "./Tool";
import type { ToPaper } from "./point";

export type WheelMeasure = "span" | "pins" | "chord";

// px around the wheel, for the jaws.
const MARGIN = 56;

/** The wheel with true flanks and where it is measured; `near` from 0, all of it, to 1, one tooth. */
export function WheelDrawing({
  wheel,
  shown,
  near,
  width,
  height,
}: {
  wheel: WheelSizes;
  shown: WheelMeasure;
  near: number;
  width: number;
  height: number;
}) {
  const { tip_radius_mm: tip, pitch_radius_mm: pitch } = wheel.outline;
  const tool = wheel.measure[shown];
  const smallest = Math.min(width, height) / 2 - MARGIN;
  const whole = smallest / tip;
  const depth = tip - wheel.root_radius_mm;
  const close = Math.max(whole, (height - 2 * MARGIN) / (1.9 * depth));
  const scale = whole * (close / whole) ** near;
  // Far, the wheel's centre stands in the middle; near, the right pin, or the tooth on top.
  const pin = tool.pins.at(-1);
  const [focusX, focusY] = pin ? [pin.x_mm, pin.y_mm] : [0, tip - depth / 2];
  const share = whole === close ? 0 : Math.min(1, near * 1.4);
  const at: ToPaper = (x, y) => [
    width / 2 + (x - focusX * share) * scale,
    height / 2 - (y - focusY * share) * scale,
  ];
  const [cx, cy] = at(0, 0);
  const rings: [string, number, string][] = [
    ["tip", tip, "2 3"],
    ["pitch", pitch, "9 3 2 3"],
    ["base", wheel.base_radius_mm, "5 4"],
    ["root", wheel.root_radius_mm, "2 3"],
  ];
  const named = scale * depth > 70 && !pin;
  return (
    <svg
      width={width}
      height={height}
      role="img"
      aria-label={`${wheel.title}, ${SAID[shown]}`}
      className="block select-none"
    >
      <path
        d={wheelPath(wheel.outline) + bore(wheel)}
        transform={`translate(${cx} ${cy}) scale(${scale} ${-scale}) rotate(${(tool.turn_rad * 180) / Math.PI})`}
        fill="var(--steel)"
        fillRule="evenodd"
        stroke="var(--ink)"
        strokeWidth={1.5}
        vectorEffect="non-scaling-stroke"
      />
      {wheel.outline.bore_radius_mm > 0 && (
        <path
          d={`M${cx - 8} ${cy}H${cx + 8}M${cx} ${cy - 8}V${cy + 8}`}
          stroke="var(--ink)"
          strokeWidth={0.8}
        />
      )}
      {rings.map(([name, radius, dash]) => (
        <circle
          key={name}
          cx={cx}
          cy={cy}
          r={radius * scale}
          fill="none"
          stroke={name === "pitch" ? "var(--blue)" : "var(--soft)"}
          strokeWidth={1}
          strokeDasharray={dash}
          opacity={named || name === "pitch" ? 1 : 0}
        />
      ))}
      {named &&
        spread(rings.map(([name, radius]) => ({ name, y: at(0, radius)[1] }))).map(
          ({ name, y }) => (
            <text
              key={name}
              x={width - 12}
              y={y}
              textAnchor="end"
              dominantBaseline="central"
              fontSize={14}
              fill={name === "pitch" ? "var(--blue)" : "var(--soft)"}
              stroke="var(--paper)"
              strokeWidth={5}
              paintOrder="stroke"
            >
              {name} circle
            </text>
          ),
        )}
      <Tool tool={tool} at={at} scale={scale} tip={tip} />
    </svg>
  );
}

const SAID: Record<WheelMeasure, string> = {
  span: "jaws over a span of teeth",
  pins: "pins in opposite gaps",
  chord: "a tooth across its chord",
};

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
  for (let n = 1; n < sorted.length; n++)
    sorted[n] = { ...sorted[n]!, y: Math.max(sorted[n]!.y, sorted[n - 1]!.y + 17) };
  return sorted;
}
