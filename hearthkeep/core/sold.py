"""Sizes of things that are usually sold. Common practice, no source."""

from __future__ import annotations

#: Continuous and surge watts of units usually sold.
SIZES_W = (
    300.0,
    600.0,
    1000.0,
    1500.0,
    2000.0,
    2500.0,
    3000.0,
    3500.0,
    4000.0,
    5000.0,
    6000.0,
    8000.0,
    10000.0,
    12000.0,
)


def next_size(value: float, sizes: tuple[float, ...]) -> float:
    """The next size up that is usually sold, or the value rounded up to whole thousands beyond them.

    >>> next_size(2510, (2000, 3000)), next_size(31200, (2000, 3000))
    (3000, 32000)
    """
    for size in sizes:
        if size >= value:
            return size
    return -(-value // 1000) * 1000
