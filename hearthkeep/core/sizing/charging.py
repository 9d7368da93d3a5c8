"""Charging sums: what every source offers in the outage, what it is worth, and how the bank is charged."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from hearthkeep.core.bank import BankRating
from hearthkeep.core.charging import StagePoints, StringReport, stage_points, string_reports
from hearthkeep.core.design import Design, Sky
from hearthkeep.core.inverter import HouseWatts
from hearthkeep.core.outage import DirectRun, Fill, Scene, fill_before, run_scene
from hearthkeep.core.outage.shapes import CLIPPED, UNUSED, Plant, Run
from hearthkeep.core.sizing.curve import DayCurve, day_curve

#: More fuel than any outage burns [L].
ENDLESS_L = 1e6


@dataclass(frozen=True, kw_only=True, slots=True)
class Lived:
    """The outage as it was lived, and with what."""

    house: HouseWatts
    plant: Plant
    run: Run


@dataclass(frozen=True, kw_only=True, slots=True)
class SourceValue:
    """What a source brings for its price on the dark days of this outage, beside one more battery string."""

    key: str
    label: str
    #: Into the bank over those days; for the battery what one more string holds once [Wh].
    dark_wh: float
    price: float | None
    #: None where the price is not known or nothing comes of it.
    price_per_dark_kwh: float | None


@dataclass(frozen=True, kw_only=True, slots=True)
class Habits:
    """The outage under both habits: several regulated sources together, or one at a time."""

    together_h: float
    one_source_h: float
    together_spilled_wh: float
    one_source_spilled_wh: float
    #: Charge as the outage ends, as parts of full.
    together_end_frac: float
    one_source_end_frac: float


@dataclass(frozen=True, kw_only=True, slots=True)
class DirectSums:
    """Loads that run straight from a panel."""

    offered_wh: float
    #: By load id [Wh].
    served_wh: dict[str, float]
    asked_wh: dict[str, float]


@dataclass(frozen=True, kw_only=True, slots=True)
class ChargingSums:
    """Everything that puts energy back, in this outage."""

    stc_w: float
    #: Sun at the direct-current bus over the whole outage, and beyond the controllers' current limits [Wh].
    offered_wh: float
    clipped_wh: float
    #: By calendar day of the outage [Wh], and the sky of each.
    daily_wh: tuple[float, ...]
    skies: tuple[Sky, ...]
    #: Of what sun and other sources offer: the part that was spilled.
    spilled_frac: float
    alternator_wh: float
    wind_wh: float
    bench_wh: float
    #: Arrays whose panels are known, at their extremes.
    strings: tuple[StringReport, ...]
    curve: DayCurve
    stages: StagePoints
    fill: Fill
    #: None while there is at most one source besides the generator's charger.
    habits: Habits | None
    direct: DirectSums
    values: tuple[SourceValue, ...]
    #: Days of the outage whose sky is overcast or covered.
    dark_days: int
    #: Fuel the generator would burn if the stock never ended [L]; 0 without one.
    fuel_asked_l: float


def charging_sums(
    design: Design,
    rating: BankRating,
    scene: Scene,
    lived: Lived,
    direct: DirectRun,
    *,
    mean_draw_w: float,
) -> ChargingSums:
    """Add up every source of the outage."""
    run = lived.run
    clock, sun, other = scene.clock, scene.sun, scene.other
    offered_wh = sun.offered_w * clock.length_h
    days = int(clock.day.max()) + 1
    of_other = {
        name: float((power * clock.length_h).sum())
        for name, power in (("alternator", other.alternator_w), ("wind", other.wind_w), ("bench", other.bench_w))
    }
    direct_wh = float((direct.offered_w * clock.length_h).sum())
    all_wh = float(offered_wh.sum()) + sum(of_other.values()) + direct_wh
    spilled_wh = float(run.totals_wh[CLIPPED] + run.totals_wh[UNUSED]) + direct_wh - sum(direct.served_wh.values())
    return ChargingSums(
        stc_w=design.charging.stc_w,
        offered_wh=float(offered_wh.sum()),
        clipped_wh=float((sun.clipped_w * clock.length_h).sum()),
        daily_wh=tuple(float(offered_wh[clock.day == day].sum()) for day in range(days)),
        skies=scene.skies,
        spilled_frac=spilled_wh / all_wh if all_wh > 0 else 0.0,
        alternator_wh=of_other["alternator"],
        wind_wh=of_other["wind"],
        bench_wh=of_other["bench"],
        strings=string_reports(design, volts=rating.volts, year_low_c=scene.year_low_c),
        curve=day_curve(design, volts=rating.volts, mean_draw_w=mean_draw_w),
        stages=stage_points(design, temp_c=rating.temp_c),
        fill=fill_before(design, rating),
        habits=_habits(design, rating, scene, lived),
        direct=DirectSums(
            offered_wh=direct_wh,
            served_wh=direct.served_wh,
            asked_wh=direct.asked_wh,
        ),
        values=_values(design, rating, scene),
        dark_days=sum(sky.is_dark for sky in scene.skies),
        fuel_asked_l=_fuel_asked_l(design, scene, lived),
    )


def _fuel_asked_l(design: Design, scene: Scene, lived: Lived) -> float:
    """Live the outage again with fuel without end, where the stock was burnt."""
    generator = lived.plant.generator
    if design.charging.generator is None:
        return 0.0
    if lived.run.fuel_l < generator.stock_l * (1 - 1e-6):
        return float(lived.run.fuel_l)
    endless = lived.plant._replace(generator=generator._replace(stock_l=ENDLESS_L))
    return float(run_scene(scene, lived.house, endless).fuel_l)


def _habits(design: Design, rating: BankRating, scene: Scene, lived: Lived) -> Habits | None:
    """Live the outage under the other habit as well."""
    charging = design.charging
    sources = (
        scene.sun.offered_w.any(),
        scene.other.total_w.any(),
        charging.generator is not None,
    )
    if sum(map(bool, sources)) < 2:
        return None
    swapped = run_scene(scene, lived.house, lived.plant._replace(one_source=not charging.one_source))
    together, one = (swapped, lived.run) if charging.one_source else (lived.run, swapped)
    duration_h = float(scene.clock.edges_h[-1])

    def hours(run: Run) -> float:
        return duration_h if run.dark_h < 0 else float(run.dark_h)

    def spilled(run: Run) -> float:
        return float(run.totals_wh[CLIPPED] + run.totals_wh[UNUSED])

    return Habits(
        together_h=hours(together),
        one_source_h=hours(one),
        together_spilled_wh=spilled(together),
        one_source_spilled_wh=spilled(one),
        together_end_frac=float(together.stored_wh[-1] / rating.capacity_wh),
        one_source_end_frac=float(one.stored_wh[-1] / rating.capacity_wh),
    )


def _values(design: Design, rating: BankRating, scene: Scene) -> tuple[SourceValue, ...]:
    """The small sources and one more battery string by price a dark-day kilowatt-hour; all days where none is dark."""
    charging, clock = design.charging, scene.clock
    dark = np.array([sky.is_dark for sky in scene.skies])[clock.day]
    counted = clock.length_h * (dark if dark.any() else 1.0)
    found = [
        _value(key, label, float((power * counted).sum()) * rating.charge_efficiency_frac, part.price)
        for key, label, power, part in (
            ("wind", "Wind turbine", scene.other.wind_w, charging.wind),
            ("alternator", "Alternator", scene.other.alternator_w, charging.alternator),
            ("bench", "Bench charger", scene.other.bench_w, charging.bench_charger),
        )
        if part is not None
    ]
    bank = design.bank
    unit_price = bank.unit.price if bank.unit else None
    string_price = None if unit_price is None else unit_price * bank.series
    label = "One more battery" if bank.series == 1 else f"One more string of {bank.series}"
    return (*found, _value("battery", label, rating.usable_wh / bank.parallel, string_price))


def _value(key: str, label: str, dark_wh: float, price: float | None) -> SourceValue:
    return SourceValue(
        key=key,
        label=label,
        dark_wh=dark_wh,
        price=price,
        price_per_dark_kwh=price / dark_wh * 1000 if price is not None and dark_wh > 0 else None,
    )
