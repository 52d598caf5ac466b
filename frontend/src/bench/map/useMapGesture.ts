/** What dragging on the picture does with a tool of the printing map in hand. */

import { useRef } from "react";
import type { Card, Disc, Pass, Stroke } from "../../api/types";
import { useBench, useBenchStore } from "../../state/bench";
import { withChange, withMore } from "../../state/sheets";
import type { Gesture, Pressed } from "../gestures";
import { type PicturePlace, pictureToCapture } from "../places";
import { useTicks } from "../ticks";
import {
  isOfSteps,
  MOST_STEPS,
  MOST_STOPS,
  nameOf,
  passesOf,
  stopsOf,
  stopsOfWay,
  usePasses,
} from "./passes";
import { cardOf, discOf, lengthOf, simplified } from "./shapes";
import { passOf, shapeOf } from "./wholes";

const MOST_PLACES = 400; // of a stroke
const MOST_SHEETS = 60; // of strokes, of one brush
const OFF_WAY = 0.02; // of its radius, how far a kept way may be from the drawn one
const MOST_TOUCHED = 40; // of a sample
const MOST_CORNERS = 200;
const REACH = 0.25; // of the long side, how far a new sample reaches
const CLOSES = 0.012; // of the picture's width, how near the first corner ends an outline
const HELD_MS = 60;
const MOST_MOMENTS = 240;

export function useMapGesture(): Gesture | null {
  const store = useBenchStore();
  const tool = useBench((bench) => bench.tool);
  const passes = usePasses();
  const brush = useBrush();
  const hold = useHold();
  const onCapture = (place: PicturePlace): [number, number] => {
    const { x, y } = pictureToCapture(store.getState().shape, place);
    return [tenths(x), tenths(y)];
  };
  const put = () => store.getState().take({ kind: "look" }); // its handles are there now
  if (tool.kind === "strokes") return brush;
  if (tool.kind === "hold") return hold;
  if (tool.kind !== "shape") return null;
  const { drawn } = tool;
  switch (tool.shape) {
    case "brush":
      return brush;
    case "card":
      return {
        kind: "line",
        done: (from, to) => {
          passes.draw(drawn, cardOf(passes.where(), from, to));
          put();
        },
      };
    case "disc":
      return {
        kind: "area",
        most: Number.POSITIVE_INFINITY,
        done: (middle, radius) => {
          passes.draw(drawn, discOf(passes.where(), middle, radius));
          put();
        },
      };
    case "alike":
      return {
        kind: "path",
        width: 6,
        done: (points) => {
          const { shape, pass } = store.getState();
          const touched = thinned(points, MOST_TOUCHED).map(onCapture);
          const reach = Math.round(REACH * Math.max(shape.width, shape.height));
          const sample = { points: touched, reach, strictness: 0.5 };
          const own = passes.all()[pass ?? -1];
          const which = own?.shapes.findLastIndex((s) => s.kind === "alike" && s.how === "add");
          const found = own?.shapes[which ?? -1];
          // several samples work as one
          if (drawn === "add" && own && pass !== null && found?.kind === "alike")
            passes.shape(
              pass,
              which ?? 0,
              { ...found, samples: [...found.samples, sample] },
              `Another sample of ${nameOf(own, pass)}`,
            );
          else passes.draw(drawn, shapeOf("alike", { samples: [sample] }));
          store.getState().take({ ...tool, drawn: drawn === "pass" ? "add" : drawn });
        },
      };
    case "outline": {
      const corners = tool.corners ?? [];
      const close = (places: PicturePlace[]) => {
        const points = places.map(onCapture);
        const feather = 2 * Math.round(lengthOf(passes.where(), places[0] as PicturePlace, 8));
        passes.draw(drawn, shapeOf("outline", { points, feather }));
        put();
      };
      return {
        kind: "path",
        width: null,
        done: (points) => {
          const first = points[0];
          if (!first) return;
          if (points.length > 3) {
            const kept = simplified([...points, first], 0.75).slice(0, -1);
            if (kept.length > 2) close(thinned(kept, MOST_CORNERS));
            return;
          }
          // point by point: on the first or the last one it is closed
          const near = passes.where().size.width * CLOSES;
          const ends = [corners[0], corners.at(-1)].some(
            (c) => c && Math.hypot(c.x - first.x, c.y - first.y) < near,
          );
          if (ends && corners.length > 2) close(corners);
          else if (!ends && corners.length < MOST_CORNERS)
            store.setState({ tool: { ...tool, corners: [...corners, first] } });
        },
      };
    }
  }
}

