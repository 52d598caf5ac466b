"""Stations and their parts, each of which can be switched off: what it holds is kept, and not in
force."""

from typing import Annotated, Any

from pydantic import Field

from ..stations import SETTINGS

# The fields of each part; metered spots are notes on the picture and stay
PARTS: dict[str, dict[str, tuple[str, ...]]] = {
    "capture": {
        "light": (
            "infrared", "neutral", "swap", "red", "green", "blue", "hot_spot", "hot_spot_size",
            "balance", "warmth", "tint", "exposure", "open_shadows", "rein_highlights",
            "recover_highlights", "camera_curve",
        ),
        "frame": (
            "quarter_turns", "flip", "straighten", "keystone_vertical", "keystone_horizontal",
            "crop",
        ),
        "spots": ("mends", "protected"),
        "lens": (
            "lens", "distortion", "lateral_red", "lateral_blue", "fall_off", "luminance_noise",
            "colour_noise", "defringe",
        ),
    },
    "light": {
        "glass": (
            "source", "temperature", "lens_filter", "strength", "second_filter",
            "second_strength", "filter_hue", "compensate", "chroma_smoothing",
        ),
        "hues": ("hue_bands", "green_magenta", "blue_yellow", "hue_shift"),
        "air": (
            "haze", "soft_focus", "soft_size", "soft_on", "focus_blur", "focus_shape", "focus_x",
            "focus_y", "focus_size", "focus_aspect", "focus_angle", "focus_transition",
        ),
    },
    "film": {
        "stock": ("stock", "exposure_index", "placement", "foliage", "sky"),
        "grain": (
            "film_format", "grain", "grain_size", "grain_softness", "grain_evenness", "halation",
        ),
    },
    "development": {
        "negative": ("n", "developer", "brightness"),
        "local": ("fine", "mid_scale", "broad", "threshold", "hold_highlights", "hold_shadows"),
        "zones": ("zone_lift", "zone_contrast"),
    },
    "enlarger": {
        "exposure": ("head", "time", "soft_time", "hard_time"),
        "map": ("passes",),
    },
    "paper": {
        "paper": ("paper", "grade", "split"),
        "points": (
            "black_at", "white_at", "hold_highlights", "hold_shadows", "mid_point", "curve",
        ),
        "values": ("value_lift",),
    },
    "toner": {
        "baths": ("baths", "warmth", "paper_tone"),
        "stops": ("stops",),
        "colour": (
            "shadow_wash", "shadow_hue", "light_wash", "light_hue", "wash_meets", "warmth_out",
            "capture_colour", "colour_bands",
        ),
    },
    "mount": {
        "paper": (
            "size", "resolution", "border_left", "border_right", "border_top", "border_bottom",
            "key_line", "key_gap", "key_tone", "edge", "edge_width", "edge_seed",
        ),
        "mat": (
            "mat", "mat_sides", "mat_top", "mat_below", "board", "undermat", "undermat_colour",
            "bevel", "ground", "ground_tone",
        ),
        "signature": ("inscriptions", "edition_number", "edition_of"),
        "sharpness": (
            "sharpen", "sharpen_radius", "sharpen_threshold", "sharpen_edges", "sharpen_for",
        ),
    },
}  # fmt: skip

SWITCHES = tuple(
    name
    for station, parts in PARTS.items()
    for name in (station, *(f"{station}.{part}" for part in parts))
)
Switch = Annotated[str, Field(json_schema_extra={"enum": list(SWITCHES)})]


def fields_of(switch: str) -> tuple[str, tuple[str, ...]]:
    """The station that a switch is of, and the fields that it puts out of force."""
    station, _, part = switch.partition(".")
    if part:
        return station, PARTS[station][part]
    return station, tuple(name for fields in PARTS[station].values() for name in fields)


def home_of(station: str, fields: tuple[str, ...]) -> dict[str, Any]:
    """Fields as they are to begin with."""
    plain = SETTINGS[station]()
    return {name: getattr(plain, name) for name in fields}
