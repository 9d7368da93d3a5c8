"""From a reading to watts, duty and start: meters, nameplates, labels, amps, speeds and code letters."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from hearthkeep.core.design import (
    DcReading,
    EnergyLabel,
    Known,
    Load,
    MeterRun,
    NameplateReading,
    Quality,
    SpeedTable,
    SpotReading,
    StartKnown,
    StartMultiple,
    StartTyped,
    Supply,
    Typed,
    Typical,
)
from hearthkeep.core.figure import COMMON_PRACTICE, PHYSICS, Figure, Term
from hearthkeep.core.loads.days import converter_efficiency
from hearthkeep.core.published import code_letter_rows

HOURS_PER_YEAR = 8760.0
#: How far a figure of each quality may be off, as a part of it. Our assumption, for choosing what to measure next.
UNCERTAINTY_FRAC: dict[Quality, float] = {
    Quality.MEASURED: 0.05,
    Quality.LABEL: 0.2,
    Quality.NAMEPLATE: 0.4,
    Quality.GUESS: 0.6,
}
#: Between a battery and an AC load where the reading names no efficiency: idle of a lightly loaded inverter included. Common
#: practice, no source.
TYPICAL_THROUGH_FRAC = 0.85
#: A stored figure this far from what its reading gives no longer rests on it, as a part of it.
TOLERANCE_FRAC = 0.005


@dataclass(frozen=True, kw_only=True, slots=True)
class Reading:
    """What a reading comes to."""

    #: Running power of one unit [W]; none where the reading says nothing about it.
    running_w: float | None
    #: Share of its hours in which it runs; none where the reading says nothing about it.
    duty_frac: float | None
    quality: Quality
    figure: Figure | None


def quality_of(load: Load) -> Quality:
    """How far the load's watts can be trusted; without a reading they are a guess."""
    return Quality.GUESS if load.known is None else read(load.known).quality


@lru_cache(maxsize=4096)
def read(known: Known) -> Reading:
    """What a reading comes to, with its working.

    >>> read(NameplateReading(volts_v=120.0, current_a=5.0, power_factor=0.8)).running_w
    480.0
    >>> read(MeterRun(energy_kwh=1.2, over_h=24.0, running_w=125.0)).duty_frac
    0.4
    """
    return _READERS[type(known)](known)


def _typed(known: Typed) -> Reading:
    return Reading(running_w=None, duty_frac=None, quality=known.quality, figure=None)


def _typical(known: Typical) -> Reading:
    return Reading(running_w=None, duty_frac=None, quality=Quality.GUESS, figure=None)


def _nameplate(known: NameplateReading) -> Reading:
    power_w = known.volts_v * known.current_a * known.power_factor
    return _power(
        power_w,
        Quality.NAMEPLATE,
        "volts × amps × power factor",
        ("volts", known.volts_v, "V"),
        ("amps", known.current_a, "A"),
        ("power factor", known.power_factor, ""),
        basis="A nameplate states the most it ever draws; the usual draw is lower. " + PHYSICS,
    )


def _spot(known: SpotReading) -> Reading:
    # A reading that already stands on the step must not be lifted by the last binary digit.
    steps = math.ceil(known.reading_w / known.step_w - 1e-9) if known.step_w > 0 else 0
    power_w = steps * known.step_w if known.step_w > 0 else known.reading_w
    return _power(
        power_w,
        Quality.MEASURED,
        "reading rounded up to the next multiple of the step",
        ("reading", known.reading_w, "W"),
        ("step", known.step_w, "W"),
        basis=COMMON_PRACTICE,
    )


def _meter(known: MeterRun) -> Reading:
    return _average(
        known.energy_kwh * 1000 / known.over_h,
        known.running_w,
        Quality.MEASURED,
        "kWh × 1,000 ÷ hours = average W; ÷ running W = duty",
        ("energy", known.energy_kwh, "kWh"),
        ("over", known.over_h, "h"),
    )


def _label(known: EnergyLabel) -> Reading:
    return _average(
        known.energy_kwh_per_year * 1000 / HOURS_PER_YEAR,
        known.running_w,
        Quality.LABEL,
        "kWh a year ÷ 8.76 = average W; ÷ running W = duty",
        ("energy a year", known.energy_kwh_per_year, "kWh"),
    )


def _dc_amps(known: DcReading) -> Reading:
    return _power(
        known.current_a * known.at_v,
        Quality.MEASURED,
        "amps × volts",
        ("amps", known.current_a, "A"),
        ("at", known.at_v, "V"),
        basis=PHYSICS,
    )


def _speeds(known: SpeedTable) -> Reading:
    power_w = next(setting.power_w for setting in known.settings if setting.name == known.chosen)
    terms = tuple((setting.name, setting.power_w, "W") for setting in known.settings)
    return _power(power_w, known.quality, f"the setting called {known.chosen}", *terms, basis="The settings entered")


_READERS: dict[type[Any], Callable[[Any], Reading]] = {
    Typed: _typed,
    Typical: _typical,
    NameplateReading: _nameplate,
    SpotReading: _spot,
    MeterRun: _meter,
    EnergyLabel: _label,
    DcReading: _dc_amps,
    SpeedTable: _speeds,
}


