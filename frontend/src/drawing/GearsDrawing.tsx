import type { Schemas } from "../api/client";

/** The train from spindle to plate in one line, the wheels to scale: pitch circles that touch where they mesh. */
export function GearsDrawing({ gears, height }: { gears: Schemas["GearsOut"]; height: number }) {
  const idler = 30;
  const wheels: { x: number; r: number; name: string }[] = [];
  let x = 0;
  gears.drivers.forEach((driver, n) => {
    const chain = [
      driver,
      ...(n === 0 ? Array.from({ length: gears.idlers }, () => 0) : []),
      gears.driven[n]!,
    ];
    chain.forEach((teeth, k) => {
      const r = (teeth || idler) / 2;
      if (k > 0) x += wheels.at(-1)!.r + r;
      wheels.push({ x, r, name: teeth ? String(teeth) : "any" });
    });
  });
  const [left, right, most] = [
    Math.min(...wheels.map((w) => w.x - w.r)),
    Math.max(...wheels.map((w) => w.x + w.r)),
    Math.max(...wheels.map((w) => w.r)),
  ];
  return (
    <svg
      viewBox={`${left - 3} ${-most - 12} ${right - left + 6} ${2 * most + 24}`}
      height={height}
      className="block max-w-full"
      role="img"
      aria-label={`gears: ${gears.text}, ${gears.idlers} idlers`}
    >
      {wheels.map((wheel, n) => (
        <g key={n}>
          <circle
            cx={wheel.x}
            r={wheel.r}
            fill="var(--blue-bg)"
            fillOpacity={0.7}
            stroke="var(--blue)"
            strokeWidth={0.8}
            strokeDasharray={wheel.name === "any" ? "3 2" : undefined}
          />
          <circle cx={wheel.x} r={2} fill="var(--ink)" />
        </g>
      ))}
      {wheels.map((wheel, n) => {
        // Two on one stud: the first is named below the middle, the second above.
        const below = wheels[n + 1]?.x === wheel.x;
        return (
          <text
            key={n}
            x={wheel.x}
            y={below ? 9 : -9}
            textAnchor="middle"
            dominantBaseline="central"
            fontSize={9}
            className="fill-ink font-mono font-bold"
            stroke="var(--blue-bg)"
            strokeWidth={2}
            paintOrder="stroke"
          >
            {wheel.name}
          </text>
        );
      })}
      <text x={wheels[0]!.x} y={most + 9} textAnchor="middle" fontSize={7} className="fill-ink">
        spindle
      </text>
      <text x={wheels.at(-1)!.x} y={most + 9} textAnchor="middle" fontSize={7} className="fill-ink">
        plate
      </text>
    </svg>
  );
}
