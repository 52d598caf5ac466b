"""Settings of the Film station: light becomes exposure, exposure becomes silver."""

from typing import Literal

from pydantic import Field

from ..settings import MOST_PLACE, OF_FRAME, ItemId, Settings, amount

FilmFormat = Literal["half frame", "35 mm", "6 × 6 cm", "6 × 7 cm", "4 × 5 in", "8 × 10 in"]


class MeteredSpot(Settings):
    """A spot that was metered: its letter, where it lies, and the zone it was placed on."""

    letter: str = Field(pattern=r"^[A-Z]$", description="Its tag.")
    x: int = Field(ge=0, le=MOST_PLACE, description="Pixels of the capture from the left.")
    y: int = Field(ge=0, le=MOST_PLACE, description="Pixels of the capture from the top.")
    radius: int = Field(4, ge=0, le=500, description="Of the measuring circle, pixels.")
    placed: float | None = Field(
        None, ge=-1, le=11, description="Zone it was placed on; empty when it falls where it falls."
    )


class FilmSettings(Settings):
    """Film: light becomes exposure, exposure becomes silver."""

    stock: ItemId = Field("larch-100", title="Stock", description="The film.")
    exposure_index: float | None = Field(
        None,
        ge=1.5,
        le=6400,
        title="Exposure index",
        description="The index the film was metered at; empty is its zone index, at which Zone I "
        "lies 0.10 above base and fog. Half the index gives one stop more exposure.",
        json_schema_extra={"unit": "EI"},
    )
    film_format: FilmFormat = Field(
        "35 mm",
        title="Format",
        description="Size of the negative: the larger it is, the finer its grain in the print.",
    )
    grain: float = amount(
        "Grain", "How much of it, beside what the stock has.", 1.0, 0, 3, 0.05, "×"
    )
    grain_size: float = amount(
        "Grain size", "How coarse, beside the stock's own.", 1.0, 0.5, 4, 0.05, "×"
    )
    grain_softness: float = amount(
        "Softness", "How far the grains' edges run into each other.", 0.0, 0, 1, 0.05
    )
    grain_evenness: float = amount(
        "Evenness", "Above 0 grains lie more evenly than the stock's, below they clump.",
        0.0, -1, 1, 0.05,
    )  # fmt: skip
    halation: float = amount(
        "Halation", "Light returned by the film's base, beside the stock's own.",
        1.0, 0, 4, 0.05, "×",
    )  # fmt: skip
    foliage: float = amount(
        "Foliage",
        "How much more infrared light foliage sends than was concluded from its colour.",
        0.0, -3, 3, 1 / 12, "stops",
    )  # fmt: skip
    sky: float = amount(
        "Sky",
        "How much more infrared light the open sky sends than was concluded from its colour.",
        0.0, -3, 3, 1 / 12, "stops",
    )  # fmt: skip
    placement: float = amount(
        "Placement",
        "Exposure given to place a metered spot on its zone.",
        0.0, -12, 12, 1 / 12, "stops", of_frame=True,
    )  # fmt: skip
    spots: tuple[MeteredSpot, ...] = Field(
        (),
        max_length=26,
        title="Spots",
        description="Metered spots, by their letters.",
        json_schema_extra=OF_FRAME,
    )
