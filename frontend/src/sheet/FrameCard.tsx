import { memo, useState } from "react";
import { type Frame, type Mark, thumbnailUrl } from "../api/client";
import { exposureFacts } from "../wording/facts";
import type { Choice } from "./useChoice";
import { Wax, WaxIcon } from "./Wax";

export const MARKS: { mark: Mark; text: string }[] = [
  { mark: "ring", text: "Ring: print it" },
  { mark: "dot", text: "Dot: maybe" },
  { mark: "cross", text: "Cross: no" },
];
/** Ring O, dot ., no N. */
export const MARK_KEYS: Record<string, Mark> = { o: "ring", ".": "dot", n: "cross" };
/** What frames are called while they are dragged to a roll. */
export const DRAGGED = "application/x-silvrin-frames";

interface FrameCardProps {
  frame: Frame;
  printed: boolean;
  chosen: boolean;
  /** Of those that are chosen, the one that keys act from. */
  first: boolean;
  /** What is dragged with this one; null is nothing else. */
  dragged: number[] | null;
  onChoose: Choice["choose"];
  onOpen: (frame: Frame) => void;
  onMark: (frame: Frame, mark: Mark) => void;
}

/** One frame of the contact sheet: number, picture, wax, and a line about it. */
export const FrameCard = memo(function FrameCard(props: FrameCardProps) {
  const { frame, printed, chosen, first, dragged, onChoose, onOpen, onMark } = props;
  const { prints } = frame;
  const url = thumbnailUrl(frame, printed);
  const facts = [
    ...exposureFacts(frame.metadata).slice(0, 2),
    prints.length ? (prints.length === 1 ? "1 print" : `${prints.length} prints`) : null,
  ].filter(Boolean);
  // the marks are there when they are wanted: hundreds of them would slow the sheet's scrolling
  const [near, setNear] = useState(false);
  // a print whose small picture is not made yet: meanwhile its capture stands there, pale
  const [loaded, setLoaded] = useState("");
  const inside = (event: React.FocusEvent) =>
    event.currentTarget.contains(event.relatedTarget as Node | null);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: it only shows what can be pressed
    <div
      onPointerEnter={() => setNear(true)}
      onPointerLeave={() => setNear(false)}
      onFocus={() => setNear(true)}
      onBlur={(event) => !inside(event) && setNear(false)}
    >
      <div className="flex h-[19px] items-center justify-between px-1 text-[11px]">
        <span className="font-medium tracking-[.04em] text-[#c9a063]">{frame.number} ▸</span>
        <span className="flex gap-0.5">
          {near &&
            MARKS.map(({ mark, text }) => (
              <button
                key={mark}
                type="button"
                title={text}
                aria-label={`${text}, frame ${frame.number}`}
                aria-pressed={frame.mark === mark}
                onClick={() => onMark(frame, frame.mark === mark ? "none" : mark)}
                className={`rounded-sm p-0.5 hover:bg-lift ${frame.mark === mark ? "text-amber" : "text-wax"}`}
              >
                <WaxIcon mark={mark} />
              </button>
            ))}
        </span>
      </div>
      <button
        type="button"
        data-frame={frame.id}
        draggable
        aria-label={`Frame ${frame.number}, ${frame.title}`}
        aria-pressed={chosen}
        onDragStart={(event) => {
          event.dataTransfer.setData(DRAGGED, JSON.stringify(dragged ?? [frame.id]));
          event.dataTransfer.effectAllowed = "move";
        }}
        onClick={(event) =>
          onChoose(
            frame.id,
            event.shiftKey ? "range" : event.ctrlKey || event.metaKey ? "more" : "one",
          )
        }
        onDoubleClick={() => onOpen(frame)}
        className={`relative block aspect-3/2 w-full outline-offset-2 ${
          first ? "outline-2 outline-amber" : chosen ? "outline-2 outline-[#c9a063]" : ""
        }`}
      >
        {printed && loaded !== url && (
          <img
            src={`${thumbnailUrl(frame, false)}&half=true`}
            alt=""
            title="The print is being made"
            draggable={false}
            className="absolute size-full object-contain opacity-40"
          />
        )}
        <img
          src={`${url}&half=true`}
          srcSet={`${url}&half=true 1x, ${url} 2x`}
          alt=""
          draggable={false}
          decoding="async"
          onLoad={() => setLoaded(url)}
          className="relative size-full object-contain"
        />
        {frame.lost && (
          <span
            title={`Its original is not at ${frame.place}`}
            className="absolute top-1.5 right-1.5 rounded-[2px] bg-[#111c] px-1.5 text-small text-loss"
          >
            original not found
          </span>
        )}
        <Wax mark={frame.mark} />
      </button>
      <p className="h-[21px] truncate px-1 pt-1 text-small text-faint">
        {[frame.title, ...facts].join(" · ")}
      </p>
    </div>
  );
});
