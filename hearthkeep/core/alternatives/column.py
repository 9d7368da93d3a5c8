"""What one alternative comes to: the column it stands in."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np

from hearthkeep.core.alternatives.differences import TITLES
from hearthkeep.core.alternatives.facts import said_of
from hearthkeep.core.assess import assess
from hearthkeep.core.bank import TYPICAL, BankLife, life_of, rate
from hearthkeep.core.checks import Severity
from hearthkeep.core.design import Design
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.outage import prepare
from hearthkeep.core.sizing import STACK_M, UnitsPrice, price_figure, units_price
from hearthkeep.core.sold import INVERTER_W_PER_KG, PANEL_W_PER_KG
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.trials import live, planned_length_h, share_figure, trial_year, worst_first

#: Points of a strip at the most.
_POINTS = 240
#: From new to 80 % a bank gives nine tenths of its usable energy on the average.
_MEAN_CAPACITY_FRAC = 0.9


@dataclass(frozen=True, kw_only=True, slots=True)
class Fact:
    """One part of the design in words."""

    key: str
    title: str
    text: str


@dataclass(frozen=True, kw_only=True, slots=True)
class OpenCheck:
    """A finding that asks for something."""

    severity: Severity
    step: str
    title: str


@dataclass(frozen=True, kw_only=True, slots=True)
class LaidStrip:
    """The outage as it is laid over the others; every list is as long as the first."""

    time_h: tuple[float, ...]
    #: Charge as a part of full.
    stored_frac: tuple[float, ...]
    #: Means from each moment to the next, the last one's zero [W].
    sun_w: tuple[float, ...]
    served_w: tuple[float, ...]
    #: Life or Keep dark, and the sun down: from and to [h].
    dark_h: tuple[tuple[float, float], ...]
    nights_h: tuple[tuple[float, float], ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class VariantColumn:
    """One alternative, assessed."""

    facts: tuple[Fact, ...]
    is_asked: bool
    hours_carried_h: float
    duration_h: float
    price: UnitsPrice
    #: Of bank, inverters and panels; of the bank's footprint, stacked.
    mass_kg: float
    floor_m2: float
    #: The mass rests on usual figures where a data sheet names none.
    is_mass_assumed: bool
    life_years: float
    #: The bank's price over all energy it gives until 80 %; none while it is never cycled.
    price_per_kwh_given: float | None
    #: How they come about: hours, price, mass, floor, kwh.
    figures: dict[str, Figure]
    fuel_l: float
    stops: int
    mends: int
    #: Stops first, then what will not work.
    open_checks: tuple[OpenCheck, ...]
    strip: LaidStrip


def variant_column(design: Design, year: WeatherYear | None = None) -> VariantColumn:
    """Assess one alternative."""
    found = assess(design, year)
    price = units_price(design)
    weight_kg, is_assumed = mass_kg(design)
    life = life_of(design.bank, rate(design.bank), charger_w=0.0)
    bank_price = sum(line.price for line in price.lines if line.key == "bank")
    given_kwh = _MEAN_CAPACITY_FRAC * rate(design.bank).usable_wh / 1000 * life.cycles_per_year * life.years
    asking = [finding for finding in found.findings if finding.severity in (Severity.STOP, Severity.MEND)]
    asking.sort(key=lambda finding: finding.severity is not Severity.STOP)
    return VariantColumn(
        facts=tuple(
            Fact(key=part.value, title=title, text=said_of(design, part.value)) for part, title in TITLES.items()
        ),
        is_asked=found.outage.is_asked,
        hours_carried_h=found.outage.hours_carried_h,
        duration_h=found.outage.duration_h,
        price=price,
        mass_kg=weight_kg,
        floor_m2=floor_m2(design),
        is_mass_assumed=is_assumed,
        life_years=life.years,
        price_per_kwh_given=bank_price / given_kwh if given_kwh > 0 else None,
        figures={
            "hours": found.figures["outage.hours_carried_h"],
            "price": price_figure(price),
            "kwh": _kwh_figure(bank_price, rate(design.bank).usable_wh, life),
            **_size_figures(design, weight_kg, is_assumed),
        },
        fuel_l=found.outage.fuel_l,
        stops=sum(finding.severity is Severity.STOP for finding in asking),
        mends=sum(finding.severity is Severity.MEND for finding in asking),
        open_checks=tuple(
            OpenCheck(severity=finding.severity, step=finding.step, title=finding.title) for finding in asking
        ),
        strip=_strip(design, year),
    )


def _kwh_figure(bank_price: float, usable_wh: float, life: BankLife) -> Figure:
    given_kwh = _MEAN_CAPACITY_FRAC * usable_wh / 1000 * life.cycles_per_year * life.years
    return Figure(
        label="Price of a kilowatt-hour given",
        value=bank_price / given_kwh if given_kwh > 0 else 0.0,
        unit="",
        formula="price of the bank ÷ (0.9 × usable energy × cycles a year × years)",
        terms=(
            Term(name="bank", value=bank_price, unit=""),
            Term(name="usable energy", value=usable_wh, unit="Wh"),
            Term(name="cycles a year", value=life.cycles_per_year, unit=""),
            Term(name="years until 80 %", value=life.years, unit=""),
        ),
        basis="From new to 80 % nine tenths are left on the mean; common practice",
    )


def _size_figures(design: Design, weight_kg: float, is_assumed: bool) -> dict[str, Figure]:
    bank = design.bank
    count = float(bank.series * bank.parallel)
    basis = "Data sheets" + (
        "; where they say nothing, the chemistry's usual density, 100 W/kg of inverter, 19 W/kg of panel"
        if is_assumed
        else ""
    )
    return {
        "mass": Figure(
            label="Mass",
            value=weight_kg,
            unit="kg",
            formula="battery units + inverters + panels",
            terms=(
                Term(name="battery units", value=count, unit=""),
                Term(name="bank", value=bank.rated_wh, unit="Wh"),
                Term(name="inverters", value=design.inverter.together.rated_w, unit="W"),
                Term(name="panels", value=sum(array.stc_w for array in design.charging.arrays), unit="W"),
            ),
            basis=basis,
        ),
        "floor": Figure(
            label="Floor of the bank",
            value=floor_m2(design),
            unit="m²",
            formula="units, stacked to half a metre × their footprint; without measures the bank's volume ÷ half a metre",
            terms=(Term(name="battery units", value=count, unit=""), Term(name="stacked to", value=STACK_M, unit="m")),
            basis="Data sheet of the unit, or the chemistry's usual density; the height of a stack is our assumption",
        ),
    }


def _strip(design: Design, year: WeatherYear | None) -> LaidStrip:
    prepared = prepare(design, year)
    run, scene = prepared.run(), prepared.scene
    edges_h = scene.clock.edges_h
    stride = max(1, round(edges_h.shape[0] / _POINTS))
    shown = np.unique(np.append(np.arange(0, edges_h.shape[0], stride), edges_h.shape[0] - 1))

    def means_w(power_w: np.ndarray) -> tuple[float, ...]:
        energy_wh = np.append(0.0, np.cumsum(power_w * scene.clock.length_h))[shown]
        return (*(np.diff(energy_wh) / np.diff(edges_h[shown])).tolist(), 0.0)

    return LaidStrip(
        time_h=tuple(edges_h[shown].tolist()),
        stored_frac=tuple((run.stored_wh[shown] / prepared.rating.capacity_wh).tolist()),
        sun_w=means_w(scene.sun.offered_w),
        served_w=means_w(run.served_w.sum(axis=1)),
        dark_h=scene.clock.spans_h(run.dark_by_step_h > 0),
        nights_h=scene.clock.spans_h(~scene.daylight),
    )


def mass_kg(design: Design) -> tuple[float, bool]:
    """Mass of bank, inverters and panels [kg], and whether any of it is a usual figure."""
    bank, inverter = design.bank, design.inverter
    unit_kg = None if bank.unit is None else bank.unit.mass_kg
    own_kg = None if inverter.sheet is None else inverter.sheet.mass_kg
    known_bank = unit_kg is not None
    total_kg = (
        bank.rated_wh / TYPICAL[bank.chemistry].wh_per_kg if unit_kg is None else unit_kg * bank.series * bank.parallel
    )
    total_kg += inverter.together.rated_w / INVERTER_W_PER_KG if own_kg is None else own_kg * inverter.units
    is_assumed = not known_bank or (own_kg is None and inverter.rated_w > 0)
    for array in design.charging.arrays:
        module = array.module
        if module is not None and module.mass_kg is not None:
            total_kg += module.mass_kg * array.stc_w / module.stc_w
        else:
            total_kg += array.stc_w / PANEL_W_PER_KG
            is_assumed = is_assumed or array.stc_w > 0
    return total_kg, is_assumed


def floor_m2(design: Design) -> float:
    """Floor that the bank takes: its units stacked as high as is usual, or by the chemistry's usual density [m2]."""
    bank = design.bank
    sheet, count = bank.unit, bank.series * bank.parallel
    if sheet is not None and sheet.length_mm and sheet.width_mm and sheet.height_mm:
        stacked = max(1, int(STACK_M // (sheet.height_mm / 1000)))
        return -(-count // stacked) * sheet.length_mm * sheet.width_mm / 1e6
    return bank.rated_wh / TYPICAL[bank.chemistry].wh_per_l / 1000 / STACK_M


@dataclass(frozen=True, kw_only=True, slots=True)
class VariantYear:
    """One alternative in the weather year, by outages as long as the planned one."""

    #: Shares of the starts carried: Life and Keep, and Life alone.
    keep_frac: float
    life_frac: float
    #: The worst start and hours carried from it [h].
    worst_start: datetime
    worst_h: float
    #: How the share of Life and Keep comes about.
    figure: Figure


def variant_year(design: Design, year: WeatherYear | None = None) -> VariantYear:
    """Live an outage as long as the planned one from every hour of the weather year."""
    length_h = planned_length_h(design)
    lives = trial_year(design, length_h, year)
    lived = live(lives, [length_h])[length_h]
    worst = int(worst_first(lived)[0])
    keep_frac = float(lived.carries(length_h, life_only=False).mean())
    return VariantYear(
        figure=share_figure(
            "Life and Keep carried", keep_frac, "Life and Keep", starts=lived.start_h.shape[0], length_h=length_h
        ),
        keep_frac=keep_frac,
        life_frac=float(lived.carries(length_h, life_only=True).mean()),
        worst_start=lives.first_day + timedelta(hours=int(lived.start_h[worst])),
        worst_h=float(lived.carried_h[worst]),
    )
