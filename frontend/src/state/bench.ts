/** The Bench's state: one store for what is shown, the tool in hand and the print. */

import { createContext, useContext } from "react";
import { createStore, type StoreApi, useStore } from "zustand";
import { useShallow } from "zustand/react/shallow";
import type {
  Facts,
  Frame,
  HeldZones,
  LiveFrame,
  Print,
  Problem,
  Reading,
  Recipe,
  RecipeSchema,
  Shape,
  Shelf,
  Spot,
  StationName,
  TestStrip,
  Through,
} from "../api/client";
import { isInside, type PicturePlace, type Point, type Size, type Zoom } from "../bench/places";
import { FIRST_WALL, type WallSettings } from "../bench/wall";
import { type Mapping, type MapTool, mappingFor } from "./mapping";
import { type Change, Printing } from "./printing";

export type Surround = "dark" | "grey" | "white";
export type Side = "scene" | "negative" | "print";
export type Circle = "small" | "middle" | "large";
export type Handles = "zone_lift" | "zone_contrast";
export type Guide = "none" | "thirds" | "diagonals" | "middle";
export type MendKind = "mend" | "fill" | "protect";

/** What is shown: closed, so that nothing can be shown in two ways at once. */
export type Shown =
  | { kind: "print" }
  /** As it is seen on its paper, on a white wall. */
  | { kind: "proof" }
  /** As a press or a printer gives it back, through a profile of the shelf. */
  | { kind: "press"; through: Through }
  /** In eleven flat tones. */
  | { kind: "plate" }
  /** Some zones stand while the rest sinks back. */
  | { kind: "held"; zones: HeldZones }
  | { kind: "strip"; strip: TestStrip }
  /** As far as the paper has been exposed, seconds; or the negative as it is projected. */
  | { kind: "timed"; exposed: number | "projected" };

/** What is looked at instead while something is held; "base" is the print without its printing map,
 * "alone" with the chosen pass only, "areas" with all areas shown, "other" what it is compared with. */
export type Peek =
  | "colour"
  | "clipped"
  | "breaking"
  | "unsure"
  | "piled"
  | "base"
  | "alone"
  | "areas"
  | "heat"
  | "edges"
  | "other";

/** What the print is compared with. */
export type Compared =
  | { kind: "colour" }
  | { kind: "plain" }
  /** A state of this print or of another one of the frame. */
  | { kind: "state"; print: number; state: number; name: string };

/** How two are compared: behind a line that is moved, beside each other, or with two more. */
export type Comparing = "wipe" | "side" | "four";

/** The tool in hand. */
export type Tool =
  | { kind: "look" }
  | { kind: "meter" }
  /** Dragging pulls at the hue under the pointer. */
  | { kind: "hues" }
  /** A click picks a neutral. */
  | { kind: "neutral" }
  | { kind: "lines"; many: 1 | 2; first: [PicturePlace, PicturePlace] | null }
  /** Width over height that is kept; null is free. */
  | { kind: "crop" }
  /** A click chooses the patch that a test strip prints at every time. */
  | { kind: "patch"; strip: TestStrip }
  | { kind: "mend"; as: MendKind }
  | MapTool;

/** Which controls of each station are out. */
export interface Parts {
  capture: "light" | "frame" | "spots" | "lens";
  light: "glass" | "hues" | "air";
  film: "stock" | "grain";
  development: "negative" | "local" | "zones";
  enlarger: "exposure" | "map";
  paper: "paper" | "points" | "values";
  toner: "baths" | "stops" | "colour";
  mount: "paper" | "mat" | "signature" | "sharpness";
}

/** A development that brings a second spot to a zone while the first keeps its place. */
export interface Proposal {
  /** Stops of placement under which the spots were read. */
  placement: number;
  held: string;
  spot: string;
  target: number;
  n: number;
  landsOn: number;
  reached: boolean;
  /** Stops of speed it brings or costs. */
  speed: number;
}

