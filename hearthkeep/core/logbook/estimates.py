"""Estimates with their doubt: the half-width in which the true value lies in 99 of 100."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

CONFIDENCE = 0.99
BASIS = "Least squares over blocks of time with Student's t: textbook"


@dataclass(frozen=True, kw_only=True, slots=True)
class Estimate:
    """One quantity found: value and the half-width of its doubt."""

    value: float
    doubt: float
    #: Blocks of time that it rests on.
    blocks: int


def through_origin(columns: list[Floats], y: Floats) -> list[Estimate] | None:
    """
    Least squares of y on columns without a constant: each factor with its doubt; none where they cannot be told apart.

    Doubts by White's estimate in the form of MacKinnon and White (HC3). Source: textbook, from memory.
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
    variance = inverse @ (x.T * scatter**2) @ x @ inverse
    reach = float(t.ppf(0.5 + CONFIDENCE / 2, spare))
    return [
        Estimate(value=float(value), doubt=reach * float(np.sqrt(variance[at, at])), blocks=int(y.size))
        for at, value in enumerate(factors)
    ]


def mean_of(values: Floats) -> Estimate | None:
    """A mean with its doubt, from values that are free of each other."""
    from scipy.stats import t

    if values.size < 3:
        return None
    reach = float(t.ppf(0.5 + CONFIDENCE / 2, values.size - 1))
    spread = float(values.std(ddof=1)) / np.sqrt(values.size)
    return Estimate(value=float(values.mean()), doubt=reach * spread, blocks=int(values.size))
