"""How the core's loops are compiled: every option in one place, since each was chosen by measuring.

Small functions are made one by the machine-code compiler (`forceinline`), after each has been typed once. To paste their source
into every caller instead (numba's `inline="always"`) gives the same speed, and takes seven times as long to compile.

A function that only compiled code calls goes without the wrappers through which Python calls, which unpack a nested tuple number
by number and take longer to compile than the function itself. **Called from Python it would end the process.**

Loops divide as numpy does, by zero to infinity, so that no division is watched over.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar, cast

from numba import config, njit

F = TypeVar("F", bound=Callable[..., Any])

# Nothing in these loops is done to several numbers at once; to look for it takes a tenth of the compiler's time.
for name in ("LOOP_VECTORIZE", "SLP_VECTORIZE"):
    setattr(config, name, False)

_UNWRAPPED: dict[str, Any] = {"no_cpython_wrapper": True, "no_cfunc_wrapper": True}
#: Without counting who holds an array, which takes longer than the model itself.
_UNCOUNTED: dict[str, Any] = {"error_model": "numpy", "_nrt": False}


def entry(function: F) -> F:
    """Called from Python and from compiled code; kept on disk once compiled."""
    return cast(F, njit(cache=True)(function))


def loop(function: F) -> F:
    """The same for a loop that allocates nothing (what it fills in comes from outside); several threads may be in it at once."""
    return cast(F, njit(cache=True, nogil=True, **_UNCOUNTED)(function))


def inner(function: Callable[..., Any]) -> Any:
    """A small function of plain numbers inside a loop, for compiled code alone."""
    return njit(forceinline=True, **_UNCOUNTED, **_UNWRAPPED)(function)


def inner_seldom(function: Callable[..., Any]) -> Any:
    """The same where it is called seldom: one copy, not one in each caller."""
    return njit(**_UNCOUNTED, **_UNWRAPPED)(function)


def inner_shared(function: Callable[..., Any]) -> Any:
    """A small function inside a loop that Python calls too."""
    return njit(cache=True, forceinline=True, **_UNCOUNTED)(function)


def inner_counted(function: F) -> F:
    """For compiled code alone, and making arrays."""
    return cast(F, njit(**_UNWRAPPED)(function))
