/** How the printing map is worked: what the next stroke or shape will be. */

import type { Drawn, Way } from "../bench/map/passes";
import type { PicturePlace, Size } from "../bench/places";

export interface Mapping {
  way: Way;
  /** What one stroke adds, in stops. */
  step: number;
  /** Of a brush, in pixels of the capture. */
  radius: number;
  soft: number;
  flow: number;
  /** Strokes take back. */
  take: boolean;
  /** Of what is held by hand, in pixels of the capture. */
  held: number;
  /** Which controls of the chosen pass are out. */
  part: "light" | "area" | "tones";
}

export const LEAST_RADIUS = 2;
const STEP = 1 / 6; // common practice is 5 to 12 % of the base time
const BRUSH = 0.03; // of the long side
const HELD = 0.08;

export const mappingFor = ({ width, height }: Size): Mapping => {
  const side = Math.max(width, height);
  return {
    way: "burn",
    step: STEP,
    radius: Math.max(Math.round(BRUSH * side), LEAST_RADIUS),
    soft: 0.8,
    flow: 1,
    take: false,
    held: Math.max(Math.round(HELD * side), LEAST_RADIUS),
    part: "light",
  };
};

/** The tools of the printing map. */
export type MapTool =
  /** A shape is drawn: a pass of its own, or a part of the chosen one. */
  | {
      kind: "shape";
      shape: "disc" | "card" | "brush" | "outline" | "alike";
      drawn: Drawn;
      /** Of an outline that is drawn point by point. */
      corners?: PicturePlace[];
    }
  /** Each stroke dodges or burns by a step. */
  | { kind: "strokes" }
  /** Held in the light for as long as it is pressed. */
  | { kind: "hold"; shape: "disc" | "card" };

/** Another size, a step larger or smaller. */
export const sized = (size: number, way: 1 | -1, side: number) =>
  Math.min(Math.max(Math.round(size * 1.15 ** way), LEAST_RADIUS + (way > 0 ? 1 : 0)), side);
