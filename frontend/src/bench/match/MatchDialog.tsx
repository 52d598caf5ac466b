import { Dialog } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import { api, type FoundMatch, giveReference, smallPrint } from "../../api/client";
import { Button } from "../../parts/Button";
import { DialogContent } from "../../parts/DialogContent";
import { useBench, useBenchStore } from "../../state/bench";

const LONG_SIDE = 900;
/** Numbers of 255 by which tones are apart, and how near that is in words. */
const NEARNESS: [number, string][] = [
  [1, "as near as it can be told"],
  [3, "near"],
  [8, "not quite there"],
  [Number.POSITIVE_INFINITY, "far off: this frame holds other tones"],
];

interface Given {
  name: string;
  id: string;
  grain: boolean;
}

/** A finished picture of one's own, and this frame printed to its tones, side by side. */
export function MatchDialog({ onClose }: { onClose: () => void }) {
  const store = useBenchStore();
  const frame = useBench((bench) => bench.frame.id);
  const [given, setGiven] = useState<Given | null>(null);
  const [busy, setBusy] = useState<string | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const [found, setFound] = useState<FoundMatch | null>(null);
  const [over, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const print = usePrint(frame, found);
  const give = async (file: File | undefined) => {
    if (!file) return;
    setRefused(null);
    setFound(null);
    try {
      setBusy(`Measuring ${file.name}…`);
      const { id, grain_seen } = await giveReference(file);
      setGiven({ name: file.name, id, grain: grain_seen });
      setBusy("Finding the settings…");
      setFound(await api.match(frame, store.getState().recipe, id));
    } catch (error) {
      setRefused(error instanceof Error ? error.message : String(error));
    } finally {
      setBusy(null);
    }
  };
  const take = () => {
    if (!found || !given) return;
    store.getState().put(found.recipe, "match", `Matched to ${given.name}`.slice(0, 120));
    onClose();
  };
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-[#0b0b0bb0]" />
        <DialogContent className="fixed top-1/2 left-1/2 z-30 flex max-h-[94vh] w-[min(1080px,94vw)] -translate-x-1/2 -translate-y-1/2 flex-col overflow-y-auto rounded-lg bg-panel p-5 shadow-[0_12px_60px_#000c]">
          <Dialog.Title className="text-head font-semibold">Match a print</Dialog.Title>
          <p className="mt-1 mb-3 max-w-[78ch] text-note text-soft">
            Give a black and white picture of your own: a scan of a darkroom print, or an older
            print. This frame is placed, developed, timed and graded so that its tones are spread as
            that picture's are, with its grain and the tint of its paper. Film and filter stay: a
            finished picture of another scene cannot tell them.
          </p>
          <div className="grid min-h-0 grid-cols-2 gap-4">
            <figure className="min-w-0">
              <button
                type="button"
                onClick={() => input.current?.click()}
                onDragOver={(event) => {
                  event.preventDefault();
                  setOver(true);
                }}
                onDragLeave={() => setOver(false)}
                onDrop={(event) => {
                  event.preventDefault();
                  setOver(false);
                  give(event.dataTransfer.files[0]);
                }}
                className={`flex h-[min(52vh,460px)] w-full items-center justify-center rounded-[3px] border border-dashed bg-surround ${
                  over ? "border-amber" : "border-lift"
                }`}
              >
                {given ? (
                  <img
                    src={`/api/references/${given.id}.jpg`}
                    alt={`What was given: ${given.name}`}
                    className="max-h-full max-w-full object-contain"
                    draggable={false}
                  />
                ) : (
                  <span className="text-soft">
                    Drop a picture here, or <span className="text-ink underline">choose one</span>
                  </span>
                )}
              </button>
              <figcaption className="mt-1.5 flex justify-between gap-3 text-note text-soft">
                <span className="truncate">{given ? given.name : "TIFF, PNG or JPEG"}</span>
                {given && (
                  <button
                    type="button"
                    className="shrink-0 hover:text-ink"
                    onClick={() => input.current?.click()}
                  >
                    Another one…
                  </button>
                )}
              </figcaption>
            </figure>
            <figure className="min-w-0">
              <div className="flex h-[min(52vh,460px)] items-center justify-center rounded-[3px] bg-surround">
                {print ? (
                  <img
                    src={print}
                    alt="This frame, matched"
                    className="max-h-full max-w-full object-contain"
                    draggable={false}
                  />
                ) : (
                  <span className="px-6 text-center text-soft">
                    {busy ?? (found ? "Printing…" : "This frame, printed to its tones")}
                  </span>
                )}
              </div>
              <figcaption className="mt-1.5 text-note text-soft">
                {found ? <Nearness found={found} /> : "Nothing is changed until you take it."}
              </figcaption>
            </figure>
          </div>
          <input
            ref={input}
            type="file"
            accept=".tif,.tiff,.png,.jpg,.jpeg,.jxl,.avif,.heic,.exr"
            aria-label="Reference picture"
            className="sr-only"
            tabIndex={-1}
            onChange={(event) => {
              give(event.target.files?.[0]);
              event.target.value = "";
            }}
          />
          {refused && (
            <p role="alert" className="mt-3 text-note text-loss">
              {refused}
            </p>
          )}
          {found && (
            <p role="status" className="mt-3 text-note text-soft">
              Set: <b className="font-medium text-ink">{found.says}</b>
              {found.paper && `, paper ${found.paper}`}.
              {given && !given.grain && " The picture is too small to judge its grain; that stays."}
            </p>
          )}
          <div className="mt-4 flex justify-end gap-1.5">
            <Button hint="Esc" onClick={onClose}>
              Leave
            </Button>
            <Button go disabled={!found} onClick={take}>
              Take it
            </Button>
          </div>
        </DialogContent>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Nearness({ found }: { found: FoundMatch }) {
  const words = NEARNESS.find(([most]) => found.apart < most)?.[1];
  return (
    <>
      Tones on average <b className="font-medium text-ink">{found.apart.toFixed(1)} of 255</b>{" "}
      apart, mid tones {found.slope.toFixed(2)} × as steep: {words}.
    </>
  );
}

/** The frame under what was found, as a picture's address. */
function usePrint(frame: number, found: FoundMatch | null): string | null {
  const store = useBenchStore();
  const [address, setAddress] = useState<string | null>(null);
  useEffect(() => {
    if (!found) {
      setAddress(null);
      return;
    }
    const stop = new AbortController();
    let made: string | null = null;
    smallPrint(frame, found.recipe, LONG_SIDE, stop.signal)
      .then((picture) => {
        made = picture.address;
        if (stop.signal.aborted) URL.revokeObjectURL(made);
        else setAddress(made);
      })
      .catch((error) => !stop.signal.aborted && store.getState().tell(error));
    return () => {
      stop.abort();
      if (made) URL.revokeObjectURL(made);
    };
  }, [frame, found, store]);
  return address;
}
