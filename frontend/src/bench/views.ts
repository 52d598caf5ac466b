import type { LiveView } from "../api/client";

/** Fitted; at 100 %; or as a print of 40 cm is seen at reading distance. */
export type Zoom = "fit" | "full" | "reading";

const READING = (40 / 2.54) * 96; // CSS pixels, 96 to the inch, of the long side of such a print

export interface Size {
  width: number;
  height: number;
}

export interface Point {
  x: number;
  y: number;
}

/** The part of a capture that a window of so many device pixels shows, and at what size. */
export function viewOf(capture: Size, window: Size, zoom: Zoom, centre: Point): LiveView {
  if (zoom === "fit") {
    const scale = Math.min(window.width / capture.width, window.height / capture.height, 1);
    return {
      left: 0,
      top: 0,
      width: capture.width,
      height: capture.height,
      out_width: Math.max(1, Math.round(capture.width * scale)),
      out_height: Math.max(1, Math.round(capture.height * scale)),
    };
  }
  const long = Math.max(capture.width, capture.height);
  const scale = zoom === "full" ? 1 : Math.min(1, (READING * devicePixelRatio) / long);
  const width = Math.min(capture.width, Math.floor(window.width / scale));
  const height = Math.min(capture.height, Math.floor(window.height / scale));
  return {
    left: Math.round(Math.min(Math.max(centre.x - width / 2, 0), capture.width - width)),
    top: Math.round(Math.min(Math.max(centre.y - height / 2, 0), capture.height - height)),
    width,
    height,
    out_width: Math.max(1, Math.round(width * scale)),
    out_height: Math.max(1, Math.round(height * scale)),
  };
}

/** Where a finished view stands in the window (device pixels) while another one is wanted. */
export function placeOf(shown: LiveView, wanted: LiveView, window: Size) {
  const scale = wanted.out_width / wanted.width;
  const originX = (window.width - wanted.out_width) / 2;
  const originY = (window.height - wanted.out_height) / 2;
  return {
    left: Math.round(originX + (shown.left - wanted.left) * scale),
    top: Math.round(originY + (shown.top - wanted.top) * scale),
    width: Math.round(shown.width * scale),
    height: Math.round(shown.height * scale),
  };
}
