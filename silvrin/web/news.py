"""News: what happens in the background, told to every open window as it happens.

A socket, not a stream of events: a browser keeps only six connections to a server, and a window
that listens must not take one of them from the pictures.
"""

import asyncio
import threading

from fastapi import APIRouter, WebSocket, WebSocketDisconnect
from pydantic import BaseModel

from ..store.imports import FolderImport
from ..store.library import Library
from ..store.taking_in import TakingIn
from .deliveries import Deliveries
from .delivery_orders import DryingLine
from .merges import Merge, Merges

LOOKS = 0.4  # s between looks


class News(BaseModel):
    """How things stand."""

    frames: str  # changes when frames come, go, or lose their originals
    imports: list[FolderImport]  # that run, or were not put away
    merges: list[Merge]  # the newest of this run of the server, as they stand
    line: DryingLine


def news_router(
    library: Library,
    taking_in: TakingIn,
    merges: Merges,
    deliveries: Deliveries,
    stopping: threading.Event,
) -> APIRouter:
    """The socket that tells of what happens."""
    router = APIRouter()

    def frames() -> str:
        row = library.database.read.execute(
            """
            SELECT (SELECT count(*) FROM frames) AS known,
                (SELECT count(*) FROM frames WHERE binned_at IS NOT NULL) AS binned,
                (SELECT max(id) FROM frames) AS newest,
                (SELECT group_concat(sha256) FROM captures WHERE lost_at IS NOT NULL) AS lost
            """
        ).fetchone()
        return f"{row['known']} {row['binned']} {row['newest']} {hash(row['lost'])}"

    def look(seen: int | None, last: News | None) -> tuple[int, News]:
        version = library.database.version()
        changed = last is None or version != seen
        return version, News(
            frames=frames() if changed or last is None else last.frames,
            imports=taking_in.recent() if changed or last is None else last.imports,
            merges=merges.latest(),
            line=deliveries.line(),
        )

    @router.websocket("/api/news")
    async def news(socket: WebSocket) -> None:
        await socket.accept()
        seen: int | None = None
        last: News | None = None
        gone = asyncio.create_task(_until_gone(socket))
        try:
            while not gone.done() and not stopping.is_set():
                seen, now = await asyncio.to_thread(look, seen, last)
                if now != last:
                    await socket.send_text(now.model_dump_json())
                    last = now
                await asyncio.wait([gone], timeout=LOOKS)
        except (WebSocketDisconnect, RuntimeError):
            pass  # it went while it was told
        finally:
            gone.cancel()

    return router


async def _until_gone(socket: WebSocket) -> None:
    while (await socket.receive())["type"] != "websocket.disconnect":
        pass
