import { useRef } from "react";
import type { HueBand, Recipe, Spot } from "../api/client";
import type { Change } from "../state/usePrint";
import { HUE_NAMES, signed } from "../wording/format";
import type { PictureTool } from "./PictureView";

const MOST = 4;

/** Lightens or darkens the hue under the pointer: each band by its part in that hue. */
export function useHuePull(recipe: Recipe, spot: Spot | null, change: Change): PictureTool {
  const held = useRef<{ bands: HueBand[]; parts: number[]; moved: HueBand[] | null } | null>(null);
  return {
    cursor: "ns-resize",
    start: () => {
      held.current = spot && {
        bands: recipe.light.hue_bands ?? [],
        parts: spot.bands,
        moved: null,
      };
    },
    move: (stops) => {
      const now = held.current;
      if (!now) return;
      now.moved = now.bands.map((band, i) => {
        const next = (band.stops ?? 0) + stops * (now.parts[i] ?? 0);
        return { ...band, stops: Math.min(Math.max(Math.round(next * 24) / 24, -MOST), MOST) };
      });
      change("light", { hue_bands: now.moved });
    },
    end: () => {
      const now = held.current;
      held.current = null;
      if (!now?.moved) return;
      const most = now.parts.indexOf(Math.max(...now.parts));
      const given = (now.moved[most]?.stops ?? 0) - (now.bands[most]?.stops ?? 0);
      change("light", { hue_bands: now.moved }, `${HUE_NAMES[most]} pulled ${signed(given)} stops`);
    },
  };
}
