/** What happens on the picture from where it is pressed to where it is let go: by the pointer, or by
 * keys that move a pen over it. */

import { useRef, useState } from "react";
import { noteInput } from "../../api/live";
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
  shift: boolean;
  pressures: number[];
}

/** What a pointer event says beside the place. */
export interface Keyed {
  shift: boolean;
  /** Of a pen; 1 of a mouse. */
  pressure: number;
}
const PLAIN: Keyed = { shift: false, pressure: 1 };

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
  const stroke = useRef<Point[] | null>(null);

  const begin = (from: Point, pans: boolean, { shift, pressure } = PLAIN) => {
    press.current = { from, centre, moved: false, pans, shift, pressures: [pressure] };
    if (pans) return;
    if (gesture?.kind === "pull") gesture.start();
    if (gesture?.kind === "hold") gesture.start(under(from));
  };

  const move = (place: Point, keyed = PLAIN) => {
    const now = press.current;
    const here = gesture?.kind === "line" && keyed.shift && now ? level(now.from, place) : place;
    const follows = gesture?.kind === "hold" || (gesture?.kind === "path" && gesture.moving);
    if (!gesture || !now || follows) store.setState({ point: pixelUnder(here) });
    if (!now || !at) return;
    const [dx, dy] = [here.x - now.from.x, here.y - now.from.y];
    if (Math.hypot(dx, dy) > STILL) now.moved = true;
    if (now.pans || !gesture || gesture.kind === "click") {
      if (now.moved) onPan(-dx, -dy, now.centre);
      return;
    }
    if (gesture.kind === "area" || gesture.kind === "line") setDrawn([now.from, here]);
    else if (gesture.kind === "hold") gesture.move(under(here));
    else if (!now.moved) return;
    else if (gesture.kind === "path") {
      const points = withPlace(stroke.current ?? [now.from], here);
      if (points === stroke.current) return;
      stroke.current = points;
      now.pressures = [...now.pressures, keyed.pressure].slice(0, points.length);
      if (gesture.moving) {
        noteInput();
        store.setState({ drawing: true });
        gesture.moving(points.map(under), now);
      } else setDrawn(points);
    } else gesture.move(-dy / PIXELS_A_STOP);
  };

  const end = (place: Point, keyed = PLAIN) => {
    const now = press.current;
    press.current = null;
    store.setState({ drawing: false });
    if (!now || now.pans) return;
    const here = gesture?.kind === "line" && keyed.shift ? level(now.from, place) : place;
    const far = Math.hypot(here.x - now.from.x, here.y - now.from.y);
    const points = stroke.current ?? [now.from];
    stroke.current = null;
    setDrawn(null);
    if (!gesture) {
      if (!now.moved) onClick(here);
      return;
    }
    const began = pixelUnder(now.from);
    if (gesture.kind === "pull" || gesture.kind === "hold") gesture.end();
    if (gesture.kind === "click" && !now.moved && began) gesture.done(began);
    if (gesture.kind === "line" && now.moved) gesture.done(under(now.from), under(here));
    if (gesture.kind === "path" && began) gesture.done(points.map(under), now);
    if (gesture.kind === "area" && began && at) {
      const radius = Math.round(far / at.scale);
      gesture.done(began, Math.min(Math.max(radius, LEAST_AREA), gesture.most ?? MOST_AREA));
    }
  };

  /** Gives up what was begun; whether anything was. */
  const cancel = (): boolean => {
    const was = press.current !== null;
    if (was && gesture?.kind === "pull") gesture.end();
    if (was && (gesture?.kind === "hold" || gesture?.kind === "path")) gesture.cancel?.();
    press.current = null;
    stroke.current = null;
    store.setState({ drawing: false });
    setDrawn(null);
    return was;
  };

  return { begin, move, end, cancel, drawn, pressed: () => press.current !== null, pixelUnder };
}

/** A place kept level with another, or straight above or below it. */
function level(from: Point, to: Point): Point {
  const flat = Math.abs(to.x - from.x) > Math.abs(to.y - from.y);
  return flat ? { x: to.x, y: from.y } : { x: from.x, y: to.y };
}

/** A stroke with one more place, when that is a little away from the last. */
function withPlace(drawn: Point[], place: Point): Point[] {
  const last = drawn.at(-1);
  if (last && Math.hypot(place.x - last.x, place.y - last.y) < STROKE_STEP) return drawn;
  return [...drawn, place];
}
