"""Connections that begin a request and never end it are closed, and only so many are open: nobody can hold the server for ever."""

from __future__ import annotations

import asyncio
from typing import Any, ClassVar

from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol

from hearthkeep.api.guard import COMPANIONS

#: How long the head of a request may take to arrive; the guard limits its body [s].
HEAD_WITHIN_S = 20.0


#: So many connections are open at most; a page keeps six. The oldest that asks nothing makes room for a new one.
MOST_OPEN = 200


class PatientProtocol(HttpToolsProtocol):
    """The server's protocol with an end to its patience, and plain security headers on its own refusal."""

    _closing: asyncio.TimerHandle | None = None
    #: Of the whole process, the oldest first.
    _open: ClassVar[dict[PatientProtocol, None]] = {}

    def connection_made(self, transport: Any) -> None:
        super().connection_made(transport)
        while len(self._open) >= MOST_OPEN:
            idle = next((each for each in self._open if not each.is_answering), None)
            if idle is None:
                # Everybody who is there is being answered.
                transport.close()
                return
            idle.let_go()
        self._open[self] = None
        self._watch()

    @property
    def is_answering(self) -> bool:
        """Whether the head of a request is there, and its answer is not yet whole."""
        return self.cycle is not None and not self.cycle.response_complete

    def let_go(self) -> None:
        """Close it for another's sake."""
        self._open.pop(self, None)
        self._unwatch()
        if not self.transport.is_closing():
            self.transport.close()

    def data_received(self, data: bytes) -> None:
        super().data_received(data)
        if self.cycle is not None and not self.cycle.response_complete:
            self._unwatch()
        elif self._closing is None:
            # A further request has begun on the same connection.
            self._watch()

    def on_headers_complete(self) -> None:
        self._unwatch()
        super().on_headers_complete()

    def connection_lost(self, exc: Exception | None) -> None:
        self._open.pop(self, None)
        self._unwatch()
        super().connection_lost(exc)

    def _watch(self) -> None:
        self._closing = self.loop.call_later(HEAD_WITHIN_S, self._give_up)

    def _unwatch(self) -> None:
        if self._closing is not None:
            self._closing.cancel()
            self._closing = None

    def _give_up(self) -> None:
        self._closing = None
        if not self.transport.is_closing():
            self.transport.close()

    def send_400_response(self, msg: str) -> None:
        """What cannot be read as a request at all never reaches the guard."""
        body = msg.encode()
        lines = [
            "HTTP/1.1 400 Bad Request",
            "content-type: text/plain; charset=utf-8",
            f"content-length: {len(body)}",
            "connection: close",
            "content-security-policy: default-src 'none'",
            *(f"{name}: {value}" for name, value in COMPANIONS.items()),
        ]
        self.transport.write("\r\n".join([*lines, "", ""]).encode() + body)
        self.transport.close()
