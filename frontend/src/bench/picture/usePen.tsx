/** The pointer by keys: with a tool in hand arrow keys move a pen over the picture (Shift: ten
 * steps), Enter presses it down and lifts it, Escape gives up what is drawn. Without a tool they move
 * the picture. */

import { type KeyboardEvent, type RefObject, useEffect, useRef, useState } from "react";
import { type Tool, useBench, useBenchStore } from "../../state/bench";
import { WAYS } from "../arrows";
import type { Gesture } from "../gestures";
import {
  type PicturePlace,
  type Placed,
  type Point,
  pictureToWindow,
  windowPlace,
  windowToPicture,
} from "../places";
import type { usePress } from "./usePress";

const STEP = 2; // CSS px
const PAN = 40;
const MORE = 10;
/** Tools that are taken to do one thing on the picture: it gets the focus. */
const POINTED: Tool["kind"][] = [
  "meter",
  "hues",
  "neutral",
  "lines",
  "patch",
  "shape",
  "strokes",
  "hold",
];

interface PenProps {
  holder: RefObject<HTMLElement | null>;
  gesture: Gesture | null;
  press: ReturnType<typeof usePress>;
  at: Placed | null;
  /** What of the picture is in sight, in CSS pixels of its pane. */
  sight: { left: number; top: number; width: number; height: number } | null;
  onPan: (dx: number, dy: number) => void;
}

export function usePen({ holder, gesture, press, at, sight, onPan }: PenProps) {
  const store = useBenchStore();
  // on the picture, so that it stays there when its pane changes
  const [pen, setPen] = useState<PicturePlace | null>(null);
  const tool = useBench((bench) => bench.tool.kind);
  const came = useRef<Element | null>(null);
  useEffect(() => {
    const element = holder.current;
    if (POINTED.includes(tool)) {
      if (document.activeElement !== element) came.current = document.activeElement;
      element?.focus({ preventScroll: true });
    } else {
      setPen(null);
      // back to where the tool was taken
      if (document.activeElement === element && came.current instanceof HTMLElement)
        came.current.focus({ preventScroll: true });
      came.current = null;
    }
  }, [tool, holder]);

  const keyed = (event: KeyboardEvent) => {
    if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey || event.altKey)
      return;
    const box = holder.current?.getBoundingClientRect();
    if (!box || !sight || !at) return;
    const middle = windowPlace(sight.left + sight.width / 2, sight.top + sight.height / 2);
    const now = pen ? pictureToWindow(at, pen) : middle;
    const inWindow = ({ x, y }: Point) => ({ x: x + box.left, y: y + box.top });
    const way = WAYS[event.key];
    if (way) {
      event.preventDefault();
      const by = event.shiftKey ? MORE : 1;
      if (!gesture) return onPan(way[0] * PAN * by, way[1] * PAN * by);
      const next = windowPlace(
        Math.min(Math.max(now.x + way[0] * STEP * by, sight.left), sight.left + sight.width - 1),
        Math.min(Math.max(now.y + way[1] * STEP * by, sight.top), sight.top + sight.height - 1),
      );
      setPen(windowToPicture(at, next));
      press.move(inWindow(next));
      store.setState({ point: press.pixelUnder(inWindow(next)) });
    } else if (event.key === "Enter" && !event.repeat && tool !== "crop") {
      const here = inWindow(now);
      if (press.pressed()) press.end(here);
      else {
        setPen(gesture && windowToPicture(at, now));
        press.move(here);
        press.begin(here, false);
        if (!gesture || gesture.kind === "click") press.end(here);
      }
      event.preventDefault();
    } else if (event.key === "Escape" && press.cancel()) event.stopPropagation();
  };
  return { pen: pen && at && pictureToWindow(at, pen), keyed, lift: () => setPen(null) };
}

/** The pen, and once what its keys do. */
export function Pen({ at, pressed }: { at: Point; pressed: boolean }) {
  return (
    <>
      <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
        {["#000", "#fff"].map((tone, i) => (
          <path
            key={tone}
            d={`M${at.x - 11} ${at.y}h7m8 0h7M${at.x} ${at.y - 11}v7m0 8v7`}
            stroke={tone}
            strokeOpacity={i ? 1 : 0.6}
            strokeWidth={i ? 1.5 : 3.5}
          />
        ))}
      </svg>
      <p
        role="status"
        className="pointer-events-none absolute bottom-2 left-1/2 -translate-x-1/2 rounded-[3px] bg-[#111c] px-2 py-1 text-small text-ink"
      >
        {pressed
          ? "Arrow keys draw, Enter ends it, Esc gives it up."
          : "Arrow keys move (Shift: further), Enter presses, Esc leaves."}
      </p>
    </>
  );
}
