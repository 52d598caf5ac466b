import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo } from "react";
import { api, type Recipe } from "../../api/client";
import type { Wanted } from "../../api/live";
import { plainOf } from "../../api/recipe";
import { type Compared, useBench, useBenchStore } from "../../state/bench";

export const PLAIN: Compared = { kind: "plain" };

export const nameOf = (other: Compared) =>
  other.kind === "colour" ? "capture" : other.kind === "plain" ? "plain print" : other.name;

export const same = (one: Compared, other: Compared) =>
  one.kind === other.kind &&
  (one.kind !== "state" || (other.kind === "state" && one.state === other.state));

/** The recipe of what is compared; null until it is known. For the capture it is the print's own, of
 * which only the shape counts. */
export function useComparedRecipe(other: Compared): Recipe | null {
  const { recipe, schema } = useBench(({ recipe, schema }) => ({ recipe, schema }));
  const of = other.kind === "state" ? other : null;
  const state = useQuery({
    queryKey: ["state", of?.print, of?.state],
    queryFn: () => api.state(of?.print ?? 0, of?.state ?? 0),
    enabled: of !== null,
    staleTime: Infinity,
  });
  return useMemo(() => {
    if (other.kind === "state") return state.data ?? null;
    return other.kind === "plain" ? plainOf(recipe, schema) : recipe;
  }, [other, state.data, recipe, schema]);
}

/** What the server is asked for, of something compared. */
export const wantedFor = (other: Compared, recipe: Recipe): Omit<Wanted, "view"> => ({
  recipe,
  show: other.kind === "colour" ? "colour" : "print",
  plate: "scene",
  exposed: null,
  strip: null,
  held: null,
  only: null,
  hatched: null,
  press: null,
  heat: false,
  hurry: false,
});

/** While the key is held the picture is what the print is compared with. */
export function useHeldOther() {
  const store = useBenchStore();
  const { peek, other } = useBench(({ peek, other }) => ({ peek, other }));
  const held = peek === "other" && other.kind !== "colour";
  const recipe = useComparedRecipe(other);
  useEffect(() => {
    if (!held || !recipe) return;
    store.setState({ trial: recipe });
    return () => store.setState({ trial: null });
  }, [store, held, recipe]);
}
