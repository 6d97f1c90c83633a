import type { ComponentProps, ReactNode } from "react";

import { QuadrantDrawing } from "../drawing/QuadrantDrawing";

/** A drawing on paper, so wide and so high, px. */
export type OnPaper = (width: number, height: number) => ReactNode;

/** The wheels of one train. `alone`: it is the only drawing of its sheet, and has room for all that is said of it. */
export function wheelsOnPaper(
  of: Pick<ComponentProps<typeof QuadrantDrawing>, "drawing" | "outlines" | "machine" | "train">,
  alone = false,
): OnPaper {
  const drawing = alone ? of.drawing : { ...of.drawing, clearances: [] };
  return (width, height) => (
    <QuadrantDrawing
      {...of}
      drawing={drawing}
      width={width}
      height={height}
      turning={false}
      terse={!alone}
    />
  );
}
