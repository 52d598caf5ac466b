import { useVirtualizer } from "@tanstack/react-virtual";
import { type RefObject, useEffect, useLayoutEffect, useRef, useState } from "react";
import type { Frame, Mark } from "../api/client";
import { FrameCard } from "./FrameCard";
import type { Choice } from "./useChoice";
import { useFramesInSight } from "./useFrames";

const LEAST_WIDTH = 220;
const GAP = 10;
const SIDE = 16;
/** Number and line of facts, and the room under a row. */
const LINES = 19 + 21 + 6;

interface FrameGridProps {
  /** Ids of those shown, in their order. */
  shown: number[];
  printed: boolean;
  choice: Choice;
  /** What the grid scrolls in. */
  scroller: RefObject<HTMLElement | null>;
  /** A frame that must come into sight. */
  reveal: { id: number } | null;
  onColumns: (columns: number) => void;
  onOpen: (frame: Frame) => void;
  onMark: (frame: Frame, mark: Mark) => void;
}

/** The frames in rows; only those in sight are there, so that a hundred thousand scroll as ten do. */
export function FrameGrid(props: FrameGridProps) {
  const { shown, printed, choice, scroller, reveal, onColumns, onOpen, onMark } = props;
  const sheet = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const element = sheet.current;
    if (!element) return;
    const measure = () => setWidth(element.clientWidth - 2 * SIDE);
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const columns = Math.max(1, Math.floor((width + GAP) / (LEAST_WIDTH + GAP)));
  const across = (width - GAP * (columns - 1)) / columns;
  const height = Math.round((across * 2) / 3) + LINES;
  const rows = Math.ceil(shown.length / columns);
  const virtual = useVirtualizer({
    count: width > 0 ? rows : 0,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    scrollMargin: sheet.current?.offsetTop ?? 0,
    overscan: 2,
  });
  // rows change their height with the window
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is the height that matters
  useEffect(() => virtual.measure(), [height, virtual]);
  useEffect(() => onColumns(columns), [columns, onColumns]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only when another one is wanted
  useEffect(() => {
    if (!reveal) return;
    const place = shown.indexOf(reveal.id);
    if (place < 0) return;
    virtual.scrollToIndex(Math.floor(place / columns), { align: "auto" });
    requestAnimationFrame(() =>
      sheet.current?.querySelector<HTMLElement>(`[data-frame="${reveal.id}"]`)?.focus({
        preventScroll: true,
      }),
    );
  }, [reveal]);
  const inSight = virtual.getVirtualItems();
  const frames = useFramesInSight(
    shown,
    (inSight[0]?.index ?? 0) * columns,
    ((inSight.at(-1)?.index ?? -1) + 1) * columns - 1,
  );
  const card = (id: number) => {
    const frame = frames.get(id);
    if (!frame) return <div className="my-[19px] aspect-3/2 bg-well" />;
    return (
      <FrameCard
        frame={frame}
        printed={printed && frame.prints.length > 0}
        chosen={choice.has(id)}
        first={choice.at === id}
        dragged={choice.has(id) ? choice.all : null}
        onChoose={choice.choose}
        onOpen={onOpen}
        onMark={onMark}
      />
    );
  };
  return (
    <div ref={sheet} className="bg-[#0b0b0b] pt-2.5 pb-2">
      <ul
        aria-label={`${shown.length} frames`}
        className="relative"
        style={{ height: virtual.getTotalSize() }}
      >
        {inSight.flatMap((row) =>
          shown.slice(row.index * columns, (row.index + 1) * columns).map((id, column) => (
            <li
              key={id}
              aria-setsize={shown.length}
              aria-posinset={row.index * columns + column + 1}
              className="absolute"
              style={{
                width: across,
                left: SIDE + column * (across + GAP),
                top: row.start - virtual.options.scrollMargin,
              }}
            >
              {card(id)}
            </li>
          )),
        )}
      </ul>
    </div>
  );
}
