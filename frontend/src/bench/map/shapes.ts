/** The shapes of the printing map on the picture: their outlines, and what they are grabbed by. */

import type { Card, Disc, PassShape, Shape, Stroke } from "../../api/types";
import { drawn } from "../../state/sheets";
import {
  type CapturePlace,
  capturePlace,
  captureToPicture,
  type PicturePlace,
  picturePlace,
  pictureToCapture,
  type Size,
} from "../places";
import { shapeOf } from "./wholes";

/** Where the picture lies on the capture, and how large it is. */
export interface Where {
  shape: Shape;
  size: Size;
}

/** A line on the picture. */
export interface Line {
  points: PicturePlace[];
  closed?: boolean;
  /** Where nothing of the area is left, and not where it is full. */
  faint?: boolean;
  /** How wide what was drawn is, in pixels of the picture. */
  wide?: number;
}

/** What a shape is grabbed by. */
interface Grip {
  name: string;
  at: PicturePlace;
}

const AROUND = Array.from({ length: 64 }, (_, i) => (i / 64) * 2 * Math.PI);
const FAR = 4; // × the long side, how far the lines of a card are drawn
const LEAST = 1;

/** A disc about a place of the picture; a circle on the capture. */
export function discOf(where: Where, middle: PicturePlace, radius: number): Disc {
  const at = pictureToCapture(where.shape, middle);
  const size = lengthOf(where, middle, radius);
  return shapeOf("disc", { x: at.x, y: at.y, width: size, height: size });
}

/** Pixels of the capture that so many of the picture are about a place. */
export function lengthOf({ shape }: Where, place: PicturePlace, length: number) {
  const at = pictureToCapture(shape, place);
  const edge = pictureToCapture(shape, { ...place, x: place.x + length });
  return Math.max(Math.hypot(edge.x - at.x, edge.y - at.y), LEAST);
}

/** A card that is full up to one place of the picture and gone at another. */
export function cardOf({ shape }: Where, from: PicturePlace, to: PicturePlace): Card {
  const [a, b] = [pictureToCapture(shape, from), pictureToCapture(shape, to)];
  return shapeOf("card", { x: a.x, y: a.y, to_x: b.x, to_y: b.y });
}

const turned = ({ x, y, angle }: Disc, u: number, v: number) => {
  const turn = (angle * Math.PI) / 180;
  return capturePlace(
    x + u * Math.cos(turn) - v * Math.sin(turn),
    y + u * Math.sin(turn) + v * Math.cos(turn),
  );
};

const mean = (points: number[][]) =>
  capturePlace(
    points.reduce((sum, [x = 0]) => sum + x, 0) / points.length,
    points.reduce((sum, [, y = 0]) => sum + y, 0) / points.length,
  );

const strokesOf = (names: string[]): Stroke[] => drawn("strokes", names);

/** What a shape is grabbed by, and where. */
export function gripsOf(shape: PassShape, where: Where): Grip[] {
  const on = (name: string, place: CapturePlace): Grip => ({
    name,
    at: captureToPicture(where.shape, place),
  });
  const { width, height } = where.size;
  switch (shape.kind) {
    case "disc":
      return [
        on("place", capturePlace(shape.x, shape.y)),
        on("size and turn", turned(shape, shape.width, 0)),
        on("roundness", turned(shape, 0, shape.height)),
        on("softness", softAt(shape)),
      ];
    case "card":
      return [
        on("place", capturePlace(shape.x, shape.y)),
        on("end", capturePlace(shape.to_x, shape.to_y)),
      ];
    case "outline":
      return [
        on("place", mean(shape.points)),
        ...shape.points.map(([x, y], i) => on(`corner ${i + 1}`, capturePlace(x, y))),
      ];
    case "brush": {
      const [first] = strokesOf(shape.strokes)[0]?.points ?? [[0, 0] as const];
      const [x, y] = first ?? [0, 0];
      return [on("place", capturePlace(x + shape.dx, y + shape.dy))];
    }
    case "moved":
      return gripsOf(shape.held, where).filter((grip) => grip.name !== "softness");
    case "alike":
      return shape.samples.map((sample, i) => on(`sample ${i + 1}`, mean(sample.points)));
    case "oval": {
      const middle = picturePlace(shape.x * width, shape.y * height);
      const [along] = ovalOf(shape, where.size);
      return [
        { name: "place", at: middle },
        { name: "size", at: picturePlace(middle.x + along, middle.y) },
      ];
    }
    case "fall-off":
      return [{ name: "axis", at: picturePlace(shape.x * width, shape.y * height) }];
    case "sides": {
      const reach = (shape.width / 100) * Math.min(width, height);
      return [{ name: "width", at: picturePlace(reach, height / 2) }];
    }
    default:
      return [];
  }
}

