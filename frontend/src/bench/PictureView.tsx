import {
  type ReactNode,
  useCallback,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import type {
  Frame,
  HeldZones,
  LiveFrame,
  LiveView,
  Problem,
  Recipe,
  Show,
  StripFacts,
  TestStrip,
} from "../api/client";
import { type LivePicture, LiveSocket } from "../api/live";
import { gradeName, seconds } from "../wording/format";
import { Opening } from "./Opening";
import type { Spots } from "./useSpots";
import { type Point, placeOf, type Size, viewOf, type Zoom } from "./views";

export type Surround = "dark" | "grey" | "white";
const GROUNDS: Record<Surround, string> = { dark: "#1c1c1c", grey: "#3b3b3b", white: "#f4f4f4" };
const MARGIN = 12;
const SHEET_MARGIN = 56;
/** An easel leaves a quarter inch round a print; of 30 cm on the long side. */
const EASEL = 0.635 / 30;

interface PictureViewProps {
  frame: Frame;
  recipe: Recipe;
  show: Show;
  /** Of a zone plate: zones of the scene, or print values. */
  plate: "scene" | "print";
  /** Seconds the paper has had so far; null is all of them. */
  exposed: number | null;
  /** The colour of the paper round the print, when it is shown as a sheet. */
  sheet: string | null;
  zoom: Zoom;
  surround: Surround;
  onZoom: (zoom: Zoom) => void;
  spots: Spots;
  /** Whether a click meters a spot. */
  metering: boolean;
  tool: PictureTool | null;
  /** A test strip to lay instead of the print, and what is done when one is taken. */
  strip: TestStrip | null;
  /** Zones that stand in the picture while the rest sinks back. */
  held: HeldZones | null;
  /** Only what breaks up stands. */
  breaking: boolean;
  /** What lies over the picture, given where it stands (CSS pixels) and its scale. */
  overlay?: (at: Placed) => ReactNode;
  onTaken: (laid: StripFacts, value: number) => void;
  /** The place of the capture under the pointer, null when it is not on the picture. */
  onPoint: (point: Point | null) => void;
  onHeader: (header: LiveFrame) => void;
  onConnected: (yes: boolean) => void;
  onProblem: (problem: Problem) => void;
}

/** Where the whole capture stands in the window, in CSS pixels. */
export interface Placed {
  left: number;
  top: number;
  /** CSS pixels a pixel of the capture. */
  scale: number;
}

/** What dragging or clicking on the picture does instead of zooming. */
export interface PictureTool {
  cursor: string;
  start: () => void;
  /** Dragged up (positive) or down, in stops. */
  move: (stops: number) => void;
  end: () => void;
  /** Instead of all that: an area drawn from its middle, in pixels of the capture. */
  area?: (centre: Point, radius: number) => void;
  /** Instead of all that: a line drawn, in pixels of the finished picture. */
  line?: (from: Point, to: Point) => void;
  /** Instead of all that: a stroke or a click, in pixels of the finished picture. */
  path?: (points: Point[]) => void;
  /** How wide the stroke is, in pixels of the capture; null is an outline that closes. */
  width?: number | null;
}

const LEAST_AREA = 4;
const MOST_AREA = 500;

const PIXELS_A_STOP = 60;
const STROKE_STEP = 3;
type Pointed = Pick<React.PointerEvent, "clientX" | "clientY">;

/** The print on its surround: fitted or at 100 %, where it is dragged to be looked over. */
export function PictureView(props: PictureViewProps) {
  const {
    frame,
    recipe,
    show,
    plate,
    exposed,
    sheet,
    zoom,
    surround,
    spots,
    metering,
    tool,
    strip,
    held,
    breaking,
    overlay,
    onTaken,
    onZoom,
    onPoint,
    onHeader,
    onConnected,
    onProblem,
  } = props;
  const margin = sheet ? SHEET_MARGIN : MARGIN;
  const marginNow = useRef(margin);
  marginNow.current = margin;
  const holder = useRef<HTMLElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const socket = useRef<LiveSocket | null>(null);
  const drawn = useRef<LivePicture | null>(null);
  const [area, setArea] = useState<Size | null>(null);
  const [centre, setCentre] = useState<Point>({ x: frame.width / 2, y: frame.height / 2 });
  useEffect(() => {
    setCentre({ x: frame.width / 2, y: frame.height / 2 });
  }, [frame.width, frame.height]);
  const [ready, setReady] = useState(false);
  const [drawnArea, setDrawn] = useState<Point[] | null>(null);
  const [laid, setLaid] = useState<StripFacts | null>(null);
  const drag = useRef<{ from: Point; centre: Point; moved: boolean; pans: boolean } | null>(null);
  const spaced = useSpace();

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
  }, [margin]);

  const view = useMemo(
    () => area && viewOf(frame, area, zoom, centre),
    [frame, area, zoom, centre],
  );
  const wanted = useRef(view);
  wanted.current = view;
  const areaNow = useRef(area);
  areaNow.current = area;

  const place = useCallback(() => {
    const element = canvas.current;
    if (!element || !drawn.current || !wanted.current || !areaNow.current) return;
    const at = placeOf(drawn.current.header.view, wanted.current, areaNow.current);
    const ratio = window.devicePixelRatio;
    element.style.left = `${marginNow.current + at.left / ratio}px`;
    element.style.top = `${marginNow.current + at.top / ratio}px`;
    element.style.width = `${at.width / ratio}px`;
    element.style.height = `${at.height / ratio}px`;
  }, []);

  useEffect(() => {
    const live = new LiveSocket(frame.id, {
      picture: (picture) => {
        drawn.current = picture;
        if (canvas.current) draw(canvas.current, picture);
        place();
        setReady(true);
        setLaid(picture.header.strip ?? null);
        onHeader(picture.header);
      },
      problem: onProblem,
      connected: onConnected,
    });
    socket.current = live;
    return () => live.close();
  }, [frame.id, place, onHeader, onProblem, onConnected]);

  useEffect(() => {
    place();
    if (view) socket.current?.want({ recipe, view, show, plate, exposed, strip, held, breaking });
  }, [recipe, view, show, plate, exposed, strip, held, breaking, place]);

  const toCapture = (event: Pointed): Point => {
    const box = holder.current?.getBoundingClientRect();
    const at = view && area && placeOf(view, view, area);
    if (!box || !view || !at) return centre;
    const ratio = window.devicePixelRatio;
    const scale = view.width / view.out_width;
    return {
      x: view.left + ((event.clientX - box.left - margin) * ratio - at.left) * scale,
      y: view.top + ((event.clientY - box.top - margin) * ratio - at.top) * scale,
    };
  };

  /** The pixel of the capture under the pointer, null when it is beside the picture. */
  const pixelUnder = (event: Pointed): Point | null => {
    const at = toCapture(event);
    const pixel = { x: Math.floor(at.x), y: Math.floor(at.y) };
    const inside = pixel.x >= 0 && pixel.y >= 0 && pixel.x < frame.width && pixel.y < frame.height;
    return inside ? pixel : null;
  };

  return (
    <main
      ref={holder}
      aria-label="Picture"
      className="relative min-h-0 min-w-0 touch-none overflow-hidden"
      style={{
        background: GROUNDS[surround],
        cursor: tool
          ? tool.cursor
          : metering
            ? "crosshair"
            : zoom !== "fit"
              ? drag.current
                ? "grabbing"
                : "grab"
              : "zoom-in",
      }}
      onPointerDown={(event) => {
        if (event.button > 1) return;
        if (event.button === 1) event.preventDefault();
        event.currentTarget.setPointerCapture(event.pointerId);
        const pans = event.button === 1 || spaced.current;
        drag.current = { from: { x: event.clientX, y: event.clientY }, centre, moved: false, pans };
        if (!pans) tool?.start();
      }}
      onPointerLeave={() => onPoint(null)}
      onWheel={(event) => {
        if (zoom === "fit" || !view) return;
        const ratio = window.devicePixelRatio * (view.width / view.out_width);
        setCentre((now) => ({
          x: within(now.x + event.deltaX * ratio, view.width, frame.width),
          y: within(now.y + event.deltaY * ratio, view.height, frame.height),
        }));
      }}
      onPointerMove={(event) => {
        if (!tool || !drag.current) onPoint(pixelUnder(event));
        const now = drag.current;
        if (!now || !view) return;
        const dx = event.clientX - now.from.x;
        const dy = event.clientY - now.from.y;
        if (Math.hypot(dx, dy) > 3) now.moved = true;
        const here = { x: event.clientX, y: event.clientY };
        if (!now.pans && (tool?.area || tool?.line)) {
          setDrawn([now.from, here]);
          return;
        }
        if (!now.pans && tool?.path) {
          if (now.moved) setDrawn((drawn) => withPlace(drawn ?? [now.from], here));
          return;
        }
        if (!now.pans && tool) {
          if (now.moved) tool.move(-dy / PIXELS_A_STOP);
          return;
        }
        if (zoom === "fit" || !now.moved) return;
        const ratio = window.devicePixelRatio * (view.width / view.out_width);
        setCentre({
          x: within(now.centre.x - dx * ratio, view.width, frame.width),
          y: within(now.centre.y - dy * ratio, view.height, frame.height),
        });
      }}
      onPointerUp={(event) => {
        const now = drag.current;
        drag.current = null;
        if (now?.pans) return;
        if (tool?.area && now && view) {
          const far = Math.hypot(event.clientX - now.from.x, event.clientY - now.from.y);
          const pixels = far * window.devicePixelRatio * (view.width / view.out_width);
          const centre = pixelUnder({ clientX: now.from.x, clientY: now.from.y });
          const radius = Math.min(Math.max(Math.round(pixels), LEAST_AREA), MOST_AREA);
          setDrawn(null);
          if (centre) tool.area(centre, radius);
          return;
        }
        if (tool?.line && now) {
          setDrawn(null);
          const from = toCapture({ clientX: now.from.x, clientY: now.from.y });
          if (now.moved) tool.line(from, toCapture(event));
          return;
        }
        if (tool?.path && now) {
          const points = drawnArea ?? [now.from];
          setDrawn(null);
          if (pixelUnder({ clientX: now.from.x, clientY: now.from.y })) {
            tool.path(points.map((p) => toCapture({ clientX: p.x, clientY: p.y })));
          }
          return;
        }
        if (tool) {
          tool.end();
          return;
        }
        if (!now || now.moved) return;
        if (metering) {
          const pixel = pixelUnder(event);
          if (pixel) spots.add(pixel);
          return;
        }
        if (zoom === "fit") setCentre(toCapture(event));
        onZoom(zoom === "fit" ? "full" : "fit");
      }}
    >
      {sheet && view && area && (
        <Sheet tone={sheet} margin={margin} at={placeOf(view, view, area)} />
      )}
      <canvas ref={canvas} aria-label={`${frame.title}, ${show}`} role="img" className="absolute" />
      {view &&
        area &&
        spots.all.map((spot) => {
          const at = placeOf(view, view, area);
          const scale = view.out_width / view.width;
          const x = (at.left + (spot.x - view.left) * scale) / window.devicePixelRatio + margin;
          const y = (at.top + (spot.y - view.top) * scale) / window.devicePixelRatio + margin;
          return (
            <button
              key={spot.letter}
              type="button"
              aria-label={`Spot ${spot.letter} on the picture`}
              onPointerDown={(event) => {
                event.stopPropagation();
                spots.select(spot.letter);
              }}
              className={`absolute h-[17px] w-4 -translate-x-1/2 rounded-[2px] border text-[11.5px] leading-4 font-semibold after:absolute after:top-full after:left-1/2 after:h-[9px] after:border-l before:absolute before:top-[25px] before:left-1/2 before:size-[7px] before:-translate-x-1/2 before:rounded-full before:border ${
                spots.selected === spot.letter
                  ? "border-amber bg-[#111c] text-amber before:border-amber after:border-amber"
                  : "border-white/60 bg-[#111c] text-white before:border-white after:border-white/60"
              }`}
              style={{ left: x, top: y - 29 }}
            >
              {spot.letter}
            </button>
          );
        })}
      {overlay && view && area && (
        <Overlay view={view} area={area} margin={margin} draw={overlay} />
      )}
      {drawnArea && tool && view && (
        <Drawing
          tool={tool}
          points={drawnArea}
          from={holder.current?.getBoundingClientRect()}
          scale={view.out_width / view.width / window.devicePixelRatio}
        />
      )}
      {strip && laid && view && area && (
        <StripLabels laid={laid} margin={margin} at={placeOf(view, view, area)} onTaken={onTaken} />
      )}
      {!ready && <Opening frame={frame.id} margin={margin} />}
    </main>
  );
}

