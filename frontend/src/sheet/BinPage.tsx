import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useRef, useState } from "react";
import { Link } from "wouter";
import { api } from "../api/client";
import { Button } from "../parts/Button";
import { Header } from "../parts/Header";
import { useNotice } from "../parts/Notice";
import { Question } from "../parts/Question";
import { bytes } from "../wording/format";
import { FrameGrid } from "./FrameGrid";
import { useChoice } from "./useChoice";

/** Frames that were taken off the sheet: they are put back here, or given up. */
export function BinPage() {
  const tell = useNotice();
  const queries = useQueryClient();
  const scroller = useRef<HTMLElement>(null);
  const frames = useQuery({ queryKey: ["bin"], queryFn: api.binned });
  const shown = useMemo(() => (frames.data ?? []).map((frame) => frame.id), [frames.data]);
  const choice = useChoice(shown);
  const [asking, setAsking] = useState(false);
  const [originals, setOriginals] = useState(false);
  const refresh = () => {
    choice.clear();
    for (const key of ["bin", "frames", "rolls"]) queries.invalidateQueries({ queryKey: [key] });
  };
  const restore = useMutation({
    mutationFn: (ids: number[]) => api.restoreFrames(ids),
    onSuccess: refresh,
    onError: tell,
  });
  const empty = useMutation({
    mutationFn: () => api.emptyBin(originals),
    onSuccess: () => {
      setAsking(false);
      refresh();
    },
    onError: tell,
  });
  const all = frames.data ?? [];
  const copies = all.filter((frame) => frame.place === null && frame.kind !== "merged");
  const prints = all.reduce((sum, frame) => sum + frame.prints.length, 0);
  return (
    <div className="flex h-full flex-col">
      <Header
        actions={
          <>
            <Button disabled={choice.all.length === 0} onClick={() => restore.mutate(choice.all)}>
              Put back{choice.all.length > 1 ? ` ${choice.all.length}` : ""}
            </Button>
            <Button disabled={all.length === 0} onClick={() => setAsking(true)}>
              Empty the bin…
            </Button>
          </>
        }
      >
        <Link href="/" className="hover:text-ink">
          Contact sheet
        </Link>
        <h1 className="font-[560] text-ink">Bin</h1>
      </Header>
      <main ref={scroller} className="min-h-0 flex-1 overflow-y-auto px-5 py-4">
        {frames.isSuccess && all.length === 0 ? (
          <p className="grid h-80 place-items-center text-soft">The bin is empty.</p>
        ) : (
          <FrameGrid
            shown={shown}
            printed={false}
            choice={choice}
            scroller={scroller}
            reveal={null}
            onColumns={() => {}}
            onOpen={(frame) => restore.mutate([frame.id])}
            onMark={(frame, mark) =>
              api
                .mark(frame.id, mark)
                .then(() => queries.invalidateQueries({ queryKey: ["frames"] }), tell)
            }
          />
        )}
      </main>
      {asking && (
        <Question
          title="Empty the bin?"
          does="Empty the bin"
          busy={empty.isPending}
          onDo={() => empty.mutate()}
          onLeave={() => setAsking(false)}
        >
          <p>
            {all.length} {all.length === 1 ? "frame" : "frames"} with {prints}{" "}
            {prints === 1 ? "print" : "prints"} are forgotten. This cannot be taken back.
          </p>
          {copies.length > 0 && (
            <label className="mt-3 flex items-start gap-2">
              <input
                type="checkbox"
                checked={originals}
                onChange={(event) => setOriginals(event.target.checked)}
                className="mt-0.5"
              />
              <span>
                Also delete Silvrin's copies of {copies.length}{" "}
                {copies.length === 1 ? "original" : "originals"} (
                {bytes(copies.reduce((sum, frame) => sum + frame.bytes, 0))}), where no other frame
                shows them. Otherwise they stay in the folder “kept” of the library. Files outside
                the library are never touched.
              </span>
            </label>
          )}
        </Question>
      )}
    </div>
  );
}