const softAt = (disc: Disc) => {
  const part = (1 + disc.soft / 2) * Math.SQRT1_2;
  return turned(disc, disc.width * part, -disc.height * part);
};

type Oval = Extract<PassShape, { kind: "oval" }>;

/** Half an oval's width and height, in pixels of the picture. */
function ovalOf({ size, roundness }: Oval, { width, height }: Size): [number, number] {
  const diagonal = Math.hypot(width, height);
  const half = ((size / 100) * diagonal) / 2;
  const of = (side: number) => {
    const own = (side / diagonal) * Math.SQRT2;
    return half * (own + roundness * (1 - own));
  };
  return [of(width), of(height)];
}

const within = (value: number, least: number, most: number) =>
  Math.min(Math.max(value, least), most);
const tenths = (value: number) => Math.round(value * 10) / 10;

/** A shape as it is when one of its grips is brought to a place. */
export function gripped(shape: PassShape, name: string, to: PicturePlace, where: Where): PassShape {
  const at = pictureToCapture(where.shape, to);
  const { width, height } = where.size;
  switch (shape.kind) {
    case "disc":
      return discGripped(shape, name, at);
    case "card":
      return name === "end"
        ? { ...shape, to_x: at.x, to_y: at.y }
        : shifted(shape, at.x - shape.x, at.y - shape.y);
    case "outline": {
      const corner = Number(name.split(" ")[1]) - 1;
      if (name !== "place") return { ...shape, points: shape.points.with(corner, [at.x, at.y]) };
      const middle = mean(shape.points);
      return shifted(shape, at.x - middle.x, at.y - middle.y);
    }
    case "brush": {
      const [x = 0, y = 0] = strokesOf(shape.strokes)[0]?.points[0] ?? [];
      return { ...shape, dx: tenths(at.x - x), dy: tenths(at.y - y) };
    }
    case "moved":
      return { ...shape, held: gripped(shape.held, name, to, where) as Disc | Card };
    case "alike": {
      const which = Number(name.split(" ")[1]) - 1;
      const sample = shape.samples[which];
      if (!sample) return shape;
      const middle = mean(sample.points);
      const points = sample.points.map(
        ([x, y]) => [x + at.x - middle.x, y + at.y - middle.y] as [number, number],
      );
      return { ...shape, samples: shape.samples.with(which, { ...sample, points }) };
    }
    case "oval": {
      if (name === "place")
        return { ...shape, x: within(to.x / width, -1, 2), y: within(to.y / height, -1, 2) };
      const [along] = ovalOf({ ...shape, size: 100 }, where.size);
      const size = (100 * Math.abs(to.x - shape.x * width)) / along;
      return { ...shape, size: within(Math.round(size), 10, 150) };
    }
    case "fall-off":
      return { ...shape, x: within(to.x / width, -1, 2), y: within(to.y / height, -1, 2) };
    case "sides": {
      const part = (100 * to.x) / Math.min(width, height);
      return { ...shape, width: within(Math.round(2 * part) / 2, 1, 60) };
    }
    default:
      return shape;
  }
}

function discGripped(disc: Disc, name: string, at: CapturePlace): Disc {
  const [dx, dy] = [at.x - disc.x, at.y - disc.y];
  const away = Math.max(Math.hypot(dx, dy), LEAST);
  if (name === "size and turn")
    return {
      ...disc,
      width: away,
      height: Math.max((disc.height * away) / disc.width, LEAST),
      angle: (Math.atan2(dy, dx) * 180) / Math.PI,
    };
  if (name === "roundness") return { ...disc, height: away };
  if (name === "softness") {
    const turn = (-disc.angle * Math.PI) / 180;
    const u = (dx * Math.cos(turn) - dy * Math.sin(turn)) / disc.width;
    const v = (dx * Math.sin(turn) + dy * Math.cos(turn)) / disc.height;
    return { ...disc, soft: within(Math.round(40 * (Math.hypot(u, v) - 1)) / 20, 0.05, 2) };
  }
  return { ...disc, x: at.x, y: at.y };
}

/** A shape moved on the capture. */
function shifted<S extends Card | Extract<PassShape, { kind: "outline" }>>(
  shape: S,
  dx: number,
  dy: number,
): S {
  if (shape.kind === "outline")
    return { ...shape, points: shape.points.map(([x, y]) => [x + dx, y + dy]) };
  const card = shape as Card;
  return {
    ...shape,
    x: card.x + dx,
    y: card.y + dy,
    to_x: card.to_x + dx,
    to_y: card.to_y + dy,
  };
}

