/** Toning baths as they are called. */

import type { Bath, ShelfToning } from "../../api/types";

export type Kind = Bath["kind"];
export const KINDS: Record<Kind, { text: string; takes: string; swatch: string }> = {
  sepia: { text: "Sepia", takes: "lights first", swatch: "#85603a" },
  selenium: { text: "Selenium", takes: "shadows first", swatch: "#3b2a36" },
  gold: { text: "Gold", takes: "throughout", swatch: "#46525f" },
  copper: { text: "Copper", takes: "throughout", swatch: "#8a5147" },
  "iron-blue": { text: "Iron blue", takes: "throughout", swatch: "#2c4a78" },
  dye: { text: "Dye", takes: "paper and all", swatch: "#7d7a52" },
};

export const percent = (v: number) => String(Math.round(v * 100));

/** Baths and warmth in words; empty where there are none. */
export function bathsOf(toner: ShelfToning["toner"]): string {
  if (toner.stops?.length) return `${toner.stops.length} tonal stops`;
  const baths = (toner.baths ?? [])
    .filter((bath) => bath.time !== 0)
    .map((bath) => `${KINDS[bath.kind ?? "selenium"].text} ${percent(bath.time ?? 0.5)} %`);
  if (toner.warmth) baths.push(toner.warmth > 0 ? "warm" : "cold");
  return baths
    .join(" · ")
    .toLowerCase()
    .replace(/^./, (c) => c.toUpperCase());
}
