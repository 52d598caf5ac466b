"""What the settings of every station share."""

from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field

ItemId = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,63}$")]


class Station(BaseModel):
    """Settings of one station."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


def amount(
    title: str,
    description: str,
    default: float,
    low: float,
    high: float,
    step: float,
    unit: str = "",
) -> Any:
    """A number with a range: what a slider needs to know."""
    return Field(
        default,
        ge=low,
        le=high,
        title=title,
        description=description,
        json_schema_extra={"unit": unit, "step": step},
    )
