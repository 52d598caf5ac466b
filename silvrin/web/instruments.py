"""Densitometers as resources: what there is, zeroing, reading. What is measured with them is the
window's to put together; nothing is kept."""

import threading
from typing import Annotated

from fastapi import APIRouter, Path
from pydantic import BaseModel, Field

from ..core.contact.process import target_inks
from ..errors import NotFound
from ..instruments import DENSITOMETERS, Densitometer, Reading
from ..instruments.densitometer import What
from ..store import contact_processes
from ..store.library import Library
from .inputs import Input

DeviceId = Annotated[str, Path(pattern=r"^[a-z0-9-]{1,40}$")]


class WedgeEntry(BaseModel):
    """A wedge that can be laid under a head."""

    id: str
    name: str
    what: What
    steps: int
    step: float  # log10 exposure between steps
    grade: float | None


class DensitometerEntry(BaseModel):
    """A densitometer that can be chosen."""

    id: str
    name: str
    about: str
    wedges: list[WedgeEntry]


class Under(Input):
    """What lies under the head, as far as the window knows: patch 0 is the base."""

    wedge: str | None = Field(None, max_length=60)
    patch: int = Field(0, ge=0, le=10_000)
    process: int | None = Field(None, description="Whose linearised contact target it is.")


class ReadingEntry(BaseModel):
    """A reading; of a zeroing the base's own density."""

    density: float
    lab: tuple[float, float, float] | None


def instruments_router(library: Library) -> APIRouter:
    """Resources of instruments."""
    router = APIRouter(prefix="/api/densitometers")
    busy = threading.Lock()  # a device answers one question at a time

    def device(name: str) -> Densitometer:
        if name not in DENSITOMETERS:
            raise NotFound(
                f"There is no densitometer {name!r}; there is {', '.join(DENSITOMETERS)}."
            )
        return DENSITOMETERS[name]

    def laid(name: str, under: Under) -> Densitometer:
        """A densitometer that knows what lies under its head."""
        found = device(name)
        wedge = next((each for each in found.wedges() if each.id == under.wedge), None)
        if wedge and wedge.what == "contact":
            read = library.database.read
            before = under.process and contact_processes.process(read, under.process)
            found.lay(target_inks(wedge.steps, before or None).tolist())
        return found

    def entry(reading: Reading) -> ReadingEntry:
        lab = reading.lab and tuple(round(float(v), 2) for v in reading.lab)
        return ReadingEntry(density=round(reading.density, 3), lab=lab)

    @router.get("")
    def get_all() -> list[DensitometerEntry]:
        return [
            DensitometerEntry(
                id=each.id,
                name=each.name,
                about=each.about,
                wedges=[WedgeEntry(**vars(wedge)) for wedge in each.wedges()],
            )
            for each in DENSITOMETERS.values()
        ]

    @router.post("/{name}/zero")
    def zero(name: DeviceId, under: Under) -> ReadingEntry:
        """Take the base that lies under the head for 0; its own density."""
        with busy:
            return entry(laid(name, under).zero(under.wedge, under.patch))

    @router.post("/{name}/read")
    def read(name: DeviceId, under: Under) -> ReadingEntry:
        """Read what lies under the head, above what was zeroed."""
        with busy:
            return entry(laid(name, under).read(under.wedge, under.patch))

    return router
