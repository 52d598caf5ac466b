import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useReducer, useRef } from "react";
import { api, type Print, Problem, type Recipe } from "../api/client";

export type StationName = Exclude<keyof Recipe, "format">;
export const STATION_NAMES: StationName[] = [
  "capture",
  "light",
  "film",
  "development",
  "enlarger",
  "paper",
];

/** Changes of one setting that follow each other faster than this (held keys) are kept as one. */
const SETTLED_MS = 300;

interface State {
  /** As the server keeps it. */
  print: Print;
  /** As it is shown; ahead of the server while a slider moves. */
  recipe: Recipe;
}

type Action =
  | { type: "preview"; recipe: Recipe }
  | { type: "kept"; print: Print }
  | { type: "moved"; print: Print };

function reduce(state: State, action: Action): State {
  switch (action.type) {
    case "preview":
      return { ...state, recipe: action.recipe };
    case "kept":
      return { ...state, print: action.print };
    case "moved":
      return { print: action.print, recipe: action.print.recipe as Recipe };
  }
}

export type Change = <S extends StationName>(
  station: S,
  values: Partial<Recipe[S]>,
  /** What was done, for undo; without it the change is only shown, not kept. */
  label?: string,
) => void;

/** A print being worked on: shown at once, kept in order, undone without limit. */
export function usePrint(opened: Print, tell: (error: unknown) => void) {
  const [state, dispatch] = useReducer(reduce, {
    print: opened,
    recipe: opened.recipe as Recipe,
  });
  const latest = useRef(state.recipe);
  const head = useRef(opened.head);
  const queue = useRef<Promise<void>>(Promise.resolve());
  const queries = useQueryClient();

  const pending = useRef<{ kind: string; label: string; recipe: Recipe; timer: number } | null>(
    null,
  );

  const move = useCallback((print: Print) => {
    head.current = print.head;
    latest.current = print.recipe as Recipe;
    dispatch({ type: "moved", print });
  }, []);

  const enqueue = useCallback(
    (work: () => Promise<void>) => {
      queue.current = queue.current.then(work).catch(async (error) => {
        tell(error);
        if (!(error instanceof Problem) || error.status !== 409) return;
        await api.print(opened.id).then(move, tell);
      });
    },
    [tell, move, opened.id],
  );

  const flush = useCallback(() => {
    const last = pending.current;
    if (!last) return;
    window.clearTimeout(last.timer);
    pending.current = null;
    enqueue(async () => {
      const print = await api.change(opened.id, head.current, last.label, last.recipe);
      head.current = print.head;
      dispatch({ type: "kept", print });
    });
  }, [enqueue, opened.id]);

  const change: Change = useCallback(
    (station, values, label) => {
      const recipe = { ...latest.current, [station]: { ...latest.current[station], ...values } };
      latest.current = recipe;
      dispatch({ type: "preview", recipe });
      if (label === undefined) return;
      const kind = `${station} ${Object.keys(values)}`;
      if (pending.current?.kind !== kind) flush();
      window.clearTimeout(pending.current?.timer);
      pending.current = { kind, label, recipe, timer: window.setTimeout(flush, SETTLED_MS) };
    },
    [flush],
  );

  const step = useCallback(
    (way: "undo" | "redo") => {
      flush();
      enqueue(async () => move(await api[way](opened.id, head.current)));
    },
    [enqueue, flush, move, opened.id],
  );

  // the contact sheet shows the newest state of a print
  useEffect(
    () => () => {
      flush();
      queue.current.then(() => queries.invalidateQueries({ queryKey: ["frames"] }));
      queries.removeQueries({ queryKey: ["print", opened.id] });
    },
    [queries, flush, opened.id],
  );
  useEffect(() => {
    window.addEventListener("pagehide", flush);
    return () => window.removeEventListener("pagehide", flush);
  }, [flush]);

  /** Resolves when all that was done so far is kept. */
  const kept = useCallback(() => {
    flush();
    return queue.current;
  }, [flush]);

  return { ...state, change, kept, undo: () => step("undo"), redo: () => step("redo") };
}