/** The lines that show where a shape is full, and where nothing of it is left. */
export function linesOf(shape: PassShape, where: Where): Line[] {
  const on = (places: CapturePlace[]) => places.map((p) => captureToPicture(where.shape, p));
  const long = Math.max(where.shape.width, where.shape.height);
  const { width, height } = where.size;
  switch (shape.kind) {
    case "card": {
      const [dx, dy] = [shape.to_x - shape.x, shape.to_y - shape.y];
      const length = Math.hypot(dx, dy) || 1;
      const [ux, uy] = [(-dy / length) * long * FAR, (dx / length) * long * FAR];
      return [0, 1].map((end) => ({
        // in pieces: what was straight on the capture may be bent by a lens
        points: on(
          Array.from({ length: 81 }, (_, k) => k / 40 - 1).map((part) =>
            capturePlace(shape.x + end * dx + part * ux, shape.y + end * dy + part * uy),
          ),
        ),
        faint: end === 1,
      }));
    }
    case "disc":
      return [1 - shape.soft / 2, 1 + shape.soft / 2].flatMap((part, i) =>
        part <= 0.02
          ? []
          : {
              points: on(
                AROUND.map((a) =>
                  turned(
                    shape,
                    Math.cos(a) * shape.width * part,
                    Math.sin(a) * shape.height * part,
                  ),
                ),
              ),
              closed: true,
              faint: i === 1,
            },
      );
    case "outline":
      return [{ points: on(shape.points.map(([x, y]) => capturePlace(x, y))), closed: true }];
    case "brush":
      return strokesOf(shape.strokes).map(({ points, radius, take }) => ({
        points: on(points.map(([x, y]) => capturePlace(x + shape.dx, y + shape.dy))),
        wide: 2 * radius,
        faint: take,
      }));
    case "moved": {
      const { x, y } = shape.held;
      const way = shape.path.map(([dx, dy]) => capturePlace(x + dx, y + dy));
      return [...linesOf(shape.held, where).slice(0, 1), { points: on(way), faint: true }];
    }
    case "alike":
      return shape.samples.map(({ points }) => ({
        points: on(points.map(([x, y]) => capturePlace(x, y))),
      }));
    case "oval": {
      const [a, b] = ovalOf(shape, where.size);
      const points = AROUND.map((turn) =>
        picturePlace(shape.x * width + a * Math.cos(turn), shape.y * height + b * Math.sin(turn)),
      );
      return [{ points, closed: true }];
    }
    case "sides": {
      const reach = (shape.width / 100) * Math.min(width, height);
      const [left, right] = [shape.left && reach, width - (shape.right && reach)];
      const [top, bottom] = [shape.top && reach, height - (shape.bottom && reach)];
      const corners = [
        [left, top],
        [right, top],
        [right, bottom],
        [left, bottom],
      ] as const;
      return [{ points: corners.map(([x, y]) => picturePlace(x, y)), closed: true, faint: true }];
    }
    default:
      return [];
  }
}

/** Where the tag of a pass is written, in parts of the picture where it is of no place. */
export function tagAt(shape: PassShape | undefined, where: Where): PicturePlace {
  const { width, height } = where.size;
  const part = (x: number, y: number) => picturePlace(x * width, y * height);
  if (!shape) return part(0.5, 0.5);
  switch (shape.kind) {
    case "sky":
      return part(0.06, 0.1);
    case "foliage":
      return part(0.06, 0.6);
    case "whole":
      return part(0.06, 0.94);
    case "sides":
      return part(0.02, 0.97);
    case "oval":
    case "fall-off":
      return part(0.88, 0.97);
    case "outline":
      return captureToPicture(
        where.shape,
        shape.points.map(([x, y]) => capturePlace(x, y)).reduce((a, b) => (b.y < a.y ? b : a)),
      );
    default:
      return gripsOf(shape, where)[0]?.at ?? part(0.5, 0.5);
  }
}

/** The corners of a freely drawn outline that are needed for it (Ramer 1972; Douglas and Peucker
 * 1973). */
export function simplified(points: PicturePlace[], off: number): PicturePlace[] {
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last || points.length < 3) return points;
  const [dx, dy] = [last.x - first.x, last.y - first.y];
  const length = Math.hypot(dx, dy);
  const away = (p: PicturePlace) =>
    length
      ? Math.abs(dx * (p.y - first.y) - dy * (p.x - first.x)) / length
      : Math.hypot(p.x - first.x, p.y - first.y);
  const far = points.reduce((best, p, i) => (away(p) > away(points[best] ?? p) ? i : best), 0);
  const there = points[far];
  if (!there || away(there) <= off) return [first, last];
  return [
    ...simplified(points.slice(0, far + 1), off).slice(0, -1),
    ...simplified(points.slice(far), off),
  ];
}
