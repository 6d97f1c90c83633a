import { useEffect, useRef } from "react";

// Seconds for one turn of the first shaft: slow enough to follow a tooth.
const SECONDS = 26;

/** Turn the elements marked `data-turns` inside a drawing, all from the same start so that they stay in mesh. */
export function useTurning(turning: boolean, key: string) {
  const drawing = useRef<SVGSVGElement>(null);
  useEffect(() => {
    const wheels = [...(drawing.current?.querySelectorAll<SVGGElement>("[data-turns]") ?? [])];
    let frame = 0;
    let angle = 0;
    let last: number | undefined;
    const step = (now: number) => {
      angle += last === undefined ? 0 : ((now - last) / 1000) * (360 / SECONDS);
      last = now;
      for (const wheel of wheels)
        wheel.setAttribute("transform", `rotate(${(angle * Number(wheel.dataset.turns)) % 360})`);
      frame = requestAnimationFrame(step);
    };
    if (turning) frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  }, [turning, key]);
  return drawing;
}
