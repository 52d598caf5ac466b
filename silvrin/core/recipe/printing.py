"""Settings of the stations where the negative is printed."""

from pydantic import Field

from .station import ItemId, Station, amount


class EnlargerSettings(Station):
    """Enlarger: the negative is projected on the paper."""

    time: float | None = Field(
        None,
        ge=0.2,
        le=1000,
        title="Base exposure",
        description="Seconds under the enlarger; empty is the standard printing time, "
        "which prints Zone V as middle grey.",
        json_schema_extra={"unit": "s"},
    )


class PaperSettings(Station):
    """Paper: exposure becomes a picture."""

    paper: ItemId = Field("glossy-fibre-neutral", title="Paper", description="The paper.")
    grade: float = amount("Grade", "Contrast of the paper: 0 is soft, 5 is hard.", 2.0, 0, 5, 0.25)
