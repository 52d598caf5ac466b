import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { LiveView } from "../../api/client";
import {
  type Bench,
  isMounted,
  type Surround,
  shownSize,
  useBench,
  useBenchStore,
} from "../../state/bench";
import { Compared } from "../compare/Compared";
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
import { greyOfLightness, hung, lightOn } from "../wall";
import { Drawing } from "./Drawing";
import { Opening } from "./Opening";
import { Overlays } from "./Overlays";
import { Sheet } from "./Sheet";
import { SpotTags } from "./SpotTags";
import { StripLabels } from "./StripLabels";
import { useLivePicture } from "./useLivePicture";
import { Pen, usePen } from "./usePen";
import { type Keyed, usePress } from "./usePress";
import { Room, Rule } from "./Wall";

const GROUNDS: Record<Surround, string> = { dark: "#1c1c1c", grey: "#3b3b3b", white: "#f4f4f4" };
const MARGIN = 12;
const SHEET_MARGIN = 56;
type Pointed = Pick<React.PointerEvent, "clientX" | "clientY">;

/** The middle of a view kept so that the view stays on the picture. */
const within = (middle: number, view: number, whole: number) =>
  Math.min(Math.max(middle, view / 2), whole - view / 2);

const about = (bench: Bench) => {
  const tint = bench.shelf.papers.find((p) => p.id === bench.recipe.paper.paper)?.tint ?? "#fff";
  const mounted = isMounted(bench);
  const proof = mounted && bench.shown.kind === "proof";
  const whole =
    bench.shown.kind === "strip" || bench.tool.kind === "crop" || bench.tool.kind === "patch";
  return {
    frame: bench.frame,
    // a print without a border of its own hangs on its sheet
    sheet: proof && !bench.header?.mounted.changes ? tint : null,
    ground: GROUNDS[bench.surround],
    wall: proof ? bench.wall : null,
    barred: proof || (mounted && bench.shown.kind === "press"),
    mounted: mounted ? (bench.header?.mounted ?? null) : null,
    zoom: whole ? ("fit" as const) : bench.zoom,
    showing: mounted && !proof ? "mounted" : (bench.peek ?? bench.shown.kind),
  };
};