const tenths = (value: number) => Math.round(value * 10) / 10;

function thinned<T>(things: T[], most: number): T[] {
  const step = Math.max(1, Math.ceil(things.length / most));
  return things.filter((_, i) => i % step === 0 || i === things.length - 1);
}

interface Begun {
  /** The sheets before the stroke. */
  names: string[];
  number: number;
  pass: Pass;
  which: number;
  isNew: boolean;
}

/** A stroke of a brush, seen while it is drawn. */
function useBrush(): Gesture {
  const store = useBenchStore();
  const begun = useRef<Begun | null>(null);

  const begin = (): Begun => {
    const { recipe, pass: chosen, tool, mapping } = store.getState();
    const names = recipe.enlarger.passes;
    const all = passesOf(recipe);
    const steps = tool.kind === "strokes";
    // one with room for more sheets
    const brushOf = (pass: Pass | undefined) =>
      pass?.shapes.findLastIndex(
        (s) => s.kind === "brush" && s.how !== "take" && s.strokes.length < MOST_SHEETS,
      ) ?? -1;
    const fits = (pass: Pass | undefined) =>
      brushOf(pass) >= 0 &&
      (!steps || (pass && isOfSteps(pass) && pass.stops < 0 === (mapping.way === "dodge")));
    const asked = steps ? (fits(all[chosen ?? -1]) ? chosen : lastOf(all, fits)) : chosen;
    const own = all[asked ?? -1];
    const drawn = tool.kind === "shape" ? tool.drawn : "add";
    if (own && asked !== null && (steps || drawn !== "pass")) {
      if ((steps || drawn === "add") && fits(own))
        return { names, number: asked, pass: own, which: brushOf(own), isNew: false };
      if (!steps) {
        const shapes = [...own.shapes, shapeOf("brush", { strokes: [], how: drawn as "add" })];
        return {
          names,
          number: asked,
          pass: { ...own, shapes },
          which: shapes.length - 1,
          isNew: false,
        };
      }
    }
    const shape = shapeOf("brush", { strokes: [], most: steps ? MOST_STEPS : 1 });
    const stops = steps ? stopsOfWay(mapping.way, mapping.step) : stopsOfWay(mapping.way);
    return { names, number: all.length, pass: passOf([shape], { stops }), which: 0, isNew: true };
  };

  const withStroke = (points: PicturePlace[], { shift, pressures }: Pressed) => {
    begun.current ??= begin();
    const { names, number, pass, which, isNew } = begun.current;
    const { mapping, tool, shape: where } = store.getState();
    const shape = pass.shapes[which];
    if (shape?.kind !== "brush") return { number, pass, passes: names };
    const steps = tool.kind === "strokes";
    const pressed = pressures.some((p) => p < 1);
    // without a pen's pressure only the places that its way needs
    const off = OFF_WAY * mapping.radius;
    const needed = pressed ? points : simplified(points, off);
    const at = thinned(
      needed.map((place, i) => {
        const { x, y } = pictureToCapture(where, place);
        return { point: [tenths(x - shape.dx), tenths(y - shape.dy)] as [number, number], i };
      }),
      MOST_PLACES,
    );
    const stroke: Stroke = {
      points: at.map(({ point }) => point),
      radius: mapping.radius,
      soft: mapping.soft,
      flow: steps ? Math.min(mapping.step / Math.abs(pass.stops), 2) : mapping.flow,
      take: shift !== mapping.take,
      pressure: pressed ? at.map(({ i }) => pressures[i] ?? 1) : [],
    };
    const strokes = withMore("strokes", shape.strokes, [stroke]);
    const next = { ...pass, shapes: pass.shapes.with(which, { ...shape, strokes }) };
    const passes = isNew
      ? withMore("passes", names, [next])
      : withChange("passes", names, number, next);
    return { number, pass: next, passes };
  };

  return {
    kind: "path",
    width: 0,
    moving: (points, pressed) => {
      const { passes } = withStroke(points, pressed);
      store.getState().change("enlarger", { passes });
    },
    done: (points, pressed) => {
      const { number, pass, passes } = withStroke(points, pressed);
      begun.current = null;
      const taken = pressed.shift !== store.getState().mapping.take;
      const label = `${taken ? "Stroke taken back" : "Stroke"}, ${nameOf(pass, number)}`;
      store.getState().change("enlarger", { passes }, label);
      // each stroke can be taken back by itself
      void store.getState().kept();
      const { tool } = store.getState();
      const on = tool.kind === "shape" && tool.drawn === "pass";
      store.setState({ pass: number, ...(on && { tool: { ...tool, drawn: "add" as const } }) });
    },
    cancel: () => {
      const was = begun.current;
      begun.current = null;
      if (was) store.getState().change("enlarger", { passes: was.names });
    },
  };
}