/** The middle of a view kept so that the view stays on the picture. */
const within = (middle: number, view: number, whole: number) =>
  Math.min(Math.max(middle, view / 2), whole - view / 2);

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

interface DrawingProps {
  tool: PictureTool;
  /** In the window. */
  points: Point[];
  from: DOMRect | undefined;
  /** CSS pixels a pixel of the capture. */
  scale: number;
}

/** What a tool is drawing on the picture just now. */
function Drawing({ tool, points, from, scale }: DrawingProps) {
  const own = points.map((p) => ({ x: p.x - (from?.left ?? 0), y: p.y - (from?.top ?? 0) }));
  const [first, last] = [own[0], own.at(-1)];
  if (!first || !last) return null;
  const line = own.map((p) => `${p.x},${p.y}`).join(" ");
  const amber = { fill: "none", stroke: "#e8a24a", strokeWidth: 1.5 };
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
      {tool.line && <polyline points={line} {...amber} />}
      {tool.area && (
        <circle
          cx={first.x}
          cy={first.y}
          r={Math.hypot(last.x - first.x, last.y - first.y)}
          {...amber}
          fill="#fff2"
        />
      )}
      {tool.path && tool.width === null && (
        <polygon points={line} fill="#fff1" stroke="#fff" strokeDasharray="5 3" />
      )}
      {tool.path && tool.width !== null && (
        <polyline
          points={line}
          {...amber}
          strokeOpacity={0.35}
          strokeWidth={Math.max(2, (tool.width ?? 1) * scale)}
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      )}
    </svg>
  );
}