export interface Bench {
  readonly frame: Frame;
  readonly shelf: Shelf;
  readonly schema: RecipeSchema;
  print: Print;
  /** As it is shown; ahead of the print while a slider moves. */
  recipe: Recipe;
  header: LiveFrame | null;
  /** The geometry as the server last said. */
  shape: Shape;
  facts: Facts | null;
  reading: Reading | null;
  connected: boolean;
  station: StationName;
  folded: boolean;
  /** The tray is out. */
  tray: boolean;
  parts: Parts;
  handles: Handles;
  shown: Shown;
  peek: Peek | null;
  tool: Tool;
  zoom: Zoom;
  surround: Surround;
  side: Side;
  circle: Circle;
  /** Radius of the next mend, in pixels of the capture. */
  mendRadius: number;
  /** The pixel under the pointer, and what lies there. */
  point: PicturePlace | null;
  /** A stroke is being drawn that shows as it goes. */
  drawing: boolean;
  spot: Spot | null;
  /** The letter of the chosen spot. */
  selected: string | null;
  proposal: Proposal | null;
  /** Number of the chosen pass of the printing map. */
  pass: number | null;
  /** Number of the pass whose area is shown while it is pointed at. */
  hatched: number | null;
  /** Seconds that something is being held by hand. */
  holding: number | null;
  mapping: Mapping;
  dialog:
    | "deliver"
    | "ring"
    | "screen"
    | "notes"
    | "carry"
    | "keep"
    | "recipes"
    | "apply"
    | "keys"
    | "apart"
    | "starts"
    | "find"
    | "match"
    | null;
  /** What was found, to be lit: a control by station and field, or a starting print. */
  lit: string | null;
  /** What is laid out along the picture. */
  along: "starting" | null;
  /** The picture fills the window. */
  alone: boolean;
  /** The list of the print's states is out. */
  history: boolean;
  other: Compared;
  comparing: Comparing | null;
  /** The middle of the view, where it is not the whole picture. */
  centre: Point;
  /** What a proof hangs on, and in what light. */
  wall: WallSettings;
  /** A recipe that is shown in place of the print's while it is pointed at. */
  trial: Recipe | null;

  cropping: Cropping;

  readonly set: (values: Partial<Bench>) => void;
  readonly change: Change;
  /** Another recipe for the print; see `Printing.put`. */
  readonly put: Printing["put"];
  readonly go: (state: number) => void;
  readonly reload: () => void;
  readonly undo: () => void;
  readonly redo: () => void;
  readonly kept: () => Promise<void>;
  readonly tell: (error: unknown) => void;
  readonly refused: (problem: Problem) => void;
  readonly openStation: (station: StationName) => void;
  readonly openPart: (parts: Partial<Parts>) => void;
  readonly take: (tool: Tool) => void;
  /** Leaves whatever is being done. */
  readonly leave: () => void;
  readonly receive: (header: LiveFrame) => void;
  /** Takes in a reading that follows its picture. */
  readonly read: (reading: Reading) => void;
}

/** How crops are drawn; it stays while other things are done. */
export interface Cropping {
  /** Name of the chosen ratio, and what was typed for an own one. */
  name: string;
  own: string;
  /** Width over height that is kept; null is free. */
  ratio: number | null;
  guide: Guide;
  /** The crop as it was drawn by hand, and what a ratio made of it: the next one begins there too,
   * so that trying ratios does not shrink it. */
  from: { drawn: CropOf; made: CropOf } | null;
}
type CropOf = readonly number[];

/** Where a tool belongs: it is put away elsewhere. */
const HOME: Partial<Record<Tool["kind"], [keyof Parts, string]>> = {
  hues: ["light", "hues"],
  neutral: ["capture", "light"],
  lines: ["capture", "frame"],
  crop: ["capture", "frame"],
  mend: ["capture", "spots"],
  shape: ["enlarger", "map"],
  strokes: ["enlarger", "map"],
  hold: ["enlarger", "map"],
};

/** The tool that is in hand where nothing else is. */
const resting = (station: StationName, parts: Parts): Tool =>
  station === "capture" && parts.capture === "spots"
    ? { kind: "mend", as: "mend" }
    : { kind: "look" };

function keptTool(tool: Tool, station: StationName, parts: Parts): Tool {
  const home = HOME[tool.kind];
  if (tool.kind === "patch" && stripStation(tool.strip) === station) return tool;
  const fits = home ? home[0] === station && parts[home[0]] === home[1] : tool.kind === "meter";
  return fits ? tool : resting(station, parts);
}

const MOST_MEND = 300;

