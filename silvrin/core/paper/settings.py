"""Settings of the Paper station: exposure becomes a picture."""

from typing import Annotated

from pydantic import Field, model_validator

from ..settings import ItemId, Settings, amount

Value = Annotated[float, Field(ge=0, le=10)]
ValueLift = Annotated[float, Field(ge=-1.5, le=1.5)]


class PaperSettings(Settings):
    """Paper: exposure becomes a picture."""

    paper: ItemId = Field("glossy-fibre-neutral", title="Paper", description="The paper.")
    grade: float = amount(
        "Grade", "Contrast of the paper: 00 (here -1) is softest, 5 hardest.", 2.0, -1, 5, 0.25
    )
    split: bool = Field(
        False,
        title="Split grade",
        description="Two exposures, through the softest and the hardest filter, add up to a grade.",
    )
    black_at: float = amount(
        "Black point",
        "Share of the paper's density from which the print is its full black.",
        1.0, 0.5, 1, 0.005,
    )  # fmt: skip
    white_at: float = amount(
        "White point",
        "Share of the paper's density up to which the print is bare paper.",
        0.0, 0, 0.4, 0.005,
    )  # fmt: skip
    hold_highlights: float = amount(
        "Hold highlights", "Keeps light tones from running into bare paper.", 0.0, 0, 1, 0.05
    )
    hold_shadows: float = amount(
        "Hold shadows", "Keeps dark tones from running into full black.", 0.0, 0, 1, 0.05
    )
    mid_point: float = amount(
        "Mid point", "Moves the mid tones of the print; both ends stay.", 0.0, -1, 1, 0.02
    )
    curve: tuple[tuple[Value, Value], ...] = Field(
        (),
        max_length=12,
        title="Print curve",
        description="Points (value as printed, value wanted), in print values 0 to 10, rising.",
    )
    value_lift: tuple[ValueLift, ...] = Field(
        (0.0,) * 11,
        min_length=11,
        max_length=11,
        title="Value lift",
        description="By how much each print value is lifted, 0 to X.",
        json_schema_extra={"step": 1 / 12},
    )

    @model_validator(mode="after")
    def _rises(self) -> "PaperSettings":
        for (x0, y0), (x1, y1) in zip(self.curve, self.curve[1:], strict=False):
            if x1 - x0 < 0.05 or y1 < y0:
                raise ValueError(
                    f"the print curve runs from ({x0:g}, {y0:g}) to ({x1:g}, {y1:g}); points "
                    "follow each other to the right by 0.05 or more, and never downwards"
                )
        if self.black_at - self.white_at < 0.2:
            raise ValueError(
                f"white point {self.white_at:g} and black point {self.black_at:g} are less than "
                "0.2 apart"
            )
        return self
