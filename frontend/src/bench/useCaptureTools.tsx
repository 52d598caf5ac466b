import { type ReactNode, useEffect, useMemo, useState } from "react";
import { api, type Frame, type LiveFrame, type Recipe, type Schemas } from "../api/client";
import type { Change } from "../state/usePrint";
import { signed } from "../wording/format";
import { type Crop, CropOverlay, type Guide, withRatio } from "./CropOverlay";
import { MendOverlay } from "./MendOverlay";
import type { PictureTool, Placed } from "./PictureView";
import type { Point, Size } from "./views";

export type CapturePart = "light" | "frame" | "spots" | "lens";
export type MendKind = "mend" | "fill" | "protect";

export interface CropChoice {
  /** Width over height that is kept; null is free. */
  ratio: number | null;
  guide: Guide;
}

/** Probable dust, and how sure one wants to be of it. */
export interface DustChoice {
  found: Schemas["Dust"];
  least: number;
}

/** What the Capture station does on the picture itself. */
export interface CaptureTools {
  /** Whether a click on the picture picks a neutral. */
  picking: boolean;
  onPicking: (on: boolean) => void;
  /** How many lines are to be drawn that level the picture. */
  lines: 0 | 1 | 2;
  onLines: (many: 0 | 1 | 2) => void;
  /** Of two lines, whether the first is drawn. */
  firstDrawn: boolean;
  /** While the picture is cropped: the choice, and the frame's size. */
  cropping: (CropChoice & { size: Size }) | null;
  onCropping: (choice: CropChoice | null) => void;
  kind: MendKind;
  onKind: (kind: MendKind) => void;
  /** Radius of the next mend, in pixels of the capture. */
  radius: number;
  onRadius: (radius: number) => void;
  dust: DustChoice | null;
  onLeast: (least: number) => void;
  seeking: boolean;
  /** Looks for dust; drops what was found. */
  seekDust: () => void;
  dropDust: () => void;
  /** Mends all specks that are sure enough. */
  mendDust: () => void;
  /** Leaves whatever is being done. */
  leave: () => void;
  /** Where a place of the finished picture lies on the capture. */
  toCapture: (point: Point) => Promise<Point>;
  /** The tool on the picture, and what lies over it. */
  tool: PictureTool | null;
  overlay: ((at: Placed) => ReactNode) | null;
  /** The recipe that is shown: without its crop while it is chosen. */
  shown: Recipe;
}

const IDLE: Pick<PictureTool, "start" | "move" | "end"> = {
  start: () => undefined,
  move: () => undefined,
  end: () => undefined,
};
const PROBABLE = 0.3;
const MOST_PLACES = 120;

interface Given {
  frame: Frame;
  recipe: Recipe;
  header: LiveFrame | null;
  /** The part of the station that is out; null when another station is. */
  part: CapturePart | null;
  /** The capture is looked at in colour just now. */
  hidden: boolean;
  /** The finished picture's size. */
  size: Size;
  change: Change;
  tell: (error: unknown) => void;
}

