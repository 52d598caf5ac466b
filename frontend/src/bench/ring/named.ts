/** Axes of a ring-around that have more to say than a number over its range. */

import {
  type Facts,
  fieldOf,
  type Recipe,
  type RecipeSchema,
  type Shelf,
  within,
} from "../../api/client";
import { development, exposureIndex, gradeName, seconds, signed } from "../../wording/format";
import { type Axis, axis } from "./axis";

const FIVE = [-2, -1, 0, 1, 2];

export function namedAxes(
  recipe: Recipe,
  schema: RecipeSchema,
  shelf: Shelf,
  facts: Facts | null,
): Axis[] {
  const { light, film, enlarger, paper } = recipe;
  const stock = shelf.stocks.find((s) => s.id === film.stock);
  const sheet = shelf.papers.find((p) => p.id === paper.paper);
  const index = stock?.zone_index ?? 100;
  const ofPlacement = fieldOf(schema, "film", "placement");
  const n = recipe.development.n;
  const ns = [stock?.least_n ?? -2, ...FIVE, stock?.most_n ?? 2, facts?.n ?? n];
  const grades = sheet?.grades.length ? sheet.grades : [-1, 0, 1, 2, 3, 4, 5];
  const printed = facts?.grade ?? paper.grade;
  const glass = (field: "lens_filter" | "second_filter", thickness: string, title: string) =>
    axis(
      "light",
      field,
      title,
      shelf.filters.filter((f) => f.id !== "any-hue" || light[field] === "any-hue"),
      (f) => ({
        id: f.id,
        text: f.id === "none" ? "no filter" : f.name,
        now: f.id === light[field],
        values: f.id === light[field] ? {} : { [field]: f.id, [thickness]: 1 },
      }),
    );
  return [
    axis("light", "source", "Light", shelf.lights, (l) => ({
      text: l.name,
      id: l.id,
      now: l.id === light.source,
      values: { source: l.id },
    })),
    glass("lens_filter", "strength", "Lens filter"),
    glass("second_filter", "second_strength", "Second filter"),
    axis(
      "light",
      "any-hue",
      "Filter of any hue",
      Array.from({ length: 12 }, (_, i) => i * 30),
      (hue) => ({
        text: `${hue}°`,
        now: light.lens_filter === "any-hue" && Math.abs(light.filter_hue - hue) < 1,
        values: { lens_filter: "any-hue", strength: 1, filter_hue: hue },
      }),
    ),
    axis("film", "stock", "Film", shelf.stocks, (s) => ({
      text: s.name,
      id: s.id,
      now: s.id === film.stock,
      values: s.id === film.stock ? {} : { stock: s.id, exposure_index: null },
    })),
    axis("film", "exposure_index", "Exposure index", FIVE, (step) => {
      const now = film.exposure_index ?? index;
      const to = Number(
        exposureIndex(within(now * 2 ** step, fieldOf(schema, "film", "exposure_index"))),
      );
      return {
        text: `EI ${exposureIndex(to)}`,
        now: step === 0,
        values: step ? { exposure_index: to } : {},
      };
    }),
    axis("film", "placement", "Placement", FIVE, (step) => {
      const placement = within(film.placement + step / 2, ofPlacement);
      return { text: `${signed(placement)} stops`, now: step === 0, values: { placement } };
    }),
    axis(
      "development",
      "n",
      "N",
      [...new Set(ns.map((v) => Number(v.toFixed(3))))]
        .filter((v) => v >= (stock?.least_n ?? -2) && v <= (stock?.most_n ?? 2))
        .sort((a, b) => a - b),
      (to) => ({
        text: development(to),
        now: Math.abs(to - (facts?.n ?? n)) < 0.005,
        values: { n: to },
      }),
    ),
    axis("development", "developer", "Developer", shelf.developers, (d) => ({
      text: d.kind,
      now: d.kind === recipe.development.developer,
      values: { developer: d.kind },
    })),
    axis("enlarger", "time", "Base exposure", FIVE, (step) => {
      const scaled = (value: number, field: string) =>
        Number(within(value * 2 ** (step / 2), fieldOf(schema, "enlarger", field)).toFixed(3));
      const { soft_time, hard_time } = enlarger;
      const now = facts?.time ?? enlarger.time ?? 12;
      const values = facts?.split
        ? {
            soft_time: scaled(soft_time, "soft_time"),
            hard_time: scaled(hard_time, "hard_time"),
          }
        : { time: scaled(now, "time") };
      return {
        text: `${seconds(now * 2 ** (step / 2))} s`,
        now: step === 0,
        values: step ? values : {},
      };
    }),
    axis("paper", "paper", "Paper", shelf.papers, (p) => ({
      text: p.name,
      id: p.id,
      now: p.id === paper.paper,
      values: { paper: p.id },
    })),
    axis(
      "paper",
      "grade",
      "Grade",
      [...new Set([...grades, printed])].sort((a, b) => a - b),
      (grade) => ({
        text: `grade ${gradeName(grade)}`,
        now: Math.abs(grade - printed) < 0.005,
        values: { grade },
      }),
    ),
    axis("capture", "quarter_turns", "Quarter turns", [0, 1, 2, 3], (turns) => ({
      text: `${90 * turns}°`,
      now: turns === recipe.capture.quarter_turns,
      values: { quarter_turns: turns },
    })),
  ];
}
