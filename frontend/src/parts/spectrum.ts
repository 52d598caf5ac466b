/** Colours that stand for wavelengths, muted to sit beside a black and white picture. */

const STOPS: [number, [number, number, number]][] = [
  [380, [70, 55, 120]],
  [420, [98, 84, 200]],
  [460, [77, 127, 224]],
  [500, [53, 176, 168]],
  [545, [105, 179, 74]],
  [580, [217, 192, 67]],
  [620, [217, 101, 63]],
  [680, [150, 55, 44]],
  [780, [84, 40, 36]],
  [830, [78, 74, 74]],
  [900, [74, 74, 74]],
];

export function wavelengthColour(nm: number, strength = 1): string {
  let index = STOPS.findIndex(([at]) => at >= nm);
  if (index < 0) index = STOPS.length - 1;
  const [to, high] = STOPS[index] ?? [900, [74, 74, 74]];
  const [from, low] = STOPS[Math.max(index - 1, 0)] ?? [to, high];
  const part = to === from ? 0 : Math.min(1, Math.max(0, (nm - from) / (to - from)));
  const mix = low.map((v, i) => Math.round((v + ((high[i] ?? 0) - v) * part) * strength));
  return `rgb(${mix.join(" ")})`;
}

export const SPECTRUM = Array.from({ length: 53 }, (_, i) => 380 + 10 * i);