def _power(power_w: float, quality: Quality, formula: str, *terms: tuple[str, float, str], basis: str) -> Reading:
    figure = Figure(label="Running watts", value=power_w, unit="W", formula=formula, terms=_terms(terms), basis=basis)
    return Reading(running_w=power_w, duty_frac=None, quality=quality, figure=figure)


def _average(
    average_w: float, running_w: float, quality: Quality, formula: str, *terms: tuple[str, float, str]
) -> Reading:
    """A reading of energy: the average is true, and the duty is what makes the running watts come to it."""
    # An average above the running watts means that the running figure was read too low.
    running_w = max(running_w, average_w)
    shown = (*terms, ("average", average_w, "W"), ("running", running_w, "W"))
    figure = Figure(
        label="Duty", value=100 * average_w / running_w, unit="%", formula=formula, terms=_terms(shown), basis=PHYSICS
    )
    return Reading(running_w=running_w, duty_frac=average_w / running_w, quality=quality, figure=figure)


def _terms(terms: tuple[tuple[str, float, str], ...]) -> tuple[Term, ...]:
    return tuple(Term(name=name, value=value, unit=unit) for name, value, unit in terms)


@dataclass(frozen=True, kw_only=True, slots=True)
class StartReading:
    """What is known of a start."""

    #: Power of one unit while it starts [W]; for a code letter apparent power [VA], taken as watts to be safe.
    start_w: float | None
    figure: Figure | None


def read_start(known: StartKnown, running_w: float) -> StartReading:
    """What a start comes to, with its working.

    >>> from hearthkeep.core.design import StartCode
    >>> round(read_start(StartCode(code_letter="K", horsepower_hp=0.5), 0.0).start_w)
    4495
    """
    if isinstance(known, StartTyped):
        return StartReading(start_w=None, figure=None)
    if isinstance(known, StartMultiple):
        start_w = known.multiple * running_w
        figure = Figure(
            label="Start",
            value=start_w,
            unit="W",
            formula="multiple × running W",
            terms=_terms((("multiple", known.multiple, ""), ("running", running_w, "W"))),
            basis="Charts say two to three times; a locked rotor takes five to six times. " + COMMON_PRACTICE,
        )
        return StartReading(start_w=start_w, figure=figure)
    row = code_letter_rows()[known.code_letter]
    kva = row.low_kva_per_hp if row.high_kva_per_hp is None else row.high_kva_per_hp
    start_w = kva * 1000 * known.horsepower_hp
    figure = Figure(
        label="Start",
        value=start_w,
        unit="VA",
        formula="upper kVA per horsepower of the code letter × 1,000 × horsepower",
        terms=_terms(
            ((f"code {known.code_letter}, at most", kva, "kVA/hp"), ("horsepower", known.horsepower_hp, "hp"))
        ),
        basis="NEC Table 430.7(B) (from memory). Apparent power with the rotor locked, taken as watts: the safe side",
    )
    return StartReading(start_w=start_w, figure=figure)


def read_of(load: Load) -> Reading | None:
    """What the reading kept with a load comes to at the load itself; none without one.

    Amps at the battery hold what an inverter or a converter on the way loses, which the load must not be charged with again.
    """
    known = load.known
    if known is None:
        return None
    reading = read(known)
    if not isinstance(known, DcReading) or reading.running_w is None or load.supply is Supply.DC:
        return reading
    if load.supply is Supply.DC_CONVERTED:
        name, part = "its converter's efficiency", converter_efficiency(load)
    elif load.supply.is_ac:
        given = known.through_efficiency_frac
        name, part = "the inverter's efficiency", TYPICAL_THROUGH_FRAC if given is None else given
    else:
        return reading
    return _power(
        reading.running_w * part,
        reading.quality,
        f"amps × volts × {name}",
        ("amps", known.current_a, "A"),
        ("at", known.at_v, "V"),
        (name, part, ""),
        basis=f"{PHYSICS}. Amps at the battery hold what is lost on the way to the load",
    )


def given_by_readings(load: Load) -> dict[str, float]:
    """What the readings kept with a load give, by field; with as many digits as any file carries back unchanged."""
    given: dict[str, float] = {}
    if load.known is not None:
        reading = read_of(load) or read(load.known)
        if reading.running_w is not None:
            given["running_w"] = round(reading.running_w, 6)
        if reading.duty_frac is not None:
            given["duty_frac"] = round(reading.duty_frac, 9)
    if load.start_known is not None:
        start_w = read_start(load.start_known, given.get("running_w", load.running_w)).start_w
        if start_w is not None:
            given["start_w"] = round(start_w, 6)
    return given


def with_readings(load: Load) -> Load:
    """The load with its watts, duty and start set to what its readings come to."""
    changes: dict[str, object] = {**given_by_readings(load)}
    if isinstance(load.known, EnergyLabel):
        # A label counts every hour of the year.
        changes["hours"] = ((0, 24),)
    return Load.model_validate({**load.model_dump(), **changes})


def rests_on_reading(load: Load) -> bool:
    """Whether the stored watts, duty and start are still those that the readings give."""
    return all(
        abs((getattr(load, field) or 0.0) - value) <= TOLERANCE_FRAC * max(abs(value), 1e-9)
        for field, value in given_by_readings(load).items()
    )
