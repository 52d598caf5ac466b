// Made from docs/openapi.json by `make types`.

export const STATION_NAMES = ["capture","light","film","development","enlarger","paper"] as const;

/** Fields that belong to the frame; all others are of the look. */
export const OF_FRAME: Record<(typeof STATION_NAMES)[number], readonly string[]> = {
  "capture": [
    "balance",
    "crop",
    "distortion",
    "exposure",
    "fall_off",
    "flip",
    "hot_spot",
    "hot_spot_size",
    "infrared",
    "keystone_horizontal",
    "keystone_vertical",
    "lateral_blue",
    "lateral_red",
    "lens",
    "mends",
    "neutral",
    "protected",
    "quarter_turns",
    "straighten"
  ],
  "light": [
    "focus_angle",
    "focus_aspect",
    "focus_shape",
    "focus_size",
    "focus_x",
    "focus_y"
  ],
  "film": [
    "placement",
    "spots"
  ],
  "development": [],
  "enlarger": [
    "passes"
  ],
  "paper": []
};

/** Limits of a test strip, and of how strictly a merge leaves out what moved. */
export const ASKED = {"strips":{"minimum":2,"maximum":15,"default":7},"step":{"minimum":0.1,"maximum":60,"default":0.5},"ghosts":{"minimum":0,"maximum":1,"default":0.5}} as const;
