/** Passes and shapes with all that has a default, and without. */

import type { Pass, PassShape } from "../../api/types";

const PLAIN: Omit<Pass, "shapes"> = {
  name: "",
  on: true,
  stops: 0.25,
  grade: null,
  fine: 0,
  mid_scale: 0,
  broad: 0,
  shadows: 0,
  highlights: 0,
  haze: 0,
  soft_focus: 0,
  sharpness: 0,
  noise: 0,
  untoned: 0,
  warm: 0,
  colour: 0,
  strength: 1,
  group: 0,
  opposite: false,
  soften: 0,
  held: 0,
  zones: null,
  hues: null,
};

type Kind = PassShape["kind"];
const PLAIN_SHAPES: { [K in Kind]: Partial<Extract<PassShape, { kind: K }>> } = {
  disc: { angle: 0, soft: 0.6 },
  card: {},
  brush: { most: 1, dx: 0, dy: 0 },
  outline: { feather: 40 },
  moved: {},
  alike: {},
  sky: {},
  foliage: {},
  whole: {},
  sides: { left: 1, right: 1, top: 1, bottom: 1, width: 16, feather: 100 },
  oval: { x: 0.5, y: 0.5, size: 70, roundness: 0.5, feather: 80, middle: 0 },
  "fall-off": { x: 0.5, y: 0.5, angle: 35 },
};

/** A shape of a kind with its defaults. */
export const shapeOf = <K extends Kind>(
  kind: K,
  values: Omit<Partial<Extract<PassShape, { kind: K }>>, "kind">,
) =>
  ({ how: "add", ...PLAIN_SHAPES[kind], ...values, kind }) as unknown as Extract<
    PassShape,
    { kind: K }
  >;

/** A pass over shapes. */
export const passOf = (shapes: PassShape[], values: Partial<Pass>): Pass => ({
  ...PLAIN,
  ...values,
  shapes,
});

const wholeShape = (shape: PassShape): PassShape => {
  const plain: object = { how: "add", ...PLAIN_SHAPES[shape.kind] };
  const whole = { ...plain, ...shape };
  if (whole.kind === "moved")
    return { ...whole, held: wholeShape(whole.held) as typeof whole.held };
  if (whole.kind !== "alike") return whole;
  return {
    ...whole,
    samples: whole.samples.map((s) => ({ ...s, strictness: s.strictness ?? 0.5 })),
  };
};

/** A pass as it is written down, with what is left out. */
export const wholePass = (pass: Pass): Pass => ({
  ...PLAIN,
  ...pass,
  zones: pass.zones ? { ...{ first: 0, last: 10, soft: 1 }, ...pass.zones } : null,
  hues: pass.hues ? { ...{ hue: 30, width: 60, soft: 0.5 }, ...pass.hues } : null,
  shapes: pass.shapes.map(wholeShape),
});

/** A pass to be written down, without what goes without saying. */
export const leanPass = (pass: Pass): Partial<Pass> => ({
  ...without(pass, PLAIN),
  shapes: pass.shapes.map(
    (shape) => without(shape, { how: "add", ...PLAIN_SHAPES[shape.kind] }) as PassShape,
  ),
});

function without<T extends object>(thing: T, plain: object): Partial<T> {
  const home = plain as Record<string, unknown>;
  return Object.fromEntries(
    Object.entries(thing).filter(([name, value]) => !(name in home) || home[name] !== value),
  ) as Partial<T>;
}