interface SheetProps {
  tone: string;
  margin: number;
  at: { left: number; top: number; width: number; height: number };
}

/** The sheet of paper round a print, with the margin an easel leaves. */
function Sheet({ tone, margin, at }: SheetProps) {
  const ratio = window.devicePixelRatio;
  const edge = (EASEL * Math.max(at.width, at.height)) / ratio;
  return (
    <div
      aria-hidden="true"
      className="absolute shadow-[0_1px_6px_#0003]"
      style={{
        background: tone,
        left: margin + at.left / ratio - edge,
        top: margin + at.top / ratio - edge,
        width: at.width / ratio + 2 * edge,
        height: at.height / ratio + 2 * edge,
      }}
    />
  );
}

interface OverlayProps {
  view: LiveView;
  area: Size;
  margin: number;
  draw: (at: Placed) => ReactNode;
}

function Overlay({ view, area, margin, draw: lay }: OverlayProps) {
  const ratio = window.devicePixelRatio;
  const at = placeOf(view, view, area);
  const scale = view.out_width / view.width / ratio;
  return lay({
    left: margin + at.left / ratio - view.left * scale,
    top: margin + at.top / ratio - view.top * scale,
    scale,
  });
}

interface StripLabelsProps {
  laid: StripFacts;
  margin: number;
  at: { left: number; top: number; width: number; height: number };
  onTaken: (laid: StripFacts, value: number) => void;
}

