import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Frame } from "../api/client";
import { exposureFacts } from "../wording/facts";
import { bytes } from "../wording/format";

/** What is known of the chosen frames, of which there are `count`: as it was taken, its file, and all its file says. */
export function FactsPanel({ count, frames }: { count: number; frames: Frame[] }) {
  const [all, setAll] = useState(false);
  const frame = count === 1 ? frames[0] : undefined;
  const tags = useQuery({
    queryKey: ["tags", frame?.id],
    queryFn: () => api.tags(frame?.id ?? 0),
    enabled: all && frame !== undefined,
    retry: false,
  });
  if (!frame) {
    const size = frames.reduce((sum, f) => sum + f.bytes, 0);
    return (
      <aside
        aria-label="Facts"
        className="border-l border-black bg-panel p-3.5 text-note text-soft"
      >
        {count === 0
          ? "Choose a frame to see what is known of it."
          : count === frames.length
            ? `${count} frames, ${bytes(size)}`
            : `${count} frames`}
      </aside>
    );
  }
  const { metadata } = frame;
  const rows: [string, string | null | undefined][] = [
    ["Taken", metadata.taken?.replace("T", ", ")],
    ["Exposure", exposureFacts(metadata).slice(0, 3).join(" · ")],
    ["Camera", metadata.camera],
    ["Lens", metadata.lens],
    ["Focal length", metadata.focal_length ? `${Math.round(metadata.focal_length)} mm` : null],
    [
      "Light",
      metadata.temperature ? `${Math.round(metadata.temperature / 10) * 10} K as shot` : null,
    ],
    ["File", frame.file_name],
    ["Kind", KINDS[frame.kind] ?? frame.kind],
    [
      "Size",
      `${frame.width} × ${frame.height}, ${((frame.width * frame.height) / 1e6).toFixed(1)} MP`,
    ],
    ["Not applied", metadata.not_applied?.join(", ")],
    ["On disk", bytes(frame.bytes)],
    ["Where", frame.place ?? (frame.kind === "merged" ? null : "copied into the library")],
    ["Prints", frame.prints.map((p) => p.name).join(", ")],
  ];
  return (
    <aside
      aria-label="Facts"
      className="min-h-0 overflow-y-auto border-l border-black bg-panel p-3.5 text-note"
    >
      <h2 className="mb-2 font-medium">
        {frame.number} · {frame.title}
      </h2>
      <dl className="grid grid-cols-[84px_1fr] gap-y-1">
        {rows
          .filter(([, value]) => value)
          .map(([name, value]) => (
            <div key={name} className="contents">
              <dt className="text-faint">{name}</dt>
              <dd className="break-words text-soft">{value}</dd>
            </div>
          ))}
      </dl>
      {frame.lost && (
        <p className="mt-2 border-l-2 border-loss pl-2 text-soft">
          The original is not where it was. What was done to it is kept.
        </p>
      )}
      {frame.kind !== "merged" && (
        <button
          type="button"
          aria-expanded={all}
          onClick={() => setAll(!all)}
          className="mt-3 text-faint hover:text-ink"
        >
          {all ? "Less" : "All that its file says"}
        </button>
      )}
      {all && tags.error && <p className="mt-2 text-soft">{tags.error.message}</p>}
      {all && tags.data?.length === 0 && <p className="mt-2 text-soft">It says nothing more.</p>}
      {all && tags.data && (
        <dl className="mt-2 flex flex-col gap-1.5">
          {tags.data.map((tag, i) => (
            // a name may be there twice
            <div key={`${i} ${tag.name}`}>
              <dt className="truncate text-small text-faint" title={tag.name}>
                {tag.name}
              </dt>
              <dd className="break-words text-soft">{tag.value}</dd>
            </div>
          ))}
        </dl>
      )}
    </aside>
  );
}

const KINDS: Record<string, string> = {
  raw: "camera raw",
  tiff: "TIFF",
  png: "PNG",
  jpeg: "JPEG",
  merged: "merged bracket",
};
