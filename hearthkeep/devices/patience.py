"""Total limits for answers from outside: who drips a byte now and then is cut off like who says nothing."""

from __future__ import annotations

import contextlib
import socket
import threading
from collections.abc import Callable, Iterator
from dataclasses import dataclass

#: A connection that was made in the moment of the cut is cut so soon after it [s].
AGAIN_S = 0.1


@dataclass(slots=True)
class Cut:
    """Whether a connection was cut off."""

    is_made: bool = False


@contextlib.contextmanager
def cut_off(after_s: float, socket_of: Callable[[], socket.socket | None]) -> Iterator[Cut]:
    """
    Shut a connection after so long; whoever waits at it then hears its end.

    :param after_s: counted from here [s].
    :param socket_of: the socket that is asked at by then; none where there is none yet.
    """
    done, cut = threading.Event(), Cut()

    def watch() -> None:
        if done.wait(after_s):
            return
        cut.is_made = True
        while not done.wait(AGAIN_S):
            with contextlib.suppress(OSError):
                held = socket_of()
                if held is not None:
                    held.shutdown(socket.SHUT_RDWR)

    watching = threading.Thread(target=watch, name="cut off", daemon=True)
    watching.start()
    try:
        yield cut
    finally:
        done.set()
        watching.join()
