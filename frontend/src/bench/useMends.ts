/** Mends and protected outlines, on the sheets of the recipe. */

import { fieldOfKind, type Mend, type Schemas, within } from "../api/client";
import { useBenchStore } from "../state/bench";
import { drawn, withChange, withMore } from "../state/sheets";
import { capturePixelUnder, type PicturePlace } from "./places";

const MOST_PLACES = 120;
const PLAIN = { path: [], fill: false, from_x: null, from_y: null };

export function useMends() {
  const store = useBenchStore();
  const onCapture = (place: PicturePlace): [number, number] => {
    const { x, y } = capturePixelUnder(store.getState().shape, place);
    return [x, y];
  };
  const add = (mends: Mend[], label: string) => {
    const { recipe, change } = store.getState();
    change("capture", { mends: withMore("mends", recipe.capture.mends, mends) }, label);
  };
  return {
    /** Draws a mend, a filling or an outline. */
    draw: (points: PicturePlace[]) => {
      const { tool, recipe, mendRadius, change } = store.getState();
      if (tool.kind !== "mend") return;
      const step = Math.max(1, Math.ceil(points.length / MOST_PLACES));
      const kept = points.filter((_, i) => i % step === 0 || i === points.length - 1);
      const found = kept.map(onCapture);
      if (tool.as === "protect") {
        if (found.length < 3) return;
        const next = withMore("protected", recipe.capture.protected, [{ points: found }]);
        change("capture", { protected: next }, "Outline protected");
        return;
      }
      const [[x, y] = [0, 0], ...path] = found;
      const fill = tool.as === "fill";
      const label = fill ? "Thing taken out" : path.length ? "Stroke mended" : "Spot mended";
      add([{ ...PLAIN, x, y, radius: mendRadius, path, fill }], label);
    },
    /** Mends probable specks. */
    accept: (specks: Schemas["FoundSpeck"][]) => {
      const field = fieldOfKind(store.getState().schema, "Mend", "radius");
      const made = specks.map(({ x, y, radius }) => ({
        ...PLAIN,
        x,
        y,
        radius: within(radius, field),
      }));
      add(made, specks.length > 1 ? `${specks.length} specks mended` : "Speck mended");
    },
    /** Another source for a mend. */
    from: (index: number, place: PicturePlace) => {
      const { recipe, change } = store.getState();
      const mend = drawn("mends", recipe.capture.mends)[index];
      if (!mend) return;
      const [from_x, from_y] = onCapture(place);
      const next = withChange("mends", recipe.capture.mends, index, { ...mend, from_x, from_y });
      change("capture", { mends: next }, "Another source");
    },
    remove: (index: number) => {
      const { recipe, change } = store.getState();
      const next = withChange("mends", recipe.capture.mends, index, null);
      change("capture", { mends: next }, "Mend taken away");
    },
    free: (index: number) => {
      const { recipe, change } = store.getState();
      const next = withChange("protected", recipe.capture.protected, index, null);
      change("capture", { protected: next }, "Protection taken away");
    },
  };
}
