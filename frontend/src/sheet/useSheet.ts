import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useLocation } from "wouter";
import { api, type ContactSheet, type Frame, type Mark } from "../api/client";
import { Notable, useNotice } from "../parts/Notice";
import { type Order, withMark } from "./order";

/** The frames of a roll, all and those that a search found, and what is done with them. */
export function useSheet(current: number | null, search: string, order: Order) {
  const [, go] = useLocation();
  const tell = useNotice();
  const queries = useQueryClient();
  const refresh = () => {
    for (const name of ["frames", "rolls", "bin"]) {
      queries.invalidateQueries({ queryKey: [name] });
    }
  };
  const asked = (words: string, by: string) => ({
    queryKey: ["frames", "sheet", current, words, by],
    queryFn: () => api.contactSheet(current ?? 0, words, by),
    enabled: current !== null,
    staleTime: 60_000,
  });
  const whole = useQuery(asked("", ""));
  const found = useQuery({
    // marks are known here
    ...asked(search.trim(), order === "number" || order === "mark" ? "" : order),
    placeholderData: keepPreviousData,
  });
  const mark = useMutation({
    mutationFn: ({ some, to }: { some: number[]; to: Mark }) => api.markAll(some, to),
    // at once: a large roll is not read again for a mark
    onMutate: ({ some, to }) => {
      const ids = new Set(some);
      queries.setQueriesData<ContactSheet>(
        { queryKey: ["frames", "sheet", current] },
        (now) => now && withMark(now, ids, to),
      );
      queries.setQueriesData<Frame[]>({ queryKey: ["frames", "some"] }, (now) =>
        now?.map((frame) => (ids.has(frame.id) ? { ...frame, mark: to } : frame)),
      );
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ["rolls"] }),
    onError: (error) => {
      tell(error);
      queries.invalidateQueries({ queryKey: ["frames"] });
    },
  });
  const move = useMutation({
    mutationFn: ({ ids, roll }: { ids: number[]; roll: number }) => api.moveFrames(ids, roll),
    onSuccess: ({ staying }, { ids }) => {
      if (staying.length) {
        const some = staying.length < ids.length ? `${staying.length} of ${ids.length}` : "They";
        tell(new Notable("Not moved", `${some} stay here: that roll has their captures already.`));
      }
      return refresh();
    },
    onError: tell,
  });
  const bin = useMutation({
    mutationFn: (ids: number[]) => api.binFrames(ids),
    onSuccess: refresh,
    onError: tell,
  });
  const newRoll = useMutation({
    mutationFn: (name: string) => api.makeRoll(name),
    onSuccess: async (made) => {
      await queries.invalidateQueries({ queryKey: ["rolls"] });
      go(`/roll/${made.id}`);
    },
    onError: tell,
  });
  const rename = useMutation({
    mutationFn: (name: string) => api.renameRoll(current ?? 0, name),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["rolls"] }),
    onError: tell,
  });
  const binRoll = useMutation({
    mutationFn: () => api.binRoll(current ?? 0),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ["rolls"] });
      queries.invalidateQueries({ queryKey: ["bin"] });
      go("/");
    },
    onError: tell,
  });
  const open = useMutation({
    mutationFn: async (frame: Frame) =>
      frame.chosen ?? (await api.makePrint(frame.id, "First print")).id,
    onSuccess: (id) => {
      queries.invalidateQueries({ queryKey: ["frames"] });
      go(`/print/${id}`);
    },
    onError: tell,
  });
  return { whole, found, mark, move, bin, newRoll, rename, binRoll, open, refresh };
}
