import type { Curve } from "../api/client";
import { SPECTRUM } from "../parts/spectrum";

/** Lines of things that are overlaid: the one that is looked at is amber. */
export const CHOSEN = "#e8a24a";
export const BESIDE = ["#dcdcdc", "#7fa7c9", "#9bbf7a", "#c98fb0", "#b9a06c", "#8f8fd0"];

export const spectrum = (values: number[]): Curve => ({ x: SPECTRUM, y: values });

/** log10, down to -3. */
export const logged = (values: number[]): Curve => ({
  x: SPECTRUM,
  y: values.map((v) => Math.max(-3, Math.log10(Math.max(v, 1e-4)))),
});

export const NM = {
  from: 380,
  to: 900,
  ticks: [400, 500, 600, 700, 800, 900],
  label: "wavelength, nm",
};
export const minus = (v: number) => String(v).replace("-", "−");
