/** Hue bands: how they are called, and how they are made, split and taken away. */

import type { HueBand } from "../api/client";

/** Hues by the angle of CIE u', v' about white. */
export const NAMED: [number, string][] = [
  [12, "Red"],
  [45, "Orange"],
  [85, "Yellow"],
  [130, "Green"],
  [190, "Blue-green"],
  [240, "Blue"],
  [275, "Violet"],
  [325, "Purple"],
];

const apart = (a: number, b: number) => Math.abs(((a - b + 540) % 360) - 180);

/** What a hue is called. */
export function hueName(hue: number): string {
  const [, name] = NAMED.reduce((best, next) =>
    apart(next[0], hue) < apart(best[0], hue) ? next : best,
  );
  return name;
}

/** Of each band; of several of one name with its centre. */
export function bandNames(bands: HueBand[]): string[] {
  const names = bands.map((band) => hueName(band.centre));
  return names.map((name, i) =>
    names.filter((other) => other === name).length > 1
      ? `${name} ${Math.round(bands[i]?.centre ?? 0)}°`
      : name,
  );
}

/** The bands with one of them in two halves, side by side. */
export const split = (bands: HueBand[], index: number, least: number): HueBand[] =>
  bands.flatMap((band, i) => {
    if (i !== index) return [band];
    const width = Math.max(Math.round(band.width / 2), least);
    return [-1, 1].map((side) => ({
      ...band,
      width,
      centre: (Math.round(band.centre + (side * band.width) / 4) + 360) % 360,
    }));
  });
