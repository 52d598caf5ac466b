import { useEffect, useRef, useState } from "react";
import { api, type Recipe, type Spot } from "../api/client";
import type { Point } from "./views";

/** What lies under the pointer, station by station; one question at a time, the newest next. */
export function useSpot(
  frameId: number,
  recipe: Recipe,
  point: Point | null,
  radius: number,
): Spot | null {
  const [spot, setSpot] = useState<Spot | null>(null);
  const newest = useRef<{ recipe: Recipe; point: Point; radius: number } | null>(null);
  const asking = useRef(false);

  useEffect(() => {
    newest.current = point && { recipe, point, radius };
    if (asking.current) return;
    const ask = async () => {
      asking.current = true;
      while (newest.current) {
        const { recipe: under, point: at, radius: wide } = newest.current;
        newest.current = null;
        // that the server is gone is told by the picture's own socket
        setSpot(await api.spot(frameId, at.x, at.y, under, wide).catch(() => null));
      }
      asking.current = false;
    };
    ask();
  }, [frameId, recipe, point, radius]);

  return point ? spot : null;
}