export function benchStore(
  opened: Print,
  given: Pick<Bench, "frame" | "shelf" | "schema" | "tell">,
): StoreApi<Bench> & { printing: Printing } {
  const store = createStore<Bench>()((set, get) => {
    const side = Math.max(given.frame.width, given.frame.height);
    return {
      ...given,
      print: opened,
      recipe: opened.recipe,
      header: null,
      shape: plainShape(given.frame),
      facts: null,
      reading: null,
      connected: true,
      lit: null,
      cropping: { name: "free", own: "7 : 5", ratio: null, guide: "thirds", from: null },
      station: "light",
      folded: false,
      tray: true,
      parts: {
        capture: "light",
        light: "glass",
        film: "stock",
        development: "negative",
        enlarger: "exposure",
        paper: "paper",
        toner: "baths",
        mount: "paper",
      },
      handles: "zone_lift",
      shown: { kind: "print" },
      peek: null,
      tool: { kind: "look" },
      zoom: "fit",
      surround: "grey",
      side: "scene",
      circle: "small",
      mendRadius: Math.min(Math.max(6, Math.round(0.006 * side)), MOST_MEND),
      point: null,
      drawing: false,
      spot: null,
      selected: null,
      proposal: null,
      pass: null,
      hatched: null,
      holding: null,
      mapping: mappingFor(given.frame),
      dialog: null,
      along: null,
      alone: false,
      history: false,
      other: { kind: "plain" },
      comparing: null,
      centre: { x: given.frame.width / 2, y: given.frame.height / 2 },
      wall: FIRST_WALL,
      trial: null,
      set: (values) => set(values),
      change: (...what) => printing.change(...what),
      put: (...what) => printing.put(...what),
      go: (state) => printing.go(state),
      reload: () => printing.reload(),
      undo: () => printing.undo(),
      redo: () => printing.redo(),
      kept: () => printing.kept(),
      refused: (problem) => printing.refused(problem),
      openStation: (station) => {
        const { tool, parts, shown } = get();
        // a strip lies only where its kind is chosen
        const lies = shown.kind !== "strip" || stripStation(shown.strip) === station;
        set({
          station,
          tray: true,
          tool: keptTool(tool, station, parts),
          shown: lies ? shown : { kind: "print" },
        });
      },
      openPart: (next) => {
        const { tool, station } = get();
        const parts = { ...get().parts, ...next };
        set({ parts, tool: keptTool(tool, station, parts) });
      },
      take: (tool) => {
        const { station, parts } = get();
        set({ tool: tool.kind === "look" ? resting(station, parts) : tool });
      },
      leave: () => {
        const { station, parts, shown, along, alone, history, comparing } = get();
        if (along || alone || history || comparing) {
          set({ along: null, alone: false, history: false, comparing: null, trial: null });
          return;
        }
        const stays = shown.kind === "print" || shown.kind === "proof" || shown.kind === "timed";
        set({
          tool: resting(station, parts),
          shown: stays ? shown : { kind: "print" },
          selected: null,
          proposal: null,
        });
      },
      receive: (header) =>
        set(({ reading }) => ({
          header,
          shape: header.shape,
          facts: header.facts,
          reading: header.reading ?? reading,
        })),
      read: (reading) => set({ reading }),
    };
  });
  const printing: Printing = new Printing({
    get: store.getState,
    set: store.setState,
    tell: given.tell,
  });
  return Object.assign(store, { printing });
}

export const stripStation = (strip: TestStrip): StationName =>
  strip.over === "grade" ? "paper" : "enlarger";

/** Whether the print is shown with all that it is mounted in: as a proof and at the Mount station,
 * while nothing else is looked at or done. */
export const isMounted = ({
  station,
  shown,
  peek,
  tool,
  comparing,
  along,
}: Pick<Bench, "station" | "shown" | "peek" | "tool" | "comparing" | "along">): boolean =>
  (shown.kind === "proof" ||
    shown.kind === "press" ||
    (station === "mount" && shown.kind === "print")) &&
  (peek === null || (peek === "edges" && shown.kind === "print")) &&
  tool.kind === "look" &&
  comparing === null &&
  along === null;

/** The finished picture's size, which follows from its geometry. */
export const sizeOf = ({ header, frame }: Pick<Bench, "header" | "frame">): Size =>
  header ? { width: header.picture_width, height: header.picture_height } : frame;

/** The size of what is shown: the picture, or all that it is mounted in. */
export function shownSize(bench: Bench): Size {
  const [width, height] = bench.header?.mounted.full ?? [];
  return width && height && isMounted(bench) ? { width, height } : sizeOf(bench);
}

/** The geometry of a capture of which nothing is said yet. */
const plainShape = ({ width, height }: Size): Shape => ({
  width,
  height,
  quarter_turns: 0,
  flip: false,
  straighten: 0,
  keystone_vertical: 0,
  keystone_horizontal: 0,
  frame: [width, height],
  window: [0, 0, width, height],
  radius: 1.5,
  recorded: [],
  ideal: [],
});

/** The pixel under the pointer while it is on the picture, which may have become smaller under it. */
export const pointOn = (bench: Bench): PicturePlace | null =>
  bench.point && !isMounted(bench) && isInside(bench.point as Point, sizeOf(bench))
    ? bench.point
    : null;

export const BenchContext = createContext<StoreApi<Bench> | null>(null);

export function useBenchStore(): StoreApi<Bench> {
  const store = useContext(BenchContext);
  if (!store) throw new Error("There is no Bench here.");
  return store;
}

/** What a component uses of the Bench; it draws anew when that changes. */
export function useBench<T>(select: (bench: Bench) => T): T {
  return useStore(useBenchStore(), useShallow(select));
}

/** What the controls of a station use. */
export const useTray = () =>
  useBench(({ frame, recipe, schema, shelf, facts, reading, parts, change, openPart }) => ({
    frame,
    recipe,
    schema,
    shelf,
    facts,
    reading,
    parts,
    change,
    openPart,
  }));
