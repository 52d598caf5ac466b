"""What the settings of every station share."""

from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field

ItemId = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,63}$")]

# Marks a field that belongs to the frame rather than to the look (`recipe.parts`)
OF_FRAME: dict[str, Any] = {"of_frame": True}


class Settings(BaseModel):
    """Settings of one station, or a part of them."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


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
