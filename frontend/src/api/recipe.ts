/** Recipes: by station in the window, in two parts where they are written down and sent. */

import { unsentOf } from "../state/sheets";
import { OF_FRAME, PARTS, STATION_NAMES } from "./recipe.generated";
import type { Recipe, StationName, Stations, Switch, WrittenRecipe } from "./types";

export { PARTS, STATION_NAMES };

type Fields = Record<string, unknown>;

/** By station what came in two parts. */
export function joined(written: WrittenRecipe): Recipe {
  const { of_frame = {}, look = {} } = written as { of_frame?: object; look?: object };
  const parts = [of_frame, look] as Partial<Record<StationName, Fields>>[];
  const stations = Object.fromEntries(
    STATION_NAMES.map((station) => [station, Object.assign({}, ...parts.map((p) => p[station]))]),
  ) as Stations;
  const { mixture = null, off = [] } = written;
  return { ...stations, mixture: mixture as Recipe["mixture"], off };
}

/** Whether the print before a starting print has a field of its own, or shares it. */
const inBefore = (station: StationName, field: string) =>
  !OF_FRAME[station].includes(field) || (station === "film" && field === "placement");

/** The fields that a switch puts out of force. */
export function fieldsOff(name: Switch): { station: StationName; fields: readonly string[] } {
  const [station, part] = name.split(".") as [StationName, string | undefined];
  const parts = PARTS[station];
  return { station, fields: part ? (parts[part] ?? []) : Object.values(parts).flat() };
}

/** The recipe with fields of a station set. What is set by hand holds however far a print went to its
 * starting print: the print before gets it too; and it is in force, whatever was switched off. */
export function withFields<S extends StationName>(
  recipe: Recipe,
  station: S,
  values: Partial<Recipe[S]>,
): Recipe {
  const off = recipe.off.filter((name) => {
    const of = fieldsOff(name);
    return of.station !== station || !of.fields.some((field) => field in values);
  });
  const next = { ...recipe, [station]: { ...recipe[station], ...values }, off };
  const { mixture } = recipe;
  const shared = Object.entries(values).filter(([field]) => inBefore(station, field));
  if (!mixture || shared.length === 0) return next;
  const fields = { ...mixture.before[station], ...Object.fromEntries(shared) };
  return { ...next, mixture: { ...mixture, before: { ...mixture.before, [station]: fields } } };
}

/** The print before a starting print, with what is of the frame as it is now; the recipe itself
 * where there was none. */
export function beforeOf(recipe: Recipe): Recipe {
  const { mixture } = recipe;
  if (!mixture) return recipe;
  const stations = STATION_NAMES.map((station) => {
    const own = Object.entries(recipe[station]).filter(([field]) => !inBefore(station, field));
    return [station, { ...mixture.before[station], ...Object.fromEntries(own) }];
  });
  return { ...(Object.fromEntries(stations) as Stations), mixture: null, off: recipe.off };
}

/** The recipe with what is switched off of its look as it is to begin with, so that it is the same
 * print when it is no longer off. */
export function inForce(recipe: Recipe, schema: RecipeSchema): Recipe {
  let made: Recipe = recipe;
  for (const name of recipe.off) {
    const { station, fields } = fieldsOff(name);
    const home = fields
      .filter((field) => inBefore(station, field))
      .map((field) => [field, fieldOf(schema, station, field).default]);
    made = { ...made, [station]: { ...made[station], ...Object.fromEntries(home) } };
  }
  return made;
}

/** What a starting print made of a recipe, with the way back. */
export function mixedWith(before: Recipe, after: Recipe, name: string): Recipe {
  const stations = STATION_NAMES.map((station) => {
    const own = Object.entries(before[station]).filter(([field]) => inBefore(station, field));
    return [station, Object.fromEntries(own)];
  });
  const kept = Object.fromEntries(stations) as Stations;
  return { ...after, mixture: { name, strength: 1, before: kept } };
}

/** The plain print of the same frame: its shape and its mends, and nothing chosen. */
export function plainOf(recipe: Recipe, schema: RecipeSchema): Recipe {
  const stations = STATION_NAMES.map((station) => {
    const home = Object.keys(recipe[station])
      .filter((field) => inBefore(station, field) || field === "passes")
      .map((field) => [field, fieldOf(schema, station, field).default]);
    return [station, { ...recipe[station], ...Object.fromEntries(home) }];
  });
  return { ...(Object.fromEntries(stations) as Stations), mixture: null, off: [] };
}

/** In two parts what is by station. */
export function parted(recipe: Recipe): WrittenRecipe {
  const written: Record<"of_frame" | "look", Partial<Record<StationName, Fields>>> = {
    of_frame: {},
    look: {},
  };
  for (const station of STATION_NAMES) {
    for (const [name, value] of Object.entries(recipe[station])) {
      const part = written[OF_FRAME[station].includes(name) ? "of_frame" : "look"];
      const fields = part[station] ?? {};
      part[station] = Object.assign(fields, { [name]: value });
    }
  }
  const { mixture, off } = recipe;
  return {
    format: "silvrin-recipe-6",
    ...written,
    ...(mixture && { mixture }),
    ...(off.length > 0 && { off }),
  } as WrittenRecipe;
}

/** A recipe as it is sent, with the sheets of drawings that the server has not kept. */
export const sending = (recipe: Recipe) => ({ recipe: parted(recipe), sheets: unsentOf(recipe) });

/** What the recipe's model says of a field: the one definition of range, step and unit. */
export interface Field {
  title: string;
  description: string;
  unit: string;
  step: number;
  minimum: number;
  maximum: number;
  default: number | string | boolean | null;
  enum?: string[];
  /** Of a list. */
  maxItems?: number;
}

interface Property extends Partial<Field> {
  anyOf?: Partial<Field>[];
}

export interface RecipeSchema {
  $defs: Record<string, { properties: Record<string, Property> }>;
}

export function fieldOf(schema: RecipeSchema, station: StationName, name: string): Field {
  const part = OF_FRAME[station].includes(name) ? "OfFrame" : "Look";
  return fieldOfKind(schema, `${station[0]?.toUpperCase()}${station.slice(1)}${part}`, name);
}

/** The range of the items of a list, e.g. of zone lifts. */
export function itemOf(schema: RecipeSchema, station: StationName, name: string): Field {
  const field = fieldOf(schema, station, name) as Field & { items?: Partial<Field> };
  return { ...field, ...field.items } as Field;
}

/** A number kept within the range of its field. */
export const within = (value: number, { minimum, maximum }: Pick<Field, "minimum" | "maximum">) =>
  Math.min(Math.max(value, minimum), maximum);

/** A field of a kind of thing that recipes hold. */
export function fieldOfKind(schema: RecipeSchema, kind: string, name: string): Field {
  const found = schema.$defs[kind]?.properties[name];
  if (!found) throw new Error(`The recipe has no field ${name} of ${kind}.`);
  return { unit: "", step: 0.01, ...found.anyOf?.[0], ...found } as Field;
}
