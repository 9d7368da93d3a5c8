"""Fits with their doubt: lines through readings, and slopes that outliers do not move."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

#: Doubts are half-widths in which the true value lies so often.
CONFIDENCE = 0.95


@dataclass(frozen=True, kw_only=True, slots=True)
class Line:
    """y = intercept + slope × x, each with its doubt."""

    intercept: float
    slope: float
    intercept_doubt: float
    slope_doubt: float


def fitted_line(x: Floats, y: Floats) -> Line | None:
    """Least squares through three or more points, (n,) each; none where they cannot tell a slope.

    Doubts by Student's t on the residuals. Source: textbook.
    """
    if x.shape[0] < 3 or float(np.ptp(x)) <= 0:
        return None
    from scipy.stats import linregress, t

    found = linregress(x, y)
    factor = float(t.ppf(0.5 + CONFIDENCE / 2, x.shape[0] - 2))
    return Line(
        intercept=float(found.intercept),
        slope=float(found.slope),
        intercept_doubt=factor * float(found.intercept_stderr),
        slope_doubt=factor * float(found.stderr),
    )


def robust_slope(x: Floats, y: Floats) -> tuple[float, float, float] | None:
    """Theil and Sen's slope with the ends between which it lies, (n,) each; none with fewer than four points.

    The median of the slopes between all pairs: a third of the points may be wrong. Source: textbook.
    """
    if x.shape[0] < 4 or float(np.ptp(x)) <= 0:
        return None
    from scipy.stats import theilslopes

    found = theilslopes(y, x, CONFIDENCE)
    return float(found.slope), float(found.low_slope), float(found.high_slope)


def spread_of(values: Floats) -> float:
    """A spread that outliers do not widen: 1.4826 × the median distance from the median. Source: textbook."""
    return 1.4826 * float(np.median(np.abs(values - np.median(values)))) if values.size else 0.0
