/** A picture mirrored or turned by quarters with all that is set on it, so that it stays as it is seen.
 *
 * The server takes light back by straightening, converging lines, flip and quarter turns, in this
 * order (`core.capture.geometry`); what comes before flip and turns must be mirrored and turned
 * with them. */

import type { Recipe } from "../api/client";

interface Turned {
  capture: Partial<Recipe["capture"]>;
  light: Partial<Recipe["light"]>;
}

/** -0 is 0, and noise of sums is none. */
const tidy = (value: number) => Number(value.toFixed(6)) + 0;

/** An angle of something that looks the same the other way round, from -90 to 90 degrees. */
function halfTurn(angle: number): number {
  const within = (((angle % 180) + 180) % 180) + 0;
  return within > 90 ? within - 180 : within;
}

/** Left and right changed over. */
export function flipped({ capture, light }: Pick<Recipe, "capture" | "light">): Turned {
  const crop = capture.crop;
  return {
    capture: {
      flip: !capture.flip,
      straighten: tidy(-capture.straighten),
      keystone_horizontal: tidy(-capture.keystone_horizontal),
      crop: crop && [tidy(1 - crop[2]), crop[1], tidy(1 - crop[0]), crop[3]],
    },
    light: {
      focus_x: tidy(1 - light.focus_x),
      focus_angle: tidy(halfTurn(-light.focus_angle)),
    },
  };
}

/** Turned by a quarter as it is seen: with the clock, or against it. */
export function turned(recipe: Pick<Recipe, "capture" | "light">, way: "right" | "left"): Turned {
  const { capture, light } = recipe;
  const right = way === "right";
  const crop = capture.crop;
  // a flipped capture turns the other way
  const by = right === !capture.flip ? 1 : 3;
  const v = capture.keystone_vertical;
  const h = capture.keystone_horizontal;
  return {
    capture: {
      quarter_turns: (capture.quarter_turns + by) % 4,
      keystone_vertical: tidy(right ? -h : h),
      keystone_horizontal: tidy(right ? v : -v),
      crop:
        crop &&
        (right
          ? [tidy(1 - crop[3]), crop[0], tidy(1 - crop[1]), crop[2]]
          : [crop[1], tidy(1 - crop[2]), crop[3], tidy(1 - crop[0])]),
    },
    light: {
      focus_x: tidy(right ? 1 - light.focus_y : light.focus_y),
      focus_y: tidy(right ? light.focus_x : 1 - light.focus_x),
      focus_angle: tidy(halfTurn(light.focus_angle + 90)),
    },
  };
}
