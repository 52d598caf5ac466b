/** The printing map in the window: passes as they are drawn, named and changed. */

import type { Card, Disc, Pass, Recipe, Shape } from "../api/client";
import { sizeOf, useBenchStore } from "../state/bench";
import { seconds, signed } from "../wording/format";
import {
  type CapturePlace,
  capturePlace,
  type PicturePlace,
  picturePlace,
  pictureToCapture,
  type Size,
} from "./places";

export type DrawnShape = Disc | Card;
export type ShapeKind = DrawnShape["kind"];
/** Whether what is drawn is a pass of its own, or changes the area of the chosen one. */
export type Drawn = "pass" | DrawnShape["how"];

/** Stops a new pass begins with: a quarter, as a printer's first try (common practice, no source). */
export const FIRST = 0.25;

/** A, B … Z, then AA. */
export const letterOf = (index: number): string =>
  (index >= 26 ? letterOf(Math.floor(index / 26) - 1) : "") +
  String.fromCharCode(65 + (index % 26));

/** Seconds beside a base time that make so many stops. */
export const secondsOf = (stops: number, base: number) => base * (2 ** stops - 1);
export const stopsOf = (more: number, base: number) => Math.log2((base + more) / base);

/** What a printer writes on a proof: +3 s, −4 s. */
export const saidSeconds = (pass: Pass, base: number) => {
  const more = secondsOf(pass.stops * pass.strength, base);
  return `${more < 0 ? "−" : "+"}${seconds(Math.abs(more))} s`;
};

export const nameOf = (pass: Pass, index: number) =>
  pass.name || `${letterOf(index)} ${pass.stops < 0 ? "dodge" : "burn"}`;

/** A disc about a place of the picture, as far as another; a circle on the capture. */
export function discOf(shape: Shape, middle: PicturePlace, radius: number, soft: number): Disc {
  const at = pictureToCapture(shape, middle);
  const edge = pictureToCapture(shape, { ...middle, x: middle.x + radius });
  const size = Math.max(Math.hypot(edge.x - at.x, edge.y - at.y), 1);
  return {
    kind: "disc",
    how: "add",
    x: at.x,
    y: at.y,
    width: size,
    height: size,
    angle: 0,
    soft,
  };
}

/** A card that is full up to one place of the picture and gone at another. */
export function cardOf(shape: Shape, from: PicturePlace, to: PicturePlace): Card {
  const [a, b] = [pictureToCapture(shape, from), pictureToCapture(shape, to)];
  return { kind: "card", how: "add", x: a.x, y: a.y, to_x: b.x, to_y: b.y };
}

const EDGE = 0.16; // of the picture's side, how far in from an edge it is burned

/** Cards along the four edges of the picture. */
export function edgesOf(shape: Shape, { width, height }: Size): Card[] {
  const at = (x: number, y: number) => picturePlace(x * width, y * height);
  return [
    cardOf(shape, at(0, 0.5), at(EDGE, 0.5)),
    cardOf(shape, at(1, 0.5), at(1 - EDGE, 0.5)),
    cardOf(shape, at(0.5, 0), at(0.5, EDGE)),
    cardOf(shape, at(0.5, 1), at(0.5, 1 - EDGE)),
  ];
}

/** A shape moved as a whole, or by one of its handles. */
export type Grip = "all" | "end" | "side";
export const gripsOf = (shape: DrawnShape): { grip: Grip; at: CapturePlace }[] => {
  if (shape.kind === "card")
    return [
      { grip: "all", at: capturePlace(shape.x, shape.y) },
      { grip: "end", at: capturePlace(shape.to_x, shape.to_y) },
    ];
  const turn = (shape.angle * Math.PI) / 180;
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  return [
    { grip: "all", at: capturePlace(shape.x, shape.y) },
    { grip: "end", at: capturePlace(shape.x + c * shape.width, shape.y + s * shape.width) },
    { grip: "side", at: capturePlace(shape.x - s * shape.height, shape.y + c * shape.height) },
  ];
};

