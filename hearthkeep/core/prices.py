"""Every choice has a price in hours: the outage lived again with one thing changed."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Self

import numpy as np

from hearthkeep.core.bank import rate
from hearthkeep.core.charging import WeatherYear, rate_generator
from hearthkeep.core.checks.finding import SIZES_W, next_size
from hearthkeep.core.design import MOST_STRINGS, Bank, Design, Load, merge_spans
from hearthkeep.core.loads import LoadRows, daily_wh, rows_from, sums_from, table_from
from hearthkeep.core.outage import (
    GENERATOR,
    Run,
    Scene,
    house_of,
    plant_of,
    run_scene,
    scene_of,
    usual_day,
    whole,
    with_other_watts,
    without_each,
)


@dataclass(frozen=True, kw_only=True, slots=True)
class Price:
    """What one change does to the outage."""

    #: Hours carried gained, negative when lost [h]; never beyond the outage's end.
    gain_h: float
    #: Lowest charge gained, as a part of full: what tells choices apart once the outage is carried.
    lowest_soc_gain_frac: float
    #: Fuel the generator burns less, negative when more [L]: what tells them apart where it evens the charge out.
    fuel_gain_l: float


@dataclass(frozen=True, kw_only=True, slots=True)
class _Lived:
    """What a price needs of an outage lived through."""

    carried_h: float
    lowest_soc_frac: float
    fuel_l: float

    @classmethod
    def of(cls, run: Run, scene: Scene, capacity_wh: float) -> Self:
        return cls(
            carried_h=_carried(run.dark_h, scene),
            lowest_soc_frac=run.lowest_wh / capacity_wh,
            fuel_l=float(run.fuel_l),
        )

    def price_of(self, other: Self) -> Price:
        """What living the other one brings."""
        return Price(
            gain_h=other.carried_h - self.carried_h,
            lowest_soc_gain_frac=other.lowest_soc_frac - self.lowest_soc_frac,
            fuel_gain_l=self.fuel_l - other.fuel_l,
        )


@dataclass(frozen=True, kw_only=True, slots=True)
class Prices:
    """Prices of the choices on the pages."""

    #: By load id: the house without that load.
    without_load: dict[str, Price]
    #: One parallel unit more; none at the limit.
    one_unit_more: Price | None
    #: One parallel unit less; none when it is the last.
    one_unit_less: Price | None
    #: By array id: the house without that array, and with half as much again.
    without_array: dict[str, Price]
    half_more_array: dict[str, Price]
    #: An inverter that took nothing while idle.
    without_idle: Price
    #: The house without the generator; none where there is none.
    without_generator: Price | None
    #: Without the alternator, the wind or the bench charger, by field of the design; those that are there.
    without_source: dict[str, Price]
    #: The inverter switched off from 22 to 6, only DC loads running.
    off_at_night: Price


def prices_of(design: Design, scene: Scene, rows: LoadRows, base: Run) -> Prices:
    """Live the outage again for each load, one unit more and less, each array, and no idle."""
    rating = rate(design.bank)
    plant = plant_of(design, rating)
    lived = _Lived.of(base, scene, rating.capacity_wh)

    def price(run: Run, capacity_wh: float) -> Price:
        return lived.price_of(_Lived.of(run, scene, capacity_wh))

    each = without_each(design, rating, scene, rows)
    without_load = {
        load.id: lived.price_of(
            _Lived(
                carried_h=_carried(each.dark_h[index], scene),
                lowest_soc_frac=float(each.lowest_wh[index]) / rating.capacity_wh,
                fuel_l=float(each.fuel_l[index]),
            )
        )
        for index, load in enumerate(design.loads)
    }

    def with_bank(bank: Bank) -> Price:
        changed = design.model_copy(update={"bank": bank})
        other = rate(bank)
        return price(
            run_scene(scene, house_of(changed, other, rows), plant_of(changed, other)),
            other.capacity_wh,
        )

    def with_array(array_id: str, factor: float) -> Price:
        controllers = tuple(
            controller.model_copy(
                update={
                    "arrays": tuple(
                        array.model_copy(update={"stc_w": array.stc_w * factor}) if array.id == array_id else array
                        for array in controller.arrays
                    )
                }
            )
            for controller in design.charging.controllers
        )
        charging = design.charging.model_copy(update={"controllers": controllers})
        changed = with_other_watts(scene, design.model_copy(update={"charging": charging}), rating)
        # Loads that wait for the sun find other hours under another array.
        others = rows if changed.kinds == scene.kinds else rows_from(design.loads, changed.kinds)
        return price(run_scene(changed, house_of(design, rating, others), plant), rating.capacity_wh)

    bank = design.bank
    arrays = [array.id for controller in design.charging.controllers for array in controller.arrays]
    house = house_of(design, rating, rows)
    tireless = house._replace(standing_w=np.zeros_like(house.standing_w))
    return Prices(
        without_load=without_load,
        one_unit_more=with_bank(bank.model_copy(update={"parallel": bank.parallel + 1}))
        if bank.parallel < MOST_STRINGS
        else None,
        one_unit_less=with_bank(bank.model_copy(update={"parallel": bank.parallel - 1})) if bank.parallel > 1 else None,
        without_array={key: with_array(key, 0.0) for key in arrays},
        half_more_array={key: with_array(key, 1.5) for key in arrays},
        without_generator=price(
            run_scene(
                scene, house_of(_without_generator(design), rating, rows), plant_of(_without_generator(design), rating)
            ),
            rating.capacity_wh,
        )
        if design.charging.generator
        else None,
        without_source={
            field: price(run_scene(_without_source(scene, power), house, plant), rating.capacity_wh)
            for field, power in (
                ("alternator", "alternator_w"),
                ("wind", "wind_w"),
                ("bench_charger", "bench_w"),
            )
            if getattr(design.charging, field) is not None
        },
        off_at_night=price(run_scene(scene, house_of(_off_at_night(design), rating, rows), plant), rating.capacity_wh),
        without_idle=price(run_scene(scene, tireless, plant), rating.capacity_wh),
    )


def _without_generator(design: Design) -> Design:
    return design.model_copy(update={"charging": design.charging.model_copy(update={"generator": None})})


def _without_source(scene: Scene, power: str) -> Scene:
    """The scene with one of the other sources still."""
    still = np.zeros_like(scene.other.total_w)
    return replace(scene, other=replace(scene.other, **{power: still}))


def _off_at_night(design: Design) -> Design:
    return design.model_copy(update={"inverter": design.inverter.model_copy(update={"off_hours": ((0, 6), (22, 24))})})


def _carried(dark_h: float, scene: Scene) -> float:
    return float(scene.clock.edges_h[-1]) if dark_h < 0 else float(dark_h)


@dataclass(frozen=True, kw_only=True, slots=True)
class LoadPrices:
    """What could be done about one load."""

    without_it: Price
    #: With the last hour of its day left out, and which hour that is; none for a load of no hours.
    one_hour_less: Price | None
    hour_left_out: int | None
    #: Its hours without that one, as [from, to) pairs.
    shorter_hours: tuple[tuple[int, int], ...]
    #: With another load in its place.
    replaced: Price | None
    #: Energy of the load a day as it is, and of its replacement [Wh].
    daily_wh: float
    replaced_daily_wh: float | None


def load_prices(design: Design, index: int, replacement: Load | None, year: WeatherYear | None = None) -> LoadPrices:
    """Price what could be done about one load; nothing of the design is changed."""
    design = whole(design, year)
    load, loads = design.loads[index], design.loads
    others = (*loads[:index], *loads[index + 1 :])
    on = [hour for hour, is_on in enumerate(load.on_by_hour) if is_on]
    shorter = None
    if on:
        spans = tuple((hour, hour + 1) for hour in on[:-1])
        shorter = load.model_copy(update={"hours": merge_spans(spans)})
    base = _lived(design, year)
    usual = usual_day(design)

    def priced(changed: tuple[Load, ...]) -> Price:
        return base.price_of(_lived(design.model_copy(update={"loads": changed}), year))

    def in_its_place(other: Load) -> tuple[Load, ...]:
        return (*loads[:index], other, *loads[index + 1 :])

    return LoadPrices(
        without_it=priced(others),
        one_hour_less=None if shorter is None else priced(in_its_place(shorter)),
        hour_left_out=on[-1] if on else None,
        shorter_hours=() if shorter is None else shorter.hours,
        replaced=None if replacement is None else priced(in_its_place(replacement)),
        daily_wh=daily_wh(load, usual),
        replaced_daily_wh=None if replacement is None else daily_wh(replacement, usual),
    )


def _lived(design: Design, year: WeatherYear | None) -> _Lived:
    rating = rate(design.bank)
    scene = scene_of(design, rating, year)
    rows = rows_from(design.loads, scene.kinds)
    run = run_scene(scene, house_of(design, rating, rows), plant_of(design, rating))
    return _Lived.of(run, scene, rating.capacity_wh)


@dataclass(frozen=True, kw_only=True, slots=True)
class GeneratorChoice:
    """One size of generator lived through the outage."""

    key: str
    label: str
    rated_w: float
    charger_w: float
    #: It feeds its charger alone.
    charges_only: bool
    hours_carried_h: float
    fuel_l: float
    running_h: float
    #: Mean load over the rating; none when it never runs.
    mean_load_frac: float | None


def generator_choices(design: Design, year: WeatherYear | None = None) -> tuple[GeneratorChoice, ...]:
    """The generator as it is, one sized to charge only, and one sized to carry the house, side by side."""
    design = whole(design, year)
    generator, rated = design.charging.generator, rate_generator(design)
    if generator is None or rated is None:
        return ()
    rating = rate(design.bank)
    usual = usual_day(design)
    rows = rows_from(design.loads, (usual,))
    sums = sums_from(design.loads, rows, table_from(rows), usual)
    # Charging as fast as the bank allows, at most twice what the house draws on average, at 80 % of the rating.
    charger_w = min(rating.charge_limit_w, max(500.0, 2 * sums.daily_wh / 24 + generator.charger_w / 2))
    # What is asked of it is asked of what height and heat leave.
    left_frac = rated.derate_frac
    charge_w = charger_w / generator.charger_efficiency_frac / 0.8 / left_frac
    house_w = (
        max(sums.peak_w * 1.2, sums.start_surge_w / 1.25) + generator.charger_w / generator.charger_efficiency_frac
    ) / left_frac
    sizes = (
        ("as_is", "as it is", generator.rated_w, generator.charger_w),
        ("charge", "sized to charge only", next_size(charge_w, SIZES_W), charger_w),
        ("house", "sized to carry the house", next_size(house_w, SIZES_W), generator.charger_w),
    )
    scene = scene_of(design, rating, year)
    lived_rows = rows_from(design.loads, scene.kinds)
    found = []
    for key, label, rated_w, output_w in sizes:
        update = {"rated_w": float(rated_w), "charger_w": float(output_w), "surge_w": None}
        if key != "as_is":
            update |= {"fuel_idle_l_per_h": None, "fuel_l_per_kwh": None, "charges_only": key == "charge"}
        other = design.model_copy(
            update={"charging": design.charging.model_copy(update={"generator": generator.model_copy(update=update)})}
        )
        run = run_scene(scene, house_of(other, rating, lived_rows), plant_of(other, rating))
        mean_w = run.totals_wh[GENERATOR] / run.generator_h if run.generator_h > 0 else None
        found.append(
            GeneratorChoice(
                key=key,
                label=label,
                rated_w=float(rated_w),
                charger_w=float(output_w),
                charges_only=key == "charge" or (key == "as_is" and generator.charges_only),
                hours_carried_h=_carried(run.dark_h, scene),
                fuel_l=float(run.fuel_l),
                running_h=float(run.generator_h),
                mean_load_frac=None if mean_w is None else float(mean_w / rated_w),
            )
        )
    return tuple(found)
