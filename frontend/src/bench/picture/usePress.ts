/** What happens on the picture from where it is pressed to where it is let go: by the pointer, or by
 * keys that move a pen over it. */

import { useRef, useState } from "react";
import { useBenchStore } from "../../state/bench";
import type { Gesture } from "../gestures";
import type { PicturePlace, Placed, Point } from "../places";

const LEAST_AREA = 4;
const MOST_AREA = 500;
const PIXELS_A_STOP = 60;
const STROKE_STEP = 3;
const STILL = 3; // px within which a press is no movement

interface Press {
  from: Point;
  centre: Point;
  moved: boolean;
  pans: boolean;
}

interface PressProps {
  gesture: Gesture | null;
  at: Placed | null;
  centre: Point;
  /** Where a point of the browser's window lies on the picture; the pixel, null beside it. */
  under: (at: Point) => PicturePlace;
  pixelUnder: (at: Point) => PicturePlace | null;
  onPan: (dx: number, dy: number, from: Point) => void;
  /** A press without a tool that did not move. */
  onClick: (at: Point) => void;
}

export function usePress({ gesture, at, centre, under, pixelUnder, onPan, onClick }: PressProps) {
  const store = useBenchStore();
  const [drawn, setDrawn] = useState<Point[] | null>(null);
  const press = useRef<Press | null>(null);

  const begin = (from: Point, pans: boolean) => {
    press.current = { from, centre, moved: false, pans };
    if (!pans && gesture?.kind === "pull") gesture.start();
  };

  const move = (here: Point) => {
    const now = press.current;
    if (!gesture || !now) store.setState({ point: pixelUnder(here) });
    if (!now || !at) return;
    const [dx, dy] = [here.x - now.from.x, here.y - now.from.y];
    if (Math.hypot(dx, dy) > STILL) now.moved = true;
    if (now.pans || !gesture || gesture.kind === "click") {
      if (now.moved) onPan(-dx, -dy, now.centre);
      return;
    }
    if (gesture.kind === "area" || gesture.kind === "line") setDrawn([now.from, here]);
    else if (!now.moved) return;
    else if (gesture.kind === "path") setDrawn((was) => withPlace(was ?? [now.from], here));
    else gesture.move(-dy / PIXELS_A_STOP);
  };

  const end = (here: Point) => {
    const now = press.current;
    press.current = null;
    if (!now || now.pans) return;
    const far = Math.hypot(here.x - now.from.x, here.y - now.from.y);
    const points = drawn ?? [now.from];
    setDrawn(null);
    if (!gesture) {
      if (!now.moved) onClick(here);
      return;
    }
    const began = pixelUnder(now.from);
    if (gesture.kind === "pull") gesture.end();
    if (gesture.kind === "click" && !now.moved && began) gesture.done(began);
    if (gesture.kind === "line" && now.moved) gesture.done(under(now.from), under(here));
    if (gesture.kind === "path" && began) gesture.done(points.map(under));
    if (gesture.kind === "area" && began && at) {
      const radius = Math.round(far / at.scale);
      gesture.done(began, Math.min(Math.max(radius, LEAST_AREA), gesture.most ?? MOST_AREA));
    }
  };

  /** Gives up what was begun; whether anything was. */
  const cancel = (): boolean => {
    const was = press.current !== null;
    if (was && gesture?.kind === "pull") gesture.end();
    press.current = null;
    setDrawn(null);
    return was;
  };

  return { begin, move, end, cancel, drawn, pressed: () => press.current !== null, pixelUnder };
}

/** A stroke with one more place, when that is a little away from the last. */
function withPlace(drawn: Point[], place: Point): Point[] {
  const last = drawn.at(-1);
  if (last && Math.hypot(place.x - last.x, place.y - last.y) < STROKE_STEP) return drawn;
  return [...drawn, place];
}
