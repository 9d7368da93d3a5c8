"""Findings about the generator."""

from __future__ import annotations

import math
from collections.abc import Iterator
from datetime import timedelta

from hearthkeep.core.checks.finding import COMMON_PRACTICE, Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.design import MOST_STOCK_L, Design, hours_in
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.practice import volume, volume_text
from hearthkeep.core.sold import SIZES_W, next_size
from hearthkeep.core.words import percent, watts

#: Below this part of its rating a generator burns far more fuel than its load asks for.
LOW_LOAD_FRAC = 0.3


def carbon_monoxide(evidence: Evidence) -> Iterator[Finding]:
    """A generator can kill those it is meant to help."""
    if evidence.design.charging.generator is None:
        return
    yield Finding(
        code="GENERATOR_CO",
        severity=Severity.MIND,
        step=Step.CHARGING,
        title="Exhaust kills indoors and near openings",
        message="Run it outdoors only, at least 6 m (20 ft) from doors, windows and vents, exhaust pointing away, never in a garage or on a "
        "porch; carbon monoxide alarms on every floor. Let it cool before refuelling. It feeds the house through transfer "
        "equipment only.",
        basis="Public safety guidance (from memory); the maker's instructions and local code decide",
    )


def fuel_lasts(evidence: Evidence) -> Iterator[Finding]:
    """The stock runs out during the outage."""
    generator, outage = evidence.design.charging.generator, evidence.outage
    if generator is None or outage.out_of_fuel_h is None:
        return
    hour = outage.out_of_fuel_h
    asked_l = evidence.charging.fuel_asked_l
    wanted_l = _somewhat_more_l(evidence.design, asked_l)
    yield Finding(
        code="OUT_OF_FUEL",
        severity=Severity.MEND,
        step=Step.CHARGING,
        title=f"The fuel is gone at hour {hour:.0f}",
        message=f"Of {volume_text(evidence.design, generator.stock_l)} on hand nothing is left then. Running for "
        f"{outage.generator_h:.1f} h it burns {volume_text(evidence.design, outage.fuel_l)}; to the end of the outage it would burn {volume_text(evidence.design, asked_l)}. Stations may be shut in the same outage.",
        basis="Fuel line of the generator; the outage simulated again with unlimited fuel",
        remedy=Remedy(
            label=f"Try {volume_text(evidence.design, wanted_l)} on hand",
            changes=(Change(path="charging.generator.stock_l", value=wanted_l),),
        )
        if wanted_l <= MOST_STOCK_L
        else None,
    )


def _somewhat_more_l(design: Design, volume_l: float) -> float:
    """Rounded up to two figures of gallons or litres, as the practice has them [L]."""
    unit_l = 1 / volume(design, 1.0)[0]
    value = max(1.02 * volume_l / unit_l, 0.1)
    step = 10.0 ** (math.floor(math.log10(value)) - 1)
    return round(step * math.ceil(value / step) * unit_l, 6)


def dark_while_quiet(evidence: Evidence) -> Iterator[Finding]:
    """The house goes dark in hours in which the generator has to stay off, with fuel on hand."""
    generator, outage = evidence.design.charging.generator, evidence.outage
    if generator is None or not generator.quiet_hours or outage.carried_to_the_end:
        return
    dark = evidence.design.outage.start + timedelta(hours=outage.hours_carried_h + 1e-6)
    if not hours_in(generator.quiet_hours)[dark.hour] or outage.out_of_fuel_h is not None:
        return
    yield Finding(
        code="DARK_IN_QUIET_HOURS",
        severity=Severity.MEND,
        step=Step.CHARGING,
        title=f"Dark at {dark:%H:%M}, while the generator has to be quiet",
        message=f"Started at {percent(generator.start_soc_frac)} it leaves too little for the night. Let it start at a higher charge, so "
        "that it has run before the quiet hours begin, or shorten them.",
        basis="The outage model, hour by hour; see how it computes",
        remedy=Remedy(
            label="Try it without quiet hours", changes=(Change(path="charging.generator.quiet_hours", value=()),)
        ),
    )


