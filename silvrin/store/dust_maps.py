"""The dust map of a roll: specks that were mended on one frame, as they lie on the sensor, for its
other frames."""

import sqlite3
from collections.abc import Sequence

import numpy as np
from pydantic import BaseModel, TypeAdapter

from ..core.capture.sensor import from_sensor, to_sensor
from ..core.capture.settings import MOST_MENDS
from ..core.recipe import Mend, Recipe
from ..core.recipe.drawings import Sheets
from ..core.settings import range_of
from ..errors import NotFound
from . import prints, rolls
from .rolls import Frame
from .sheets import SheetRoom, keep_sheets

AS_AT = 16.0  # f-number that radii are kept for
SHALLOW = 0.35  # of the f-number a speck was seen at: wider open it is no longer seen


class MapSpeck(BaseModel):
    """A speck as it lies on the sensor, pixels; its radius at f/16."""

    x: float
    y: float
    radius: float
    f_number: float | None


class Carried(BaseModel):
    """What became of a dust map."""

    specks: int
    frames: int  # other frames it fits
    prints: int  # existing prints that were changed
    other_size: int  # frames of the roll from another camera or of another size


SPECKS = TypeAdapter(list[MapSpeck])


def _sensor(frame: Frame) -> tuple[int, int]:
    if frame.metadata.orientation >= 5:
        return frame.height, frame.width
    return frame.width, frame.height


def _key(frame: Frame) -> dict[str, object]:
    width, height = _sensor(frame)
    return {
        "roll": frame.roll_id, "camera": frame.metadata.camera or "",
        "width": width, "height": height,
    }  # fmt: skip


def _grown(frame: Frame) -> float:
    """By how much a speck is larger than at f/16."""
    return AS_AT / frame.metadata.aperture if frame.metadata.aperture else 1.0


def carry(
    connection: sqlite3.Connection, sheets: SheetRoom, frame_id: int, mends: Sequence[Mend]
) -> Carried:
    """Make the single mends of a frame the dust map of its roll, and mend its other frames by it:
    their prints get a change that can be taken back, later prints begin with it. Raises NotFound
    when there is no such frame or nothing to carry."""
    frame = rolls.frame(connection, frame_id)
    single = [mend for mend in mends if not mend.path and not mend.fill]
    if not single:
        raise NotFound("There is no mended speck to carry; strokes and fillings stay with a frame.")
    places = np.array([[mend.x + 0.5, mend.y + 0.5] for mend in single])
    found = to_sensor(places, _sensor(frame), frame.metadata.orientation)
    specks = [
        MapSpeck(
            x=float(x), y=float(y), radius=mend.radius / _grown(frame),
            f_number=frame.metadata.aperture,
        )
        for (x, y), mend in zip(found, single, strict=True)
    ]  # fmt: skip
    connection.execute(
        """
        INSERT INTO dust_maps (roll_id, camera, width, height, specks)
        VALUES (:roll, :camera, :width, :height, :specks)
        ON CONFLICT DO UPDATE SET specks = excluded.specks
        """,
        {**_key(frame), "specks": SPECKS.dump_json(specks).decode()},
    )
    others = [f for f in rolls.frames_of(connection, frame.roll_id) if f.id != frame_id]
    fitting = [f for f in others if _key(f) == _key(frame)]
    changed = 0
    for other in fitting:
        for summary in other.prints:
            now = prints.get_print(connection, summary.id)
            recipe = mended_by_map(connection, sheets, other, now.recipe)
            if recipe != now.recipe:
                prints.change_print(
                    connection, now.id, now.head, recipe, "Mended by the roll's dust map"
                )
                changed += 1
    return Carried(
        specks=len(specks), frames=len(fitting), prints=changed,
        other_size=len(others) - len(fitting),
    )  # fmt: skip


def mended_by_map(
    connection: sqlite3.Connection, sheets: SheetRoom, frame: Frame, recipe: Recipe
) -> Recipe:
    """A recipe with the mends of the roll's dust map that it does not have yet."""
    row = connection.execute(
        """
        SELECT specks FROM dust_maps WHERE roll_id = :roll AND camera = :camera
        AND width = :width AND height = :height
        """,
        _key(frame),
    ).fetchone()
    if row is None:
        return recipe
    mends = list(sheets.drawings(connection, recipe).mends)
    known = len(mends)
    aperture = frame.metadata.aperture
    for speck in SPECKS.validate_json(row["specks"]):
        if aperture and speck.f_number and aperture < SHALLOW * speck.f_number:
            continue
        place = np.array([[speck.x, speck.y]])
        x, y = from_sensor(place, _sensor(frame), frame.metadata.orientation)[0]
        near = (np.hypot(m.x + 0.5 - x, m.y + 0.5 - y) < max(m.radius, 4) for m in mends)
        if any(near) or len(mends) >= MOST_MENDS:
            continue
        radius = int(np.clip(round(speck.radius * _grown(frame)), *range_of(Mend, "radius")))
        mends.append(Mend(x=int(x), y=int(y), radius=radius))
    if len(mends) == known:
        return recipe
    drawn = Sheets()
    names = (*recipe.capture.mends, *drawn.mends(mends[known:]))
    keep_sheets(connection, drawn.texts.values())
    capture = recipe.capture.model_copy(update={"mends": names})
    return recipe.model_copy(update={"capture": capture})
