/** Sizes of the mounted print in words. */

const plain = (v: number) => String(Math.round(v));

/** Millimetres to a hundredth, without noughts. */
export const fine = (v: number) => String(Math.round(v * 100) / 100);

/** Width and height in mm. */
export const mm = ([width = 0, height = 0]: number[]) => `${plain(width)} × ${plain(height)} mm`;

/** Glass of frames that is usual, cm (common practice). */
const GLASS: [number, number][] = [
  [13, 18],
  [18, 24],
  [20, 30],
  [24, 30],
  [30, 40],
  [40, 50],
  [50, 60],
  [50, 70],
  [60, 80],
  [70, 100],
];

/** The smallest usual glass that something fits behind. */
export function glassFor([width = 0, height = 0]: number[]): string {
  const [short, long] = [Math.min(width, height) / 10, Math.max(width, height) / 10];
  const same = GLASS.find(([a, b]) => Math.abs(a - short) < 0.15 && Math.abs(b - long) < 0.15);
  if (same) return `just behind glass of ${same[0]} × ${same[1]} cm`;
  const found = GLASS.find(([a, b]) => a >= short && b >= long);
  return found
    ? `the next glass is ${found[0]} × ${found[1]} cm`
    : "larger than glass that is usual";
}
