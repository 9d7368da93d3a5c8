"""What may reach the application: this machine's own pages only.

Listening on loopback is not enough, since any page open in the same browser can send requests there. The Host header
is checked against rebinding of names, Origin and Sec-Fetch-Site against pages of other origins. A request
that holds too much is refused by its announced length, or cut off.
"""

from __future__ import annotations

import asyncio
import logging
import secrets
import time
from collections.abc import Iterable

from starlette.datastructures import Headers, MutableHeaders
from starlette.exceptions import HTTPException
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from hearthkeep.api.problems import MAX_REQUEST_BYTES, MOST_BYTES, problem_response, too_large, unexpected_problem

SAFE_FETCH_SITES = ("same-origin", "none")
#: How long the body of a request may take to arrive [s].
BODY_WITHIN_S = 20.0
#: Bodies that are waited for at the same time.
MOST_ARRIVING = 100
#: Sent with every answer, beside the content security policy.
COMPANIONS = {
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
    "Referrer-Policy": "no-referrer",
    "Permissions-Policy": "camera=(), geolocation=(), microphone=()",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
}

_log = logging.getLogger(__name__)


class Guard:
    """ASGI layer in front of everything else."""

    def __init__(self, app: ASGIApp, *, ports: Iterable[int]) -> None:
        self._app = app
        names = ("127.0.0.1", "localhost", "[::1]")
        self._hosts = {f"{name}:{port}" for name in names for port in ports}
        self._arriving: list[None] = []
        self._origins = {f"http://{host}" for host in self._hosts}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        nonce = secrets.token_urlsafe(16)
        scope.setdefault("state", {})["csp_nonce"] = nonce
        send = _Sender(send, _policy(nonce), without_body=scope["method"] == "HEAD")
        refusal = self._refusal(headers, is_page=not scope["path"].startswith("/api/"))
        most = MOST_BYTES.get(scope["path"], MAX_REQUEST_BYTES)
        announced = headers.get("content-length", "")
        if refusal is None and announced.isdigit() and int(announced) > most:
            refusal = 413, "HTTP_413", too_large(scope["path"])
        if refusal is not None:
            status, code, detail = refusal
            await problem_response(status, code, "Refused", detail)(scope, receive, send)
            return
        if scope["method"] == "HEAD":
            # What a GET would answer, without its body.
            scope = {**scope, "method": "GET"}
        try:
            await self._app(scope, _in_time(_at_most(receive, most), self._arriving), send)
        except asyncio.CancelledError:
            asked = asyncio.current_task()
            if send.begun or (asked is not None and asked.cancelling()):
                raise
            # Not this answer was given up, but something that it waited for.
            _log.exception("%s %s", scope["method"], scope["path"])
            await unexpected_problem()(scope, receive, send)
        except Exception:
            # Told here, so that this answer too has the headers of all others.
            _log.exception("%s %s", scope["method"], scope["path"])
            if not send.begun:
                await unexpected_problem()(scope, receive, send)

    def _refusal(self, headers: Headers, *, is_page: bool) -> tuple[int, str, str] | None:
        if headers.get("host", "") not in self._hosts:
            return 421, "HOST", "This address is not served here. Open the address that ./hearth printed."
        origin = headers.get("origin")
        if origin is not None and origin not in self._origins:
            return 403, "ORIGIN", "A page of another origin may neither read nor change anything here."
        site = headers.get("sec-fetch-site", "none")
        # A link on another page may open the application, but not call its interface.
        if site not in SAFE_FETCH_SITES and not (is_page and headers.get("sec-fetch-mode") == "navigate"):
            return 403, "ORIGIN", "A page of another origin may neither read nor change anything here."
        return None


def _at_most(receive: Receive, most_bytes: int) -> Receive:
    """Cut a request off that holds more than it may, whether or not it said so."""
    taken = 0

    async def counted() -> Message:
        nonlocal taken
        message = await receive()
        taken += len(message.get("body", b""))
        if taken > most_bytes:
            raise HTTPException(413)
        return message

    return counted


def _in_time(receive: Receive, arriving: list[None]) -> Receive:
    """Give a request up whose body does not arrive, or where the bodies of too many others do not; from this machine one takes
    milliseconds. `arriving` holds an entry for each that is waited for."""
    give_up: float | None = None
    whole = False

    async def timed() -> Message:
        nonlocal whole, give_up
        if give_up is None:
            # Who has to wait for a place is not asked for it before.
            give_up = time.monotonic() + BODY_WITHIN_S
        if whole:
            # Waiting to hear that the other side has gone may take as long as it takes.
            return await receive()
        if len(arriving) >= MOST_ARRIVING:
            raise HTTPException(
                503, f"The bodies of {MOST_ARRIVING} requests are on their way already; try again in a moment."
            )
        arriving.append(None)
        try:
            message = await asyncio.wait_for(receive(), max(0.01, give_up - time.monotonic()))
        except TimeoutError:
            raise HTTPException(408, f"The request did not arrive whole within {BODY_WITHIN_S:.0f} s.") from None
        finally:
            arriving.pop()
        whole = message["type"] != "http.request" or not message.get("more_body", False)
        return message

    return timed


def _policy(nonce: str) -> str:
    """The content security policy of an answer."""
    return "; ".join(
        (
            "default-src 'none'",
            "script-src 'self'",
            f"style-src 'self' 'nonce-{nonce}'",
            "font-src 'self'",
            "img-src 'self' data:",
            "connect-src 'self'",
            "manifest-src 'self'",
            "base-uri 'none'",
            "form-action 'none'",
            "frame-ancestors 'none'",
        )
    )


class _Sender:
    """Sends an answer with the security policy and its companions, whatever made it."""

    def __init__(self, send: Send, policy: str, *, without_body: bool) -> None:
        self._send = send
        self._policy = policy
        self._without_body = without_body
        #: Whether the answer's first part is on its way, so that no other can be given.
        self.begun = False

    async def __call__(self, message: Message) -> None:
        if message["type"] == "http.response.start":
            self.begun = True
            headers = MutableHeaders(scope=message)
            headers["Content-Security-Policy"] = self._policy
            for name, value in COMPANIONS.items():
                headers[name] = value
            headers.setdefault("Cache-Control", "no-store")
        elif self._without_body and message["type"] == "http.response.body":
            if message.get("more_body", False):
                return
            message = {"type": "http.response.body", "body": b""}
        await self._send(message)
