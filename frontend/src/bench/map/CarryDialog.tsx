import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { api, thumbnailUrl } from "../../api/client";
import { Button } from "../../parts/Button";
import { DialogContent } from "../../parts/DialogContent";
import { useBench } from "../../state/bench";

const SHOWN = 60; // frames about this one that are offered

/** Copies the passes of this print to other frames of the roll. */
export function CarryDialog({ onClose }: { onClose: () => void }) {
  const { print, frame, kept } = useBench(({ print, frame, kept }) => ({ print, frame, kept }));
  const queries = useQueryClient();
  const [chosen, setChosen] = useState<number[]>([]);
  const [aligned, setAligned] = useState(true);
  const frames = useQuery({
    queryKey: ["beside", frame.id],
    queryFn: async () => {
      const { frames: ids } = await api.contactSheet(frame.roll_id, "", "");
      const own = ids.indexOf(frame.id);
      const first = Math.max(0, Math.min(own - SHOWN / 2, ids.length - SHOWN));
      return api.someFrames(ids.slice(first, first + SHOWN).filter((id) => id !== frame.id));
    },
  });
  const carry = useMutation({
    mutationFn: () => kept().then(() => api.carryPasses(print.id, { frames: chosen, aligned })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["frames"] }),
  });
  const titleOf = (id: number) => {
    const found = frames.data?.find((f) => f.id === id);
    return found ? `${String(found.number).padStart(2, "0")} ${found.title}` : `Frame ${id}`;
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-[#0b0b0bb0]" />
        <DialogContent className="fixed top-1/2 left-1/2 flex max-h-[88vh] w-[640px] -translate-x-1/2 -translate-y-1/2 flex-col rounded-lg bg-panel p-5 shadow-[0_12px_60px_#000c]">
          <Dialog.Title className="text-head font-semibold">Copy passes to frames</Dialog.Title>
          <p className="mb-3 text-note text-soft">
            They come after what is there: on the newest print of each frame, or on a new one.
          </p>
          {carry.data ? (
            <ul aria-label="What became of them" className="min-h-0 overflow-y-auto text-[12.5px]">
              {carry.data.map((each) => (
                <li key={each.frame_id} className="flex justify-between gap-3 py-0.5">
                  <span>{titleOf(each.frame_id)}</span>
                  <span className={each.how === "refused" ? "text-loss" : "text-soft"}>
                    {each.words}
                  </span>
                </li>
              ))}
            </ul>
          ) : (
            <>
              <ul
                aria-label="Frames"
                className="grid min-h-[120px] grid-cols-4 gap-2 overflow-y-auto"
              >
                {frames.data?.map((each) => {
                  const on = chosen.includes(each.id);
                  return (
                    <li key={each.id}>
                      <button
                        type="button"
                        aria-pressed={on}
                        onClick={() =>
                          setChosen(
                            on ? chosen.filter((id) => id !== each.id) : [...chosen, each.id],
                          )
                        }
                        className={`block w-full rounded-[3px] border p-1 text-left text-small ${
                          on ? "border-amber" : "border-transparent hover:border-lift"
                        }`}
                      >
                        <img
                          src={thumbnailUrl(each, each.prints.length > 0)}
                          alt=""
                          className="h-[88px] w-full object-contain"
                        />
                        <span className="block truncate">{titleOf(each.id)}</span>
                      </button>
                    </li>
                  );
                })}
                {frames.data?.length === 0 && (
                  <li className="col-span-4 text-note text-soft">
                    This roll has no other frame. Take another one in first.
                  </li>
                )}
                {frames.isPending && <li className="text-note text-soft">Looking…</li>}
              </ul>
              <label className="mt-3 flex items-center gap-2 text-[12.5px] text-soft">
                <input
                  type="checkbox"
                  checked={aligned}
                  onChange={() => setAligned(!aligned)}
                  className="accent-amber"
                />
                Align: the same viewpoint, a little moved. Without, they lie as they do here.
              </label>
            </>
          )}
          {(carry.error ?? frames.error) && (
            <p role="alert" className="mt-2 text-note text-loss">
              {String((carry.error ?? frames.error)?.message)}
            </p>
          )}
          <div className="mt-4 flex justify-end gap-2">
            <Button onClick={onClose}>{carry.data ? "Close" : "Cancel"}</Button>
            {!carry.data && (
              <Button
                go
                disabled={chosen.length === 0 || carry.isPending}
                onClick={() => carry.mutate()}
              >
                {carry.isPending
                  ? "Copying…"
                  : `Copy to ${chosen.length} ${chosen.length === 1 ? "frame" : "frames"}`}
              </Button>
            )}
          </div>
        </DialogContent>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
