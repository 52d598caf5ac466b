/** A colour that stands for a hue: the angle of CIE 1976 u', v' about the white of daylight. */
export function hueColour(degrees: number, light = 0.62): string {
  const turn = (degrees * Math.PI) / 180;
  const u = 0.1978 + 0.07 * Math.cos(turn);
  const v = 0.4683 + 0.07 * Math.sin(turn);
  const x = (9 * u) / (4 * v);
  const z = (12 - 3 * u - 20 * v) / (4 * v);
  const linear = [
    3.2406 * x - 1.5372 - 0.4986 * z,
    -0.9689 * x + 1.8758 + 0.0415 * z,
    0.0557 * x - 0.204 + 1.057 * z,
  ].map((c) => Math.max(c, 0));
  const most = Math.max(...linear);
  const shown = linear.map((c) =>
    Math.round(255 * light * ((c / most) * 0.92 + 0.08) ** (1 / 2.2)),
  );
  return `rgb(${shown.join(" ")})`;
}