export function useCaptureTools(given: Given): CaptureTools {
  const { frame, recipe, header, part, hidden, size, change, tell } = given;
  const { capture } = recipe;
  const [picking, setPicking] = useState(false);
  const [lines, setLines] = useState<0 | 1 | 2>(0);
  const [first, setFirst] = useState<[Point, Point] | null>(null);
  const [choice, setChoice] = useState<CropChoice | null>(null);
  const [kind, setKind] = useState<MendKind>("mend");
  const [radius, setRadius] = useState(() =>
    Math.max(6, Math.round(0.006 * Math.max(frame.width, frame.height))),
  );
  const [dust, setDust] = useState<DustChoice | null>(null);
  const [seeking, setSeeking] = useState(false);
  const mends = capture.mends ?? [];
  const protections = capture.protected ?? [];

  // what is found holds for the shape the picture has now
  useEffect(() => {
    if (part !== "spots") setDust(null);
    if (part !== "frame") setLines(0);
    if (part !== "light") setPicking(false);
  }, [part]);

  const places = (points: Point[]) =>
    api
      .places(
        frame.id,
        recipe,
        points.map((p): [number, number] => [p.x, p.y]),
      )
      .then((found) => found.places as [number, number][]);
  const toCapture = async (point: Point): Promise<Point> => {
    const [found] = await places([{ x: point.x + 0.5, y: point.y + 0.5 }]);
    return { x: found?.[0] ?? 0, y: found?.[1] ?? 0 };
  };

  const picker: PictureTool = {
    ...IDLE,
    cursor: "crosshair",
    area: (centre, reach) => {
      setPicking(false);
      const field = capture.infrared ? "neutral" : "balance";
      api
        .spot(frame.id, centre.x, centre.y, recipe, reach)
        .then((found) => change("capture", { [field]: found.colour }, "Neutral picked"))
        .catch(tell);
    },
  };

  const leveller: PictureTool = {
    ...IDLE,
    cursor: "crosshair",
    line: (from, to) => {
      if (lines === 2 && !first) {
        setFirst([from, to]);
        return;
      }
      const drawn = [...(first ? [first] : []), [from, to] as const];
      setLines(0);
      setFirst(null);
      api
        .level(
          frame.id,
          recipe,
          drawn.map(([a, b]) => [
            [a.x, a.y],
            [b.x, b.y],
          ]),
        )
        .then((found) => {
          const values = Object.fromEntries(
            Object.entries(found).filter(([, value]) => value !== null),
          );
          const turned = `Straightened ${signed(found.straighten ?? 0, 2)}°`;
          change("capture", values, drawn.length > 1 ? "Made parallel by two lines" : turned);
        })
        .catch(tell);
    },
  };

  const mend = (points: Point[]) => {
    const step = Math.max(1, Math.ceil(points.length / MOST_PLACES));
    const kept = points.filter((_, i) => i % step === 0 || i === points.length - 1);
    places(kept)
      .then((found) => {
        if (kind === "protect") {
          if (found.length < 3) return;
          const next = [...protections, { points: found }];
          change("capture", { protected: next }, "Outline protected");
          return;
        }
        const [[x, y] = [0, 0], ...path] = found;
        const made = { x, y, radius, path, fill: kind === "fill", from_x: null, from_y: null };
        const label =
          kind === "fill" ? "Thing taken out" : path.length ? "Stroke mended" : "Spot mended";
        change("capture", { mends: [...mends, made] }, label);
      })
      .catch(tell);
  };
  const mender: PictureTool = {
    ...IDLE,
    cursor: "crosshair",
    path: mend,
    width: kind === "protect" ? null : 2 * radius,
  };

  const accept = (specks: Schemas["FoundSpeck"][]) => {
    const made = specks.map(({ x, y, radius: reach }) => ({
      x,
      y,
      radius: Math.min(reach, 400),
      path: [],
      fill: false,
      from_x: null,
      from_y: null,
    }));
    const label = specks.length > 1 ? `${specks.length} specks mended` : "Speck mended";
    change("capture", { mends: [...mends, ...made] }, label);
    setDust((now) =>
      now
        ? {
            ...now,
            found: { ...now.found, specks: now.found.specks.filter((s) => !specks.includes(s)) },
          }
        : null,
    );
  };
  const sure = dust?.found.specks.filter((s) => s.likely >= dust.least) ?? [];

  const cropping = choice && part === "frame" ? choice : null;
  const crop: Crop = (capture.crop as Crop | null | undefined) ?? [0, 0, 1, 1];
  const uncropped = useMemo(
    () => ({ ...recipe, capture: { ...recipe.capture, crop: null } }),
    [recipe],
  );

  const overlay = (at: Placed): ReactNode => {
    if (cropping) {
      return (
        <CropOverlay
          at={at}
          frame={size}
          crop={crop}
          ratio={cropping.ratio}
          guide={cropping.guide}
          onCrop={(next, done) => change("capture", { crop: next }, done ? "Cropped" : undefined)}
        />
      );
    }
    if (part === "spots" && header) {
      const another = (index: number, source: Point) =>
        places([source])
          .then(([to]) => {
            const next = mends.map((m, i) =>
              i === index ? { ...m, from_x: to?.[0] ?? 0, from_y: to?.[1] ?? 0 } : m,
            );
            change("capture", { mends: next }, "Another source");
          })
          .catch(tell);
      return (
        <MendOverlay
          at={at}
          mends={header.mends}
          outlines={header.protected}
          specks={sure}
          onSource={another}
          onRemove={(index) =>
            change("capture", { mends: mends.filter((_, i) => i !== index) }, "Mend taken away")
          }
          onFree={(index) =>
            change(
              "capture",
              { protected: protections.filter((_, i) => i !== index) },
              "Protection taken away",
            )
          }
          onAccept={(speck) => accept([speck])}
        />
      );
    }
    if (first) {
      return <DrawnLine at={at} from={first[0]} to={first[1]} />;
    }
    return null;
  };

  const tool = lines ? leveller : picking ? picker : part === "spots" ? mender : null;

  return {
    picking,
    onPicking: setPicking,
    lines,
    onLines: (many) => {
      setFirst(null);
      setLines(many);
    },
    firstDrawn: first !== null,
    cropping: cropping ? { ...cropping, size } : null,
    onCropping: (next) => {
      setChoice(next);
      if (next?.ratio) {
        change("capture", { crop: withRatio(crop, next.ratio, size) }, "Cropped");
      }
    },
    kind,
    onKind: setKind,
    radius,
    onRadius: setRadius,
    dust,
    onLeast: (least) => setDust((now) => (now ? { ...now, least } : null)),
    seeking,
    seekDust: () => {
      setSeeking(true);
      api
        .findDust(frame.id, recipe)
        .then((found) => setDust((now) => ({ found, least: now?.least ?? PROBABLE })))
        .catch(tell)
        .finally(() => setSeeking(false));
    },
    dropDust: () => setDust(null),
    mendDust: () => accept(sure),
    leave: () => {
      setChoice(null);
      setLines(0);
      setFirst(null);
      setPicking(false);
      setDust(null);
    },
    toCapture,
    tool: hidden ? null : tool,
    overlay: hidden ? null : overlay,
    shown: cropping ? uncropped : recipe,
  };
}

/** The first of two lines, while the second is drawn. */
function DrawnLine({ at, from, to }: { at: Placed; from: Point; to: Point }) {
  const place = (p: Point) => ({ x: at.left + p.x * at.scale, y: at.top + p.y * at.scale });
  const [a, b] = [place(from), place(to)];
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden="true">
      <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} stroke="#e8a24a" strokeWidth={1.5} />
    </svg>
  );
}
