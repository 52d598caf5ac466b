import { type Frame, type Mark, thumbnailUrl } from "../api/client";
import { shutter } from "../wording/format";
import { Wax, WaxIcon } from "./Wax";

const MARKS: { mark: Mark; text: string }[] = [
  { mark: "ring", text: "Ring: print it" },
  { mark: "dot", text: "Dot: maybe" },
  { mark: "cross", text: "Cross: no" },
];

interface FrameCardProps {
  frame: Frame;
  printed: boolean;
  selected: boolean;
  /** Chosen with others, to be compared. */
  beside: boolean;
  /** `more`: added to what is chosen already. */
  onSelect: (more: boolean) => void;
  onOpen: () => void;
  onMark: (mark: Mark) => void;
}

/** One frame of the contact sheet: number, picture, wax, and a line about it. */
export function FrameCard(props: FrameCardProps) {
  const { frame, printed, selected, beside, onSelect, onOpen, onMark } = props;
  const { metadata, prints } = frame;
  const facts = [
    metadata.shutter ? shutter(metadata.shutter) : null,
    metadata.aperture ? `f/${Number(metadata.aperture.toFixed(1))}` : null,
    prints.length ? (prints.length === 1 ? "1 print" : `${prints.length} prints`) : null,
  ].filter(Boolean);
  return (
    <li className="group min-w-0">
      <div className="flex h-[19px] items-center justify-between px-1 text-[11px]">
        <span className="font-medium tracking-[.04em] text-[#c9a063]">{frame.number} ▸</span>
        <span className="flex gap-0.5 opacity-0 group-focus-within:opacity-100 group-hover:opacity-100">
          {MARKS.map(({ mark, text }) => (
            <button
              key={mark}
              type="button"
              title={text}
              aria-label={`${text}, frame ${frame.number}`}
              aria-pressed={frame.mark === mark}
              onClick={() => onMark(frame.mark === mark ? "none" : mark)}
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
        aria-label={`Frame ${frame.number}, ${frame.title}`}
        aria-pressed={selected || beside}
        onClick={(event) => onSelect(event.ctrlKey || event.metaKey || event.shiftKey)}
        onDoubleClick={onOpen}
        className={`relative block aspect-3/2 w-full outline-offset-2 ${
          selected ? "outline-2 outline-amber" : beside ? "outline-2 outline-[#c9a063]" : ""
        }`}
      >
        <img
          src={thumbnailUrl(frame, printed)}
          alt=""
          draggable={false}
          loading="lazy"
          className="size-full object-contain"
        />
        <Wax mark={frame.mark} />
      </button>
      <p className="h-[21px] truncate px-1 pt-1 text-small text-faint">
        {[frame.title, ...facts].join(" · ")}
      </p>
    </li>
  );
}
