import type { Schemas } from "../api/client";
import { scaleText } from "./paper";

type View = Schemas["NutViewOut"];

const MARGIN = 40;
// Shown in place of turns left out in the middle, in pitches.
const BREAK = 2;
// px
const LOWER = 2.5;
// The graph of the drift under the section, px.
const GRAPH = 96;

interface TurnDrawn {
  number: number;
  touches: boolean;
  /** px: the middle of the nut's groove, and how far the screw's thread has drifted from it as drawn. */
  x: number;
  drift: number;
}

/** Thread in its nut, in section along the axis: form and pitch to one scale, drift and play magnified as it says. */
export function NutDrawing({
  view,
  worm,
  width,
  height,
}: {
  view: View;
  worm: boolean;
  width: number;
  height: number;
}) {
  const { pitch, depth, play, magnification, turns, groove, screw, flank } = view;
  const gap = view.left_out ? BREAK * pitch : 0;
  const long = turns.length * pitch + gap;
  const scale = Math.min((width - 2 * MARGIN) / long, (height - 250 - GRAPH) / (2.6 * depth));
  const left = (width - long * scale) / 2;
  const half = (pitch * scale) / 2;
  const middle = (height - GRAPH) / 2 - 20;
  const ends = view.left_out
    ? [turns.slice(0, turns.length / 2), turns.slice(turns.length / 2)]
    : [turns];
  let x = left;
  const parts = ends.map((some) => {
    const shown = some.map(({ number, touches, drift }): TurnDrawn => {
      x += 2 * half;
      return { number, touches, x: x - half, drift: drift * magnification * scale };
    });
    x += gap * scale;
    return shown;
  });
  const [top, bottom] = [middle - (depth * scale) / 2, middle + (depth * scale) / 2];
  const body = 0.8 * depth * scale;
  const profile = (shown: TurnDrawn[], form: typeof screw, drifts: boolean) =>
    shown
      .map((t) => {
        const at = t.x + (drifts ? t.drift : 0);
        // The screw stands a little lower, so that its crests are seen.
        const from = middle + (drifts ? LOWER : 0);
        return form.map((p) => `L${at + p.x_mm * scale} ${from - p.y_mm * scale}`).join("");
      })
      .join("");
  const [nutFalls, screwFalls] = [groove, screw].map((form) => middle - form[0]!.y_mm * scale) as [
    number,
    number,
  ];
  return (
    <svg
      width={width}
      height={height}
      role="img"
      aria-label={described(view, worm)}
      className="block select-none"
    >
      <defs>
        <pattern
          id="nut-hatch"
          width="8"
          height="8"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="8" height="8" fill="var(--steel)" fillOpacity={0.35} />
          <line x1="0" y1="0" x2="0" y2="8" stroke="var(--steel-2)" strokeWidth="1.4" />
        </pattern>
      </defs>
      <text x={left} y={top - body - 30} fontSize={15} fill="var(--ink)">
        {worm ? "wheel, its teeth as a rack" : "nut, turns counted from where the screw enters"}
      </text>
      {parts.map((shown, n) => {
        const [a, b] = [shown[0]!.x - half, shown.at(-1)!.x + half];
        return (
          <g key={n}>
            <path
              d={`M${a} ${top - body}L${a} ${nutFalls}${profile(shown, groove, false)}L${b} ${nutFalls}L${b} ${top - body}Z`}
              fill="url(#nut-hatch)"
              stroke="var(--steel-2)"
              strokeWidth={1.2}
            />
            <path
              d={`M${a} ${bottom + body}L${a} ${screwFalls + LOWER}${profile(shown, screw, true)}L${b} ${screwFalls + LOWER}L${b} ${bottom + body}Z`}
              fill="var(--blue-bg)"
              fillOpacity={0.88}
              stroke="var(--blue)"
              strokeWidth={1.5}
            />
            {shown.map((t) => (
              <g key={t.number}>
                {t.touches && (
                  <Contact x={t.x + t.drift + Math.sign(t.drift) * flank * scale} y={middle} />
                )}
                <text
                  x={t.x}
                  y={top - body - 9}
                  textAnchor="middle"
                  fontSize={14}
                  className="font-mono"
                  fill="var(--soft)"
                >
                  {t.number}
                </text>
              </g>
            ))}
          </g>
        );
      })}
      {view.left_out > 0 && (
        <text
          x={left + (long * scale) / 2}
          y={top - body - 9}
          textAnchor="middle"
          fontSize={14}
          fill="var(--ink)"
        >
          {view.left_out} more
        </text>
      )}
      <text x={left} y={bottom + body + 20} fontSize={15} fill="var(--blue)">
        {worm ? "worm" : "screw"}
      </text>
      <Drift
        parts={parts}
        play={play * magnification * scale}
        half={half}
        top={bottom + body + 40}
        words={view.play_text}
      />
      <text x={width - 14} y={24} textAnchor="end" fontSize={15} fill="var(--ink)">
        drift and play × <tspan className="font-mono font-bold">{magnification}</tspan>, thread{" "}
        {scaleText(scale)}
      </text>
      <text x={width - 14} y={44} textAnchor="end" fontSize={14} fill="var(--soft)">
        {touching(view)}
      </text>
    </svg>
  );
}

