"""Everything that puts energy back, in this outage: what each source offers, brings and is worth."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from hearthkeep.core.bank import BankRating
from hearthkeep.core.design import Array, Design, Sky
from hearthkeep.core.outage import PanelRun, PreparedOutage, Run, Scene, WarningFill, spilled_wh
from hearthkeep.core.sizing import DayCurve, day_curve
from hearthkeep.core.sources import (
    STEADY,
    PageField,
    StagePoints,
    StringReport,
    stage_points,
    string_reports,
)
from hearthkeep.core.transfer import is_coupled
from hearthkeep.core.whatif.habits import Habits, fuel_asked_l, habits_of

#: Less than this in an outage has no price a kilowatt-hour worth saying [Wh].
LEAST_PRICED_WH = 1.0


@dataclass(frozen=True, kw_only=True, slots=True)
class SourceValue:
    """What a source brings for its price on the dark days of this outage, beside one more battery string."""

    key: str
    label: str
    #: Into the bank over those days; for the battery what one more string holds once [Wh].
    dark_wh: float
    price: float | None
    #: None where the price is not known or next to nothing comes of it.
    price_per_dark_kwh: float | None


@dataclass(frozen=True, kw_only=True, slots=True)
class PanelSums:
    """Loads that run straight from a panel."""

    offered_wh: float
    #: By load id [Wh].
    served_wh: dict[str, float]
    asked_wh: dict[str, float]


@dataclass(frozen=True, kw_only=True, slots=True)
class SteadySum:
    """One kind of steady source: what it brought, and how its page asks for it."""

    #: Field of the design's charging part that holds it.
    key: str
    label: str
    is_there: bool
    #: At the direct-current bus in this outage [Wh].
    given_wh: float
    question: str
    fields: tuple[PageField, ...]
    #: What the page begins with: the part of the design as plain values.
    start: dict[str, object]


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
    #: Every kind of steady source, in the order of its page.
    steady: tuple[SteadySum, ...]
    #: Arrays whose panels are known, at their extremes.
    strings: tuple[StringReport, ...]
    curve: DayCurve
    stages: StagePoints
    fill: WarningFill
    #: None while there is at most one source besides the generator's charger.
    habits: Habits | None
    panel_loads: PanelSums
    values: tuple[SourceValue, ...]
    #: Days of the outage whose sky is overcast or covered.
    dark_days: int
    #: Fuel the generator would burn if the stock never ended [L]; 0 without one.
    fuel_asked_l: float

    def given_wh(self, key: str) -> float:
        """What a kind of steady source brought [Wh]."""
        return next(entry.given_wh for entry in self.steady if entry.key == key)


def charging_sums(prepared: PreparedOutage, run: Run, panel_loads: PanelRun, *, mean_draw_w: float) -> ChargingSums:
    """Add up every source of the outage; `run` is the outage as it is, `mean_draw_w` what the house draws on average."""
    design, rating, scene = prepared.design, prepared.rating, prepared.scene
    clock, sun = scene.clock, scene.sun
    # A coupled array counts at its own terminals.
    offered_wh = (sun.offered_w + scene.coupled.offered_w) * clock.length_h
    days = int(clock.day.max()) + 1
    steady = _steady_sums(design, rating, scene)
    on_panels_wh = float((panel_loads.offered_w * clock.length_h).sum())
    all_wh = float(offered_wh.sum()) + sum(entry.given_wh for entry in steady) + on_panels_wh
    not_used_wh = spilled_wh(scene, run) + on_panels_wh - sum(panel_loads.served_wh.values())
    return ChargingSums(
        stc_w=sum(array.stc_w for array in live_arrays(design)),
        offered_wh=float(offered_wh.sum()),
        clipped_wh=float((sun.clipped_w * clock.length_h).sum()),
        daily_wh=tuple(float(offered_wh[clock.day == day].sum()) for day in range(days)),
        skies=scene.skies,
        spilled_frac=not_used_wh / all_wh if all_wh > 0 else 0.0,
        steady=steady,
        strings=string_reports(design, volts=rating.volts, year_low_c=scene.year_low_c),
        curve=day_curve(design, volts=rating.volts, mean_draw_w=mean_draw_w),
        stages=stage_points(design, temp_c=rating.temp_c),
        fill=prepared.fill,
        habits=habits_of(prepared, run),
        panel_loads=PanelSums(
            offered_wh=on_panels_wh,
            served_wh=panel_loads.served_wh,
            asked_wh=panel_loads.asked_wh,
        ),
        values=_values(design, rating, scene),
        dark_days=sum(sky.is_dark for sky in scene.skies),
        fuel_asked_l=fuel_asked_l(prepared, run),
    )


def live_arrays(design: Design) -> tuple[Array, ...]:
    """The arrays that work in an outage: those on controllers, and a grid-tied one where it is coupled."""
    charging, coupled = design.charging, is_coupled(design)
    tied = charging.grid_tied.arrays if charging.grid_tied is not None and coupled else ()
    return (*(array for controller in charging.controllers for array in controller.arrays), *tied)


def _steady_sums(design: Design, rating: BankRating, scene: Scene) -> tuple[SteadySum, ...]:
    """What each kind of steady source brought."""
    length_h = scene.clock.length_h
    given_wh = {key: float((power * length_h).sum()) for key, power in scene.steady.by_kind.items()}
    return tuple(
        SteadySum(
            key=kind.key,
            label=kind.label,
            is_there=kind.is_in(design.charging),
            given_wh=given_wh.get(kind.key, 0.0),
            question=kind.question,
            fields=kind.fields,
            start=kind.start(rating),
        )
        for kind in STEADY
    )


def _values(design: Design, rating: BankRating, scene: Scene) -> tuple[SourceValue, ...]:
    """The steady sources and one more battery string by price a dark-day kilowatt-hour; all days where none is dark."""
    clock = scene.clock
    dark = np.array([sky.is_dark for sky in scene.skies])[clock.day]
    counted = clock.length_h * (dark if dark.any() else 1.0)
    found = [
        _value(
            kind.key,
            kind.label,
            float((scene.steady.by_kind[kind.key] * counted).sum()) * rating.charge_efficiency_frac,
            kind.price(design.charging),
        )
        for kind in STEADY
        if kind.is_in(design.charging)
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
        price_per_dark_kwh=price / dark_wh * 1000 if price is not None and dark_wh >= LEAST_PRICED_WH else None,
    )
