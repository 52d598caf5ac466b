import { useCallback, useMemo, useState } from "react";

export interface Choice {
  /** The frame that keys act from; null when none is chosen. */
  at: number | null;
  /** All that are chosen, in the order shown. */
  all: number[];
  has: (id: number) => boolean;
  /** `one` leaves the others; `more` adds or takes away; `range` takes all from the last one on. */
  choose: (id: number, how: "one" | "more" | "range") => void;
  chooseAll: () => void;
  clear: () => void;
}

/** Which of the frames that are shown are chosen. */
export function useChoice(shown: number[]): Choice {
  const [at, setAt] = useState<number | null>(null);
  const [ids, setIds] = useState<ReadonlySet<number>>(new Set());
  const all = useMemo(
    () => (ids.size === 0 ? [] : shown.filter((id) => ids.has(id))),
    [shown, ids],
  );
  const choose = useCallback(
    (id: number, how: "one" | "more" | "range") => {
      setAt(id);
      if (how === "one") {
        setIds(new Set([id]));
      } else if (how === "more") {
        setIds((now) => {
          const next = new Set(now);
          if (!next.delete(id)) next.add(id);
          return next;
        });
      } else {
        const from = Math.max(at === null ? 0 : shown.indexOf(at), 0);
        const to = shown.indexOf(id);
        const range = shown.slice(Math.min(from, to), Math.max(from, to) + 1);
        setIds((now) => new Set([...now, ...range]));
      }
    },
    [at, shown],
  );
  return {
    at: at !== null && all.includes(at) ? at : (all.at(-1) ?? null),
    all,
    has: (id) => ids.has(id),
    choose,
    chooseAll: () => setIds(new Set(shown)),
    clear: () => setIds(new Set()),
  };
}
