/** What dragging or clicking on the picture does with the tool in hand. */

import { useRef } from "react";
import { api, fieldOfKind, type HueBand, within } from "../api/client";
import { Notable } from "../parts/Notice";
import { sizeOf, type Tool, useBench, useBenchStore } from "../state/bench";
import { signed } from "../wording/format";
import { bandNames, hueName } from "./bands";
import { useMapGesture } from "./map/useMapGesture";
import { middleOf, type PicturePlace } from "./places";
import { useMends } from "./useMends";

/** Of a band's stops, that a place gets at least where they are given to it in full. */
const LEAST_SHARE = 0.25;
/** How coloured a place must be to be pulled at. */
const LEAST_COLOURED = 0.1;

/** What a tool does: one of these, closed. */
export type Gesture =
  /** Dragged up (positive) or down, in stops. */
  | { kind: "pull"; start: () => void; move: (stops: number) => void; end: () => void }
  /** An area drawn from its middle; radius in pixels of the picture. */
  | { kind: "area"; most?: number; done: (centre: PicturePlace, radius: number) => void }
  | { kind: "line"; done: (from: PicturePlace, to: PicturePlace) => void }
  /** A stroke or a click; how wide it is drawn, in pixels, null is an outline that closes. One that
   * shows itself as it is drawn says how. */
  | {
      kind: "path";
      width: number | null;
      moving?: (points: PicturePlace[], pressed: Pressed) => void;
      done: (points: PicturePlace[], pressed: Pressed) => void;
      cancel?: () => void;
    }
  /** Held on a place for as long as it is pressed. */
  | {
      kind: "hold";
      start: (place: PicturePlace) => void;
      move: (place: PicturePlace) => void;
      end: () => void;
      cancel: () => void;
    }
  | { kind: "click"; done: (pixel: PicturePlace) => void };

/** How the pointer was pressed: whether with Shift, and how hard at each place. */
export interface Pressed {
  shift: boolean;
  pressures: number[];
}

export const CURSORS: Record<Gesture["kind"], string> = {
  pull: "ns-resize",
  area: "crosshair",
  line: "crosshair",
  path: "crosshair",
  hold: "none",
  click: "crosshair",
};

/** The gesture of the tool in hand; null where dragging looks over the picture. */
export function useGesture(onMeter: (pixel: PicturePlace) => void): Gesture | null {
  const tool = useBench((bench) => (bench.peek === "colour" ? null : bench.tool));
  const mendRadius = useBench((bench) => bench.mendRadius);
  const pull = useHuePull();
  const pick = useNeutral();
  const level = useLevel();
  const choose = usePatch();
  const mapped = useMapGesture();
  const { draw } = useMends();
  const kind: Tool["kind"] | undefined = tool?.kind;
  switch (kind) {
    case "meter":
      return { kind: "click", done: onMeter };
    case "hues":
      return pull;
    case "neutral":
      return { kind: "area", done: pick };
    case "lines":
      return { kind: "line", done: level };
    case "shape":
    case "strokes":
    case "hold":
      return mapped;
    case "patch":
      return { kind: "click", done: choose };
    case "mend": {
      const as = tool?.kind === "mend" ? tool.as : "mend";
      const width = as === "protect" ? null : 2 * mendRadius;
      return { kind: "path", width, done: draw };
    }
    default:
      return null;
  }
}

/** Lightens or darkens the hue under the pointer: the band that covers it moves, or one is made. */
function useHuePull(): Gesture {
  const store = useBenchStore();
  const held = useRef<{ bands: HueBand[]; index: number; share: number; name: string } | null>(
    null,
  );
  const given = useRef(0);
  const moved = (stops: number) => {
    const now = held.current;
    if (!now) return null;
    const field = fieldOfKind(store.getState().schema, "HueBand", "stops");
    return now.bands.map((band, i) => {
      if (i !== now.index) return band;
      // the place itself is to move as it is pulled
      const next = band.stops + stops / Math.max(now.share, LEAST_SHARE);
      return { ...band, stops: within(Math.round(next * 24) / 24, field) };
    });
  };
  return {
    kind: "pull",
    start: () => {
      const { spot, recipe, tell } = store.getState();
      held.current = null;
      given.current = 0;
      if (!spot) return;
      const bands = recipe.light.hue_bands;
      if (spot.coloured < LEAST_COLOURED)
        tell(new Notable("Nothing to pull at", "It is grey there, and greys have no hue."));
      else if (spot.band !== null)
        held.current = {
          bands,
          index: spot.band,
          share: spot.band_share,
          name: bandNames(bands)[spot.band] ?? "",
        };
      else if (spot.new_band)
        held.current = {
          bands: [...bands, spot.new_band],
          index: bands.length,
          share: spot.coloured,
          name: hueName(spot.new_band.centre),
        };
      else
        tell(
          new Notable(
            "No room for another band",
            `There are ${bands.length} hue bands. Take one away, or widen one over this hue.`,
          ),
        );
    },
    move: (stops) => {
      given.current = stops;
      const bands = moved(stops);
      if (bands) store.getState().change("light", { hue_bands: bands });
    },
    end: () => {
      const bands = given.current === 0 ? null : moved(given.current);
      const now = held.current;
      held.current = null;
      if (!bands || !now) return;
      const by = (bands[now.index]?.stops ?? 0) - (now.bands[now.index]?.stops ?? 0);
      store
        .getState()
        .change("light", { hue_bands: bands }, `${now.name} pulled ${signed(by)} stops`);
    },
  };
}

/** Lays a strip of one patch about the pixel that was clicked. */
function usePatch() {
  const store = useBenchStore();
  return (pixel: PicturePlace) => {
    const bench = store.getState();
    const { tool, take } = bench;
    if (tool.kind !== "patch") return;
    take({ kind: "look" });
    const { width, height } = sizeOf(bench);
    const { x, y } = middleOf(pixel);
    const strip = { ...tool.strip, patch: [x / width, y / height] as [number, number] };
    store.setState({ shown: { kind: "strip", strip } });
  };
}

/** Picks a neutral where the picture is grey. */
function useNeutral() {
  const store = useBenchStore();
  return (centre: PicturePlace, radius: number) => {
    const { frame, recipe, change, take, tell } = store.getState();
    take({ kind: "look" });
    const field = recipe.capture.infrared ? "neutral" : "balance";
    api
      .spot(frame.id, centre, recipe, radius)
      .then((found) => change("capture", { [field]: found.colour }, "Neutral picked"))
      .catch(tell);
  };
}

/** Levels the picture by one drawn line or two. */
function useLevel() {
  const store = useBenchStore();
  return (from: PicturePlace, to: PicturePlace) => {
    const { frame, recipe, tool, change, take, tell } = store.getState();
    if (tool.kind !== "lines") return;
    if (tool.many === 2 && !tool.first) {
      take({ ...tool, first: [from, to] });
      return;
    }
    const drawn = [...(tool.first ? [tool.first] : []), [from, to] as const];
    take({ kind: "look" });
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
  };
}
