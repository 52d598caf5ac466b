import type { Facts, Recipe, RecipeSchema, Shelf } from "../api/client";
import { fieldOf, type StationName, within } from "../api/client";
import { STATION_NAMES } from "../api/recipe";
import { development, gradeName, seconds, signed } from "../wording/format";

/** One thing in which prints of a ring-around differ. */
export interface Axis {
  id: string;
  title: string;
  choices: Choice[];
}

export interface Choice {
  text: string;
  /** Whether it is what the recipe has now. */
  now: boolean;
  station: StationName;
  values: Record<string, unknown>;
}

const SHORT_FILTERS = ["none", "8", "15", "25", "58", "47"];
const FIVE = [-2, -1, 0, 1, 2];

/** All that a ring-around can vary, of what is on the shelf and in the recipe's model. */
export function axes(
  recipe: Recipe,
  schema: RecipeSchema,
  shelf: Shelf,
  facts: Facts | null,
): Axis[] {
  const { light, film } = recipe;
  const placement = film.placement;
  const time = recipe.enlarger.time ?? facts?.standard_time ?? 12;
  const made: Axis[] = [
    {
      id: "stock",
      title: "Films",
      choices: shelf.stocks.map((s) => ({
        text: s.name,
        now: s.id === film.stock,
        station: "film",
        values: { stock: s.id, exposure_index: null },
      })),
    },
    {
      id: "filter",
      title: "Filters",
      choices: shelf.filters
        .filter((f) => f.id !== "any-hue" || light.lens_filter === "any-hue")
        .map((f) => ({
          text: f.id === "none" ? "no filter" : f.name,
          now: f.id === light.lens_filter,
          station: "light",
          values: { lens_filter: f.id, strength: f.id === light.lens_filter ? light.strength : 1 },
        })),
    },
    {
      id: "hue",
      title: "Filter of any hue",
      choices: Array.from({ length: 12 }, (_, i) => i * 30).map((hue) => ({
        text: `${hue}°`,
        now: light.lens_filter === "any-hue" && Math.abs(light.filter_hue - hue) < 1,
        station: "light",
        values: { lens_filter: "any-hue", strength: 1, filter_hue: hue },
      })),
    },
    {
      id: "light",
      title: "Lights",
      choices: shelf.lights.map((l) => ({
        text: l.name,
        now: l.id === light.source,
        station: "light",
        values: { source: l.id },
      })),
    },
    {
      id: "developer",
      title: "Developers",
      choices: shelf.developers.map((d) => ({
        text: d.kind,
        now: d.kind === recipe.development.developer,
        station: "development",
        values: { developer: d.kind },
      })),
    },
    {
      id: "n",
      title: "N",
      choices: FIVE.map((n) => ({
        text: development(n),
        now: Math.abs(n - recipe.development.n) < 0.01,
        station: "development",
        values: { n },
      })),
    },
    {
      id: "placement",
      title: "Placement",
      choices: FIVE.map((step) => ({
        text: `${signed(placement + step / 2)} stops`,
        now: step === 0,
        station: "film",
        values: { placement: within(placement + step / 2, fieldOf(schema, "film", "placement")) },
      })),
    },
    {
      id: "time",
      title: "Base exposure",
      choices: FIVE.map((step) => ({
        text: `${seconds(time * 2 ** (step / 2))} s`,
        now: step === 0,
        station: "enlarger",
        values: {
          time:
            step === 0
              ? recipe.enlarger.time
              : Number(
                  within(time * 2 ** (step / 2), fieldOf(schema, "enlarger", "time")).toFixed(3),
                ),
        },
      })),
    },
    {
      id: "paper",
      title: "Papers",
      choices: shelf.papers.map((p) => ({
        text: p.name,
        now: p.id === recipe.paper.paper,
        station: "paper",
        values: { paper: p.id },
      })),
    },
    {
      id: "grade",
      title: "Grades",
      choices: [-1, 0, 1, 2, 3, 4, 5].map((grade) => ({
        text: `grade ${gradeName(grade)}`,
        now: Math.abs(grade - recipe.paper.grade) < 0.01,
        station: "paper",
        values: { grade },
      })),
    },
  ];
  return [...made, ...plainAxes(recipe, schema)];
}

const SPECIAL = new Set([
  "n",
  "placement",
  "grade",
  "red",
  "green",
  "blue",
  "strength",
  "quarter_turns",
]);

/** Every other number of the recipe: five values over its range, or over the part about home. */
function plainAxes(recipe: Recipe, schema: RecipeSchema): Axis[] {
  return STATION_NAMES.flatMap((station) =>
    Object.entries(recipe[station]).flatMap(([name, value]): Axis[] => {
      if (typeof value !== "number" || SPECIAL.has(name)) return [];
      const field = fieldOf(schema, station, name);
      const { minimum: low, maximum: high } = field;
      const steps = [0, 0.25, 0.5, 0.75, 1].map((part) =>
        Number((low + part * (high - low)).toFixed(3)),
      );
      const all = [...new Set([...steps, value])].sort((a, b) => a - b);
      return [
        {
          id: `${station}.${name}`,
          title: `${field.title} (${station})`,
          choices: all.map((v) => ({
            text: `${Number(v.toFixed(2))}${field.unit ? ` ${field.unit}` : ""}`,
            now: v === value,
            station,
            values: { [name]: v },
          })),
        },
      ];
    }),
  );
}

/** The choices of an axis that a grid shows: the present one and those that tell most. */
export function shown(axis: Axis, beside: boolean): Choice[] {
  if (!beside || axis.choices.length <= 6) return axis.choices;
  if (axis.id === "filter") {
    return axis.choices.filter(
      (c) => c.now || SHORT_FILTERS.includes(String(c.values.lens_filter)),
    );
  }
  if (axis.id === "stock") {
    // one of each kind, and the present one
    const kinds = ["sloe-10", "fern-50", "larch-100", "rowan-200", "juniper-200"];
    return axis.choices.filter((c) => c.now || kinds.includes(String(c.values.stock)));
  }
  const every = Math.ceil(axis.choices.length / 6);
  return axis.choices.filter((c, i) => c.now || i % every === 0);
}

/** The recipe with a choice taken. */
export function taken(recipe: Recipe, choices: (Choice | null)[]): Recipe {
  const next = { ...recipe };
  for (const choice of choices) {
    if (choice)
      Object.assign(next, { [choice.station]: { ...next[choice.station], ...choice.values } });
  }
  return next;
}
