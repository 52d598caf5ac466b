import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useLocation } from "wouter";
import { api, type Frame, type Mark } from "../api/client";
import { useNotice } from "../parts/Notice";

/** The frames of a roll and what is done with them. */
export function useSheet(current: number | null) {
  const [, go] = useLocation();
  const tell = useNotice();
  const queries = useQueryClient();
  const key = ["frames", current];
  const refresh = () => {
    for (const name of ["frames", "rolls", "bin"]) {
      queries.invalidateQueries({ queryKey: [name] });
    }
  };
  const frames = useQuery({
    queryKey: key,
    queryFn: () => api.frames(current ?? 0),
    enabled: current !== null,
    staleTime: 60_000,
  });
  const mark = useMutation({
    mutationFn: ({ some, to }: { some: Frame[]; to: Mark }) =>
      api.markAll(
        some.map((frame) => frame.id),
        to,
      ),
    // at once: a roll of ten thousand is not read again for a mark
    onMutate: ({ some, to }) => {
      const ids = new Set(some.map((frame) => frame.id));
      queries.setQueryData<Frame[]>(key, (now) =>
        now?.map((frame) => (ids.has(frame.id) ? { ...frame, mark: to } : frame)),
      );
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ["rolls"] }),
    onError: (error) => {
      tell(error);
      queries.invalidateQueries({ queryKey: key });
    },
  });
  const move = useMutation({
    mutationFn: ({ ids, roll }: { ids: number[]; roll: number }) => api.moveFrames(ids, roll),
    onSuccess: refresh,
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
      frame.prints.at(-1)?.id ?? (await api.makePrint(frame.id, "First print")).id,
    onSuccess: (id) => {
      queries.invalidateQueries({ queryKey: key });
      go(`/print/${id}`);
    },
    onError: tell,
  });
  return { frames, mark, move, bin, newRoll, rename, binRoll, open, refresh };
}
