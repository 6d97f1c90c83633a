/** x and y, in mm or px. */
export type Point = [number, number];

/** Where a place of the machine, mm, stands on the paper, px. */
export type ToPaper = (x: number, y: number) => Point;
