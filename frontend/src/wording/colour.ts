/** Colours as text. */

/** The grey, 0 to 255, that is about as light as #rrggbb. */
export function greyOf(colour: string): number {
  const [red = 0, green = 0, blue = 0] = [1, 3, 5].map(
    (at) => Number.parseInt(colour.slice(at, at + 2), 16) / 255,
  );
  return 255 * (0.2126 * red ** 2.2 + 0.7152 * green ** 2.2 + 0.0722 * blue ** 2.2) ** (1 / 2.2);
}
