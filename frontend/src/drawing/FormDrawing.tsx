import type { WheelSizes } from "../api/wheel";

/** One flank as it should be, and as the cutter leaves it, the difference magnified. */
export function FormDrawing({
  wheel,
  width,
  height,
}: {
  wheel: WheelSizes;
  width: number;
  height: number;
}) {
  const { form } = wheel;
  if (!form) return null;
  const { heights_mm: heights, half_true_mm: half, errors_um: errors } = form;
  const [low, high] = [heights[0]!, heights.at(-1)!];
  const scale = Math.min((height - 110) / (high - low), (width - 260) / (2 * Math.max(...half)));
  // Enough that the worst above the pitch line is seen as some 50 px; the foot, where no mate touches, may be more.
  const worst = Math.max(...errors.filter((_, n) => heights[n]! >= 0).map(Math.abs));
  const larger = worst ? nice(50 / scale / (worst / 1000)) : 1;
  const [middle, foot] = [width / 2 - 40, (height + (high - low) * scale) / 2 + 14];
  const y = (h: number) => foot - (h - low) * scale;
  const flank = (side: number, cut: boolean) =>
    heights.map(
      (h, n) =>
        `${middle + side * (half[n]! + (cut ? (errors[n]! / 1000) * larger : 0)) * scale} ${y(h)}`,
    );
  const tooth = (cut: boolean) => `M${[...flank(-1, cut), ...flank(1, cut).reverse()].join("L")}Z`;
  const at = errors.length - 1;
  return (
    <svg
      width={width}
      height={height}
      role="img"
      aria-label={`the form that the cutter leaves: ${form.text}`}
      className="block select-none"
    >
      <path d={tooth(false)} fill="var(--steel)" stroke="var(--ink)" strokeWidth={1.5} />
      <path
        d={tooth(true)}
        fill="none"
        stroke={errors[at]! > 0 ? "var(--oxide)" : "var(--brass-line)"}
        strokeWidth={2.6}
      />
      <path
        d={`M${middle - half[0]! * scale - 60} ${y(0)}H${middle + half[0]! * scale + 60}`}
        stroke="var(--blue)"
        strokeDasharray="9 3 2 3"
      />
      <text
        x={middle + half[0]! * scale + 66}
        y={y(0)}
        dominantBaseline="central"
        fontSize={14}
        fill="var(--blue)"
      >
        pitch line
      </text>
      <text x={width / 2} y={24} textAnchor="middle" fontSize={15} className="fill-ink">
        {worst
          ? `Brass: as a cutter true for ${form.true_for} leaves it, the difference drawn ${larger} times as large`
          : `The cutter is true for ${form.true_for}: nothing differs`}
      </text>
      {[0, Math.round(at / 2), at].map((n) => (
        <text
          key={n}
          x={middle + (half[n]! + Math.max(0, (errors[n]! / 1000) * larger)) * scale + 12}
          y={y(heights[n]!)}
          dominantBaseline="central"
          fontSize={14}
          className="fill-ink font-mono"
          stroke="var(--paper)"
          strokeWidth={4}
          paintOrder="stroke"
        >
          {form.error_texts[n]}
        </text>
      ))}
    </svg>
  );
}

/** The round number next below: 1, 2 or 5 times a power of ten. */
function nice(value: number): number {
  const power = 10 ** Math.floor(Math.log10(Math.max(1, value)));
  return [5, 2, 1].map((n) => n * power).find((n) => n <= value) ?? power;
}