export function moved(shape: DrawnShape, grip: Grip, to: CapturePlace): DrawnShape {
  const [dx, dy] = [to.x - shape.x, to.y - shape.y];
  if (grip === "all") {
    const whole = { ...shape, x: to.x, y: to.y };
    return whole.kind === "card" && shape.kind === "card"
      ? { ...whole, to_x: shape.to_x + dx, to_y: shape.to_y + dy }
      : whole;
  }
  if (shape.kind === "card") return { ...shape, to_x: to.x, to_y: to.y };
  const size = Math.max(Math.hypot(dx, dy), 1);
  if (grip === "side") return { ...shape, height: size };
  return { ...shape, width: size, angle: (Math.atan2(dy, dx) * 180) / Math.PI };
}

/** What is done with passes; each leaves a change that can be taken back. */
export function usePasses() {
  const store = useBenchStore();
  const put = (passes: Recipe["enlarger"]["passes"], label?: string) =>
    store.getState().change("enlarger", { passes }, label);
  const all = () => store.getState().recipe.enlarger.passes;
  const change = (index: number, values: Partial<Pass>, label?: string) =>
    put(
      all().map((pass, i) => (i === index ? { ...pass, ...values } : pass)),
      label,
    );
  return {
    change,
    /** A shape that was drawn: a pass of its own, or more of the chosen one's area. */
    draw: (drawn: Drawn, shape: DrawnShape, stops: number) => {
      const { pass } = store.getState();
      const own = all()[pass ?? -1];
      if (drawn !== "pass" && own && pass !== null) {
        const said = { add: "added to", take: "taken from", keep: "kept of" }[drawn];
        const shapes = [...own.shapes, { ...shape, how: drawn }];
        change(pass, { shapes }, `${shape.kind} ${said} ${nameOf(own, pass)}`);
        return;
      }
      const made: Pass = {
        name: "",
        on: true,
        stops,
        strength: 1,
        group: 0,
        opposite: false,
        shapes: [shape],
      };
      store.setState({ pass: all().length });
      put([...all(), made], `${letterOf(all().length)} ${stops < 0 ? "dodged" : "burned"}`);
    },
    /** A pass that brings all four edges down, or up. */
    edges: (stops: number) => {
      const bench = store.getState();
      const shapes = edgesOf(bench.shape, sizeOf(bench));
      const name = "edges";
      const made: Pass = { name, on: true, stops, strength: 1, group: 0, opposite: false, shapes };
      store.setState({ pass: all().length });
      put([...all(), made], `Edges ${stops < 0 ? "dodged" : "burned"}`);
    },
    shape: (index: number, which: number, shape: DrawnShape, done: boolean) => {
      const own = all()[index];
      if (!own) return;
      const shapes = own.shapes.map((s, i) => (i === which ? shape : s));
      change(index, { shapes }, done ? `${nameOf(own, index)}: area changed` : undefined);
    },
    copy: (index: number) => {
      const own = all()[index];
      if (!own) return;
      put(all().toSpliced(index + 1, 0, own), `${nameOf(own, index)} copied`);
      store.setState({ pass: index + 1 });
    },
    remove: (index: number) => {
      const own = all()[index];
      if (!own) return;
      put(all().toSpliced(index, 1), `${nameOf(own, index)} taken away`);
      store.setState({ pass: null });
    },
    shift: (index: number, by: 1 | -1) => {
      const own = all()[index];
      if (!own || index + by < 0 || index + by >= all().length) return;
      put(
        all()
          .toSpliced(index, 1)
          .toSpliced(index + by, 0, own),
        "Order of the printing map",
      );
      store.setState({ pass: index + by });
    },
    /** Of the stops: how they read. */
    said: (stops: number) => `${signed(stops, 2)} stops`,
  };
}
