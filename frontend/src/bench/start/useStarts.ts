import { useEffect, useState } from "react";
import { api, type Recipe, type StartingPrint, smallPrint } from "../../api/client";
import { mixedWith } from "../../api/recipe";
import { useNotice } from "../../parts/Notice";

/** A starting print on the user's own picture. */
export interface Start {
  of: StartingPrint;
  /** The recipe it makes of the print, and why; null until it is proposed. */
  recipe: Recipe | null;
  says: string;
  /** Of its small print. */
  address: string | null;
}

const AT_ONCE = 2;

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
    const work = async (left: StartingPrint[]) => {
      for (let next = left.shift(); next; next = left.shift()) {
        const { id, name } = next;
        const { recipe, says } = await api.begin(frame, id, before, stop.signal);
        const mixed = mixedWith(before, recipe, name);
        const { address } = await smallPrint(frame, mixed, longSide, stop.signal);
        made.push(address);
        if (stop.signal.aborted) return;
        put(id, { recipe: mixed, says, address });
      }
    };
    const begin = async () => {
      const all = await api.startingPrints();
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
