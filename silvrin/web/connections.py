"""Connections end: those that do not say what they want, and all of them at an ordinary stop."""

import asyncio
import os
import threading
from collections.abc import Callable
from types import FrameType

import h11
import uvicorn
from uvicorn.protocols.http.h11_impl import H11Protocol

HEADERS = 15.0  # s in which a request must have said what it wants
CONNECTIONS_END = 2  # s after a stop when requests that hang are cut off
ENDS = 5.0  # s after a stop when the process ends, whatever still works in it


class PromptProtocol(H11Protocol):
    """HTTP that waits for a request's headers no longer than `HEADERS`, however they drip."""

    _waiting: asyncio.TimerHandle | None = None

    def connection_made(self, transport: asyncio.BaseTransport) -> None:
        super().connection_made(transport)  # type: ignore[arg-type]
        self._look()

    def data_received(self, data: bytes) -> None:
        super().data_received(data)
        self._look()

    def connection_lost(self, exc: Exception | None) -> None:
        self._let_go()
        super().connection_lost(exc)

    def _look(self) -> None:
        if self.conn.their_state is not h11.IDLE:
            self._let_go()
        elif self._waiting is None:
            self._waiting = self.loop.call_later(HEADERS, self.transport.close)

    def _let_go(self) -> None:
        if self._waiting is not None:
            self._waiting.cancel()
            self._waiting = None


class Server(uvicorn.Server):
    """A server that calls `stop` when it is told to end (Ctrl+C, SIGTERM), and has ended within
    `ENDS`. What is cut off then was promised to nobody: what was acknowledged is on the disk, and
    orders are rows that are taken up at the next start."""

    def __init__(self, config: uvicorn.Config, stop: Callable[[], None]) -> None:
        super().__init__(config)
        self._stop = stop

    def handle_exit(self, sig: int, frame: FrameType | None) -> None:
        if not self.should_exit:
            last = threading.Timer(ENDS, os._exit, (0,))
            last.daemon = True
            last.start()
            # not in the handler itself: it may have come between any two steps of any work
            threading.Thread(target=self._stop, name="stop", daemon=True).start()
        super().handle_exit(sig, frame)