/** How far each turn has drifted, in the band that the play leaves; magnified as the section above. */
function Drift({
  parts,
  play,
  half,
  top,
  words,
}: {
  parts: TurnDrawn[][];
  play: number;
  half: number;
  top: number;
  words: string;
}) {
  const middle = top + GRAPH / 2;
  const most = Math.max(play / 2, ...parts.flat().map((t) => Math.abs(t.drift)));
  const tall = (px: number) => (px / most) * (GRAPH / 2 - 8);
  const [a, b] = [parts[0]![0]!.x - half, parts.at(-1)!.at(-1)!.x + half];
  const over = parts.flat().some((t) => t.touches);
  return (
    <g>
      <rect
        x={a}
        y={middle - tall(play / 2)}
        width={b - a}
        height={2 * tall(play / 2)}
        fill="var(--steel)"
        fillOpacity={0.35}
        stroke="var(--steel-2)"
      />
      <line x1={a} y1={middle} x2={b} y2={middle} stroke="var(--steel-2)" strokeDasharray="4 4" />
      {parts.map((shown, n) => (
        <polyline
          key={n}
          points={shown.map((t) => `${t.x},${middle - tall(t.drift)}`).join(" ")}
          fill="none"
          stroke={over ? "var(--oxide)" : "var(--blue)"}
          strokeWidth={2.5}
        />
      ))}
      {parts.length > 1 && (
        <line
          x1={parts[0]!.at(-1)!.x}
          y1={middle - tall(parts[0]!.at(-1)!.drift)}
          x2={parts[1]![0]!.x}
          y2={middle - tall(parts[1]![0]!.drift)}
          stroke={over ? "var(--oxide)" : "var(--blue)"}
          strokeWidth={1.5}
          strokeDasharray="3 5"
        />
      )}
      {parts.flat().map((t) => (
        <circle
          key={t.number}
          cx={t.x}
          cy={middle - tall(t.drift)}
          r={4}
          fill={t.touches ? "var(--oxide)" : "var(--blue)"}
        />
      ))}
      <text x={a} y={top + GRAPH + 16} fontSize={14} fill="var(--soft)">
        drift of each turn, and the {words} of play along the axis
      </text>
    </g>
  );
}

/** Where a flank of the screw bears on the nut's: our mark for a foul. */
function Contact({ x, y }: { x: number; y: number }) {
  return (
    <path
      d={`M${x} ${y - 8}L${x + 8} ${y}L${x} ${y + 8}L${x - 8} ${y}Z`}
      fill="var(--oxide)"
      stroke="var(--paper)"
      strokeWidth={1.5}
    />
  );
}

function touching(view: View): string {
  const number = view.turns.filter((t) => t.touches).length;
  return number ? "binds where marked" : "touches nowhere";
}

function described(view: View, worm: boolean): string {
  return `${worm ? "Worm in its wheel" : "Thread in its nut"} over ${view.turns.length + view.left_out} turns, drift magnified ${view.magnification} times: ${touching(view)}`;
}
