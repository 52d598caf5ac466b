/** Which settings do nothing under a recipe, since what they belong to is off. */

import type { Facts, Recipe, Shelf } from "../../api/client";

const INFRARED_FROM = 36; // of the sensitivity's wavelengths, 740 nm

export function idleSettings(recipe: Recipe, shelf: Shelf, facts: Facts | null, frameKind: string) {
  const { capture, light, film, development, enlarger, toner } = recipe;
  const stock = shelf.stocks.find((s) => s.id === film.stock);
  const sheet = shelf.papers.find((p) => p.id === recipe.paper.paper);
  const infrared = capture.infrared;
  const beyondRed = !infrared && (stock?.sensitivity[INFRARED_FROM] ?? 0) > 0;
  const bare = light.lens_filter === "none" && light.second_filter === "none";
  const split = facts?.split ?? false;
  const local =
    [development.fine, development.mid_scale, development.broad].some((s) => s.strength) ||
    development.zone_contrast.some(Boolean);
  const when: [boolean, string[]][] = [
    [!infrared, ["capture.red", "capture.green", "capture.blue", "capture.hot_spot"]],
    [!capture.hot_spot, ["capture.hot_spot_size"]],
    // its channels are weighed directly
    [
      infrared,
      [
        "capture.warmth",
        "capture.tint",
        "light.source",
        "light.lens_filter",
        "light.second_filter",
        "light.any-hue",
        "light.compensate",
        "light.strength",
        "light.second_strength",
        "light.temperature",
        "light.filter_hue",
        "light.hue_shift",
      ],
    ],
    [light.source !== "by-temperature", ["light.temperature"]],
    [light.lens_filter === "none", ["light.strength"]],
    [light.second_filter === "none", ["light.second_strength"]],
    [light.lens_filter !== "any-hue" && light.second_filter !== "any-hue", ["light.filter_hue"]],
    [light.lens_filter === "any-hue", ["light.any-hue"]],
    [bare, ["light.compensate"]],
    [!light.soft_focus, ["light.soft_size", "light.soft_on"]],
    [
      !light.focus_blur,
      ["shape", "x", "y", "size", "aspect", "angle", "transition"].map((f) => `light.focus_${f}`),
    ],
    [light.focus_shape === "band", ["light.focus_aspect"]],
    [light.focus_shape === "oval" && light.focus_aspect === 1, ["light.focus_angle"]],
    [!beyondRed, ["film.foliage", "film.sky"]],
    [!film.grain, ["film.grain_size", "film.grain_softness", "film.grain_evenness"]],
    [capture.camera_curve === 0 && frameKind === "raw", ["capture.camera_curve"]],
    [!local, ["development.threshold", "development.hold_highlights", "development.hold_shadows"]],
    [!split, ["enlarger.soft_time", "enlarger.hard_time"]],
    [split, ["paper.grade"]],
    [sheet?.kind !== "variable contrast", ["paper.split"]],
    [!enlarger.soft_time && !enlarger.hard_time, ["paper.split"]],
    [!toner.shadow_wash, ["toner.shadow_hue"]],
    [!toner.light_wash, ["toner.light_hue"]],
    [!toner.shadow_wash && !toner.light_wash, ["toner.wash_meets"]],
    [
      !(toner.baths.length || toner.stops.length || toner.warmth > 0 || toner.light_wash),
      ["toner.warmth_out"],
    ],
    ...light.hue_bands.map(({ stops }, i): [boolean, string[]] => [
      infrared || !stops,
      ["centre", "width", "softness"].map((part) => `light.hue_bands.${i}.${part}`),
    ]),
    ...light.hue_bands.map((_, i): [boolean, string[]] => [
      infrared,
      [`light.hue_bands.${i}.stops`],
    ]),
    ...(["fine", "mid_scale", "broad"] as const).map((scale): [boolean, string[]] => [
      !development[scale].strength,
      ["shadows", "middle", "highlights"].map((part) => `development.${scale}.${part}`),
    ]),
  ];
  const idle = new Set(when.flatMap(([off, ids]) => (off ? ids : [])));
  return (id: string) => idle.has(id);
}
