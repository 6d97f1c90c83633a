/** A short screw of the hand that is cut: a right-hand thread leans back toward the left as it rises. */
export function HandDrawing({ hand }: { hand: "right" | "left" }) {
  const [length, radius, pitch] = [64, 11, 9];
  const lean = hand === "right" ? -3.5 : 3.5;
  const turns = Array.from({ length: 7 }, (_, n) => 5 + n * pitch);
  return (
    <svg
      viewBox={`0 0 ${length + 10} 30`}
      width={length + 10}
      height={30}
      role="img"
      aria-label={`${hand}-hand thread`}
      className="shrink-0"
    >
      <path
        d={`M4 ${15 - radius}H${length}L${length + 6} ${15 - radius + 4}V${15 + radius - 4}L${length} ${15 + radius}H4Z`}
        fill="var(--steel)"
        stroke="var(--ink)"
        strokeWidth={1.2}
      />
      {turns.map((x) => (
        <line
          key={x}
          x1={x - lean}
          y1={15 + radius}
          x2={x + lean}
          y2={15 - radius}
          stroke="var(--ink)"
          strokeWidth={1.6}
        />
      ))}
    </svg>
  );
}
