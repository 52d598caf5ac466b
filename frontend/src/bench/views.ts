import type { LiveView } from "../api/client";

export type Zoom = "fit" | "full";

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
  const width = Math.min(capture.width, Math.floor(window.width));
  const height = Math.min(capture.height, Math.floor(window.height));
  return {
    left: Math.round(Math.min(Math.max(centre.x - width / 2, 0), capture.width - width)),
    top: Math.round(Math.min(Math.max(centre.y - height / 2, 0), capture.height - height)),
    width,
    height,
    out_width: width,
    out_height: height,
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
