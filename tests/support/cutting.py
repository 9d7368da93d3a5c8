"""A line to the database that can be cut: everything passes through, until after so many messages both ends are closed."""

from __future__ import annotations

import contextlib
import socket
import struct
import threading


class CuttingProxy:
    """Listens on loopback and passes on to a server; armed, it closes a line at a message from the client's side."""

    def __init__(self, host: str, port: int) -> None:
        self._to = (host, port)
        self._listener = socket.create_server(("127.0.0.1", 0))
        self.port: int = self._listener.getsockname()[1]
        self._lock = threading.Lock()
        #: Messages still to pass, none where nothing is to be cut, and whether the message at which it is cut arrives before that.
        self._left: int | None = None
        self._arrives = False
        self.was_cut = False
        threading.Thread(target=self._accept, daemon=True).start()

    def close(self) -> None:
        """Take no more lines."""
        self._listener.close()

    @contextlib.contextmanager
    def cutting(self, number: int, *, arrives: bool):
        """Cut at the message of this number; its answer alone is lost where it arrives."""
        with self._lock:
            self._left, self._arrives, self.was_cut = number, arrives, False
        try:
            yield self
        finally:
            with self._lock:
                self._left = None

    def _accept(self) -> None:
        while True:
            try:
                line, _ = self._listener.accept()
            except OSError:
                return
            server = socket.create_connection(self._to)
            for here, there, counts in ((line, server, True), (server, line, False)):
                threading.Thread(target=self._pass, args=(here, there, counts), daemon=True).start()

    def _is_cut(self) -> bool:
        with self._lock:
            if self._left is None:
                return False
            self._left -= 1
            if self._left > 0:
                return False
            self._left, self.was_cut = None, True
            return True

    def _pass(self, here: socket.socket, there: socket.socket, counts: bool) -> None:
        with contextlib.suppress(OSError):
            while content := here.recv(1 << 16):
                if counts and self._is_cut():
                    if self._arrives:
                        there.sendall(content)
                        # What comes back to it is never read by anybody: the server goes on to the end of what it was sent.
                        there.settimeout(0.5)
                        with contextlib.suppress(TimeoutError):
                            there.recv(1, socket.MSG_PEEK)
                    break
                there.sendall(content)
        for end in (here, there):
            with contextlib.suppress(OSError):
                end.setsockopt(socket.SOL_SOCKET, socket.SO_LINGER, struct.pack("ii", 0, 0))
                end.shutdown(socket.SHUT_RDWR)
            end.close()
