/** The blank with its gaps as deep as they are cut, the one that is cut next on top. */
export function BlankDrawing({
  gaps,
  marked,
  passes,
  at,
  size,
}: {
  gaps: number[];
  marked: number;
  passes: number;
  /** Tooth that is cut next, from 1. */
  at: number;
  size: number;
}) {
  const teeth = gaps.length;
  const [tip, deep] = [size / 2 - 16, (size / 2) * 0.16];
  const half = 90 / teeth;
  return (
    <svg
      width={size}
      height={size}
      viewBox={`${-size / 2} ${-size / 2} ${size} ${size}`}
      role="img"
      aria-label={`${gaps.filter((g) => g >= passes).length} of ${teeth} gaps are at full depth; tooth ${at} is next`}
      className="block"
    >
      <circle r={tip} fill="var(--brass-bg)" stroke="var(--brass)" strokeWidth={1.4} />
      <g transform={`rotate(${-((at - 1) * 360) / teeth})`}>
        {gaps.map((done, n) => {
          const depth = deep * (done / passes);
          const here = n === at - 1;
          const turn = (n * 360) / teeth;
          if (!done && n >= marked && !here) return null;
          const wide = tip * Math.tan((half * Math.PI) / 180);
          return (
            <g key={n} transform={`rotate(${turn})`}>
              {done > 0 && (
                <path
                  d={`M${-wide * 1.1} ${-tip - 1}L${-wide * 0.6} ${-tip + depth}H${wide * 0.6}L${wide * 1.1} ${-tip - 1}Z`}
                  fill="var(--paper)"
                  stroke="var(--brass)"
                  strokeWidth={1}
                />
              )}
              {done === 0 && n < marked && (
                <line y1={-tip} y2={-tip + 5} stroke="var(--brass)" strokeWidth={1.6} />
              )}
              {here && <path d={`M0 ${-tip - 2}l-9 -12h18Z`} fill="var(--blue)" />}
            </g>
          );
        })}
      </g>
      <circle r={size * 0.07} fill="var(--paper)" stroke="var(--brass)" strokeWidth={1.2} />
    </svg>
  );
}
