/** The printing map in the window: its passes as they are named, read and changed. */

import type { Pass, PassShape, Recipe } from "../../api/client";
import { sizeOf, useBench, useBenchStore } from "../../state/bench";
import { drawn, withChange, withInserted, withMore } from "../../state/sheets";
import { seconds, signed } from "../../wording/format";
import type { Where } from "./shapes";
import { passOf, shapeOf } from "./wholes";

type ShapeKind = PassShape["kind"];
/** Whether what is drawn is a pass of its own, or changes the area of the chosen one. */
export type Drawn = "pass" | PassShape["how"];
export type Way = "burn" | "dodge";

/** Stops a new pass begins with: a quarter, as a printer's first try (common practice, no source). */
export const FIRST = 0.25;
export const stopsOfWay = (way: Way, stops = FIRST) => (way === "dodge" ? -stops : stops);

/** Where the seconds of a pass end: none is held back longer than the base. */
export const LEAST_STOPS = -6;
export const MOST_STOPS = 6;

/** How many times a stroke's effect a place can reach in strokes of a step. */
export const MOST_STEPS = 12;

export const KINDS: Record<ShapeKind, string> = {
  disc: "Disc",
  card: "Card",
  brush: "Brush",
  outline: "Outline",
  moved: "Held by hand",
  alike: "Alike",
  sky: "Sky",
  foliage: "Foliage",
  whole: "Whole picture",
  sides: "Edges",
  oval: "Oval",
  "fall-off": "Fall-off",
};

/** A, B … Z, then AA. */
export const letterOf = (index: number): string =>
  (index >= 26 ? letterOf(Math.floor(index / 26) - 1) : "") +
  String.fromCharCode(65 + (index % 26));

/** Seconds beside a base time that make so many stops. */
export const secondsOf = (stops: number, base: number) => base * (2 ** stops - 1);
export const stopsOf = (more: number, base: number) =>
  Math.max(Math.log2(Math.max(base + more, 1e-9) / base), LEAST_STOPS);

/** Of strokes that each add a step, with what they add. */
export const isOfSteps = (pass: Pass) =>
  pass.shapes.some((shape) => shape.kind === "brush" && shape.most > 1);

/** What a printer writes on a proof: +3 s, −4 s. */
export const saidSeconds = (pass: Pass, base: number) => {
  if (!pass.stops) return effectsOf(pass).length ? "tones" : "0 s";
  const more = secondsOf(pass.stops * pass.strength, base);
  return `${more < 0 ? "−" : "+"}${seconds(Math.abs(more))} s${isOfSteps(pass) ? " each" : ""}`;
};

/** What passes change besides exposure. */
export const EFFECTS = [
  "fine",
  "mid_scale",
  "broad",
  "shadows",
  "highlights",
  "haze",
  "soft_focus",
  "sharpness",
  "noise",
  "untoned",
  "warm",
  "colour",
] as const;
const effectsOf = (pass: Pass) => EFFECTS.filter((name) => pass[name]);

/** What a pass is: burn, sky. */
export const proposedName = (pass: Pass) => {
  const does = pass.stops < 0 ? "dodge" : pass.stops > 0 ? "burn" : "tones";
  const kinds = [...new Set(pass.shapes.map((shape) => KINDS[shape.kind].toLowerCase()))];
  return `${does}, ${kinds.slice(0, 2).join(" and ")}`;
};

export const nameOf = (pass: Pass, index: number) =>
  `${letterOf(index)} ${pass.name || proposedName(pass)}`;

const known = new WeakMap<string[], Pass[]>();

/** The passes of a recipe, in order. */
export function passesOf({ enlarger: { passes } }: Recipe): Pass[] {
  const found = known.get(passes) ?? drawn("passes", passes);
  known.set(passes, found);
  return found;
}

export const usePassList = () => useBench(({ recipe }) => ({ passes: passesOf(recipe) })).passes;

/** What is done with passes; with a label it is a change that can be taken back. */
export function usePasses() {
  const store = useBenchStore();
  const names = () => store.getState().recipe.enlarger.passes;
  const all = () => passesOf(store.getState().recipe);
  const put = (passes: string[], label?: string) =>
    store.getState().change("enlarger", { passes }, label);
  const where = (): Where => {
    const bench = store.getState();
    return { shape: bench.shape, size: sizeOf(bench) };
  };
  const change = (index: number, values: Partial<Pass>, label?: string) => {
    const own = all()[index];
    if (own) put(withChange("passes", names(), index, { ...own, ...values }), label);
  };
  const add = (pass: Pass, label?: string) => {
    const number = all().length;
    put(withMore("passes", names(), [pass]), label ?? `${nameOf(pass, number)}`);
    store.setState({ pass: number });
  };
  const shape = (index: number, which: number, to: PassShape | null, label?: string) => {
    const own = all()[index];
    if (!own) return;
    const shapes = to ? own.shapes.with(which, to) : own.shapes.toSpliced(which, 1);
    if (shapes.length) change(index, { shapes }, label);
  };
  return {
    all,
    where,
    change,
    add,
    shape,
    /** A shape that was drawn: a pass of its own, or more of the chosen one's area. */
    draw: (as: Drawn, made: PassShape) => {
      const { pass, mapping } = store.getState();
      const own = all()[pass ?? -1];
      if (as === "pass" || !own || pass === null) {
        add(passOf([made], { stops: stopsOfWay(mapping.way) }));
        return;
      }
      const said = { add: "added to", take: "taken from", keep: "kept of" }[as];
      change(
        pass,
        { shapes: [...own.shapes, { ...made, how: as }] },
        `${KINDS[made.kind]} ${said} ${nameOf(own, pass)}`,
      );
    },
    copy: (index: number) => {
      const own = all()[index];
      if (!own) return;
      put(withInserted("passes", names(), index + 1, own), `${nameOf(own, index)} copied`);
      store.setState({ pass: index + 1 });
    },
    remove: (index: number) => {
      const own = all()[index];
      if (!own) return;
      put(withChange("passes", names(), index, null), `${nameOf(own, index)} taken away`);
      store.setState({ pass: null, hatched: null });
    },
    shift: (index: number, by: 1 | -1) => {
      const own = all()[index];
      const to = index + by;
      if (!own || to < 0 || to >= all().length) return;
      const without = withChange("passes", names(), index, null);
      put(withInserted("passes", without, to, own), "Order of the printing map");
      store.setState({ pass: to });
    },
    /** Of the stops: how they read. */
    said: (stops: number) => `${signed(stops, 2)} stops`,
  };
}

/** Shapes that need no drawing. */
export const READY = {
  sky: () => shapeOf("sky", {}),
  foliage: () => shapeOf("foliage", {}),
  whole: () => shapeOf("whole", {}),
  sides: () => shapeOf("sides", {}),
  oval: () => shapeOf("oval", {}),
  "fall-off": () => shapeOf("fall-off", {}),
} as const;
export type ReadyKind = keyof typeof READY;
