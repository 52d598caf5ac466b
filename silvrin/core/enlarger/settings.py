"""Settings of the Enlarger station: the negative is projected."""

from typing import Literal

from pydantic import Field

from ..settings import MOST_SHEETS, OF_FRAME, Settings, SheetName, amount

Head = Literal["diffuse", "condenser"]


class EnlargerSettings(Settings):
    """Enlarger: the negative is projected on the paper."""

    head: Head = Field(
        "diffuse",
        title="Head",
        description="A condenser's directed light is scattered by silver, which hardens the print "
        "by about a grade.",
    )
    time: float | None = Field(
        None,
        ge=0.2,
        le=1000,
        title="Base exposure",
        description="Seconds under the enlarger; empty is the standard printing time, "
        "which prints Zone V as middle grey.",
        json_schema_extra={"unit": "s"},
    )
    soft_time: float = amount(
        "Through 00", "Of a split grade: seconds through the softest filter.", 6.0, 0, 500, 0.1, "s"
    )
    hard_time: float = amount(
        "Through 5", "Of a split grade: seconds through the hardest filter.", 6.0, 0, 500, 0.1, "s"
    )
    passes: tuple[SheetName, ...] = Field(
        (),
        max_length=MOST_SHEETS,
        title="Printing map",
        description="All that is worked by hand, in order, as the sheets it is drawn on.",
        json_schema_extra=OF_FRAME,
    )
