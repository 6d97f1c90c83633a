import type { Outline } from "../api/client";

/** The path of a whole wheel in mm about its centre, its first tooth along the x axis. */
export function wheelPath({ teeth, radii_mm, angles_rad }: Outline): string {
  const points: string[] = [];
  for (let n = 0; n < teeth; n++) {
    for (let i = 0; i < radii_mm.length - 1; i++) {
      const radius = radii_mm[i]!;
      const at = angles_rad[i]! + (2 * Math.PI * n) / teeth;
      points.push(`${(radius * Math.cos(at)).toFixed(3)} ${(radius * Math.sin(at)).toFixed(3)}`);
    }
  }
  return `M${points.join("L")}Z`;
}

/** A circle as a path, run the other way so that it is a hole. */
export function hole(radius: number): string {
  return `M${radius} 0A${radius} ${radius} 0 1 0 ${-radius} 0A${radius} ${radius} 0 1 0 ${radius} 0Z`;
}