/** The strips as buttons with their seconds or grades: press one, or drag to another for what lies between. */
function StripLabels({ laid, margin, at, onTaken }: StripLabelsProps) {
  const from = useRef<number | null>(null);
  const upright = laid.lie === "upright";
  const ratio = window.devicePixelRatio;
  const take = (index: number) => {
    const first = laid.values[from.current ?? index];
    const last = laid.values[index];
    from.current = null;
    if (first === undefined || last === undefined) return;
    onTaken(laid, laid.over === "time" ? Math.sqrt(first * last) : (first + last) / 2);
  };
  const say = (value: number) =>
    laid.over === "time" ? `${seconds(value)} s` : `grade ${gradeName(value)}`;
  return (
    <div
      role="group"
      aria-label="Test strip"
      className={`absolute flex ${upright ? "flex-row" : "flex-col"}`}
      style={{
        left: margin + at.left / ratio,
        top: margin + at.top / ratio,
        width: at.width / ratio,
        height: at.height / ratio,
      }}
    >
      {laid.values.map((value, index) => (
        <button
          // by place: at the limits of the timer two strips may share a time
          key={index}
          type="button"
          aria-label={`Take ${say(value)}`}
          title="Take this one; drag to another strip for what lies between"
          onPointerDown={(event) => {
            event.stopPropagation();
            from.current = index;
          }}
          onPointerUp={(event) => {
            event.stopPropagation();
            take(index);
          }}
          onClick={(event) => event.detail === 0 && take(index)} // by keyboard
          className={`group relative min-h-0 min-w-0 flex-1 border-black/40 hover:bg-white/5 ${
            index === 0 ? "" : upright ? "border-l" : "border-t"
          }`}
        >
          <span
            className={`absolute rounded-[2px] bg-[#111c] px-1.5 text-[11.5px] leading-[17px] font-semibold text-white group-hover:text-amber ${
              upright ? "bottom-2 left-1/2 -translate-x-1/2" : "top-1/2 left-2 -translate-y-1/2"
            }`}
          >
            {say(value)}
          </span>
        </button>
      ))}
    </div>
  );
}

function draw(canvas: HTMLCanvasElement, { header, pixels }: LivePicture) {
  const { width, height, channels } = header;
  if (canvas.width !== width || canvas.height !== height) {
    canvas.width = width;
    canvas.height = height;
  }
  const context = canvas.getContext("2d", { alpha: false });
  if (!context) return;
  const image = context.createImageData(width, height);
  const out = new Uint32Array(image.data.buffer);
  if (channels === 1) {
    for (let i = 0; i < out.length; i++) out[i] = 0xff000000 | ((pixels[i] ?? 0) * 0x010101);
  } else {
    for (let i = 0, j = 0; i < out.length; i++, j += 3) {
      out[i] =
        0xff000000 | ((pixels[j + 2] ?? 0) << 16) | ((pixels[j + 1] ?? 0) << 8) | (pixels[j] ?? 0);
    }
  }
  context.putImageData(image, 0, 0);
}
