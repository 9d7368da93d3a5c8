"""Unexplained watts: what the battery monitor counts that the inverter's own display does not, named."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from hearthkeep.core.building.fitting import fitted_line
from hearthkeep.core.design import Inverter
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.inverter import input_w, marginal_efficiency
from hearthkeep.core.words import begun

#: Left over within this part of the monitor's watts, or so few, needs no explanation. Common practice, no source.
EXPLAINED_FRAC, EXPLAINED_W = 0.05, 5.0


@dataclass(frozen=True, kw_only=True, slots=True)
class WattPair:
    """One moment on both displays, chargers off."""

    #: What the monitor counts out of the bank, and what the inverter gives to the house [W].
    monitor_w: float
    output_w: float
    #: The inverter is switched on.
    inverter_on: bool = True
    #: Direct-current loads known to be on [W].
    direct_w: float = 0.0


@dataclass(frozen=True, kw_only=True, slots=True)
class WattParts:
    """The difference of one moment in its parts [W]."""

    monitor_w: float
    output_w: float
    idle_w: float
    conversion_w: float
    direct_w: float
    #: What nothing explains: phantom draw, or a display that is off.
    phantom_w: float
    is_explained: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class Unexplained:
    """The difference over several moments."""

    parts: tuple[WattParts, ...]
    #: Standing draw that nothing explains, and its doubt [W]; none while it cannot be told.
    standing_w: float | None
    standing_doubt_w: float | None
    #: Part of the output that nothing explains, and its doubt: conversion worse than the data sheet's; none with fewer than three.
    growing_frac: float | None
    growing_doubt_frac: float | None
    sentence: str
    figure: Figure


def unexplained(pairs: Sequence[WattPair], unit: Inverter) -> Unexplained | None:
    """Name the watts between monitor and inverter; `unit` is all inverters as one. None without a pair."""
    if not pairs:
        return None
    parts = tuple(_parts(pair, unit) for pair in pairs)
    rest = np.array([each.phantom_w for each in parts])
    out = np.array([each.output_w for each in parts])
    line = fitted_line(out, rest)
    standing = float(np.median(rest)) if line is None else line.intercept
    standing_doubt = None if line is None else line.intercept_doubt
    return Unexplained(
        parts=parts,
        standing_w=standing,
        standing_doubt_w=standing_doubt,
        growing_frac=None if line is None else line.slope,
        growing_doubt_frac=None if line is None else line.slope_doubt,
        sentence=_sentence(parts, standing, line.slope if line else None, line.slope_doubt if line else None),
        figure=Figure(
            label="Unexplained", value=standing, unit="W", formula="monitor − output − idle − conversion − known direct-current loads",
            terms=(
                Term(name="idle by the design", value=unit.idle_w, unit="W"),
                Term(name="each further watt costs", value=1 / marginal_efficiency(unit), unit="W"),
                Term(name="moments", value=len(parts), unit=""),
            ), basis="Arithmetic of power and energy; the inverter's two losses by its data sheet",
        ),
    )  # fmt: skip


def _parts(pair: WattPair, unit: Inverter) -> WattParts:
    idle_w = unit.idle_w if pair.inverter_on else 0.0
    conversion_w = input_w(unit, pair.output_w) - unit.idle_w - pair.output_w if pair.inverter_on else 0.0
    phantom_w = pair.monitor_w - pair.output_w - idle_w - conversion_w - pair.direct_w
    return WattParts(
        monitor_w=pair.monitor_w,
        output_w=pair.output_w,
        idle_w=idle_w,
        conversion_w=conversion_w,
        direct_w=pair.direct_w,
        phantom_w=phantom_w,
        is_explained=abs(phantom_w) <= max(EXPLAINED_FRAC * abs(pair.monitor_w), EXPLAINED_W),
    )


def _sentence(parts: Sequence[WattParts], standing_w: float, growing: float | None, doubt: float | None) -> str:
    if all(each.is_explained for each in parts):
        return "Idle draw and conversion explain the difference; nothing is left over."
    said = []
    if standing_w > EXPLAINED_W:
        said.append(
            f"{standing_w:.0f} W stand day and night that neither display nor audit knows: {24 * standing_w / 1000:.2f} kWh a day"
        )
    elif standing_w < -EXPLAINED_W:
        said.append(
            f"the monitor counts {-standing_w:.0f} W less than the inverter alone takes: a negative goes round the shunt, or one of them is off"
        )
    if growing is not None and doubt is not None and abs(growing) > max(doubt, 0.02):
        more = "more" if growing > 0 else "less"
        said.append(
            f"each watt given costs {abs(growing):.2f} W {more} than by the data sheet: the inverter, its leads or the shunt's setting"
        )
    text = "; ".join(said) or "The moments differ: something was switched between them. Read each pair within a minute"
    return begun(text) + "."
