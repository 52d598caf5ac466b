/** The recipe that the window shows, which is not always the one that is worked on. */

import type { Recipe } from "../api/client";
import { passesOf } from "../bench/map/passes";
import type { Bench } from "./bench";
import { alone } from "./sheets";

const kept = new WeakMap<Recipe, Map<string, Recipe>>();

const withPasses = (recipe: Recipe, passes: string[]): Recipe => ({
  ...recipe,
  enlarger: { ...recipe.enlarger, passes },
});

/** What is pointed at along the picture comes first. While a crop is chosen it is the whole frame; while the base exposure is looked at nothing is dodged
 * or burned, and while one pass is, that alone. */
export function recipeShown({
  recipe: made,
  trial,
  tool,
  peek,
  pass,
}: Pick<Bench, "recipe" | "trial" | "tool" | "peek" | "pass">): Recipe {
  const recipe = trial ?? made;
  const own = peek === "alone" ? passesOf(recipe)[pass ?? -1] : undefined;
  const as = tool.kind === "crop" ? "whole" : peek === "base" ? "base" : own ? `${pass}` : null;
  if (as === null) return recipe;
  const others = kept.get(recipe) ?? new Map<string, Recipe>();
  kept.set(recipe, others);
  const found =
    others.get(as) ??
    (as === "whole"
      ? { ...recipe, capture: { ...recipe.capture, crop: null } }
      : withPasses(recipe, own && as !== "base" ? alone("passes", { ...own, on: true }) : []));
  others.set(as, found);
  return found;
}
