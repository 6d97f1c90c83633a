import type { Sketch } from "./helpText";

/** A few strokes that show what a page is about. */
export function HelpSketch({ sketch }: { sketch: Sketch }) {
  const { wheels = [], missing = [], plates = [], lines = [], words = [] } = sketch;
  const named = [...wheels, ...missing];
  return (
    <svg
      viewBox="0 0 160 72"
      aria-hidden
      className="w-full max-w-80 border border-line bg-chalk"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.2"
    >
      {plates.map(([x, y, wide, high]) => (
        <rect key={`${x} ${y}`} x={x} y={y} width={wide} height={high} className="fill-steel" />
      ))}
      {wheels.map(([x, y, r]) => (
        <circle key={`${x} ${y}`} cx={x} cy={y} r={r} className="fill-steel" />
      ))}
      {missing.map(([x, y, r]) => (
        <circle key={`${x} ${y}`} cx={x} cy={y} r={r} strokeDasharray="3 2" />
      ))}
      {lines.map((path) => (
        <path key={path} d={path} />
      ))}
      <g fill="currentColor" stroke="none" textAnchor="middle" fontSize="9" className="font-mono">
        {named.map(
          ([x, y, r, name]) =>
            name && (
              <text key={`${x} ${y}`} x={x} y={y + 3} fontSize={r < 20 ? 8 : 9}>
                {name}
              </text>
            ),
        )}
        {words.map(([x, y, word]) => (
          <text key={`${x} ${y}`} x={x} y={y}>
            {word}
          </text>
        ))}
      </g>
    </svg>
  );
}