def carries_the_house(evidence: Evidence) -> Iterator[Finding]:
    """House and charger together within the rating."""
    generator, rating = evidence.design.charging.generator, evidence.generator
    if generator is None or rating is None:
        return
    rated_w = rating.rated_w
    charger_w = generator.charger_w / generator.charger_efficiency_frac
    if charger_w > rated_w:
        most_w = float(round(0.8 * rated_w * generator.charger_efficiency_frac, -1))
        yield Finding(
            code="CHARGER_OVER_GENERATOR",
            severity=Severity.MEND,
            step=Step.CHARGING,
            title="The charger asks for more than it gives",
            message=f"{watts(charger_w)} for the charger alone; {watts(rated_w)} are left of the rating at this height and heat.",
            basis="Charger output over its efficiency against the derated generator",
            remedy=Remedy(
                label=f"Try a charger of {watts(most_w)}",
                changes=(Change(path="charging.generator.charger_w", value=most_w),),
            ),
        )
    elif evidence.loads.peak_w > rated_w and not generator.charges_only:
        if _darkens(evidence):
            yield Finding(
                code="GENERATOR_DARKENS",
                severity=Severity.MEND,
                step=Step.CHARGING,
                title="While it runs it darkens the house",
                message=f"It carries {watts(rated_w)} and takes over what the inverter carried, up to {watts(evidence.loads.peak_w)}. "
                "Fed to its charger alone it leaves the house on the inverter.",
                basis="The outage model, hour by hour; see how it computes",
                remedy=Remedy(
                    label="Try it on its charger alone",
                    changes=(Change(path="charging.generator.charges_only", value=True),),
                ),
            )
        size = next_size(evidence.loads.peak_w * 1.2 / rating.derate_frac, SIZES_W)
        yield Finding(
            code="GENERATOR_BELOW_PEAK",
            severity=Severity.MIND,
            step=Step.CHARGING,
            title="It does not carry the whole house",
            message=f"Up to {watts(evidence.loads.peak_w)} may run at once, it carries {watts(rated_w)}. While it runs the lowest tiers stand "
            "back; a small one that mostly charges is a valid school and burns less.",
            basis="Coincident running watts against the derated rating",
            remedy=Remedy(
                label=f"Try {size / 1000:g} kW", changes=(Change(path="charging.generator.rated_w", value=float(size)),)
            ),
        )


def _darkens(evidence: Evidence) -> bool:
    """Whether Life or Keep stands back because of the generator, while the inverter would carry it."""
    if evidence.all_inverters.rated_w < evidence.loads.peak_w:
        return False
    return evidence.outage.generator_darkens_h is not None


def hardly_loaded(evidence: Evidence) -> Iterator[Finding]:
    """A big machine at a quarter load burns far more than a quarter of its fuel."""
    generator, outage = evidence.generator, evidence.outage
    if generator is None or outage.generator_h <= 0:
        return
    if outage.ledger_wh.generator <= 0:
        yield Finding(
            code="GENERATOR_GIVES_NOTHING",
            severity=Severity.MEND,
            step=Step.CHARGING,
            title="It runs and gives nothing",
            message=f"In {outage.generator_h:.1f} h it burns {volume_text(evidence.design, outage.fuel_l)} while nothing asks for house current and its charger "
            "is held back or the bank takes no charge.",
            basis="The outage model, hour by hour; see how it computes",
        )
        return
    mean_w = outage.ledger_wh.generator / outage.generator_h
    part = mean_w / generator.rated_w
    fuel, unit = volume(evidence.design, outage.fuel_l)
    per_kwh = fuel / (outage.ledger_wh.generator / 1000)
    best, _ = volume(evidence.design, generator.best_l_per_kwh)
    if part >= LOW_LOAD_FRAC:
        return
    yield Finding(
        code="GENERATOR_HARDLY_LOADED",
        severity=Severity.MIND,
        step=Step.CHARGING,
        title=f"It runs at {percent(part)} of its rating",
        message=f"{per_kwh:.2f} {unit} a kWh instead of {best:.2f} at full load. A smaller one, or a larger charger "
        "within the bank's limit, burns less for the same hours.",
        basis="Fuel line F = F0 + F1 P; typical lines are common practice where the data sheet gives none",
        figure=Figure(
            label="Fuel a kWh in this outage",
            value=per_kwh,
            unit=f"{unit}/kWh",
            formula="fuel burnt ÷ energy given",
            terms=(
                Term(name="fuel", value=fuel, unit=unit),
                Term(name="energy", value=outage.ledger_wh.generator / 1000, unit="kWh"),
                Term(name="running", value=outage.generator_h, unit="h"),
                Term(name="mean load", value=mean_w, unit="W"),
            ),
            basis=COMMON_PRACTICE,
        ),
    )


CHECKS = (carbon_monoxide, fuel_lasts, dark_while_quiet, carries_the_house, hardly_loaded)
