"""The same need in each chemistry and at each usual depth, side by side."""

from __future__ import annotations

import math
from dataclasses import dataclass

from hearthkeep.core.bank import TYPICAL, capacity_factor, cycles_at
from hearthkeep.core.design import Chemistry, Design

#: Units that the comparison counts in: a 12 V block of 100 Ah.
BLOCK_AH = 100.0
BLOCK_V = {chemistry: 12.8 if chemistry is Chemistry.LFP else 12.0 for chemistry in Chemistry}
#: Height to which units are stacked, for the floor they take [m]. Our assumption.
STACK_M = 0.5


@dataclass(frozen=True, kw_only=True, slots=True)
class ChemistryRow:
    """One chemistry at one depth, met with typical values."""

    chemistry: Chemistry
    label: str
    depth_frac: float
    #: Rated energy needed [Wh] and how many blocks of 12 V 100 Ah that is.
    nominal_wh: float
    blocks: int
    #: From full to the depth, cold counted, when new [Wh].
    usable_wh: float
    mass_kg: float
    floor_m2: float
    price: float
    cycles: float
    years: float
    by_calendar: bool
    #: Price over all energy given until 80 %; none while the bank is never cycled.
    price_per_kwh_given: float | None
    upkeep: str
    may_stand: str
    is_chosen: bool


def compare_chemistries(design: Design, *, terminal_wh: float) -> tuple[ChemistryRow, ...]:
    """Meet the same need, given at the bank's terminals [Wh], with each chemistry at each school's depth."""
    need, bank = design.bank.need, design.bank
    found = []
    for chemistry, typical in TYPICAL.items():
        if not typical.is_for_storage and chemistry is not bank.chemistry:
            continue
        cold = capacity_factor(chemistry, bank.temp_c)
        for depth in typical.schools_depth_frac:
            stored_wh = terminal_wh / typical.discharge_efficiency_frac
            nominal_wh = stored_wh / (depth * cold * need.end_of_life_frac)
            block_wh = BLOCK_V[chemistry] * BLOCK_AH
            blocks = max(1, math.ceil(nominal_wh / block_wh - 1e-9))
            bought_wh = blocks * block_wh
            cycles = cycles_at(typical.cycle_points, depth)
            by_use = cycles / need.cycles_per_year if need.cycles_per_year > 0 else math.inf
            years = min(by_use, typical.calendar_years)
            usable_wh = bought_wh * depth * cold
            # From new to 80 % the bank gives nine tenths of its usable energy on average.
            given_kwh = 0.9 * usable_wh / 1000 * need.cycles_per_year * years
            price = bought_wh / 1000 * typical.price_per_kwh
            found.append(
                ChemistryRow(
                    chemistry=chemistry,
                    label=typical.label,
                    depth_frac=depth,
                    nominal_wh=nominal_wh,
                    blocks=blocks,
                    usable_wh=usable_wh,
                    mass_kg=bought_wh / typical.wh_per_kg,
                    floor_m2=bought_wh / typical.wh_per_l / 1000 / STACK_M,
                    price=price,
                    cycles=cycles,
                    years=years,
                    by_calendar=typical.calendar_years <= by_use,
                    price_per_kwh_given=price / given_kwh if given_kwh > 0 else None,
                    upkeep=typical.upkeep,
                    may_stand=typical.may_stand,
                    is_chosen=chemistry is bank.chemistry and abs(depth - bank.depth_frac) < 0.005,
                )
            )
    return tuple(found)
