import type { Move, Plate } from "../api/dividing";

/** A plate side with its circles of holes: pin, arms, and the holes to paint, after this many of its moves, the last of them `move`. */
export function PlateDrawing({
  plate,
  move,
  done,
  size,
}: {
  plate: Plate;
  move?: Move;
  done: number;
  size: number;
}) {
  const largest = Math.max(...plate.circles.map((c) => c.radius_mm));
  const scale = (size / 2 - 34) / (largest + 6);
  const pinned = plate.circles.find((c) => c.holes === plate.circle);
  const radius = (pinned?.radius_mm ?? largest) * scale;
  const step = 360 / plate.circle;
  const [pin, turned] = [(move?.pin_turns ?? 0) * 360, (move?.plate_turns ?? 0) * 360];
  const glide = "transform 900ms ease-in-out";
  const lock = plate.circles.find((c) => c.holes === plate.lock);
  const used = (holes: number) => holes === plate.circle || holes === plate.lock;
  return (
    <svg
      viewBox={`${-size / 2} ${-size / 2} ${size} ${size}`}
      className="mx-auto block h-full max-h-full w-full select-none"
      role="img"
      aria-label={`plate with ${plate.circles.map((c) => c.holes).join(", ")} holes, the pin in the ${plate.circle} after ${done} moves`}
    >
      <circle
        r={(largest + 6) * scale + 8}
        fill="var(--steel)"
        stroke="var(--steel-2)"
        strokeWidth={2}
      />
      {/* The second move: crank and all turn with the plate. */}
      <g
        style={{ transform: `rotate(${turned}deg)`, transition: glide, transitionDelay: "1000ms" }}
        className="motion-reduce:transition-none!"
      >
        {plate.circles.map((circle) => (
          <g key={circle.holes} opacity={used(circle.holes) ? 1 : 0.65}>
            {Array.from({ length: circle.holes }, (_, n) => {
              const angle = ((n * 360) / circle.holes) * (Math.PI / 180);
              const painted = circle.holes === plate.circle && plate.painted.includes(n);
              return (
                <circle
                  key={n}
                  cx={circle.radius_mm * scale * Math.sin(angle)}
                  cy={-circle.radius_mm * scale * Math.cos(angle)}
                  r={Math.max(
                    1.6,
                    Math.min(5, (circle.radius_mm * scale * Math.PI) / circle.holes / 1.9),
                  )}
                  fill={painted ? "var(--blue)" : "var(--paper)"}
                  stroke={used(circle.holes) ? "var(--ink)" : "var(--steel-2)"}
                  strokeWidth={used(circle.holes) ? 1.2 : 0.8}
                />
              );
            })}
            {circle.holes !== plate.circle && (
              <CircleName holes={circle.holes} radius={circle.radius_mm * scale} />
            )}
          </g>
        ))}
        <g
          style={{ transform: `rotate(${pin}deg)`, transition: glide, transitionDelay: "500ms" }}
          className="motion-reduce:transition-none!"
        >
          {plate.spaces > 0 && (
            <>
              <Arm angle={-step * 0.45} radius={radius} />
              <Arm angle={step * (plate.spaces + 0.45)} radius={radius} />
            </>
          )}
        </g>
        <g
          style={{ transform: `rotate(${pin}deg)`, transition: glide }}
          className="motion-reduce:transition-none!"
        >
          <path
            d={`M-7 0L-5 ${-radius}H5L7 0Z`}
            fill="var(--brass-bg)"
            stroke="var(--brass-line)"
            strokeWidth={1.6}
          />
          <circle cy={-radius} r={8} fill="var(--brass)" stroke="var(--paper)" strokeWidth={2} />
        </g>
      </g>
      {lock && (
        <rect
          x={-8}
          y={-lock.radius_mm * scale - 8}
          width={16}
          height={16}
          fill="none"
          stroke="var(--blue)"
          strokeWidth={3}
        />
      )}
      <circle r={16} fill="var(--paper)" stroke="var(--ink)" strokeWidth={1.4} />
      <text
        y={1}
        textAnchor="middle"
        dominantBaseline="central"
        fontSize={13}
        className="fill-ink font-mono font-bold"
      >
        {plate.circle}
      </text>
    </svg>
  );
}

function Arm({ angle, radius }: { angle: number; radius: number }) {
  const turned = (angle * Math.PI) / 180;
  return (
    <line
      x1={0}
      y1={0}
      x2={(radius + 16) * Math.sin(turned)}
      y2={-(radius + 16) * Math.cos(turned)}
      stroke="var(--ink)"
      strokeWidth={3}
      strokeLinecap="round"
    />
  );
}

/** How many holes a circle has, between its first hole and the next. */
function CircleName({ holes, radius }: { holes: number; radius: number }) {
  const half = Math.PI / holes;
  // Closer than this a number would cover the holes beside it, px.
  if (2 * radius * Math.sin(half) < 17) return null;
  return (
    <text
      x={radius * Math.sin(half)}
      y={-radius * Math.cos(half)}
      textAnchor="middle"
      dominantBaseline="central"
      fontSize={11}
      className="fill-ink font-mono"
      stroke="var(--steel)"
      strokeWidth={3}
      paintOrder="stroke"
    >
      {holes}
    </text>
  );
}
