"""Who may talk to the server: this machine's own pages, in bounded amounts."""

from urllib.parse import urlsplit

from starlette.datastructures import Headers
from starlette.exceptions import HTTPException
from starlette.responses import JSONResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from ..errors import Forbidden, SilvrinError, TooLarge

LOOPBACK = {"127.0.0.1", "localhost", "::1"}
MOST_JSON = 8 << 20  # more than a recipe with all its sheets can have
MOST_UPLOAD = 1 << 30
UPLOAD_TYPE = "application/octet-stream"

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
    """Refuses foreign hosts and origins, and bodies larger than what they are for."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] not in ("http", "websocket"):
            await self.app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        refusal = self._refusal(headers)
        if refusal is not None:
            if scope["type"] == "websocket":
                await send({"type": "websocket.close", "code": 1008, "reason": refusal.title})
            else:
                await problem(refusal)(scope, receive, send)
            return

        async def send_safely(message: Message) -> None:
            if message["type"] == "http.response.start":
                message["headers"] = [*message.get("headers", []), *_SAFE_HEADERS]
            await send(message)

        bound = MOST_UPLOAD if headers.get("content-type") == UPLOAD_TYPE else MOST_JSON
        await self.app(scope, _bounded(receive, bound), send_safely)

    def _refusal(self, headers: Headers) -> SilvrinError | None:
        host = headers.get("host", "")
        if urlsplit(f"//{host}").hostname not in LOOPBACK:
            return Forbidden(f"Host {host[:80]!r} is refused; open Silvrin at 127.0.0.1.")
        origin = headers.get("origin")
        if origin is not None and origin != f"http://{host}":
            return Forbidden(
                f"Origin {origin[:80]!r} is refused; only Silvrin's own pages may ask."
            )
        length = headers.get("content-length", "0")
        bound = MOST_UPLOAD if headers.get("content-type") == UPLOAD_TYPE else MOST_JSON
        if not length.isdigit() or int(length) > bound:
            return too_large(bound)
        return None


def too_large(bound: int) -> TooLarge:
    """The refusal of a body over its bound."""
    return TooLarge(f"At most {bound >> 20} MiB are taken at once; the request is larger.")


def _bounded(receive: Receive, bound: int) -> Receive:
    """A body without a stated length is counted as it comes."""
    taken = 0

    async def bounded() -> Message:
        nonlocal taken
        message = await receive()
        if message["type"] == "http.request":
            taken += len(message.get("body", b""))
            if taken > bound:
                raise HTTPException(413, str(too_large(bound)))
        return message

    return bounded
