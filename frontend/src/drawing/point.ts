/** x and y, in mm or px. */
export type Point = [number, number];
