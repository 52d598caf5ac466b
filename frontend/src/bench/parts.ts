/** The parts of the stations as they are called; each has controls of its own, and can be switched
 * off. */

import type { Recipe, StationName } from "../api/client";
import type { Switch } from "../api/types";
import type { Parts } from "../state/bench";

export const PART_TITLES: { [S in keyof Parts]: Record<Parts[S], string> } = {
  capture: { light: "Light", frame: "Frame", spots: "Spotting", lens: "Lens, noise" },
  light: { glass: "Light, filters", hues: "Hue bands", air: "Air, focus" },
  film: { stock: "Stock", grain: "Format and grain" },
  development: { negative: "Negative", local: "Local contrast", zones: "Zones" },
  enlarger: { exposure: "Exposure", map: "Printing map" },
  paper: { paper: "Paper, grade", points: "Points, curve", values: "Values" },
  toner: { baths: "Baths", stops: "Tonal stops", colour: "Wash, colour" },
  mount: { paper: "Border", mat: "Mat", signature: "Signature", sharpness: "Sharpness" },
};

export const switchOf = <S extends keyof Parts>(station: S, part?: Parts[S]) =>
  (part ? `${station}.${part}` : station) as Switch;

/** What of a station is off, in words; null where all of it is on. */
export function offOf(recipe: Pick<Recipe, "off">, station: StationName): string | null {
  if (recipe.off.includes(switchOf(station))) return "off";
  const parts = recipe.off.flatMap((name) => {
    const [of, part] = name.split(".");
    return of === station && part ? [(PART_TITLES[station] as Record<string, string>)[part]] : [];
  });
  return parts.length ? `off: ${parts.join("; ").toLowerCase()}` : null;
}