const lastOf = (all: Pass[], fits: (pass: Pass) => unknown) => {
  const found = all.findLastIndex(fits);
  return found < 0 ? null : found;
};

interface Holding {
  names: string[];
  held: Disc | Card;
  from: PicturePlace;
  place: PicturePlace;
  path: [number, number, number][];
  began: number;
  timer: number;
}

/** A disc or card held in the light: the seconds run, the shape follows the pointer. */
function useHold(): Gesture {
  const store = useBenchStore();
  const now = useRef<Holding | null>(null);
  const tick = useTicks();

  const passOfNow = ({ held, path, began }: Holding): Pass => {
    const { facts, mapping } = store.getState();
    const base = facts?.time ?? 12;
    const run = (performance.now() - began) / 1000;
    const more = mapping.way === "dodge" ? -run : run;
    const stops = Math.min(stopsOf(more, base), MOST_STOPS);
    return passOf([shapeOf("moved", { held, path })], { stops });
  };
  const step = () => {
    const holding = now.current;
    if (!holding) return;
    const { shape, change } = store.getState();
    const run = (performance.now() - holding.began) / 1000;
    const before = holding.path.at(-1)?.[2] ?? 0;
    const [a, b] = [holding.from, holding.place].map((p) => pictureToCapture(shape, p));
    if (!a || !b) return;
    holding.path.push([tenths(b.x - a.x), tenths(b.y - a.y), Math.round(run * 100) / 100]);
    if (holding.path.length > MOST_MOMENTS)
      holding.path = holding.path.filter((_, i) => i % 2 === 0 || i === holding.path.length - 1);
    if (Math.floor(run) > Math.floor(before)) tick();
    store.setState({ holding: run });
    change("enlarger", { passes: withMore("passes", holding.names, [passOfNow(holding)]) });
  };
  const stop = () => {
    const holding = now.current;
    window.clearInterval(holding?.timer);
    now.current = null;
    store.setState({ holding: null });
    return holding;
  };
  return {
    kind: "hold",
    start: (place) => {
      const { tool, recipe, shape, mapping } = store.getState();
      if (tool.kind !== "hold") return;
      const { x, y } = pictureToCapture(shape, place);
      const size = mapping.held;
      const held =
        tool.shape === "disc"
          ? shapeOf("disc", { x, y, width: size, height: size, soft: 0.3 })
          : shapeOf("card", { x, y: y - size / 8, to_x: x, to_y: y + size / 8 });
      const names = recipe.enlarger.passes;
      now.current = {
        names,
        held,
        from: place,
        place,
        path: [[0, 0, 0]],
        began: performance.now(),
        timer: window.setInterval(step, HELD_MS),
      };
    },
    move: (place) => {
      if (now.current) now.current.place = place;
    },
    end: () => {
      step();
      const number = passesOf(store.getState().recipe).length - 1;
      const holding = stop();
      if (!holding) return;
      const pass = passOfNow(holding);
      const passes = withMore("passes", holding.names, [pass]);
      store.getState().change("enlarger", { passes }, `${nameOf(pass, number)}, held by hand`);
      store.getState().take({ kind: "look" });
      store.setState({ pass: number });
    },
    cancel: () => {
      const holding = stop();
      if (holding) store.getState().change("enlarger", { passes: holding.names });
    },
  };
}
