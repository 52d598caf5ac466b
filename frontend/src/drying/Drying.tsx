import { useMutation, useQueryClient } from "@tanstack/react-query";
import { api, deliveredUrl } from "../api/client";
import type { Delivery } from "../api/types";
import { summary } from "../deliver/outputs";
import { useNotice } from "../parts/Notice";
import { bytes } from "../wording/format";

/** What can be done with a delivery. */
export function useDrying() {
  const tell = useNotice();
  const queries = useQueryClient();
  const act = useMutation({
    mutationFn: (work: () => Promise<unknown>) => work(),
    onSettled: () => queries.invalidateQueries({ queryKey: ["dried"] }),
    onError: tell,
  });
  return act.mutate;
}

/** What a finished file is, in words. */
export const made = (job: Delivery) =>
  [
    job.width && `${job.width} × ${job.height} pixels`,
    job.bytes && bytes(job.bytes),
    job.limited && "the capture has no more",
  ]
    .filter(Boolean)
    .join(", ");

const nameOf = (file: string) => file.split(/[\\/]/).at(-1) ?? file;

/** A delivery as a row: where it stands, and what can be done with it. */
export function Drying({ job, current }: { job: Delivery; current: number }) {
  const act = useDrying();
  const { state, title, output } = job;
  const at = state === "running" ? current : state === "done" ? 1 : 0;
  return (
    <li className="border-b border-line py-2 last:border-0">
      <div className="flex items-baseline gap-3">
        <span className="min-w-0 truncate">
          {job.file && job.there ? nameOf(job.file) : title}
          <span className="ml-2 text-note text-faint">{summary(output)}</span>
        </span>
        <span className="ml-auto flex shrink-0 gap-3 text-note text-soft">
          <DryingActions job={job} act={act} />
        </span>
      </div>
      {state === "failed" ? (
        <p role="alert" className="mt-1 border-l-2 border-loss pl-2 text-note">
          {job.error}
        </p>
      ) : state === "done" ? (
        <p className="text-note text-faint">
          {made(job)}
          {job.there ? (
            <span className="ml-2 break-words select-text">{job.file}</span>
          ) : (
            <span className="ml-2 text-loss">The file was moved or deleted.</span>
          )}
        </p>
      ) : state === "cancelled" ? (
        <p className="text-note text-faint">Cancelled.</p>
      ) : (
        <div
          role="progressbar"
          aria-label={`Progress of ${title}`}
          aria-valuenow={Math.round(at * 100)}
          className="mt-1.5 h-1 bg-[#3d3d3d]"
        >
          <div className="h-full bg-amber" style={{ width: `${at * 100}%` }} />
        </div>
      )}
    </li>
  );
}

/** Open, download, show; once more; off the line. */
export function DryingActions({ job, act }: { job: Delivery; act: ReturnType<typeof useDrying> }) {
  const { id, state } = job;
  const link = "hover:text-ink";
  return (
    <>
      {state === "done" && job.there && (
        <>
          <a className={link} href={deliveredUrl(id, "inline")} target="_blank" rel="noreferrer">
            Open
          </a>
          <a className={link} href={deliveredUrl(id, "download")} download>
            Download
          </a>
          <button type="button" className={link} onClick={() => act(() => api.reveal(id))}>
            Show in folder
          </button>
        </>
      )}
      {state === "done" && (
        <button
          type="button"
          className={link}
          title="The same file anew, of the print as it is now"
          onClick={() => act(() => api.deliverAgain(id))}
        >
          Make again
        </button>
      )}
      {state === "failed" && (
        <button type="button" className={link} onClick={() => act(() => api.retryDelivery(id))}>
          Try again
        </button>
      )}
      {state !== "cancelled" && (
        <button
          type="button"
          className={link}
          title={state === "done" ? "The file stays where it is" : undefined}
          onClick={() => act(() => api.takeOff(id))}
        >
          {state === "waiting" || state === "running" ? "Cancel" : "Take off"}
        </button>
      )}
    </>
  );
}
