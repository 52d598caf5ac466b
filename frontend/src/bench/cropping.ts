/** Crops: parts of the frame as left, top, right, bottom, and what moves them. */

import type { Size } from "./places";

export type Crop = [number, number, number, number];
export type Handle = readonly ["left" | "right" | null, "top" | "bottom" | null];
export const WHOLE: Crop = [0, 0, 1, 1];
export const HANDLES: readonly Handle[] = [
  ["left", "top"],
  ["right", "top"],
  ["left", "bottom"],
  ["right", "bottom"],
  ["left", null],
  ["right", null],
  [null, "top"],
  [null, "bottom"],
];
const LEAST = 0.02;

const clamp = (v: number, least: number, most: number) => Math.min(Math.max(v, least), most);

/** The largest crop of a ratio (width over height in pixels) inside another, about its middle. */
export function withRatio(crop: Crop, ratio: number | null, frame: Size): Crop {
  if (!ratio) return crop;
  const [left, top, right, bottom] = crop;
  const parts = (ratio * frame.height) / frame.width; // width over height, in parts of the frame
  const middle = [(left + right) / 2, (top + bottom) / 2] as const;
  let width = right - left;
  let height = width / parts;
  if (height > bottom - top) {
    height = bottom - top;
    width = height * parts;
  }
  const x = clamp(middle[0] - width / 2, 0, 1 - width);
  const y = clamp(middle[1] - height / 2, 0, 1 - height);
  return [x, y, x + width, y + height];
}

/** A crop moved by parts of the frame: as a whole, or by one of its handles (`both`: the side across
 * moves the other way); with a ratio that is kept from the corner that stays. */
export function moved(
  crop: Crop,
  handle: Handle | null,
  [dx, dy]: readonly [number, number],
  both: boolean,
  ratio: number | null,
  frame: Size,
): Crop {
  let [l, t, r, b] = crop;
  if (!handle) {
    const x = clamp(l + dx, 0, 1 - (r - l));
    const y = clamp(t + dy, 0, 1 - (b - t));
    return [x, y, x + r - l, y + b - t];
  }
  const [side, edge] = handle;
  if (side === "left" || (both && side === "right")) {
    l = clamp(l + (side === "left" ? dx : -dx), 0, r - LEAST);
  }
  if (side === "right" || (both && side === "left")) {
    r = clamp(r + (side === "right" ? dx : -dx), l + LEAST, 1);
  }
  if (edge === "top" || (both && edge === "bottom")) {
    t = clamp(t + (edge === "top" ? dy : -dy), 0, b - LEAST);
  }
  if (edge === "bottom" || (both && edge === "top")) {
    b = clamp(b + (edge === "bottom" ? dy : -dy), t + LEAST, 1);
  }
  return anchored([l, t, r, b], handle, both, ratio, frame);
}

function anchored(
  to: Crop,
  [side, edge]: Handle,
  both: boolean,
  ratio: number | null,
  frame: Size,
): Crop {
  if (!ratio) return to;
  const [l, t, r, b] = to;
  const parts = (ratio * frame.height) / frame.width;
  let width = r - l;
  let height = b - t;
  if (side && (!edge || width / height >= parts)) height = width / parts;
  else width = height * parts;
  if (height > 1) [width, height] = [parts, 1];
  if (width > 1) [width, height] = [1, 1 / parts];
  const x = both || !side ? (l + r - width) / 2 : side === "left" ? r - width : l;
  const y = both || !edge ? (t + b - height) / 2 : edge === "top" ? b - height : t;
  const x0 = clamp(x, 0, 1 - width);
  const y0 = clamp(y, 0, 1 - height);
  return [x0, y0, x0 + width, y0 + height];
}

const STEP = 0.002;
const KEYS: Record<string, readonly [number, number]> = {
  ArrowLeft: [-STEP, 0],
  ArrowRight: [STEP, 0],
  ArrowUp: [0, -STEP],
  ArrowDown: [0, STEP],
};

/** By how much a key moves; with Shift ten times as far. */
export function byKey(key: string, shift: boolean): readonly [number, number] | null {
  const found = KEYS[key];
  return found ? [found[0] * (shift ? 10 : 1), found[1] * (shift ? 10 : 1)] : null;
}

/** What a handle is called. */
export const nameOf = ([side, edge]: Handle) =>
  [edge, side].filter(Boolean).join(" ") + (side && edge ? " corner" : " edge");
