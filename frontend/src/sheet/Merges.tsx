import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api } from "../api/client";

/** Merges that run without their dialog: begun before this window was opened, or left to run. */
export function Merges() {
  const queries = useQueryClient();
  const [away, setAway] = useState<number[]>([]);
  const list = useQuery({
    queryKey: ["merges"],
    queryFn: api.merges,
    refetchInterval: ({ state }) =>
      state.data?.some((m) => m.state === "running" || m.state === "waiting") ? 700 : 10_000,
  });
  const cancel = useMutation({
    mutationFn: api.cancelMerge,
    onSettled: () => queries.invalidateQueries({ queryKey: ["merges"] }),
  });
  const count = useRef(0);
  useEffect(() => {
    const now = list.data?.length ?? 0;
    if (now < count.current) {
      queries.invalidateQueries({ queryKey: ["frames"] });
      queries.invalidateQueries({ queryKey: ["rolls"] });
    }
    count.current = now;
  }, [list.data, queries]);
  const shown = list.data?.filter((merge) => !away.includes(merge.id)) ?? [];
  return shown.map((merge) => (
    <section key={merge.id} aria-label="Merge" className="mt-4 text-note">
      <div className="flex items-baseline justify-between">
        <h2 className="font-medium">
          {merge.frames.length} frames {merge.state === "failed" ? "not merged" : "being merged"}
        </h2>
        <button
          type="button"
          className="text-faint hover:text-ink"
          onClick={() =>
            merge.state === "failed" ? setAway([...away, merge.id]) : cancel.mutate(merge.id)
          }
        >
          {merge.state === "failed" ? "Put away" : "Cancel"}
        </button>
      </div>
      {merge.error ? (
        <p className="mt-1 border-l-2 border-loss pl-2 text-small text-soft">{merge.error}</p>
      ) : (
        <div className="mt-1 h-0.5 bg-[#3d3d3d]">
          <div className="h-full bg-amber" style={{ width: `${merge.progress * 100}%` }} />
        </div>
      )}
    </section>
  ));
}
