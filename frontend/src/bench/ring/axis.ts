/** What a ring-around varies: axes of choices. */

import type { Recipe, StationName } from "../../api/client";
import { withFields } from "../../api/recipe";

export type Values = Record<string, unknown>;

/** One thing in which prints of a ring-around differ: a setting of a station. */
export interface Axis {
  id: string;
  title: string;
  station: StationName;
  choices: Choice[];
}

export interface Choice {
  text: string;
  /** Whether it is what the recipe has now. */
  now: boolean;
  station: StationName;
  /** Of what is on the shelf. */
  id?: string;
  /** What it sets, of a recipe in which another choice may have been taken. */
  set: (recipe: Recipe) => Values;
}

/** An axis of choices that set one thing each. */
export function axis<T>(
  station: StationName,
  field: string,
  title: string,
  list: readonly T[],
  choice: (item: T) => Omit<Choice, "station" | "set"> & { values: Values },
): Axis {
  const choices = list.map((item) => {
    const { values, ...rest } = choice(item);
    return { ...rest, station, set: () => values };
  });
  return { id: `${station}.${field}`, title, station, choices };
}

const SHORT_FILTERS = ["none", "8", "15", "25", "58", "47"];
/** One of each kind. */
const SHORT_STOCKS = ["sloe-10", "fern-50", "larch-100", "rowan-200", "juniper-200"];
const SHORT: Record<string, string[]> = {
  "light.lens_filter": SHORT_FILTERS,
  "light.second_filter": SHORT_FILTERS,
  "film.stock": SHORT_STOCKS,
};

/** The choices of an axis that a grid shows: the present one and those that tell most. */
export function shown(axis: Axis, beside: boolean): Choice[] {
  if (!beside || axis.choices.length <= 6) return axis.choices;
  const short = SHORT[axis.id];
  if (short) return axis.choices.filter((c) => c.now || short.includes(c.id ?? ""));
  const every = Math.ceil(axis.choices.length / 6);
  return axis.choices.filter((c, i) => c.now || i % every === 0);
}

/** The recipe with choices taken one after the other. */
export function taken(recipe: Recipe, choices: (Choice | null)[]): Recipe {
  let now = recipe;
  for (const choice of choices) {
    if (choice) now = withFields(now, choice.station, choice.set(now));
  }
  return now;
}
