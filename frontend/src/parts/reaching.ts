/** Axes that reach as far as what is drawn along them. */

/** How far up an axis reaches so that rising curves have room up to the end of what is shown: as
 * far as usual, or a little beyond them. */
export const reaching = (curves: { x: number[]; y: number[] }[], end: number, usual: number) =>
  Math.max(
    usual,
    ...curves.map(
      ({ x, y }) => Math.ceil(5 * (y[x.findLastIndex((h) => h <= end)] ?? 0) + 0.5) / 5,
    ),
  );

/** Ticks from 0 on. */
export const ticksTo = (top: number, step: number) =>
  Array.from({ length: Math.floor(top / step + 1e-9) + 1 }, (_, i) => i * step);
