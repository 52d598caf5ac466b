"""What a file says about how it was taken, read by exiv2."""

from math import log2
from pathlib import Path

import exiv2
from pydantic import BaseModel

exiv2.LogMsg.setLevel(exiv2.LogMsg.Level.mute)


class Metadata(BaseModel):
    """Facts of a capture as the camera wrote them; None where it wrote nothing."""

    camera: str | None = None
    maker: str | None = None
    model: str | None = None
    lens: str | None = None
    taken: str | None = None  # local time of the camera, ISO 8601
    shutter: float | None = None  # s
    aperture: float | None = None  # f-number
    sensitivity: int | None = None  # ISO
    focal_length: float | None = None  # mm
    orientation: int = 1  # Exif code
    baseline_exposure: float = 0.0  # stops the maker asks to add (DNG)
    temperature: float | None = None  # K, of the light by the camera's white balance

    @property
    def exposure_value(self) -> float | None:
        """EV at ISO 100 of a middle grey that was exposed so: log2 (N² / t) - log2 (ISO / 100)
        (ISO 2720, from memory)."""
        if not (self.shutter and self.aperture and self.sensitivity):
            return None
        return log2(self.aperture**2 / self.shutter) - log2(self.sensitivity / 100)


def read_metadata(path: Path) -> Metadata:
    """The metadata of a file; empty when it has none or they cannot be read."""
    try:
        image = exiv2.ImageFactory.open(str(path))
        image.readMetadata()
        exif = image.exifData()
    except exiv2.Exiv2Error:
        return Metadata()

    def find(*keys: str) -> exiv2.Exifdatum | None:
        for key in keys:
            position = exif.findKey(exiv2.ExifKey(key))
            if position != exif.end():
                return position.datum() if hasattr(position, "datum") else position
        return None

    def text(*keys: str) -> str | None:
        found = find(*keys)
        return (str(found.toString()).strip("\0 ") or None) if found is not None else None

    def number(*keys: str) -> float | None:
        found = find(*keys)
        if found is None:
            return None
        try:
            top, bottom = found.toRational()
        except (TypeError, ValueError, exiv2.Exiv2Error):
            return None
        return top / bottom if bottom else None

    maker, model = text("Exif.Image.Make"), text("Exif.Image.Model")
    camera = model or maker
    if maker and model and not model.startswith(maker):
        camera = f"{maker} {model}"
    taken = text(
        "Exif.Photo.DateTimeOriginal", "Exif.Image.DateTimeOriginal", "Exif.Image.DateTime"
    )
    if taken and len(taken) >= 19:
        taken = f"{taken[:10].replace(':', '-')}T{taken[11:19]}"
    iso = number("Exif.Photo.ISOSpeedRatings", "Exif.Image.ISOSpeedRatings")
    orientation = int(number("Exif.Image.Orientation") or 1)
    return Metadata(
        camera=camera,
        maker=maker,
        model=model,
        lens=text("Exif.Photo.LensModel"),
        taken=taken,
        shutter=number("Exif.Photo.ExposureTime", "Exif.Image.ExposureTime"),
        aperture=number("Exif.Photo.FNumber", "Exif.Image.FNumber"),
        sensitivity=int(iso) if iso else None,
        focal_length=number("Exif.Photo.FocalLength", "Exif.Image.FocalLength"),
        orientation=orientation if 1 <= orientation <= 8 else 1,
        baseline_exposure=number("Exif.Image.BaselineExposure") or 0.0,
    )
