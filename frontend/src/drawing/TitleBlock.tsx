/** Machine, view and scale, as on a drawing sheet. */
export function TitleBlock({
  name,
  scale,
  width,
  height,
}: {
  name: string;
  scale: string;
  width: number;
  height: number;
}) {
  const split = name ? name.length * 7.6 + 22 : 0;
  const wide = split + scale.length * 7.6 + 22;
  const [x, y] = [width - wide - 10, height - 40];
  return (
    <g>
      <rect
        x={x}
        y={y}
        width={wide}
        height={28}
        fill="var(--paper)"
        stroke="var(--ink)"
        strokeWidth={1.2}
      />
      <line
        x1={x + split}
        y1={y}
        x2={x + split}
        y2={y + 28}
        stroke="var(--ink)"
        strokeWidth={1.2}
      />
      <text
        x={x + split / 2}
        y={y + 14}
        textAnchor="middle"
        dominantBaseline="central"
        fontSize={14}
        className="fill-ink"
      >
        {name}
      </text>
      <text
        x={x + (split + wide) / 2}
        y={y + 14}
        textAnchor="middle"
        dominantBaseline="central"
        fontSize={14}
        className="fill-ink"
      >
        {scale}
      </text>
    </g>
  );
}
