import { useEffect, useRef } from "react";
import { api, type Recipe } from "../api/client";
import { pointOn, type Tool, useBench, useBenchStore } from "../state/bench";
import { recipeShown } from "../state/recipeShown";
import { radiusOf } from "./Meter";
import type { PicturePlace } from "./places";

const DRAWING: Tool["kind"][] = ["strokes", "hold"];

/** Reads what lies under the pointer, station by station; one question at a time, the newest next.
 * While something is drawn all the time is that of the picture. It shows nothing itself. */
export function SpotUnderPointer() {
  const store = useBenchStore();
  const { frame, recipe, point, circle } = useBench((bench) => ({
    frame: bench.frame,
    recipe: recipeShown(bench),
    point: DRAWING.includes(bench.tool.kind) ? null : pointOn(bench),
    circle: bench.circle,
  }));
  const radius = radiusOf(circle, frame);
  const newest = useRef<{ recipe: Recipe; point: PicturePlace; radius: number } | null>(null);
  const asking = useRef(false);

  useEffect(() => {
    newest.current = point && { recipe, point, radius };
    if (!point) store.setState({ spot: null });
    if (asking.current) return;
    const ask = async () => {
      asking.current = true;
      while (newest.current) {
        const { recipe: under, point: at, radius: wide } = newest.current;
        newest.current = null;
        // that the server is gone is told by the picture's own socket
        const spot = await api.spot(frame.id, at, under, wide).catch(() => null);
        store.setState((now) => ({ spot: now.point ? spot : null }));
      }
      asking.current = false;
    };
    ask();
  }, [store, frame.id, recipe, point, radius]);
  return null;
}
