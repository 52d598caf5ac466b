"""What the settings of every station share."""

from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field

ItemId = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,63}$")]

MOST_SHEETS = 256  # that a field of a recipe names
SheetName = Annotated[str, Field(pattern=r"^[0-9a-f]{32}$")]  # of drawings

MOST_PLACE = 65_000  # pixels: no capture is larger
Pixel = Annotated[int, Field(ge=0, le=MOST_PLACE)]
Place = tuple[Pixel, Pixel]  # of the capture, from the left and from the top

# Marks a field that belongs to the frame rather than to the look (`recipe.parts`)
OF_FRAME: dict[str, Any] = {"of_frame": True}


class Settings(BaseModel):
    """Settings of one station, or a part of them."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


def range_of(settings: type[BaseModel], name: str) -> tuple[float, float]:
    """The least and the most that a field may be; infinite where it has no bound."""
    low, high = float("-inf"), float("inf")
    for bound in settings.model_fields[name].metadata:
        low, high = getattr(bound, "ge", low), getattr(bound, "le", high)
    return low, high


def amount(
    title: str,
    description: str,
    default: float,
    low: float,
    high: float,
    step: float,
    unit: str = "",
    of_frame: bool = False,
) -> Any:
    """A number with a range: what a slider needs to know."""
    extra: dict[str, Any] = {"unit": unit, "step": step, **(OF_FRAME if of_frame else {})}
    return Field(
        default, ge=low, le=high, title=title, description=description, json_schema_extra=extra
    )
