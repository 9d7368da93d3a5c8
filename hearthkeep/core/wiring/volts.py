"""Volts at the inverter while it works hard: the bank's own resistance and its leads take their part before it."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from hearthkeep.core.bank import BankRating, rest_state, sharing_of
from hearthkeep.core.design import Bank, Chemistry, Design
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.inverter import input_w
from hearthkeep.core.wiring.plan import WiringPlan
from hearthkeep.core.wiring.runs import RunKind

#: Resistance of a block grows by this part for each degree below 25 °C: lithium doubles by about -5 °C, lead-acid gains half by
#: -25 °C. Common practice, no source.
COLD_PER_C = {Chemistry.LFP: 0.03}
LEAD_COLD_PER_C = 0.01
WARM_C = 25.0


@dataclass(frozen=True, kw_only=True, slots=True)
class VoltsCase:
    """The inverter at one moment."""

    #: peak or start; full or low.
    what: str
    state: str
    #: Taken by the inverters, and what the bank gives besides [W].
    power_w: float
    rest_v: float
    current_a: float
    #: At the bank's terminals and at the inverter [V]; 0 where so much power cannot be had at all.
    bank_v: float
    inverter_v: float
    holds: bool


@dataclass(frozen=True, kw_only=True, slots=True)
class InverterVolts:
    """The inverter's volts at the peak and at the worst start, from a full bank and from one at its floor."""

    cases: tuple[VoltsCase, ...]
    cutoff_v: float
    #: Bank as cold as its place, leads there and back [mΩ].
    bank_mohm: float
    leads_mohm: float

    def of(self, what: str, state: str) -> VoltsCase:
        """One of the cases."""
        return next(case for case in self.cases if case.what == what and case.state == state)


def cold_resistance_mohm(bank: Bank, temp_c: float) -> float:
    """Resistance of the whole bank at a temperature [mΩ]: its strings side by side, links left out."""
    per_c = COLD_PER_C.get(bank.chemistry, LEAD_COLD_PER_C)
    return sharing_of(bank).string_mohm / bank.parallel * (1.0 + per_c * max(WARM_C - temp_c, 0.0))


def current_of_power_a(*, rest_v: float, power_w: float, ohm: float) -> float | None:
    """The current at which a power arrives behind a resistance [A]; none where so much cannot be had.

    P = (V - I R) I, the smaller root. Source: Ohm's law; a converter takes constant power.

    >>> round(current_of_power_a(rest_v=50.0, power_w=1_000.0, ohm=0.1), 2)
    20.87
    """
    if ohm <= 0:
        return power_w / rest_v
    inside = rest_v**2 - 4.0 * ohm * power_w
    if inside < 0:
        return None
    # Not the difference of two near numbers: it would lose its digits with little resistance.
    return 2.0 * power_w / (rest_v + math.sqrt(inside))


def inverter_volts(
    design: Design, rating: BankRating, plan: WiringPlan, *, peak_w: float, start_w: float, direct_w: float
) -> InverterVolts | None:
    """Volts at the inverters of a completed design while so much house power is asked; `direct_w` is what DC loads take besides.

    None without an inverter, or where the size of its leads is not known.
    """
    inverter = design.inverter
    bank_run = plan.find("bank")
    own = [run for run in plan.runs if run.run.kind is RunKind.INVERTER]
    if inverter.rated_w <= 0 or bank_run is None or not own or bank_run.loop_ohm is None:
        return None
    if any(run.loop_ohm is None for run in own):
        return None
    bank = design.bank
    leads_ohm = bank_run.loop_ohm + sum(run.loop_ohm or 0.0 for run in own) / len(own) ** 2
    bank_ohm = cold_resistance_mohm(bank, rating.temp_c) / 1000.0
    table = rest_state(bank, 0.0).table
    rest = {
        "full": table[-1][1],
        "low": float(np.interp(rating.floor_soc_frac, [part for part, _ in table], [volts for _, volts in table])),
    }
    cases = tuple(
        _case(what, state, rest_v, input_w(inverter, house_w) + direct_w, bank_ohm, leads_ohm, inverter.low_cutoff_v)
        for what, house_w in (("peak", peak_w), ("start", start_w))
        for state, rest_v in rest.items()
    )
    return InverterVolts(
        cases=cases, cutoff_v=inverter.low_cutoff_v, bank_mohm=1000.0 * bank_ohm, leads_mohm=1000.0 * leads_ohm
    )


def _case(
    what: str, state: str, rest_v: float, power_w: float, bank_ohm: float, leads_ohm: float, cutoff_v: float
) -> VoltsCase:
    current_a = current_of_power_a(rest_v=rest_v, power_w=power_w, ohm=bank_ohm + leads_ohm)
    if current_a is None:
        return VoltsCase(
            what=what,
            state=state,
            power_w=power_w,
            rest_v=rest_v,
            current_a=0.0,
            bank_v=0.0,
            inverter_v=0.0,
            holds=False,
        )
    bank_v = rest_v - current_a * bank_ohm
    inverter_v = bank_v - current_a * leads_ohm
    return VoltsCase(
        what=what,
        state=state,
        power_w=power_w,
        rest_v=rest_v,
        current_a=current_a,
        bank_v=bank_v,
        inverter_v=inverter_v,
        holds=inverter_v >= cutoff_v - 1e-9,
    )


def volts_figures(volts: InverterVolts | None) -> dict[str, Figure]:
    """How the volts come about."""
    if volts is None:
        return {}
    return {
        f"wiring.volts.{case.what}.{case.state}": Figure(
            label=f"At the inverter, {'worst start' if case.what == 'start' else 'peak'}, bank "
            + ("full" if case.state == "full" else "at its floor"),
            value=case.inverter_v,
            unit="V",
            formula="rest volts − I × (bank + leads), with I such that W = (rest volts − I R) × I",
            terms=(
                Term(name="rest volts", value=case.rest_v, unit="V"),
                Term(name="taken", value=case.power_w, unit="W"),
                Term(name="current", value=case.current_a, unit="A"),
                Term(name="bank, as cold as its place", value=volts.bank_mohm, unit="mΩ"),
                Term(name="leads, there and back", value=volts.leads_mohm, unit="mΩ"),
                Term(name="at the bank's terminals", value=case.bank_v, unit="V"),
                Term(name="low cut-off", value=volts.cutoff_v, unit="V"),
            ),
            basis="Ohm's law; rest volts and the growth of resistance in the cold are common practice, no source",
        )
        for case in volts.cases
    }
