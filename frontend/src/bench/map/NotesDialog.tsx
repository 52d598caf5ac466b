import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";
import { dataSheetUrl, notesUrl } from "../../api/client";
import { DialogContent } from "../../parts/DialogContent";
import { Segments } from "../../parts/Segments";
import { useBench } from "../../state/bench";
import { readNumber } from "../../wording/numbers";

const LINK = "rounded bg-raise px-2.5 py-1 text-[12.5px] text-ink hover:bg-lift";

type Page = "notes" | "data";
const NAMES: Record<Page, string> = { notes: "Printing notes", data: "Data sheet" };

/** A print on one page: notes to take along to an enlarger, or all that made it. */
export function NotesDialog({ onClose }: { onClose: () => void }) {
  const { print, kept } = useBench(({ print, kept }) => ({ print, kept }));
  const [page, setPage] = useState<Page>("notes");
  const [written, setWritten] = useState<"waits" | "there" | "not">("waits");
  const [typed, setTyped] = useState("");
  const base = readNumber(typed, "s") ?? null;
  const fits = base === null ? typed.trim() === "" : base >= 0.2 && base <= 1000;
  const other = fits ? base : null;
  const url = (kind: "pdf" | "svg") =>
    page === "notes" ? notesUrl(print, kind, other) : dataSheetUrl(print, kind);
  const [ready, setReady] = useState(false);
  useEffect(() => {
    kept().then(() => setReady(true));
  }, [kept]);
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-[#0b0b0bb0]" />
        <DialogContent className="fixed top-1/2 left-1/2 flex max-h-[94vh] -translate-x-1/2 -translate-y-1/2 flex-col rounded-lg bg-panel p-5 shadow-[0_12px_60px_#000c]">
          <div className="mb-3 flex items-center gap-3">
            <Dialog.Title className="sr-only">{NAMES[page]}</Dialog.Title>
            <div className="mr-auto w-52">
              <Segments
                label="Page"
                value={page}
                onChange={(next) => {
                  setPage(next);
                  setWritten("waits");
                }}
                options={[
                  { value: "notes", text: NAMES.notes },
                  { value: "data", text: NAMES.data },
                ]}
              />
            </div>
            {page === "notes" && (
              <label className="flex items-center gap-2 text-[12.5px] whitespace-nowrap text-soft">
                Also at
                <input
                  aria-label="Another base time, s"
                  value={typed}
                  onChange={(event) => setTyped(event.target.value)}
                  className="w-14 rounded-[3px] bg-well px-1.5 py-0.5 text-right text-ink"
                />
                s
              </label>
            )}
            {(["pdf", "svg"] as const).map((kind) => (
              <a
                key={kind}
                href={url(kind)}
                download={`${NAMES[page]} ${print.name}.${kind}`}
                className={LINK}
              >
                {kind.toUpperCase()}
              </a>
            ))}
            <Dialog.Close className={LINK}>Close</Dialog.Close>
          </div>
          {!fits && (
            <p role="alert" className="mb-2 text-note text-loss">
              A base time is 0.2 to 1000 seconds.
            </p>
          )}
          <div className="relative flex h-[82vh] min-w-[58vh] justify-center overflow-auto">
            {ready && (
              <img
                key={page}
                src={url("svg")}
                alt={`${NAMES[page]} of ${print.name}`}
                onLoad={() => setWritten("there")}
                onError={() => setWritten("not")}
                className="h-full w-auto rounded-[3px] bg-white"
              />
            )}
            {written !== "there" && (
              <p className="absolute inset-0 grid place-items-center text-note text-soft">
                {written === "not"
                  ? "The page could not be made: is the capture's file still there?"
                  : "Writing…"}
              </p>
            )}
          </div>
        </DialogContent>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
