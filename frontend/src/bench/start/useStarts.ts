import { useEffect, useState } from "react";
import {
  api,
  type KeptRecipe,
  type Recipe,
  type StartingPrint,
  smallPrint,
} from "../../api/client";
import { mixedWith } from "../../api/recipe";
import { useNotice } from "../../parts/Notice";

/** A starting print, or a recipe of one's own. */
export type StartOf = Pick<StartingPrint, "id" | "name" | "group" | "about"> & {
  /** Number of the recipe. */
  own: number | null;
};

/** A starting print on the user's own picture. */
export interface Start {
  of: StartOf;
  /** The recipe it makes of the print, and why; null until it is proposed. */
  recipe: Recipe | null;
  says: string;
  /** Of its small print. */
  address: string | null;
}

const AT_ONCE = 2;
export const MINE = "Mine";

/** Starting prints on a frame's picture as they come: first what each makes of the print before, with
 * its small print. */
export function useStarts(frame: number, before: Recipe, longSide: number): Start[] {
  const tell = useNotice();
  const [starts, setStarts] = useState<Start[]>([]);
  useEffect(() => {
    const stop = new AbortController();
    const made: string[] = [];
    const put = (id: string, found: Partial<Start>) =>
      setStarts((now) => now.map((each) => (each.of.id === id ? { ...each, ...found } : each)));
    const work = async (left: StartOf[]) => {
      for (let next = left.shift(); next; next = left.shift()) {
        const { id, name, own } = next;
        const { recipe, says } = await (own === null
          ? api.begin(frame, id, before, stop.signal)
          : api.under(frame, own, before, stop.signal));
        const mixed = mixedWith(before, recipe, name);
        const { address } = await smallPrint(frame, mixed, longSide, stop.signal);
        made.push(address);
        if (stop.signal.aborted) return;
        put(id, { recipe: mixed, says, address });
      }
    };
    const begin = async () => {
      const [starting, recipes] = await Promise.all([api.startingPrints(), api.recipes()]);
      const all: StartOf[] = [
        ...starting.map((of) => ({ ...of, own: null })),
        ...recipes.filter((of) => !of.binned).map(ownStart),
      ];
      if (stop.signal.aborted) return;
      setStarts(all.map((of) => ({ of, recipe: null, says: "", address: null })));
      const left = [...all];
      await Promise.all(Array.from({ length: AT_ONCE }, () => work(left)));
    };
    begin().catch((error) => !stop.signal.aborted && tell(error));
    return () => {
      stop.abort();
      for (const address of made) URL.revokeObjectURL(address);
    };
  }, [frame, before, longSide, tell]);
  return starts;
}

const ownStart = ({ id, name, note, group }: KeptRecipe): StartOf => ({
  id: `own ${id}`,
  name,
  group: MINE,
  about: note || (group ? `Your recipe, ${group}.` : "Your recipe."),
  own: id,
});
