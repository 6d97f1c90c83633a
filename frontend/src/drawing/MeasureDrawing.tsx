import type { Outline, Schemas } from "../api/client";
import { hole, wheelPath } from "./outline";
import { Tool } from "./Tool";

const SIZE = 250;
const MARGIN = 44;

/** The wheel as it most likely is, with the tool for the next reading where it goes. */
export function MeasureDrawing({
  outline,
  next,
}: {
  outline: Outline;
  next: Schemas["NextOut"] | null;
}) {
  const tip = outline.tip_radius_mm;
  const scale = (SIZE / 2 - MARGIN) / tip;
  const turn = next?.tool.turn_rad ?? Math.PI / 2;
  return (
    <svg
      viewBox={`${-SIZE / 2} ${-SIZE / 2} ${SIZE} ${SIZE}`}
      className="mx-auto block w-full max-w-64"
      role="img"
      aria-label={partText(next)}
    >
      <path
        d={wheelPath(outline) + hole(outline.bore_radius_mm || tip * 0.2)}
        transform={`scale(${scale} ${-scale}) rotate(${(turn * 180) / Math.PI})`}
        fill="var(--steel)"
        fillRule="evenodd"
        stroke="var(--ink)"
        strokeWidth={1.1}
        vectorEffect="non-scaling-stroke"
      />
      {next && (
        <Tool tool={next.tool} at={(x, y) => [x * scale, -y * scale]} scale={scale} tip={tip} />
      )}
    </svg>
  );
}

function partText(next: Schemas["NextOut"] | null): string {
  switch (next?.what) {
    case "tip":
      return "jaws over the tips";
    case "pins":
      return "jaws over two pins in opposite gaps";
    case undefined:
      return "the wheel as it most likely is";
    default:
      return `jaws over ${next?.over} teeth, touching the flanks`;
  }
}
