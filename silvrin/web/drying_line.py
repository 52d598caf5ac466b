"""The drying line, and the sets of outputs and the profiles that orders are made with, as JSON."""

from pathlib import Path
from typing import Annotated

from fastapi import APIRouter, Query, Request
from fastapi.responses import FileResponse
from pydantic import BaseModel, Field

from ..errors import NotFound, SilvrinError
from ..files.delivery import Output
from ..files.delivery.output import RANGES
from ..files.reveal import reveal
from ..store import output_sets
from ..store.library import Library
from ..store.output_sets import OutputSet, OwnProfile
from .deliveries import Deliveries
from .delivery_orders import Delivery, DeliveryOrder, LineView, Plan
from .guard import UPLOAD_TYPE
from .inputs import Input

MOST_PROFILE = 16 << 20  # bytes


class OutputSets(BaseModel):
    """What orders are put together from."""

    plain: Output  # a file as it is where nothing is said
    sets: list[OutputSet]
    profiles: list[OwnProfile]
    ranges: dict[str, tuple[float, float]] = RANGES  # least and most of an output's numbers


class KeptSet(Input):
    """A set of outputs to be kept."""

    name: str = Field(min_length=1, max_length=60)
    outputs: tuple[Output, ...] = Field(min_length=1, max_length=20)


def drying_line_router(library: Library, deliveries: Deliveries) -> APIRouter:
    """Deliveries, output sets, profiles."""
    router = APIRouter(prefix="/api")
    database = library.database

    @router.post("/deliveries", status_code=202)
    def order(wanted: DeliveryOrder) -> list[Delivery]:
        """Put prints on their way to files, as they are now: each as every output."""
        return deliveries.order(wanted)

    @router.post("/deliveries/plan")
    def plan(wanted: DeliveryOrder) -> Plan:
        """What an order would write; nothing is begun."""
        return deliveries.plan(wanted)

    @router.get("/deliveries")
    def line(before: Annotated[int | None, Query(ge=1)] = None) -> LineView:
        """The drying line; with `before`, what was finished earlier than that delivery."""
        return deliveries.view(before)

    @router.delete("/deliveries/finished", status_code=204)
    def clear() -> None:
        """Take all that is finished off the line; the files stay."""
        deliveries.put_away(None)

    @router.delete("/deliveries/waiting", status_code=204)
    def cancel_all() -> None:
        """Cancel all that is not finished, and put away what failed."""
        for job in deliveries.unfinished():
            deliveries.cancel(job.id)

    @router.get("/deliveries/{delivery_id}")
    def get_delivery(delivery_id: int) -> Delivery:
        return deliveries.get(delivery_id)

    @router.delete("/deliveries/{delivery_id}")
    def cancel(delivery_id: int) -> Delivery:
        """Cancel a delivery, or take one that failed or is finished off the line."""
        job = deliveries.get(delivery_id)
        if job.state == "done":
            deliveries.put_away([delivery_id])
            return job
        return deliveries.cancel(delivery_id)

    @router.post("/deliveries/{delivery_id}/retry")
    def retry(delivery_id: int) -> Delivery:
        return deliveries.retry(delivery_id)

    @router.post("/deliveries/{delivery_id}/again", status_code=202)
    def again(delivery_id: int) -> Delivery:
        """The same file anew, of the print as it is now."""
        return deliveries.again(delivery_id)

    @router.get("/deliveries/{delivery_id}/file", response_class=FileResponse)
    def delivered_file(delivery_id: int, inline: bool = False) -> FileResponse:
        """The file; `inline` to be looked at in a window."""
        file = _file(deliveries.get(delivery_id))
        shown = "inline" if inline else "attachment"
        return FileResponse(file, filename=file.name, content_disposition_type=shown)

    @router.get("/deliveries/{delivery_id}/small", response_class=FileResponse)
    def small(delivery_id: int) -> FileResponse:
        """A small picture of what was delivered."""
        path = deliveries.small_of(delivery_id)
        if not path.exists():
            raise NotFound("There is no small picture of this delivery.")
        keep = {"cache-control": "private, max-age=31536000, immutable"}
        return FileResponse(path, media_type="image/jpeg", headers=keep)

    @router.post("/deliveries/{delivery_id}/reveal", status_code=204)
    def show_file(delivery_id: int) -> None:
        """Open the file's folder on the desktop of this computer."""
        reveal(_file(deliveries.get(delivery_id)))

    @router.get("/output-sets")
    def sets() -> OutputSets:
        return OutputSets(
            plain=Output(), sets=output_sets.output_sets(database.read),
            profiles=output_sets.profiles(database.read),
        )  # fmt: skip

    @router.post("/output-sets", status_code=201)
    def keep_set(kept: KeptSet) -> OutputSet:
        with database.write() as connection:
            return output_sets.keep_set(connection, kept.name, kept.outputs, None)

    @router.put("/output-sets/{set_id}")
    def change_set(set_id: int, kept: KeptSet) -> OutputSet:
        with database.write() as connection:
            return output_sets.keep_set(connection, kept.name, kept.outputs, set_id)

    @router.delete("/output-sets/{set_id}", status_code=204)
    def remove_set(set_id: int) -> None:
        with database.write() as connection:
            output_sets.remove_set(connection, set_id)

    @router.post(
        "/profiles",
        status_code=201,
        openapi_extra={
            "requestBody": {
                "required": True,
                "content": {UPLOAD_TYPE: {"schema": {"type": "string", "format": "binary"}}},
            }
        },
    )
    async def add_profile(
        name: Annotated[str, Query(min_length=1, max_length=120)], request: Request
    ) -> OwnProfile:
        """Put an ICC profile of a printer or a screen on the shelf: the body is the file."""
        content = bytearray()
        async for chunk in request.stream():
            content += chunk
            if len(content) > MOST_PROFILE:
                raise SilvrinError(
                    f"{name}: a profile of more than {MOST_PROFILE >> 20} MB is not taken."
                )
        with database.write() as connection:
            return output_sets.add_profile(connection, name, bytes(content))

    @router.delete("/profiles/{profile_id}", status_code=204)
    def remove_profile(profile_id: str) -> None:
        with database.write() as connection:
            output_sets.remove_profile(connection, profile_id)

    return router


def _file(job: Delivery) -> Path:
    if job.file is None or not Path(job.file).exists():
        raise NotFound("This delivery has no file; it is not finished, or it was moved.")
    return Path(job.file)
