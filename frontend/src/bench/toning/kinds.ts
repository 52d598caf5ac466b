/** Toning baths as they are called. */

import type { Bath, ShelfToner, ShelfToning } from "../../api/types";

export type Kind = Exclude<Bath["kind"], "own">;
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
    .map(({ kind = "selenium", toner = null, time = 0.5 }) => {
      const { text } = bathOf({ kind, toner });
      return `${text} ${percent(time)} %`;
    });
  if (toner.warmth) baths.push(toner.warmth > 0 ? "warm" : "cold");
  return baths
    .join(" · ")
    .toLowerCase()
    .replace(/^./, (c) => c.toUpperCase());
}

const TAKES: Record<string, string> = {
  lights: "lights first",
  shadows: "shadows first",
  throughout: "throughout",
};

/** What a bath is called, what it takes first, and a colour that stands for it. */
export function bathOf(bath: Pick<Bath, "kind" | "toner">, toners: ShelfToner[] = []) {
  if (bath.kind !== "own") return KINDS[bath.kind];
  const own = toners.find(({ id }) => id === bath.toner);
  return {
    text: own?.name ?? "Own toner",
    takes: TAKES[own?.takes ?? ""] ?? "",
    swatch: own?.scale[Math.floor(own.scale.length / 3)] ?? "#666666",
  };
}
