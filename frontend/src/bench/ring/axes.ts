/** Every setting that a ring-around can vary. */

import {
  type Facts,
  type Field,
  fieldOf,
  fieldOfKind,
  itemOf,
  type Recipe,
  type RecipeSchema,
  type Shelf,
  type StationName,
} from "../../api/client";
import { STATION_NAMES } from "../../api/recipe";
import { ROMAN } from "../../wording/format";
import { bandNames, hueName } from "../bands";
import { bathOf } from "../toning/kinds";
import { type Axis, axis, type Values } from "./axis";
import { idleSettings } from "./idle";
import { namedAxes } from "./named";

/** All that a ring-around can vary: every setting that has an effect under the recipe. */
export function axes(
  recipe: Recipe,
  schema: RecipeSchema,
  shelf: Shelf,
  facts: Facts | null,
  frameKind: string,
): Axis[] {
  const named = namedAxes(recipe, schema, shelf, facts);
  const has = new Set(named.map((axis) => axis.id));
  const idle = idleSettings(recipe, shelf, facts, frameKind);
  const all = [...named, ...plainAxes(recipe, schema, shelf).filter((axis) => !has.has(axis.id))];
  // what a picture is mounted in is not seen in small prints of it
  return STATION_NAMES.filter((name) => name !== "mount").flatMap((station) =>
    all.filter((axis) => axis.station === station && axis.choices.length > 1 && !idle(axis.id)),
  );
}

/** Angles whose ends are one. */
const ROUND = [
  "light.hue_shift",
  "light.filter_hue",
  "light.focus_angle",
  "toner.shadow_hue",
  "toner.light_hue",
];

/** Every other setting of the stations: numbers over their ranges, choices, and what is on or off;
 * also those of the parts that a setting has, such as each zone's lift. */
function plainAxes(recipe: Recipe, schema: RecipeSchema, shelf: Shelf): Axis[] {
  const process = shelf.papers.find((paper) => paper.id === recipe.paper.paper)?.process;
  return STATION_NAMES.flatMap((station) =>
    Object.entries(recipe[station]).flatMap(([name, value]): Axis[] => {
      if (name === "hue_bands") return bandAxes(recipe, schema);
      if (name === "baths" || name === "colour_bands")
        return tonerAxes(recipe, schema, shelf, name);
      const field = fieldOf(schema, station, name);
      const put = (to: unknown) => () => ({ [name]: to });
      // what is not set is as the paper has it
      if (name === "paper_tone")
        return [
          over(`${station}.${name}`, field.title, station, field, Number(value ?? process), put),
        ];
      if (typeof value === "number")
        return [over(`${station}.${name}`, field.title, station, field, value, put)];
      if (typeof value === "boolean")
        return [
          listed(station, name, field.title, [false, true], value, (on) => (on ? "on" : "off")),
        ];
      if (typeof value === "string" && field.enum)
        return [listed(station, name, field.title, field.enum, value, String)];
      if (["zone_lift", "zone_contrast", "value_lift"].includes(name))
        return (value as number[]).map((lift, i) =>
          over(
            `${station}.${name}.${i}`,
            `${field.title} ${ROMAN[i]}`,
            station,
            itemOf(schema, station, name),
            lift,
            (to) => (now) => {
              const all = (now[station] as unknown as Record<string, number[]>)[name] ?? [];
              return { [name]: all.map((v, k) => (k === i ? to : v)) };
            },
          ),
        );
      if (station === "development" && typeof value === "object" && value && "strength" in value)
        return Object.entries(value as Record<string, number>).map(([part, amount]) =>
          over(
            `development.${name}.${part}`,
            `${field.title}: ${fieldOfKind(schema, "LocalContrast", part).title.toLowerCase()}`,
            station,
            fieldOfKind(schema, "LocalContrast", part),
            amount,
            (to) => (now) => {
              const scale = (now.development as unknown as Record<string, object>)[name];
              return { [name]: { ...scale, [part]: to } };
            },
          ),
        );
      return [];
    }),
  );
}

function bandAxes(recipe: Recipe, schema: RecipeSchema): Axis[] {
  const names = bandNames(recipe.light.hue_bands);
  return recipe.light.hue_bands.flatMap((band, i) =>
    (["stops", "centre", "width", "softness"] as const).map((part) => {
      const field = fieldOfKind(schema, "HueBand", part);
      return over(
        `light.hue_bands.${i}.${part}`,
        `${names[i]}: ${field.title.toLowerCase()}`,
        "light",
        field,
        band[part],
        (to) => (now) => ({
          hue_bands: now.light.hue_bands.map((b, k) => (k === i ? { ...b, [part]: to } : b)),
        }),
      );
    }),
  );
}

/** How long the print lies in each of its baths, and how much of each hue is let back. */
function tonerAxes(
  { toner }: Recipe,
  schema: RecipeSchema,
  shelf: Shelf,
  name: "baths" | "colour_bands",
): Axis[] {
  const [kind, part] = name === "baths" ? ["Bath", "time"] : ["ColourBand", "back"];
  const field = fieldOfKind(schema, kind, part);
  const items: { title: string; value: number }[] =
    name === "baths"
      ? toner.baths.map((bath) => ({
          title: `${bathOf(bath, shelf.toners).text}: time`,
          value: bath.time,
        }))
      : toner.colour_bands.map((band) => ({
          title: `${hueName(band.centre)} let back`,
          value: band.back,
        }));
  return items.map(({ title, value }, i) =>
    over(`toner.${name}.${i}`, title, "toner", field, value, (to) => (now) => ({
      [name]: now.toner[name].map((item, k) => (k === i ? { ...item, [part]: to } : item)),
    })),
  );
}

/** Five values over a range, and the present one. */
function over(
  id: string,
  title: string,
  station: StationName,
  field: Field,
  value: number,
  put: (to: number) => (recipe: Recipe) => Values,
): Axis {
  const { minimum: low, maximum: high, unit } = field;
  const parts = ROUND.includes(id) ? [0, 0.25, 0.5, 0.75] : [0, 0.25, 0.5, 0.75, 1];
  const steps = parts.map((part) => Number((low + part * (high - low)).toFixed(4)));
  const digits = high - low < 0.1 ? 4 : high - low < 1 ? 3 : 2;
  const text = (v: number) => `${Number(v.toFixed(digits))}${unit ? ` ${unit}` : ""}`;
  const all = [...steps.filter((v) => text(v) !== text(value)), value].sort((a, b) => a - b);
  return {
    id,
    title,
    station,
    choices: all.map((v) => ({
      text: text(v),
      now: v === value,
      station,
      set: v === value ? () => ({}) : put(v),
    })),
  };
}

function listed<T>(
  station: StationName,
  name: string,
  title: string,
  list: readonly T[],
  value: T,
  text: (item: T) => string,
): Axis {
  return axis(station, name, title, list, (item) => ({
    text: text(item),
    now: item === value,
    values: { [name]: item },
  }));
}
