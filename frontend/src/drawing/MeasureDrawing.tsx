import type { Outline, Schemas } from "../api/client";
import { hole, wheelPath } from "./outline";

const SIZE = 250;

/** The wheel with the measuring tool where it goes: jaws over the tips, over a span of teeth, or over two pins. */
export function MeasureDrawing({ outline, what, over, pin }: { outline: Outline; what?: Schemas["NextOut"]["what"]; over: number; pin: number }) {
  const { teeth, tip_radius_mm: tip, pitch_radius_mm: pitch } = outline;
  const scale = (SIZE / 2 - 34) / tip;
  const step = (2 * Math.PI) / teeth;
  // For a span the middle of the teeth between the jaws stands on top; else a tooth does.
  const turn = Math.PI / 2 + (what?.includes("span") && over % 2 === 0 ? step / 2 : 0);
  const degrees = (turn * 180) / Math.PI;
  return (
    <svg viewBox={`${-SIZE / 2} ${-SIZE / 2} ${SIZE} ${SIZE}`} className="mx-auto block w-full max-w-64" role="img" aria-label={said(what, over)}>
      <path d={wheelPath(outline) + hole(outline.bore_radius_mm || tip * 0.2)} transform={`scale(${scale} ${-scale}) rotate(${degrees})`} fill="var(--steel)" fillRule="evenodd" stroke="var(--ink)" strokeWidth={1.1} vectorEffect="non-scaling-stroke" />
      {(what === "span" || what === "next_span") && <Jaws at={pitch * Math.sin(((over - 0.5) * step) / 2) * scale} from={-tip * scale - 22} to={-pitch * scale * Math.cos((over * step) / 2) + 14} />}
      {what === "tip" && <Jaws at={tip * scale} from={-20} to={20} />}
      {what === "pins" && <Pins teeth={teeth} pitch={pitch * scale} pin={pin * scale} turn={turn} step={step} />}
    </svg>
  );
}

function Jaws({ at, from, to }: { at: number; from: number; to: number }) {
  return (
    <g fill="var(--brass-bg)" stroke="var(--brass-line)" strokeWidth={1.6}>
      <rect x={-at - 14} y={from} width={14} height={to - from} />
      <rect x={at} y={from} width={14} height={to - from} />
      <rect x={-at - 14} y={from - 12} width={2 * at + 28} height={12} />
    </g>
  );
}

/** Pins in two gaps as far apart as the teeth allow, jaws over both. */
function Pins({ teeth, pitch, pin, turn, step }: { teeth: number; pitch: number; pin: number; turn: number; step: number }) {
  const first = turn + step / 2 + Math.round((Math.PI - turn - step / 2) / step) * step;
  const second = first + Math.floor(teeth / 2) * step;
  const [a, b] = [first, second].map((angle) => [pitch * Math.cos(angle), -pitch * Math.sin(angle)] as const);
  return (
    <>
      {[a!, b!].map(([x, y], n) => (
        <circle key={n} cx={x} cy={y} r={pin / 2} fill="var(--brass)" stroke="var(--paper)" />
      ))}
      <Jaws at={pitch + pin / 2} from={-20} to={20} />
    </>
  );
}

function said(what: Schemas["NextOut"]["what"] | undefined, over: number): string {
  switch (what) {
    case "tip":
      return "jaws over the tips";
    case "pins":
      return "jaws over two pins in opposite gaps";
    case undefined:
      return "the wheel as it most likely is";
    default:
      return `jaws over ${over} teeth, touching the flanks`;
  }
}