/** The print on its surround: fitted or at 100 %, where it is dragged to be looked over. */
export function PictureView() {
  const store = useBenchStore();
  const { frame, sheet, ground, wall, barred, mounted, zoom, showing } = useBench(about);
  const size = useBench(shownSize);
  const { add } = useSpotActions();
  const gesture = useGesture(add);
  const margin = barred ? SHEET_MARGIN : MARGIN;
  const holder = useRef<HTMLElement>(null);
  const area = useArea(holder, margin);
  const centre = useBench((bench) => bench.centre);
  const setCentre = useCallback((to: Point) => store.setState({ centre: to }), [store]);
  useEffect(() => {
    setCentre({ x: size.width / 2, y: size.height / 2 });
  }, [size.width, size.height, setCentre]);
  const spaced = useSpace();
  const view = useMemo(() => area && viewOf(size, area, zoom, centre), [size, area, zoom, centre]);
  const { canvas, ready, laid } = useLivePicture(view, area, margin);
  const at = view && area && placedOf(view, area, margin);
  const box = view && area && sightOf(view, area, margin);
  const pane = {
    width: holder.current?.clientWidth ?? 0,
    height: holder.current?.clientHeight ?? 0,
  };
  const across =
    wall?.from === "room" && mounted && box && zoom === "fit"
      ? hung(box, pane, mounted.whole[1])
      : null;

  const under = ({ x, y }: Point): PicturePlace => {
    const box = holder.current?.getBoundingClientRect();
    if (!box || !at) return picturePlace(centre.x, centre.y);
    return windowToPicture(at, windowPlace(x - box.left, y - box.top));
  };
  const pixelUnder = (place: Point): PicturePlace | null => {
    const pixel = pixelOf(under(place));
    return isInside(pixel, size) ? pixel : null;
  };
  const panned = (dx: number, dy: number, from: Point) => {
    if (!view || !at || zoom === "fit") return;
    setCentre({
      x: within(from.x + dx / at.scale, view.width, size.width),
      y: within(from.y + dy / at.scale, view.height, size.height),
    });
  };
  const press = usePress({
    gesture,
    at,
    centre,
    under,
    pixelUnder,
    onPan: panned,
    onClick: (place) => {
      if (zoom === "fit") setCentre(under(place));
      store.setState({ zoom: zoom === "fit" ? "full" : "fit" });
    },
  });
  const { pen, keyed, lift } = usePen({
    holder,
    gesture,
    press,
    at,
    sight: box,
    onPan: (dx, dy) => panned(dx, dy, centre),
  });
  const looks = zoom === "fit" ? "zoom-in" : press.pressed() ? "grabbing" : "grab";
  const placed = ({ clientX, clientY }: Pointed): Point => ({ x: clientX, y: clientY });
  const keys = ({ shiftKey, pointerType, pressure }: React.PointerEvent): Keyed => ({
    shift: shiftKey,
    pressure: pointerType === "pen" ? Math.round(pressure * 100) / 100 : 1,
  });

  return (
    <main
      ref={holder}
      aria-label="Picture"
      className="relative min-h-0 min-w-0 touch-none overflow-hidden outline-offset-[-2px] focus-visible:outline-1 focus-visible:outline-[#bdbdbd]"
      style={{
        background: wall ? greyOfLightness(wall.tone) : ground,
        cursor: gesture ? CURSORS[gesture.kind] : looks,
      }}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: tools work on it by keys too
      tabIndex={0}
      onKeyDown={keyed}
      onPointerDown={(event) => {
        if (event.button > 1) return;
        if (event.button === 1) event.preventDefault();
        event.currentTarget.setPointerCapture(event.pointerId);
        lift();
        press.begin(placed(event), event.button === 1 || spaced.current, keys(event));
      }}
      onPointerLeave={() => store.setState({ point: null })}
      onWheel={(event) => panned(event.deltaX, event.deltaY, centre)}
      onPointerMove={(event) => press.move(placed(event), keys(event))}
      onPointerUp={(event) => press.end(placed(event), keys(event))}
    >
      {across && <Room {...pane} />}
      <div
        className="absolute inset-0"
        style={across && box ? { transform: across, transformOrigin: middleOfBox(box) } : undefined}
      >
        {sheet && view && area && (
          <Sheet tone={sheet} margin={margin} at={placeOf(view, view, area)} />
        )}
        {wall && !sheet && box && (
          <div aria-hidden className="absolute shadow-[0_6px_22px_#0007]" style={box} />
        )}
        <canvas
          ref={canvas}
          aria-label={`${frame.title}, ${showing}`}
          role="img"
          className="absolute"
        />
      </div>
      {wall && mounted && box && wall.from === "near" && zoom === "fit" && (
        <Rule box={box} wide={mounted.whole[0]} />
      )}
      {wall && (
        <div
          aria-hidden
          className="pointer-events-none absolute inset-0 mix-blend-multiply"
          style={{ background: lightOn(wall) }}
        />
      )}
      {view && area && <Compared view={view} area={area} margin={margin} />}
      {at && !mounted && <SpotTags at={at} />}
      {at && <Overlays at={at} />}
      {press.drawn && gesture && at && (
        <Drawing
          gesture={gesture}
          points={press.drawn}
          from={holder.current?.getBoundingClientRect()}
          scale={at.scale}
        />
      )}
      {laid && view && area && (
        <StripLabels laid={laid} margin={margin} at={placeOf(view, view, area)} />
      )}
      {pen && gesture && <Pen at={pen} pressed={press.pressed()} />}
      {!ready && <Opening frame={frame.id} margin={margin} />}
    </main>
  );
}

const middleOfBox = ({ left, top, width, height }: ReturnType<typeof sightOf>) =>
  `${left + width / 2}px ${top + height / 2}px`;

/** What of the picture is in sight, in CSS pixels of its pane. */
function sightOf(view: LiveView, area: Size, margin: number) {
  const ratio = window.devicePixelRatio;
  const { left, top, width, height } = placeOf(view, view, area);
  return {
    left: margin + left / ratio,
    top: margin + top / ratio,
    width: width / ratio,
    height: height / ratio,
  };
}

/** Device pixels that the picture may fill. */
export function useArea(holder: React.RefObject<HTMLElement | null>, margin: number): Size | null {
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
