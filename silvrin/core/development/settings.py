"""Settings of the Development station: the contrast of the negative."""

from typing import Annotated, Literal

from pydantic import Field

from ..settings import Settings, amount

DeveloperKind = Literal[
    "general", "fine-grain", "high acutance", "speed-increasing", "compensating"
]
Lift = Annotated[float, Field(ge=-2, le=2)]
ZoneContrast = Annotated[float, Field(ge=-1, le=2)]


class LocalContrast(Settings):
    """Local contrast at one scale, and where in the scale of tones it acts."""

    strength: float = amount(
        "Strength", "By how much differences at this scale are raised.", 0.0, -1, 2, 0.02
    )
    shadows: float = amount("Shadows", "Its share in the shadows.", 1.0, 0, 1, 0.05)
    middle: float = amount("Mid tones", "Its share in the mid tones.", 1.0, 0, 1, 0.05)
    highlights: float = amount("Highlights", "Its share in the highlights.", 1.0, 0, 1, 0.05)


class DevelopmentSettings(Settings):
    """Development: the contrast of the negative."""

    n: float = amount(
        "Development",
        "N+1 spreads six stops over the range of seven, N-1 fits eight into it.",
        0.0, -2, 2, 1 / 6, "N",
    )  # fmt: skip
    developer: DeveloperKind = Field(
        "general", title="Developer", description="What kind of developer the film is put in."
    )
    fine: LocalContrast = Field(
        LocalContrast(), title="Fine", description="Local contrast of textures."
    )
    mid_scale: LocalContrast = Field(
        LocalContrast(), title="Middle", description="Local contrast of things."
    )
    broad: LocalContrast = Field(
        LocalContrast(), title="Broad", description="Local contrast of whole parts of the picture."
    )
    threshold: float = amount(
        "Threshold",
        "Differences smaller than this are taken for noise and not raised.",
        0.04, 0, 0.5, 0.01, "stops",
    )  # fmt: skip
    hold_highlights: float = amount(
        "Hold highlights",
        "Keeps local contrast from driving the lightest zones further up.",
        0.5, 0, 1, 0.05,
    )  # fmt: skip
    hold_shadows: float = amount(
        "Hold shadows",
        "Keeps local contrast from driving the darkest zones further down.",
        0.5, 0, 1, 0.05,
    )  # fmt: skip
    zone_lift: tuple[Lift, ...] = Field(
        (0.0,) * 11,
        min_length=11,
        max_length=11,
        title="Zone lift",
        description="Stops by which each zone of the scene is lifted, 0 to X.",
        json_schema_extra={"unit": "stops", "step": 1 / 12},
    )
    zone_contrast: tuple[ZoneContrast, ...] = Field(
        (0.0,) * 11,
        min_length=11,
        max_length=11,
        title="Zone contrast",
        description="By how much differences within each zone are raised, 0 to X.",
        json_schema_extra={"step": 1 / 12},
    )
    brightness: float = amount(
        "Brightness",
        "Moves the mid tones as printing time would, while both ends of the scale stay.",
        0.0, -1, 1, 0.02,
    )  # fmt: skip
