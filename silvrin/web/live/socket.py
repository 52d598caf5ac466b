"""The live socket: a recipe and a view go in, pixels and readings come out.

The client sends LiveRequest as JSON text whenever something changes. One request is worked on at
a time, and of those that came meanwhile only the newest is kept. The answer is binary: the length
of a JSON header (4 bytes, little endian), the header (LiveFrame), then the pixels, 8 bit,
`channels` a pixel, rows without padding. A reading alone (LiveReading) comes as JSON in a text
message, an error as problem JSON in one. A camera
raw that is not developed yet is answered from a part of its size first, and again when it is.
"""

import asyncio
import logging
from concurrent.futures import ThreadPoolExecutor

from fastapi import APIRouter, WebSocket, WebSocketDisconnect
from pydantic import ValidationError

from ...core.kernels.run import THREADS, first
from ...core.recipe.wording import explain
from ...core.render import Darkroom, Sitting
from ...errors import BadRecipe, NotFound, SilvrinError
from ...files.delivery.press import Press
from ...store import output_sets, rolls
from ...store.library import Library, caption_of
from .answer import answer
from .curves import CurvesSent
from .messages import LiveRequest

LOG = logging.getLogger(__name__)
# as many answers at once as there are processors: each takes tens of megabytes while it is made
_answering = ThreadPoolExecutor(THREADS, thread_name_prefix="answer")


def live_router(library: Library, darkroom: Darkroom) -> APIRouter:
    """The socket of the Bench."""
    router = APIRouter()

    @router.websocket("/api/live/{frame_id}")
    async def live(socket: WebSocket, frame_id: int) -> None:
        await socket.accept()
        try:
            frame = await asyncio.to_thread(rolls.frame, library.database.read, frame_id)
            # a window holds no picture but this: what is developed is asked for anew each time, so
            # that its memory can be given back once it is in the cache
            rough = await asyncio.to_thread(library.rough, frame.sha256)
            if rough is None:
                await asyncio.to_thread(library.picture, frame.sha256)
        except (SilvrinError, OverflowError) as error:
            said = error if isinstance(error, SilvrinError) else NotFound("There is no such frame.")
            await _say(socket, said, -1)
            await socket.close(1008)
            return

        newest: str | None = None
        last: str | None = None
        arrived = asyncio.Event()
        sent, loop = CurvesSent(), asyncio.get_running_loop()

        def answered(request: LiveRequest) -> bytes | str:
            library.sheets.take(request.sheets)
            if rough is None:
                sitting = library.sitting(frame, request.recipe)
            else:
                path = library.light_path(request.recipe)
                sitting = Sitting((frame.sha256, "rough"), rough, path, caption_of(frame))
            facts = frame.metadata
            odd_white = frame.kind == "raw" and facts.temperature is None
            ev, press = facts.exposure_value, press_of(request)
            return answer(darkroom, sitting, request, sent, ev, odd_white, press)

        def press_of(request: LiveRequest) -> Press | None:
            if request.press is None:
                return None
            content = output_sets.profile(library.database.read, request.press.profile)
            if content is None:
                raise BadRecipe("This profile is not on the shelf any more; choose another.")
            wish = request.press
            return Press(content, wish.intent, wish.black_point, wish.paper)

        def first_of_all(request: LiveRequest) -> bytes | str:
            with first():
                return answered(request)

        async def develop() -> None:
            """The picture itself, once it is there: what was shown last is shown anew."""
            nonlocal rough, newest
            try:
                await asyncio.to_thread(library.picture, frame.sha256)
            except SilvrinError as error:
                await _say(socket, error, -1)
                return
            rough = None
            newest = newest or last
            arrived.set()

        async def work() -> None:
            nonlocal newest, last
            while True:
                await arrived.wait()
                arrived.clear()
                text, newest = newest, None
                if text is None:
                    continue
                seq = -1
                try:
                    request = LiveRequest.model_validate_json(text)
                    seq = request.seq
                    if request.wants != "reading":
                        last = text
                    message = await loop.run_in_executor(_answering, first_of_all, request)
                    if isinstance(message, str):
                        await socket.send_text(message)
                    else:
                        await socket.send_bytes(message)
                except ValidationError as error:
                    await _say(socket, BadRecipe("; ".join(explain(error)) + "."), seq)
                except SilvrinError as error:
                    await _say(socket, error, seq)
                except WebSocketDisconnect:
                    return
                except Exception:
                    LOG.exception("a wish at the live socket failed")
                    await _say(socket, SilvrinError("The picture could not be made."), seq)

        tasks = [asyncio.create_task(work())]
        if rough is not None:
            tasks.append(asyncio.create_task(develop()))
        try:
            while True:
                message = await socket.receive()
                if message["type"] == "websocket.disconnect":
                    break
                newest = message.get("text")
                if newest is None:
                    await _say(socket, BadRecipe("A wish is JSON in a text message."), -1)
                arrived.set()
        finally:
            for task in tasks:
                task.cancel()

    return router


async def _say(socket: WebSocket, error: SilvrinError, seq: int) -> None:
    await socket.send_json(
        {"title": error.title, "status": error.status, "detail": str(error), "seq": seq}
    )
