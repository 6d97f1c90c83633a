import { type PointerEvent, useRef } from "react";

/** Handlers of something that is dragged: `move` is given how far the pointer came, px, and how far round the middle of
 * the element, turns with the clock; `end` when it is let go. */
export function useDrag(
  move: (right: number, round: number, width: number) => void,
  end: () => void,
) {
  const last = useRef<{ x: number; angle: number }>(undefined);
  const there = (event: PointerEvent<Element>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const [x, y] = [
      event.clientX - box.left - box.width / 2,
      event.clientY - box.top - box.height / 2,
    ];
    return { x, angle: Math.atan2(y, x) / (2 * Math.PI), width: box.width };
  };
  return {
    style: { touchAction: "none" },
    onPointerDown: (event: PointerEvent<Element>) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      last.current = there(event);
    },
    onPointerMove: (event: PointerEvent<Element>) => {
      if (!last.current) return;
      const now = there(event);
      const round = now.angle - last.current.angle;
      move(now.x - last.current.x, round - Math.round(round), now.width);
      last.current = now;
    },
    onPointerUp: () => {
      if (last.current) end();
      last.current = undefined;
    },
    onPointerCancel: () => {
      last.current = undefined;
    },
  } as const;
}
