import type { Schemas } from "../api/client";

const [WIDTH, HEIGHT, MARGIN, FIGURES] = [296, 240, 14, 134];

const NAMES = ["approach", "face", "overrun"];

/** The blanks on their arbor and the hob where it begins and where it ends, to one scale: approach, face, overrun. */
export function TravelDrawing({ travel }: { travel: Schemas["TravelOut"] }) {
  const [approach, face, overrun] = travel.texts.map((text, n) => `${NAMES[n]} ${text}`);
  const stack = travel.face * travel.blanks;
  const reach = travel.hob_radius + travel.along * Math.sin((travel.swing * Math.PI) / 180);
  const whole = travel.approach + stack + travel.overrun + 2 * reach;
  // Of the work only the side is drawn at which the hob cuts.
  const deep = Math.min(travel.blank_radius, 2.2 * travel.hob_radius);
  const across = deep + 2 * travel.hob_radius;
  const scale = Math.min((HEIGHT - 2 * MARGIN) / whole, (WIDTH - 2 * MARGIN - FIGURES) / across);
  const down = travel.way === "down";
  const edge = MARGIN + deep * scale;
  const above = (down ? travel.approach : travel.overrun) + reach;
  const top = HEIGHT / 2 - (whole / 2 - above) * scale;
  const bottom = top + stack * scale;
  const middle = edge + (travel.hob_radius - travel.depth) * scale;
  const begins = down ? top - travel.approach * scale : bottom + travel.approach * scale;
  const ends = down ? bottom + travel.overrun * scale : top - travel.overrun * scale;
  const from = down ? [begins, top, bottom, ends] : [ends, top, bottom, begins];
  // A hob that stands askew is seen as a tilted drum: an ellipse, drawn out along the work as far as it cuts first.
  const tilt = (travel.swing * Math.PI) / 180;
  const [rx, ry] = [travel.hob_radius * scale, travel.hob_radius * Math.cos(tilt) * scale];
  const out = travel.along * Math.sin(tilt) * scale;
  const drum = (y: number) =>
    `M${middle - rx} ${y - out}A${rx} ${ry} 0 0 1 ${middle + rx} ${y - out}V${y + out}` +
    `A${rx} ${ry} 0 0 1 ${middle - rx} ${y + out}Z`;
  const names = down ? [approach, face, overrun] : [overrun, face, approach];
  const line = WIDTH - FIGURES + 6;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      width="100%"
      role="img"
      aria-label={`The hob travels ${travel.way}: ${approach}, ${face}, ${overrun}`}
      className="mt-2 block border border-line bg-paper"
    >
      {Array.from({ length: travel.blanks }, (_, n) => (
        <rect
          key={n}
          x={MARGIN}
          y={top + n * travel.face * scale}
          width={deep * scale}
          height={travel.face * scale}
          fill="var(--steel)"
          stroke="var(--ink)"
          strokeWidth={1}
        />
      ))}
      <line
        x1={edge - travel.depth * scale}
        y1={top}
        x2={edge - travel.depth * scale}
        y2={bottom}
        stroke="var(--blue)"
        strokeDasharray="5 3"
      />
      {[begins, ends].map((y, n) => (
        <path
          key={n}
          d={drum(y)}
          fill="var(--brass-bg)"
          fillOpacity={n === 0 ? 0.85 : 0.35}
          stroke="var(--brass-line)"
          strokeWidth={1.6}
          strokeDasharray={n === 0 ? undefined : "5 3"}
        />
      ))}
      <line x1={middle} y1={begins} x2={middle} y2={ends} stroke="var(--ink)" strokeWidth={1.6} />
      <path
        d={`M${middle - 5} ${ends + (down ? -9 : 9)}L${middle} ${ends}L${middle + 5} ${ends + (down ? -9 : 9)}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.6}
      />
      {from.map((y, n) => (
        <line
          key={n}
          x1={edge}
          y1={y}
          x2={line + 5}
          y2={y}
          stroke="var(--soft)"
          strokeWidth={0.7}
        />
      ))}
      <line x1={line} y1={from[0]} x2={line} y2={from[3]} stroke="var(--ink)" strokeWidth={1} />
      {spread(names.map((name = "", n) => ({ name, y: (from[n]! + from[n + 1]!) / 2 }))).map(
        ({ name, y }) => (
          <text key={`${name} ${y}`} x={line + 8} y={y + 5} fontSize={14} fill="var(--ink)">
            {name}
          </text>
        ),
      )}
    </svg>
  );
}

/** Figures one below the other, so that none covers the next. */
function spread(words: { name: string; y: number }[]) {
  const placed = words.map((w) => ({ ...w }));
  for (let n = 1; n < placed.length; n++)
    placed[n]!.y = Math.max(placed[n]!.y, placed[n - 1]!.y + 17);
  return placed;
}
