import { useMutation, useQuery } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";
import { api, type Frame, thumbnailUrl } from "../api/client";
import { Button } from "../parts/Button";
import { Slider } from "../parts/Slider";
import { shutter } from "../wording/format";

interface MergeDialogProps {
  frames: Frame[];
  onDone: (frame: number) => void;
  onClose: () => void;
}

/** A bracket becomes one capture: which frame things that moved are taken from, and how strictly. */
export function MergeDialog({ frames, onDone, onClose }: MergeDialogProps) {
  const [reference, setReference] = useState(frames[Math.floor(frames.length / 2)]?.id ?? 0);
  const [ghosts, setGhosts] = useState(0.5);
  const order = useMutation({
    mutationFn: () => api.merge({ frames: frames.map((f) => f.id), reference, ghosts }),
  });
  const id = order.data?.id;
  const state = useQuery({
    queryKey: ["merge", id],
    queryFn: () => api.mergeState(id ?? 0),
    enabled: id !== undefined,
    refetchInterval: ({ state: { data } }) =>
      !data || data.state === "waiting" || data.state === "running" ? 200 : false,
  });
  const job = id === undefined ? undefined : state.data;
  const busy = order.isPending || job?.state === "waiting" || job?.state === "running";
  useEffect(() => {
    if (job?.state === "done" && job.frame != null) onDone(job.frame);
  }, [job, onDone]);
  const error = order.error?.message ?? job?.error;
  return (
    <Dialog.Root open onOpenChange={(open) => !open && !busy && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-[#0b0b0bb0]" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 w-[560px] -translate-x-1/2 -translate-y-1/2 rounded-lg bg-panel p-5 shadow-[0_12px_60px_#000c]"
        >
          <Dialog.Title className="text-head font-semibold">Merge a bracket</Dialog.Title>
          <p className="mt-1 mb-3 text-note text-soft">
            Choose the frame that things which moved are taken from. The frames are aligned, their
            light is merged, and the result is a capture of its own; these stay as they are.
          </p>
          <div role="radiogroup" aria-label="Reference" className="flex flex-wrap gap-2">
            {frames.map((frame) => (
              <button
                key={frame.id}
                type="button"
                role="radio"
                aria-checked={frame.id === reference}
                aria-label={frame.title}
                onClick={() => setReference(frame.id)}
                className={`rounded-[3px] border p-1 text-left ${
                  frame.id === reference ? "border-amber" : "border-transparent hover:bg-raise"
                }`}
              >
                <img src={thumbnailUrl(frame, false)} alt="" className="h-24 object-contain" />
                <span className="mt-1 block text-small text-soft">
                  {frame.number} · {frame.metadata.shutter ? shutter(frame.metadata.shutter) : "—"}
                </span>
              </button>
            ))}
          </div>
          <div className="mt-3">
            <Slider
              label="What moved"
              description="From counting in all frames (0) to the reference alone (1)"
              value={ghosts}
              min={0}
              max={1}
              step={0.05}
              home={0.5}
              show={(v) => v.toFixed(2)}
              onPreview={setGhosts}
              onCommit={setGhosts}
            />
          </div>
          {busy && (
            <div
              role="progressbar"
              aria-label="Progress of the merge"
              aria-valuenow={Math.round((job?.progress ?? 0) * 100)}
              className="mt-4 h-1 bg-[#3d3d3d]"
            >
              <div
                className="h-full bg-amber"
                style={{ width: `${(job?.progress ?? 0) * 100}%` }}
              />
            </div>
          )}
          {error && (
            <p role="alert" className="mt-4 border-l-2 border-loss pl-3 text-note">
              {error}
            </p>
          )}
          <div className="mt-5 flex justify-end gap-2">
            {busy && id !== undefined ? (
              <Button onClick={() => api.cancelMerge(id).then(() => order.reset())}>Cancel</Button>
            ) : (
              <Button onClick={onClose}>Leave</Button>
            )}
            <Button go disabled={busy} onClick={() => order.mutate()}>
              {busy ? "Merging…" : "Merge"}
            </Button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
