/** Places, by what they are counted in; a conversion is named after both ends. As in the server's
 * `core/places.py`: pixel n reaches from n to n + 1, its middle is n + 0.5. */

import type { LiveView, Shape } from "../api/types";

export interface Point {
  x: number;
  y: number;
}

export interface Size {
  width: number;
  height: number;
}

/** In pixels of the capture, upright, from its left and top. */
export type CapturePlace = Point & { readonly in: "capture" };
/** In pixels of the finished picture, after geometry and crop. */
export type PicturePlace = Point & { readonly in: "picture" };
/** In CSS pixels of the window that shows the picture. */
export type WindowPlace = Point & { readonly in: "window" };

export const capturePlace = (x: number, y: number): CapturePlace => ({ x, y, in: "capture" });
export const picturePlace = (x: number, y: number): PicturePlace => ({ x, y, in: "picture" });
export const windowPlace = (x: number, y: number): WindowPlace => ({ x, y, in: "window" });

/** Where the finished picture stands in the window: the place of its left top corner, and CSS pixels
 * a pixel of the picture. */
export interface Placed {
  left: number;
  top: number;
  scale: number;
}

export const pictureToWindow = (at: Placed, { x, y }: PicturePlace): WindowPlace =>
  windowPlace(at.left + x * at.scale, at.top + y * at.scale);

export const windowToPicture = (at: Placed, { x, y }: WindowPlace): PicturePlace =>
  picturePlace((x - at.left) / at.scale, (y - at.top) / at.scale);

/** The pixel a place lies in. */
export const pixelOf = <P extends Point>(place: P): P => ({
  ...place,
  x: Math.floor(place.x),
  y: Math.floor(place.y),
});

/** The middle of a pixel. */
export const middleOf = <P extends Point>(pixel: P): P => ({
  ...pixel,
  x: pixel.x + 0.5,
  y: pixel.y + 0.5,
});

export const isInside = ({ x, y }: Point, { width, height }: Size) =>
  x >= 0 && y >= 0 && x < width && y < height;

/** A share from a table over even steps of the radius, between them by a line. */
function share(table: number[], reach: number, radius: number): number {
  if (!table.length) return 1;
  const place = Math.min(radius / reach, 1) * (table.length - 1);
  const i = Math.min(Math.floor(place), table.length - 2);
  const [a = 1, b = 1] = table.slice(i, i + 2);
  return a + (b - a) * (place - i);
}

const halfOf = ({ width, height }: Size) => 0.5 * Math.hypot(width, height);
const radians = (degrees: number) => (degrees * Math.PI) / 180;

/** Where the light of a place of the finished picture lies on the capture. */
export function pictureToCapture(shape: Shape, place: PicturePlace): CapturePlace {
  const half = halfOf(shape);
  const [left, top] = shape.window;
  const [width, height] = shape.frame;
  let x = (place.x + left - width / 2) / half;
  let y = (place.y + top - height / 2) / half;
  const turn = radians(shape.straighten);
  [x, y] = [x * Math.cos(turn) - y * Math.sin(turn), x * Math.sin(turn) + y * Math.cos(turn)];
  const below = Math.max(1 - shape.keystone_vertical * y + shape.keystone_horizontal * x, 0.1);
  [x, y] = [x / below, y / below];
  if (shape.flip) x = -x;
  for (let i = 0; i < shape.quarter_turns % 4; i++) [x, y] = [y, -x];
  const times = share(shape.recorded, shape.radius, Math.hypot(x, y));
  return capturePlace(x * times * half + shape.width / 2, y * times * half + shape.height / 2);
}

/** Where a place of the capture lies on the finished picture, maybe outside of it. */
export function captureToPicture(shape: Shape, place: CapturePlace): PicturePlace {
  const half = halfOf(shape);
  let x = (place.x - shape.width / 2) / half;
  let y = (place.y - shape.height / 2) / half;
  const times = share(shape.ideal, shape.radius, Math.hypot(x, y));
  [x, y] = [x * times, y * times];
  for (let i = 0; i < shape.quarter_turns % 4; i++) [x, y] = [-y, x];
  if (shape.flip) x = -x;
  const above = Math.max(1 + shape.keystone_vertical * y - shape.keystone_horizontal * x, 0.1);
  [x, y] = [x / above, y / above];
  const turn = radians(shape.straighten);
  [x, y] = [x * Math.cos(turn) + y * Math.sin(turn), y * Math.cos(turn) - x * Math.sin(turn)];
  const [left, top] = shape.window;
  const [width, height] = shape.frame;
  return picturePlace(x * half + width / 2 - left, y * half + height / 2 - top);
}

/** The pixel of the capture that a place of the finished picture is taken from, kept inside. */
export function capturePixelUnder(shape: Shape, place: PicturePlace): CapturePlace {
  const { x, y } = pictureToCapture(shape, place);
  const within = (v: number, side: number) => Math.min(Math.max(Math.floor(v), 0), side - 1);
  return capturePlace(within(x, shape.width), within(y, shape.height));
}

/** Fitted; at 100 %; or as a print of 40 cm is seen at reading distance. */
export type Zoom = "fit" | "full" | "reading";

const READING = (40 / 2.54) * 96; // CSS pixels, 96 to the inch, of the long side of such a print

/** The part of a picture that a window of so many device pixels shows, and at what size. */
export function viewOf(picture: Size, window: Size, zoom: Zoom, centre: Point): LiveView {
  if (zoom === "fit") {
    const scale = Math.min(window.width / picture.width, window.height / picture.height, 1);
    return {
      left: 0,
      top: 0,
      width: picture.width,
      height: picture.height,
      out_width: Math.max(1, Math.round(picture.width * scale)),
      out_height: Math.max(1, Math.round(picture.height * scale)),
    };
  }
  const long = Math.max(picture.width, picture.height);
  const scale = zoom === "full" ? 1 : Math.min(1, (READING * devicePixelRatio) / long);
  const width = Math.min(picture.width, Math.floor(window.width / scale));
  const height = Math.min(picture.height, Math.floor(window.height / scale));
  return {
    left: Math.round(Math.min(Math.max(centre.x - width / 2, 0), picture.width - width)),
    top: Math.round(Math.min(Math.max(centre.y - height / 2, 0), picture.height - height)),
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

/** Where the whole picture stands in the window while a view of it is shown. */
export function placedOf(view: LiveView, window: Size, margin: number): Placed {
  const at = placeOf(view, view, window);
  const scale = view.out_width / view.width;
  return {
    left: margin + (at.left - view.left * scale) / devicePixelRatio,
    top: margin + (at.top - view.top * scale) / devicePixelRatio,
    scale: scale / devicePixelRatio,
  };
}
