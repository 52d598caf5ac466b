import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { useState } from "react";
import { api, type FolderImport, type ImportFile } from "../api/client";
import { Button } from "../parts/Button";
import { DialogContent } from "../parts/DialogContent";
import { useNotice } from "../parts/Notice";
import { timeLeft } from "../wording/facts";

/** Folders being taken in, and those that ended and were not put away yet. */
export function FolderImports() {
  const tell = useNotice();
  const queries = useQueryClient();
  const [report, setReport] = useState<FolderImport | null>(null);
  // news keep it as it is
  const list = useQuery({ queryKey: ["imports"], queryFn: api.imports, staleTime: Infinity });
  const change = useMutation({
    mutationFn: ({ id, to }: { id: number; to: "cancel" | "resume" }) =>
      to === "cancel" ? api.cancelImport(id) : api.resumeImport(id),
    onSettled: () => queries.invalidateQueries({ queryKey: ["imports"] }),
    onError: tell,
  });
  const shown = list.data ?? [];
  return (
    <>
      {shown.map((item) => (
        <section key={item.id} aria-label={`Taking in ${item.folder}`} className="mt-4 text-note">
          <div className="flex items-baseline justify-between gap-2">
            <h2 className="truncate font-medium" title={item.folder}>
              {item.folder.split("/").at(-1) || item.folder}
            </h2>
            <span className="shrink-0 text-faint">
              {item.total - item.waiting} of {item.total}
            </span>
          </div>
          <div
            role="progressbar"
            aria-label="Files looked at"
            aria-valuenow={Math.round(((item.total - item.waiting) / item.total) * 100)}
            className="mt-1 h-0.5 bg-[#3d3d3d]"
          >
            <div
              className={`h-full ${item.state === "stopped" ? "bg-loss" : "bg-amber"}`}
              style={{ width: `${((item.total - item.waiting) / Math.max(item.total, 1)) * 100}%` }}
            />
          </div>
          {item.state === "running" ? (
            <p className="mt-1 truncate text-small text-faint">
              {item.seconds_left != null && `${timeLeft(item.seconds_left)} left · `}
              {item.now ?? "waits for its turn"}
            </p>
          ) : (
            <p className="mt-1 text-small text-soft">
              {item.state === "stopped" ? item.error : summary(item)}
            </p>
          )}
          <div className="mt-1 flex gap-3 text-faint">
            {item.state !== "running" && item.state !== "stopped" && (
              <button
                type="button"
                className="hover:text-ink"
                onClick={() => change.mutate({ id: item.id, to: "cancel" })}
              >
                Put away
              </button>
            )}
            <button type="button" className="hover:text-ink" onClick={() => setReport(item)}>
              Report
            </button>
            {item.state === "stopped" && (
              <button
                type="button"
                className="hover:text-ink"
                onClick={() => change.mutate({ id: item.id, to: "resume" })}
              >
                Go on
              </button>
            )}
            {(item.state === "running" || item.state === "stopped") && (
              <button
                type="button"
                className="ml-auto hover:text-ink"
                onClick={() => change.mutate({ id: item.id, to: "cancel" })}
              >
                Cancel
              </button>
            )}
          </div>
        </section>
      ))}
      {report && (
        <Report
          item={shown.find((i) => i.id === report.id) ?? report}
          onClose={() => setReport(null)}
        />
      )}
    </>
  );
}

const summary = (item: FolderImport) =>
  [
    item.state === "cancelled" ? "Cancelled" : null,
    `${item.taken} taken in`,
    item.known > 0 ? `${item.known} here already` : null,
    item.refused > 0 ? `${item.refused} refused` : null,
    item.left > 0 ? `${item.left} not pictures` : null,
  ]
    .filter(Boolean)
    .join(", ");

const GROUPS: { outcome: ImportFile["outcome"]; title: string }[] = [
  { outcome: "refused", title: "Refused" },
  { outcome: "known", title: "Here already" },
  { outcome: "left", title: "Not pictures, left alone" },
  { outcome: "waiting", title: "Not looked at" },
  { outcome: "taken", title: "Taken in" },
];

/** Every file of an import and what became of it. */
function Report({ item, onClose }: { item: FolderImport; onClose: () => void }) {
  const files = useQuery({
    // anew whenever a part more was looked at
    queryKey: ["import-files", item.id, Math.ceil(((item.total - item.waiting) / item.total) * 40)],
    placeholderData: (before) => before,
    queryFn: () => api.importFiles(item.id),
  });
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-[#0b0b0bb0]" />
        <DialogContent className="fixed top-1/2 left-1/2 z-30 flex max-h-[80vh] w-[680px] -translate-x-1/2 -translate-y-1/2 flex-col rounded-lg bg-panel p-5 shadow-[0_12px_60px_#000c]">
          <Dialog.Title className="text-head font-semibold">What became of the files</Dialog.Title>
          <p className="mt-1 shrink-0 truncate text-note text-soft">
            {item.folder} · {item.keep === "copy" ? "copied" : "referred to in place"}
          </p>
          <div className="mt-3 min-h-0 flex-1 overflow-y-auto pr-2">
            {files.isPending && <p className="text-soft">Reading the report…</p>}
            {GROUPS.map(({ outcome, title }) => {
              const some = files.data?.filter((file) => file.outcome === outcome) ?? [];
              if (some.length === 0) return null;
              return (
                <section key={outcome} className="mb-4">
                  <h3 className="mb-1 text-note font-[560]">
                    {title} <span className="font-normal text-faint">{some.length}</span>
                  </h3>
                  <ul className="text-note text-soft">
                    {some.slice(0, 500).map((file) => (
                      <li key={file.number} className="grid grid-cols-[1fr_1.4fr] gap-3 py-0.5">
                        <span className="truncate text-ink" title={file.path}>
                          {file.path}
                        </span>
                        <span>{file.reason}</span>
                      </li>
                    ))}
                    {some.length > 500 && <li>and {some.length - 500} more</li>}
                  </ul>
                </section>
              );
            })}
          </div>
          <div className="mt-4 flex justify-end">
            <Button onClick={onClose}>Close</Button>
          </div>
        </DialogContent>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
