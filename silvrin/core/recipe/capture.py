"""Settings of the Capture station: the file becomes linear light."""

from typing import Annotated, Any

from pydantic import Field

from .station import Station, amount

Share = Annotated[float, Field(ge=0.001, le=1)]


def _channel(name: str) -> Any:
    about = f"Share of the {name.lower()} channel in an infrared capture."
    return amount(name, about, 1.0, 0, 1, 0.05)


class CaptureSettings(Station):
    """Capture: the file becomes linear light."""

    infrared: bool = Field(
        False,
        title="Infrared capture",
        description="Taken by a camera converted to infrared: its channels are weighed directly, "
        "whatever the light, the glass and the film's sensitivity are.",
    )
    neutral: tuple[Share, Share, Share] | None = Field(
        None,
        title="Neutral",
        description="Of an infrared capture: shares of red, green and blue that become neutral.",
    )
    red: float = _channel("Red")
    green: float = _channel("Green")
    blue: float = _channel("Blue")
    hot_spot: float = amount(
        "Hot spot",
        "By how much a lens brightens the middle of an infrared capture; it is taken away.",
        0.0, -1, 2, 1 / 12, "stops",
    )  # fmt: skip
    hot_spot_size: float = amount(
        "Its size",
        "Where the hot spot has fallen to a third, in parts of half the diagonal.",
        0.35, 0.1, 1, 0.01,
    )  # fmt: skip
    exposure: float = amount(
        "Exposure trim", "More or less light than the capture holds.", 0.0, -5, 5, 1 / 12, "stops"
    )
