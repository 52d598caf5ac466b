"""Sizes of negatives."""

from ..picture import LinearPicture
from .settings import FilmFormat

# Long side of the picture area, mm: ISO 1007 and trade sizes, from memory
FORMATS: dict[FilmFormat, float] = {
    "half frame": 24.0,
    "35 mm": 36.0,
    "6 × 6 cm": 56.0,
    "6 × 7 cm": 70.0,
    "4 × 5 in": 121.0,
    "8 × 10 in": 244.0,
}


def pitch_of(film_format: FilmFormat, picture: LinearPicture, long_side: int) -> float:
    """µm on the film of a pixel of a picture that is shown with that long side; the picture is
    cropped from the whole film."""
    part = max(picture.width, picture.height) / picture.film_side
    return 1000.0 * FORMATS[film_format] * part / long_side
