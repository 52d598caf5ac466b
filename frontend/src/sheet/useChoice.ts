import { useCallback, useMemo, useState } from "react";
import type { Frame } from "../api/client";

export interface Choice {
  /** The frame that keys act from; null when none is chosen. */
  at: Frame | null;
  /** All that are chosen, in the order shown. */
  all: Frame[];
  has: (id: number) => boolean;
  /** `one` leaves the others; `more` adds or takes away; `range` takes all from the last one on. */
  choose: (id: number, how: "one" | "more" | "range") => void;
  chooseAll: () => void;
  clear: () => void;
}

/** Which of the frames that are shown are chosen. */
export function useChoice(shown: Frame[]): Choice {
  const [at, setAt] = useState<number | null>(null);
  const [ids, setIds] = useState<ReadonlySet<number>>(new Set());
  const all = useMemo(() => shown.filter((frame) => ids.has(frame.id)), [shown, ids]);
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
        const from = Math.max(
          shown.findIndex((frame) => frame.id === at),
          0,
        );
        const to = shown.findIndex((frame) => frame.id === id);
        const range = shown.slice(Math.min(from, to), Math.max(from, to) + 1);
        setIds((now) => new Set([...now, ...range.map((frame) => frame.id)]));
      }
    },
    [at, shown],
  );
  return {
    at: all.find((frame) => frame.id === at) ?? all.at(-1) ?? null,
    all,
    has: (id) => ids.has(id),
    choose,
    chooseAll: () => setIds(new Set(shown.map((frame) => frame.id))),
    clear: () => setIds(new Set()),
  };
}
