import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api } from "../api/client";

/** Merges that run without their dialog: begun before this window was opened, or left to run. */
export function Merges() {
  const queries = useQueryClient();
  // news keep it as it is
  const list = useQuery({ queryKey: ["merges"], queryFn: api.merges, staleTime: Infinity });
  const cancel = useMutation({
    mutationFn: api.cancelMerge,
    onSettled: () => queries.invalidateQueries({ queryKey: ["merges"] }),
  });
  const shown = list.data ?? [];
  return shown.map((merge) => (
    <section key={merge.id} aria-label="Merge" className="mt-4 text-note">
      <div className="flex items-baseline justify-between">
        <h2 className="font-medium">
          {merge.frames.length} frames {merge.state === "failed" ? "not merged" : "being merged"}
        </h2>
        <button
          type="button"
          className="text-faint hover:text-ink"
          onClick={() => cancel.mutate(merge.id)}
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
