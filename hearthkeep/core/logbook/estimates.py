"""Estimates with their doubt: the half-width in which the true value lies in 99 of 100."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

CONFIDENCE = 0.99
BASIS = "Least squares over blocks of time, their likeness to one another counted, with Student's t: textbook; the instruments' own error added"
#: What hand-held and built-in instruments may be off throughout, zero set: amps by a shunt, watts by a meter, sun by a cell on the
#: plane. Common practice, no source.
SHUNT_FRAC, WATTS_FRAC, SUN_FRAC = 0.03, 0.02, 0.03
#: Fewer values than this that are free of each other say nothing.
LEAST_FREE = 4.0


@dataclass(frozen=True, kw_only=True, slots=True)
class Estimate:
    """One quantity found: value and the half-width of its doubt."""

    value: float
    doubt: float
    #: Blocks of time that it rests on.
    blocks: int

    def read_within(self, frac: float) -> Estimate:
        """The same, read by instruments that may be off throughout by a part of it."""
        return replace(self, doubt=self.doubt + frac * abs(self.value))


def through_origin(columns: list[Floats], y: Floats) -> list[Estimate] | None:
    """
    Least squares of y on columns without a constant: each factor with its doubt; none where they cannot be told apart.

    Doubts by White's estimate in the form of MacKinnon and White (HC3), or that of Newey and West where blocks that follow one
    another are alike, whichever is larger. Source: textbook, from memory.
    """
    from scipy.stats import t

    x = np.column_stack(columns)
    spare = y.size - x.shape[1]
    if spare < 3 or np.linalg.matrix_rank(x) < x.shape[1]:
        return None
    factors, *_ = np.linalg.lstsq(x, y, rcond=None)
    inverse = np.linalg.inv(x.T @ x)
    lever = np.einsum("ij,jk,ik->i", x, inverse, x)
    # Blocks differ in how much they hold: each speaks for its own scatter.
    scatter = (y - x @ factors) / np.maximum(1.0 - lever, 1e-6)
    moved = x * scatter[:, None]
    middle = moved.T @ moved
    alike = middle.copy()
    lags = int(np.ceil(4.0 * (y.size / 100.0) ** (2.0 / 9.0)))
    for lag in range(1, min(lags, y.size - 1) + 1):
        beside = moved[lag:].T @ moved[:-lag]
        alike += (1.0 - lag / (lags + 1.0)) * (beside + beside.T)
    variance = np.maximum(inverse @ middle @ inverse, inverse @ alike @ inverse)
    reach = float(t.ppf(0.5 + CONFIDENCE / 2, spare))
    return [
        Estimate(value=float(value), doubt=reach * float(np.sqrt(variance[at, at])), blocks=int(y.size))
        for at, value in enumerate(factors)
    ]


def mean_of(values: Floats) -> Estimate | None:
    """
    A mean with its doubt, from values in their order; none from too few, or where they are too much alike from one to the next.

    The likeness of neighbours r makes n values count as n (1 - r) ÷ (1 + r); r of the values' own, its bias in short series made good
    (Kendall): r + (1 + 4 r) ÷ n. Source: textbook, from memory.
    """
    from scipy.stats import t

    if values.size < 3:
        return None
    free = float(values.size) * _free_frac(values)
    if free < min(LEAST_FREE, values.size):
        return None
    reach = float(t.ppf(0.5 + CONFIDENCE / 2, max(free - 1.0, 2.0)))
    # Among values alike the spread itself is seen too small.
    spread = float(values.std(ddof=1)) * np.sqrt((values.size - 1) / max(values.size - values.size / free, 1.0))
    return Estimate(value=float(values.mean()), doubt=reach * spread / np.sqrt(free), blocks=int(values.size))


def _free_frac(values: Floats) -> float:
    """The part of some values that counts as free of the others."""
    apart = values - values.mean()
    total = float(apart @ apart)
    if total <= 0:
        return 1.0
    likeness = float(apart[1:] @ apart[:-1]) / total
    likeness = min(max(likeness + (1.0 + 4.0 * likeness) / values.size, 0.0), 0.95)
    return (1.0 - likeness) / (1.0 + likeness)
