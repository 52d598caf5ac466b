import { useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import { type Bench, type Surround, sizeOf, useBench, useBenchStore } from "../../state/bench";
import { CURSORS, useGesture } from "../gestures";
import {
  isInside,
  type PicturePlace,
  type Point,
  picturePlace,
  pixelOf,
  placedOf,
  placeOf,
  type Size,
  viewOf,
  windowPlace,
  windowToPicture,
} from "../places";
import { useSpotActions } from "../spots";
import { Drawing } from "./Drawing";
import { Opening } from "./Opening";
import { Overlays } from "./Overlays";
import { Sheet } from "./Sheet";
import { SpotTags } from "./SpotTags";
import { StripLabels } from "./StripLabels";
import { useLivePicture } from "./useLivePicture";

const GROUNDS: Record<Surround, string> = { dark: "#1c1c1c", grey: "#3b3b3b", white: "#f4f4f4" };
const MARGIN = 12;
const SHEET_MARGIN = 56;
const LEAST_AREA = 4;
const MOST_AREA = 500;
const PIXELS_A_STOP = 60;
const STROKE_STEP = 3;
type Pointed = Pick<React.PointerEvent, "clientX" | "clientY">;

/** The middle of a view kept so that the view stays on the picture. */
const within = (middle: number, view: number, whole: number) =>
  Math.min(Math.max(middle, view / 2), whole - view / 2);

const about = (bench: Bench) => {
  const tint = bench.shelf.papers.find((p) => p.id === bench.recipe.paper.paper)?.tint ?? "#fff";
  const proof = bench.shown.kind === "proof" && !bench.peek;
  const whole =
    bench.shown.kind === "strip" || bench.tool.kind === "crop" || bench.tool.kind === "patch";
  return {
    frame: bench.frame,
    sheet: proof ? tint : null,
    ground: proof ? ("white" as const) : bench.surround,
    zoom: whole ? ("fit" as const) : bench.zoom,
    showing: bench.peek ?? bench.shown.kind,
  };
};

/** The print on its surround: fitted or at 100 %, where it is dragged to be looked over. */
export function PictureView() {
  const store = useBenchStore();
  const { frame, sheet, ground, zoom, showing } = useBench(about);
  const size = useBench(sizeOf);
  const { add } = useSpotActions();
  const gesture = useGesture(add);
  const margin = sheet ? SHEET_MARGIN : MARGIN;
  const holder = useRef<HTMLElement>(null);
  const area = useArea(holder, margin);
  const [centre, setCentre] = useState<Point>({ x: size.width / 2, y: size.height / 2 });
  useEffect(() => {
    setCentre({ x: size.width / 2, y: size.height / 2 });
  }, [size.width, size.height]);
  const [drawn, setDrawn] = useState<Point[] | null>(null);
  const drag = useRef<{ from: Point; centre: Point; moved: boolean; pans: boolean } | null>(null);
  const spaced = useSpace();
  const view = useMemo(() => area && viewOf(size, area, zoom, centre), [size, area, zoom, centre]);
  const { canvas, ready, laid } = useLivePicture(view, area, margin);
  const at = view && area && placedOf(view, area, margin);
  const looks = zoom === "fit" ? "zoom-in" : drag.current ? "grabbing" : "grab";

  const under = ({ clientX, clientY }: Pointed): PicturePlace => {
    const box = holder.current?.getBoundingClientRect();
    if (!box || !at) return picturePlace(centre.x, centre.y);
    return windowToPicture(at, windowPlace(clientX - box.left, clientY - box.top));
  };
  /** The pixel under the pointer, null when it is beside the picture. */
  const pixelUnder = (event: Pointed): PicturePlace | null => {
    const pixel = pixelOf(under(event));
    return isInside(pixel, size) ? pixel : null;
  };
  const pointed = (p: Point): Pointed => ({ clientX: p.x, clientY: p.y });
  const panned = (dx: number, dy: number, from: Point) => {
    if (!view || !at) return;
    setCentre({
      x: within(from.x + dx / at.scale, view.width, size.width),
      y: within(from.y + dy / at.scale, view.height, size.height),
    });
  };

  const move = (event: React.PointerEvent) => {
    if (!gesture || !drag.current) store.setState({ point: pixelUnder(event) });
    const now = drag.current;
    if (!now || !view) return;
    const [dx, dy] = [event.clientX - now.from.x, event.clientY - now.from.y];
    if (Math.hypot(dx, dy) > 3) now.moved = true;
    const here = { x: event.clientX, y: event.clientY };
    if (now.pans || !gesture || gesture.kind === "click") {
      if (zoom !== "fit" && now.moved) panned(-dx, -dy, now.centre);
      return;
    }
    if (gesture.kind === "area" || gesture.kind === "line") setDrawn([now.from, here]);
    else if (!now.moved) return;
    else if (gesture.kind === "path") setDrawn((was) => withPlace(was ?? [now.from], here));
    else gesture.move(-dy / PIXELS_A_STOP);
  };

  const end = (event: React.PointerEvent) => {
    const now = drag.current;
    drag.current = null;
    if (!now || now.pans) return;
    const far = Math.hypot(event.clientX - now.from.x, event.clientY - now.from.y);
    const points = drawn ?? [now.from];
    setDrawn(null);
    if (!gesture) {
      if (now.moved) return;
      if (zoom === "fit") setCentre(under(event));
      store.setState({ zoom: zoom === "fit" ? "full" : "fit" });
      return;
    }
    const began = pixelUnder(pointed(now.from));
    if (gesture.kind === "pull") gesture.end();
    if (gesture.kind === "click" && !now.moved && began) gesture.done(began);
    if (gesture.kind === "line" && now.moved) gesture.done(under(pointed(now.from)), under(event));
    if (gesture.kind === "path" && began) gesture.done(points.map((p) => under(pointed(p))));
    if (gesture.kind === "area" && began && at) {
      const radius = Math.round(far / at.scale);
      gesture.done(began, Math.min(Math.max(radius, LEAST_AREA), MOST_AREA));
    }
  };

  return (
    <main
      ref={holder}
      aria-label="Picture"
      className="relative min-h-0 min-w-0 touch-none overflow-hidden"
      style={{ background: GROUNDS[ground], cursor: gesture ? CURSORS[gesture.kind] : looks }}
      onPointerDown={(event) => {
        if (event.button > 1) return;
        if (event.button === 1) event.preventDefault();
        event.currentTarget.setPointerCapture(event.pointerId);
        const pans = event.button === 1 || spaced.current;
        drag.current = { from: { x: event.clientX, y: event.clientY }, centre, moved: false, pans };
        if (!pans && gesture?.kind === "pull") gesture.start();
      }}
      onPointerLeave={() => store.setState({ point: null })}
      onWheel={(event) => zoom !== "fit" && panned(event.deltaX, event.deltaY, centre)}
      onPointerMove={move}
      onPointerUp={end}
    >
      {sheet && view && area && (
        <Sheet tone={sheet} margin={margin} at={placeOf(view, view, area)} />
      )}
      <canvas
        ref={canvas}
        aria-label={`${frame.title}, ${showing}`}
        role="img"
        className="absolute"
      />
      {at && <SpotTags at={at} />}
      {at && <Overlays at={at} />}
      {drawn && gesture && at && (
        <Drawing
          gesture={gesture}
          points={drawn}
          from={holder.current?.getBoundingClientRect()}
          scale={at.scale}
        />
      )}
      {laid && view && area && (
        <StripLabels laid={laid} margin={margin} at={placeOf(view, view, area)} />
      )}
      {!ready && <Opening frame={frame.id} margin={margin} />}
    </main>
  );
}

/** Device pixels that the picture may fill. */
function useArea(holder: React.RefObject<HTMLElement | null>, margin: number): Size | null {
  const [area, setArea] = useState<Size | null>(null);
  useLayoutEffect(() => {
    const element = holder.current;
    if (!element) return;
    const measure = () => {
      const ratio = window.devicePixelRatio;
      setArea({
        width: Math.max(64, Math.floor((element.clientWidth - 2 * margin) * ratio)),
        height: Math.max(64, Math.floor((element.clientHeight - 2 * margin) * ratio)),
      });
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, [holder, margin]);
  return area;
}

/** Whether the space bar is held down, which moves the picture whatever the tool is. */
function useSpace() {
  const held = useRef(false);
  useEffect(() => {
    const key = (event: KeyboardEvent) => {
      if (event.key !== " " || event.target instanceof HTMLInputElement) return;
      if (event.target === document.body) event.preventDefault();
      held.current = event.type === "keydown";
    };
    const away = () => {
      held.current = false;
    };
    window.addEventListener("keydown", key);
    window.addEventListener("keyup", key);
    window.addEventListener("blur", away);
    return () => {
      window.removeEventListener("keydown", key);
      window.removeEventListener("keyup", key);
      window.removeEventListener("blur", away);
    };
  }, []);
  return held;
}

/** A stroke with one more place, when that is a little away from the last. */
function withPlace(drawn: Point[], place: Point): Point[] {
  const last = drawn.at(-1);
  if (last && Math.hypot(place.x - last.x, place.y - last.y) < STROKE_STEP) return drawn;
  return [...drawn, place];
}
