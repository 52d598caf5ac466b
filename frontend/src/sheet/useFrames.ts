import { type QueryClient, useQueries, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, type Frame } from "../api/client";

/** How many frames are asked for at once. */
const BLOCK = 60;
/** The most the server tells of at once. */
export const MOST = 200;
const FRESH_MS = 60_000;
const keyOf = (ids: number[]) => ["frames", "some", ids];

/** What is known of some frames, at most `MOST`, in their order; empty while they are asked for,
 * unless the sheet has them. */
export function useFrames(ids: number[]): Frame[] {
  const queries = useQueryClient();
  const { data } = useQuery({
    queryKey: keyOf(ids),
    queryFn: () => api.someFrames(ids),
    enabled: ids.length > 0,
    staleTime: FRESH_MS,
    placeholderData: () => known(queries, ids),
  });
  const found = new Map(data?.map((frame) => [frame.id, frame]));
  return ids.flatMap((id) => found.get(id) ?? []);
}

/** Those of a row of frames that lie from one place to another, and some around: by id. */
export function useFramesInSight(shown: number[], first: number, last: number) {
  const queries = useQueryClient();
  const begin = Math.floor(first / BLOCK) * BLOCK;
  const blocks: number[][] = [];
  for (let at = begin; at <= last && at < shown.length; at += BLOCK) {
    blocks.push(shown.slice(at, at + BLOCK));
  }
  return useQueries({
    queries: blocks.map((ids) => ({
      queryKey: keyOf(ids),
      queryFn: () => api.someFrames(ids),
      staleTime: FRESH_MS,
      placeholderData: () => known(queries, ids),
    })),
    combine: (results) =>
      new Map(results.flatMap(({ data }) => (data ?? []).map((frame) => [frame.id, frame]))),
  });
}

/** What was told of some frames already, if it was of all. */
function known(queries: QueryClient, ids: number[]): Frame[] | undefined {
  const wanted = new Set(ids);
  const found = new Map<number, Frame>();
  for (const [, frames] of queries.getQueriesData<Frame[]>({ queryKey: ["frames", "some"] })) {
    for (const frame of frames ?? []) if (wanted.has(frame.id)) found.set(frame.id, frame);
  }
  return found.size === wanted.size ? [...found.values()] : undefined;
}
