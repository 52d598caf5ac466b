"""Who may talk to the server: this machine's own pages, in bounded amounts; and what they hear when
something goes wrong that nobody thought of."""

import asyncio
import contextlib
import logging
import re
import threading

from starlette.datastructures import Headers
from starlette.exceptions import HTTPException
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from ..errors import Forbidden, SilvrinError, TooLarge

LOOPBACK = re.compile(r"(127\.0\.0\.1|localhost|\[::1\])(:[0-9]{1,5})?")
MOST_JSON = 8 << 20  # more than a recipe with all its sheets can have
MOST_UPLOAD = 1 << 30
UPLOAD_TYPE = "application/octet-stream"
SILENT = 30.0  # s for which the next part of a body is waited for
LOOKS = 0.5  # s between looks whether the server is to end
LOG = logging.getLogger(__name__)
# Addresses that take files
_UPLOAD = re.compile(r"/api/(rolls/[^/]+/frames|references|profiles|contact/photograph)")

_SAFE_HEADERS = [
    (b"x-content-type-options", b"nosniff"),
    (b"referrer-policy", b"no-referrer"),
    (b"cross-origin-resource-policy", b"same-origin"),
    (
        b"content-security-policy",
        b"default-src 'self'; img-src 'self' blob: data:; style-src 'self' 'unsafe-inline'; "
        b"frame-ancestors 'none'; form-action 'none'; base-uri 'none'",
    ),
]


def problem(error: SilvrinError, **more: object) -> JSONResponse:
    """An error as RFC 9457 problem JSON."""
    body = {"type": "about:blank", "title": error.title, "status": error.status}
    body |= {"detail": str(error), **more}
    return JSONResponse(body, error.status, media_type="application/problem+json")


class Guard:
    """Refuses foreign hosts and origins, and bodies larger than what they are for; cuts off bodies
    that fall silent, and all when `stopping` is set."""

    def __init__(self, app: ASGIApp, stopping: threading.Event) -> None:
        self.app, self.stopping = app, stopping

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] not in ("http", "websocket"):
            await self.app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        bound = MOST_UPLOAD if _UPLOAD.fullmatch(scope["path"]) else MOST_JSON
        refusal = _refusal(headers, bound)
        if scope["type"] == "websocket":
            if refusal is not None:
                await send({"type": "websocket.close", "code": 1008, "reason": refusal.title})
            else:
                await self.app(scope, receive, send)
            return
        begun = False
        body = _Body(receive, bound, self.stopping)
        has_body = "transfer-encoding" in headers or headers.get("content-length", "0") != "0"

        async def send_safely(message: Message) -> None:
            nonlocal begun
            if message["type"] == "http.response.start":
                begun = True
                more = [(b"connection", b"close")] if has_body and not body.whole else []
                message["headers"] = [*message.get("headers", []), *_SAFE_HEADERS, *more]
            await send(message)

        if refusal is not None:
            await problem(refusal)(scope, receive, send_safely)
            return
        try:
            await self.app(scope, body.receive, send_safely)
        except Exception:
            LOG.exception("%s %s failed", scope["method"], scope["path"])
            if begun:
                raise
            await problem(_Unforeseen(scope["path"]))(scope, receive, send_safely)


class _Unforeseen(SilvrinError):
    """What nobody thought of."""

    status = 500
    title = "That went wrong"

    def __init__(self, path: str) -> None:
        super().__init__(
            f"Silvrin failed at {path[:80]!r}; nothing was changed by it. What happened is in the "
            "window it was started from. Try again, and tell its makers if it stays."
        )


def _refusal(headers: Headers, bound: int) -> SilvrinError | None:
    host = headers.get("host", "")
    if not LOOPBACK.fullmatch(host.lower()):
        return Forbidden(f"Host {host[:80]!r} is refused; open Silvrin at 127.0.0.1.")
    origin = headers.get("origin")
    if origin is not None and origin != f"http://{host}":
        return Forbidden(f"Origin {origin[:80]!r} is refused; only Silvrin's own pages may ask.")
    length = headers.get("content-length", "0")
    if not re.fullmatch(r"[0-9]{1,18}", length) or int(length) > bound:
        return too_large(bound)
    return None


def too_large(bound: int) -> TooLarge:
    """The refusal of a body over its bound."""
    return TooLarge(f"At most {bound >> 20} MiB are taken at once; the request is larger.")


class _Body:
    """The body of a request: counted as it comes, and not waited for without end."""

    def __init__(self, receive: Receive, bound: int, stopping: threading.Event) -> None:
        self._receive, self._bound, self._stopping = receive, bound, stopping
        self._taken = 0
        self.whole = False

    async def receive(self) -> Message:
        if self.whole:  # from here on it is waited for the end of the connection
            return await self._receive()
        message = await self._patiently()
        if message["type"] == "http.request":
            self._taken += len(message.get("body", b""))
            if self._taken > self._bound:
                raise HTTPException(413, str(too_large(self._bound)))
        self.whole = not message.get("more_body", False)
        return message

    async def _patiently(self) -> Message:
        for _ in range(round(SILENT / LOOKS)):
            if self._stopping.is_set():
                raise HTTPException(
                    503, "Silvrin is being stopped; nothing was kept. Send it again."
                )
            with contextlib.suppress(TimeoutError):
                return await asyncio.wait_for(self._receive(), LOOKS)
        raise HTTPException(
            408, f"Nothing came for {SILENT:.0f} s; nothing was kept. Send it again."
        )
