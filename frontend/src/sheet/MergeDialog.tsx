import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";
import { api, type Frame, movedPicture, thumbnailUrl } from "../api/client";
import { ASKED } from "../api/recipe.generated";
import { Button } from "../parts/Button";
import { DialogContent } from "../parts/DialogContent";
import { roving } from "../parts/roving";
import { Slider } from "../parts/Slider";
import { shutter } from "../wording/format";

const SETTLED_MS = 200;

interface MergeDialogProps {
  /** Frames of a bracket; or a merged one alone, with `again`. */
  frames: Frame[];
  /** A merged frame that is made anew. */
  again?: Frame;
  onDone: (frame: number) => void;
  onClose: () => void;
}

/** A bracket becomes one capture: which frame things that moved are taken from, and how strictly. */
export function MergeDialog({ frames: given, again, onDone, onClose }: MergeDialogProps) {
  const queries = useQueryClient();
  const before = useQuery({
    queryKey: ["bracket", again?.id],
    queryFn: async () => {
      const bracket = await api.madeFrom(again?.id ?? 0);
      return { ...bracket, all: await Promise.all(bracket.frames.map(api.frame)) };
    },
    enabled: again !== undefined,
    retry: false,
  });
  const frames = again ? (before.data?.all ?? []) : given;
  const [choice, setChoice] = useState<{ reference: number | null; ghosts: number | null }>({
    reference: null,
    ghosts: null,
  });
  const middle = frames[Math.floor(frames.length / 2)]?.id ?? 0;
  const reference = choice.reference ?? before.data?.reference ?? middle;
  const ghosts = choice.ghosts ?? before.data?.ghosts ?? ASKED.ghosts.default;
  const order = useMutation({
    mutationFn: () =>
      api.merge({
        frames: frames.map((f) => f.id),
        reference,
        ghosts,
        into: again ? again.id : null,
      }),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["merges"] }),
  });
  const id = order.data?.id;
  const state = useQuery({
    queryKey: ["merge", id],
    queryFn: () => api.mergeState(id ?? 0),
    enabled: id !== undefined,
    staleTime: Infinity, // news keep it as it is
  });
  const job = id === undefined ? undefined : state.data;
  const busy = order.isPending || job?.state === "waiting" || job?.state === "running";
  useEffect(() => {
    if (job?.state === "done" && job.frame != null) onDone(job.frame);
  }, [job, onDone]);
  const moved = useMoved(frames, reference, ghosts);
  const error = before.error?.message ?? order.error?.message ?? job?.error ?? moved.error;
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-[#0b0b0bb0]" />
        <DialogContent className="fixed top-1/2 left-1/2 w-[600px] -translate-x-1/2 -translate-y-1/2 rounded-lg bg-panel p-5 shadow-[0_12px_60px_#000c]">
          <Dialog.Title className="text-head font-semibold">
            {again ? "Merge a bracket again" : "Merge a bracket"}
          </Dialog.Title>
          <p className="mt-1 mb-3 text-note text-soft">
            Choose the frame that things which moved are taken from.{" "}
            {again
              ? "The merged frame is made anew and keeps its prints."
              : "The result is a capture of its own; these frames stay as they are."}
          </p>
          <div
            role="radiogroup"
            aria-label="Reference"
            onKeyDown={roving("radio")}
            className="flex flex-wrap gap-2"
          >
            {frames.map((frame) => (
              <button
                key={frame.id}
                type="button"
                role="radio"
                aria-checked={frame.id === reference}
                tabIndex={frame.id === reference ? 0 : -1}
                aria-label={frame.title}
                onClick={() => setChoice({ ...choice, reference: frame.id })}
                className={`rounded-[3px] border p-1 text-left ${
                  frame.id === reference ? "border-amber" : "border-transparent hover:bg-raise"
                }`}
              >
                <img src={thumbnailUrl(frame, false)} alt="" className="h-16 object-contain" />
                <span className="mt-1 block text-small text-soft">
                  {frame.number} · {frame.metadata.shutter ? shutter(frame.metadata.shutter) : "—"}
                </span>
              </button>
            ))}
          </div>
          <div className="relative mt-3 grid h-[340px] place-items-center bg-[#1c1c1c]">
            {moved.url ? (
              <img
                src={moved.url}
                alt="The reference; what is taken from it alone is red"
                className={`absolute inset-0 size-full object-contain ${moved.busy ? "opacity-60" : ""}`}
              />
            ) : (
              !error && <p className="text-note text-soft">Aligning the frames…</p>
            )}
          </div>
          <div className="mt-3">
            <Slider
              label="What moved"
              description="From counting in all frames (0) to the reference alone wherever they differ (1); red shows where"
              value={ghosts}
              min={ASKED.ghosts.minimum}
              max={ASKED.ghosts.maximum}
              step={0.05}
              home={ASKED.ghosts.default}
              show={(v) => v.toFixed(2)}
              onPreview={(v) => setChoice({ ...choice, ghosts: v })}
              onCommit={(v) => setChoice({ ...choice, ghosts: v })}
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
            <Button go disabled={busy || frames.length < 2} onClick={() => order.mutate()}>
              {busy ? "Merging…" : "Merge"}
            </Button>
          </div>
        </DialogContent>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** The picture that shows what moved, made again when the choice changes. */
function useMoved(frames: Frame[], reference: number, ghosts: number) {
  const [url, setUrl] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const ids = frames.map((frame) => frame.id).join(",");
  useEffect(() => {
    if (!ids) return;
    const stop = new AbortController();
    const timer = window.setTimeout(() => {
      setBusy(true);
      movedPicture({ frames: ids.split(",").map(Number), reference, ghosts }, stop.signal)
        .then((next) => {
          setUrl(next);
          setError(null);
        })
        .catch((problem) => !stop.signal.aborted && setError(problem.message))
        .finally(() => !stop.signal.aborted && setBusy(false));
    }, SETTLED_MS);
    return () => {
      window.clearTimeout(timer);
      stop.abort();
    };
  }, [ids, reference, ghosts]);
  useEffect(() => () => void (url && URL.revokeObjectURL(url)), [url]);
  return { url, error, busy };
}
