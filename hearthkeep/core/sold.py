"""Sizes of things that are usually sold. Common practice, no source."""

from __future__ import annotations

import math

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


def sizes_up(value: float, sizes: tuple[float, ...], up: int) -> float:
    """The next size up that is usually sold, and so many less one beyond it.

    >>> sizes_up(1356, SIZES_W, 1), sizes_up(1356, SIZES_W, 2)
    (1500.0, 2000.0)
    """
    found = next_size(value, sizes)
    for _ in range(up - 1):
        found = next_size(found + 1e-6, sizes)
    return found


#: Output of solar controllers usually sold, and watts of panels; beyond the largest several are bought [A, W].
CONTROLLER_SIZES_A = (5.0, 10.0, 20.0, 30.0, 40.0, 50.0, 60.0, 80.0, 100.0)
PANEL_SIZES_W = (10.0, 20.0, 30.0, 50.0, 100.0, 200.0, 300.0, 400.0)


def controllers_sold(value_a: float) -> tuple[int, float]:
    """How many solar controllers are bought for a current, and of what size [A]: one, or as many alike as it takes.

    >>> controllers_sold(42), controllers_sold(100), controllers_sold(220)
    ((1, 50.0), (1, 100.0), (3, 80.0))
    """
    count = max(1, math.ceil(value_a / CONTROLLER_SIZES_A[-1] - 1e-9))
    return count, next_size(value_a / count - 1e-9, CONTROLLER_SIZES_A)


def next_array_w(value_w: float) -> float:
    """Watts of panels bought where no panel is chosen: one of a size usually sold, or several of the largest.

    >>> next_array_w(72), next_array_w(530)
    (100.0, 800.0)
    """
    largest = PANEL_SIZES_W[-1]
    return next_size(value_w, PANEL_SIZES_W) if value_w <= largest else -(-value_w // largest) * largest


#: Prices where no data sheet has one, in the project's own currency: a watt of panel, of inverter and of generator, and an
#: ampere of solar controller. Our assumptions.
PANEL_PRICE_PER_W, INVERTER_PRICE_PER_W, GENERATOR_PRICE_PER_W, CONTROLLER_PRICE_PER_A = 0.6, 0.4, 0.5, 5.0
#: What a kilogram of panel and of inverter gives where no data sheet has its mass [W/kg]. Our assumptions.
PANEL_W_PER_KG, INVERTER_W_PER_KG = 19.0, 100.0
