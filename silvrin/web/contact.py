"""Contact processes: targets, measuring, refining, keeping, as JSON."""

import asyncio
from typing import Annotated, Literal

import numpy as np
from fastapi import APIRouter, Query, Request, Response
from pydantic import BaseModel, Field

from ..core.contact.process import POINTS, ContactProcess, Reading, target_inks
from ..errors import SilvrinError
from ..files.contact_photograph import PAPER, read_photograph
from ..files.contact_target import target_png
from ..files.measurements import read_target
from ..instruments.contact_frame import ContactFrame
from ..store import contact_processes
from ..store.contact_processes import KeptProcess
from ..store.library import Library
from .guard import UPLOAD_TYPE
from .inputs import Input, received

Steps = Literal[21, 31]
SHOWN = 101  # points of a curve


class TargetReadings(Input):
    """What a target measured."""

    steps: Steps = 31
    text: str = Field("", max_length=200_000, description="Densities, as CSV, CGATS.17 or lines.")
    stand_in: bool = Field(False, description="Read from the stand-in for printer and process.")
    growing: bool = Field(False, description="Fewer than the target has, while it is read.")
    process: int | None = Field(None, description="Whose linearised target it was, of a round.")
    name: str = Field("Contact process", min_length=1, max_length=60)


class ProcessCurve(BaseModel):
    """A process as it was fitted."""

    name: str
    rounds: int
    base: float
    black: float
    ink: list[float]  # of each reading
    density: list[float]
    residuals: list[float]
    curve: list[float]  # density over even inks, 0 to 1
    correction: list[float]  # ink over even shares of the range, base to black
    straight: float  # most that the last target was off a straight line, D


def contact_router(library: Library) -> APIRouter:
    """Processes of contact printing."""
    router = APIRouter(prefix="/api/contact")
    database = library.database

    def measured(given: TargetReadings) -> ContactProcess:
        before = None
        if given.process is not None:
            before = contact_processes.process(database.read, given.process)
        inks = target_inks(given.steps, before)
        if given.stand_in:
            readings = ContactFrame().read(inks, seed=0 if before is None else before.rounds)
        else:
            densities = read_target(given.text, given.name)
            if len(densities) > given.steps or (len(densities) < given.steps and not given.growing):
                raise SilvrinError(
                    f"{len(densities)} densities; the target has {given.steps} patches. Read each "
                    "once, in the order of their numbers."
                )
            readings = tuple(
                Reading(float(i), float(d)) for i, d in zip(inks, densities, strict=False)
            )
        if before is None:
            return ContactProcess(readings, 1, given.name)
        return before.refined(readings)

    @router.get("/target.png", response_class=Response)
    def target(
        steps: Annotated[int, Query(ge=21, le=31)] = 31,
        process: int | None = None,
        ink: Annotated[str, Query(pattern="^[0-9a-fA-F]{6}$")] = "000000",
    ) -> Response:
        """The target to print on film; linearised by a process for its next round."""
        before = None
        if process is not None:
            before = contact_processes.process(database.read, process)
        colour = (int(ink[:2], 16), int(ink[2:4], 16), int(ink[4:], 16))
        name = f"target of {steps} steps{' linearised' if before else ''}.png"
        said = {"content-disposition": f'attachment; filename="{name}"'}
        content = target_png(steps, colour, before)
        return Response(content, media_type="image/png", headers=said)

    @router.post(
        "/photograph",
        openapi_extra={
            "requestBody": {
                "required": True,
                "content": {UPLOAD_TYPE: {"schema": {"type": "string", "format": "binary"}}},
            }
        },
    )
    async def photograph(
        name: str,
        request: Request,
        steps: Annotated[int, Query(ge=21, le=31)] = 31,
        base: Annotated[float, Query(ge=0, le=1, description="Of the paper's white, D.")] = PAPER,
    ) -> list[float]:
        """Densities of a target in a photograph or a scan of its print: the body is the file,
        which is not kept."""
        incoming = await received(library, request)

        def read() -> list[float]:
            try:
                found = read_photograph(incoming.path, steps, base, name)
            finally:
                incoming.path.unlink(missing_ok=True)
            return [round(float(density), 3) for density in found]

        return await asyncio.to_thread(read)

    @router.post("/fit")
    def fit(given: TargetReadings) -> ProcessCurve | None:
        """The process that readings of a target show; nothing is kept. While they are still being
        read there may be none yet."""
        try:
            found = measured(given)
        except SilvrinError:
            if given.growing:
                return None
            raise
        return _curve(found, len(found.readings) if given.growing else given.steps)

    @router.get("/processes")
    def kept() -> list[KeptProcess]:
        return contact_processes.processes(database.read)

    @router.get("/processes/{process_id}")
    def one(process_id: int) -> ProcessCurve:
        found = contact_processes.process(database.read, process_id)
        return _curve(found, len(found.readings) // found.rounds)

    @router.post("/processes", status_code=201)
    def keep(given: TargetReadings) -> KeptProcess:
        """Keep a process on the shelf, or a further round of it."""
        made = measured(given.model_copy(update={"growing": False}))
        with database.write() as connection:
            return contact_processes.keep(connection, made, given.process)

    @router.delete("/processes/{process_id}", status_code=204)
    def remove(process_id: int) -> None:
        with database.write() as connection:
            contact_processes.remove(connection, process_id)

    return router


def _curve(found: ContactProcess, steps: int) -> ProcessCurve:
    last = found.readings[-steps:]
    straight = np.linspace(last[0].density, last[-1].density, len(last))
    off = np.abs(np.array([r.density for r in last]) - straight).max()
    at = np.linspace(0, POINTS - 1, SHOWN).round().astype(int)
    return ProcessCurve(
        name=found.name, rounds=found.rounds, base=found.base, black=found.black,
        ink=[r.ink for r in found.readings], density=[r.density for r in found.readings],
        residuals=found.residuals.tolist(), curve=found.curve[at].tolist(),
        correction=found.ink_for(np.linspace(0.0, 1.0, SHOWN)).tolist(), straight=float(off),
    )  # fmt: skip
