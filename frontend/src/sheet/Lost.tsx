import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type ContactSheet } from "../api/client";
import { Button } from "../parts/Button";
import { Question } from "../parts/Question";
import { FolderPicker } from "./FolderDialog";

/** Says when originals that are referred to in place are gone, and finds them again. */
export function Lost({ sheet }: { sheet: ContactSheet }) {
  const queries = useQueryClient();
  const [looking, setLooking] = useState(false);
  const [path, setPath] = useState<string | null>(null);
  const { lost, lost_place } = sheet;
  const find = useMutation({
    mutationFn: () => api.findLost(path ?? ""),
    onSuccess: ({ found }) => {
      queries.invalidateQueries({ queryKey: ["frames"] });
      if (found > 0) setLooking(false);
    },
  });
  if (lost === 0) return null;
  const folder = lost_place?.replace(/\/[^/]*$/, "");
  return (
    <>
      <p
        role="status"
        className="mb-3 flex items-center gap-3 rounded border-l-2 border-loss bg-raise px-3 py-2 text-note"
      >
        <span className="min-w-0">
          {lost === 1 ? "An original is" : `${lost} originals are`} not where{" "}
          {lost === 1 ? "it was" : "they were"} ({folder}). Connect the disk, or show where they are
          now; what was done to them is kept.
        </span>
        <Button onClick={() => setLooking(true)}>Find again…</Button>
      </p>
      {looking && (
        <Question
          title="Where are the originals now?"
          does={find.isPending ? "Looking…" : "Look in this folder"}
          busy={find.isPending || path === null}
          onDo={() => find.mutate()}
          onLeave={() => setLooking(false)}
        >
          <p className="mb-3">
            Files are known by what is in them, so they may have other names. Folders below are
            looked through too.
          </p>
          <FolderPicker path={path} onPath={setPath} />
          {find.data?.found === 0 && (
            <p role="alert" className="mt-2 border-l-2 border-loss pl-3">
              None of them is there.
            </p>
          )}
          {find.error && (
            <p role="alert" className="mt-2 border-l-2 border-loss pl-3">
              {find.error.message}
            </p>
          )}
        </Question>
      )}
    </>
  );
}
