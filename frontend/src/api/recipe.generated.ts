// Made from docs/openapi.json by `make types`.

export const STATION_NAMES = ["capture","light","film","development","enlarger","paper","toner","mount"] as const;

/** Fields that belong to the frame; all others are of the look. */
export const OF_FRAME: Record<(typeof STATION_NAMES)[number], readonly string[]> = {
  "capture": [
    "balance",
    "camera_curve",
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
  "paper": [],
  "toner": [],
  "mount": [
    "edge_seed",
    "edition_number",
    "edition_of"
  ]
};

/** Fields of the parts of each station; each part can be switched off. */
export const PARTS: Record<(typeof STATION_NAMES)[number], Record<string, readonly string[]>> = {
  "capture": {
    "frame": [
      "quarter_turns",
      "flip",
      "straighten",
      "keystone_vertical",
      "keystone_horizontal",
      "crop"
    ],
    "lens": [
      "lens",
      "distortion",
      "lateral_red",
      "lateral_blue",
      "fall_off",
      "luminance_noise",
      "colour_noise",
      "defringe"
    ],
    "light": [
      "infrared",
      "neutral",
      "swap",
      "red",
      "green",
      "blue",
      "hot_spot",
      "hot_spot_size",
      "balance",
      "warmth",
      "tint",
      "exposure",
      "open_shadows",
      "rein_highlights",
      "recover_highlights",
      "camera_curve"
    ],
    "spots": [
      "mends",
      "protected"
    ]
  },
  "development": {
    "local": [
      "fine",
      "mid_scale",
      "broad",
      "threshold",
      "hold_highlights",
      "hold_shadows"
    ],
    "negative": [
      "n",
      "developer",
      "brightness"
    ],
    "zones": [
      "zone_lift",
      "zone_contrast"
    ]
  },
  "enlarger": {
    "exposure": [
      "head",
      "time",
      "soft_time",
      "hard_time"
    ],
    "map": [
      "passes"
    ]
  },
  "film": {
    "grain": [
      "film_format",
      "grain",
      "grain_size",
      "grain_softness",
      "grain_evenness",
      "halation"
    ],
    "stock": [
      "stock",
      "exposure_index",
      "placement",
      "foliage",
      "sky"
    ]
  },
  "light": {
    "air": [
      "haze",
      "soft_focus",
      "soft_size",
      "soft_on",
      "focus_blur",
      "focus_shape",
      "focus_x",
      "focus_y",
      "focus_size",
      "focus_aspect",
      "focus_angle",
      "focus_transition"
    ],
    "glass": [
      "source",
      "temperature",
      "lens_filter",
      "strength",
      "second_filter",
      "second_strength",
      "filter_hue",
      "compensate",
      "chroma_smoothing"
    ],
    "hues": [
      "hue_bands",
      "green_magenta",
      "blue_yellow",
      "hue_shift"
    ]
  },
  "mount": {
    "mat": [
      "mat",
      "mat_sides",
      "mat_top",
      "mat_below",
      "board",
      "undermat",
      "undermat_colour",
      "bevel",
      "ground",
      "ground_tone"
    ],
    "paper": [
      "size",
      "resolution",
      "border_left",
      "border_right",
      "border_top",
      "border_bottom",
      "key_line",
      "key_gap",
      "key_tone",
      "edge",
      "edge_width",
      "edge_seed"
    ],
    "sharpness": [
      "sharpen",
      "sharpen_radius",
      "sharpen_threshold",
      "sharpen_edges",
      "sharpen_for"
    ],
    "signature": [
      "inscriptions",
      "edition_number",
      "edition_of"
    ]
  },
  "paper": {
    "paper": [
      "paper",
      "grade",
      "split"
    ],
    "points": [
      "black_at",
      "white_at",
      "hold_highlights",
      "hold_shadows",
      "mid_point",
      "curve"
    ],
    "values": [
      "value_lift"
    ]
  },
  "toner": {
    "baths": [
      "baths",
      "warmth",
      "paper_tone"
    ],
    "colour": [
      "shadow_wash",
      "shadow_hue",
      "light_wash",
      "light_hue",
      "wash_meets",
      "warmth_out",
      "capture_colour",
      "colour_bands"
    ],
    "stops": [
      "stops"
    ]
  }
};

/** Limits of a test strip, and of how strictly a merge leaves out what moved. */
export const ASKED = {"strips":{"minimum":2,"maximum":15,"default":7},"step":{"minimum":0.1,"maximum":60,"default":0.5},"ghosts":{"minimum":0,"maximum":1,"default":0.5}} as const;
