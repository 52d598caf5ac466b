import type { ReactNode } from "react";
import type {
  Facts,
  Frame,
  Reading,
  Recipe,
  RecipeSchema,
  Shelf,
  StripFacts,
  TestStrip,
} from "../../api/client";
import { fieldOf } from "../../api/client";
import type { Change, StationName } from "../../state/usePrint";
import { ChannelPlot, GrainPlot, LightAndGlassPlot } from "../plots";
import { STATIONS, type Station } from "../stations";
import type { CapturePart, CaptureTools } from "../useCaptureTools";
import { CaptureControls } from "./capture";
import { DevelopmentControls } from "./development";
import { EnlargerControls } from "./enlarger";
import { FilmControls } from "./film";
import { LightControls } from "./light";
import { PaperControls } from "./paper";

/** Which controls of a station are out. */
export interface Parts {
  capture: CapturePart;
  light: "glass" | "hues" | "air";
  film: "stock" | "grain";
  development: "negative" | "local" | "zones";
  paper: "paper" | "points" | "values";
}

export type Handles = "zone_lift" | "zone_contrast";

export interface TrayProps {
  station: StationName;
  frame: Frame;
  recipe: Recipe;
  schema: RecipeSchema;
  shelf: Shelf;
  facts: Facts | null;
  reading: Reading | null;
  change: Change;
  /** Whether dragging on the picture pulls at hues. */
  pulling: boolean;
  onPulling: (on: boolean) => void;
  /** What the Capture station does on the picture. */
  tools: CaptureTools;
  /** The test strip that is laid over the picture, and how it came to lie. */
  strip: TestStrip | null;
  laid: StripFacts | null;
  onStrip: (strip: TestStrip | null) => void;
  part: Parts;
  onPart: (part: Partial<Parts>) => void;
  /** What the handles over the zone staff move. */
  handles: Handles;
  onHandles: (handles: Handles) => void;
  /** Only what breaks up stands in the picture. */
  onBreaking: (on: boolean) => void;
  onRing: () => void;
  /** What is full black or bare paper stands in the picture. */
  onClipped: (on: boolean) => void;
  onTimer: () => void;
}

/** The controls of the chosen station, and its plot in full. */
export function Tray(props: TrayProps) {
  const station = STATIONS.find((s) => s.name === props.station) ?? STATIONS[0];
  if (!station) return null;
  const Controls = CONTROLS[station.name];
  const PlotOf = plotOf(station, props.part);
  const reset = () => {
    const home = Object.fromEntries(
      Object.keys(props.recipe[station.name]).map((field) => [
        field,
        fieldOf(props.schema, station.name, field).default,
      ]),
    );
    props.change(station.name, home, `Reset ${station.title}`);
  };
  return (
    <aside
      aria-label={`${station.title} station`}
      className="flex min-h-0 flex-col overflow-y-auto border-r border-black bg-panel px-4 py-3.5"
    >
      <div className="flex items-baseline justify-between">
        <h1 className="text-head font-semibold">{station.title}</h1>
        <div className="flex gap-3 text-note text-faint">
          <button
            type="button"
            title="Small prints of this picture that differ in settings of this station (R)"
            onClick={props.onRing}
            className="hover:text-ink"
          >
            Ring-around
          </button>
          <button type="button" onClick={reset} className="hover:text-ink">
            Reset
          </button>
        </div>
      </div>
      <p className="mb-3.5 text-note text-soft">{station.about}</p>
      <div className="shrink-0">
        <Controls {...props} />
      </div>
      {props.facts && props.reading && PlotOf && (
        <div className="mt-auto shrink-0 pt-3">
          <PlotOf facts={props.facts} reading={props.reading} />
        </div>
      )}
    </aside>
  );
}

/** The plot that belongs to the controls that are out; none where they fill the tray. */
function plotOf(station: Station, part: Parts) {
  if (station.name === "capture") return part.capture === "light" ? ChannelPlot : null;
  if (station.name === "light") {
    if (part.light === "glass") return LightAndGlassPlot;
    return null;
  }
  if (station.name === "paper" && part.paper !== "paper") return null;
  if (station.name === "film" && part.film === "grain") return GrainPlot;
  if (station.name === "development" && part.development !== "negative") return null;
  return station.plot;
}

const CONTROLS: Record<StationName, (props: TrayProps) => ReactNode> = {
  capture: CaptureControls,
  light: LightControls,
  film: FilmControls,
  development: DevelopmentControls,
  enlarger: EnlargerControls,
  paper: PaperControls,
};
