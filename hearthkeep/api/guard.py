"""What may reach the application: this machine's own pages only.

Listening on loopback is not enough, since any page open in the same browser can send requests there. The Host header
is checked against rebinding of names, Origin and Sec-Fetch-Site against pages of other origins. A request
that holds too much is refused by its announced length, or cut off.
"""

from __future__ import annotations

import secrets
from collections.abc import Iterable

from starlette.datastructures import Headers, MutableHeaders
from starlette.exceptions import HTTPException
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from hearthkeep.api.problems import MAX_REQUEST_BYTES, MOST_BYTES, problem_response, too_large

SAFE_FETCH_SITES = ("same-origin", "none")


class Guard:
    """ASGI layer in front of everything else."""

    def __init__(self, app: ASGIApp, *, ports: Iterable[int]) -> None:
        self._app = app
        names = ("127.0.0.1", "localhost", "[::1]")
        self._hosts = {f"{name}:{port}" for name in names for port in ports}
        self._origins = {f"http://{host}" for host in self._hosts}

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        refusal = self._refusal(headers, is_page=not scope["path"].startswith("/api/"))
        most = MOST_BYTES.get(scope["path"], MAX_REQUEST_BYTES)
        announced = headers.get("content-length", "")
        if refusal is None and announced.isdigit() and int(announced) > most:
            refusal = 413, "HTTP_413", too_large(scope["path"])
        if refusal is not None:
            status, code, detail = refusal
            await problem_response(status, code, "Refused", detail)(scope, receive, send)
            return
        nonce = secrets.token_urlsafe(16)
        scope.setdefault("state", {})["csp_nonce"] = nonce
        await self._app(scope, _at_most(receive, most), _with_policy(send, nonce))

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


def _with_policy(send: Send, nonce: str) -> Send:
    """Add the content security policy and its companions to every response."""
    policy = "; ".join(
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

    async def with_policy(message: Message) -> None:
        if message["type"] == "http.response.start":
            headers = MutableHeaders(scope=message)
            headers["Content-Security-Policy"] = policy
            headers["X-Content-Type-Options"] = "nosniff"
            headers["Referrer-Policy"] = "no-referrer"
            headers["Cross-Origin-Resource-Policy"] = "same-origin"
            headers["Cross-Origin-Opener-Policy"] = "same-origin"
            headers.setdefault("Cache-Control", "no-store")
        await send(message)

    return with_policy
