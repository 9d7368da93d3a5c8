"""The generator as it is, one sized to charge only, and one sized to carry the house, each through the outage."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.design import Design, Generator
from hearthkeep.core.loads import LoadSums
from hearthkeep.core.outage import PreparedOutage, prepare, usual_audit
from hearthkeep.core.outage.kernel.values import GENERATOR
from hearthkeep.core.sold import SIZES_W, next_size
from hearthkeep.core.sources import SURGE_RATIO, WeatherYear

#: A generator sized to charge only runs at this part of what height and heat leave of it. Our assumption.
CHARGE_LOAD_FRAC = 0.8
#: It charges at twice what the house draws on average, and at least so much [W]. Our assumption.
LEAST_CHARGER_W = 500.0
#: Room over the coincident peak of one that carries the house. Common practice, no source.
HOUSE_ROOM = 1.2


@dataclass(frozen=True, kw_only=True, slots=True)
class GeneratorChoice:
    """One size of generator through the outage."""

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


@dataclass(frozen=True, slots=True)
class _Size:
    key: str
    label: str
    rated_w: float
    charger_w: float


def generator_choices(design: Design, year: WeatherYear | None = None) -> tuple[GeneratorChoice, ...]:
    """The three sizes side by side; nothing where there is no generator."""
    prepared = prepare(design, year)
    generator = prepared.design.charging.generator
    if generator is None or prepared.generator is None:
        return ()
    audit = usual_audit(prepared.design)
    sizes = _sizes(generator, audit.sums, prepared)
    return tuple(_through_the_outage(size, generator, prepared) for size in sizes)


def _sizes(generator: Generator, sums: LoadSums, prepared: PreparedOutage) -> tuple[_Size, ...]:
    """What is asked of a unit is asked of what height and heat leave of it."""
    charge_limit_w = prepared.rating.charge_limit_w
    charger_w = min(charge_limit_w, max(LEAST_CHARGER_W, 2 * sums.daily_wh / 24 + generator.charger_w / 2))
    left_frac = prepared.generator.derate_frac if prepared.generator else 1.0
    charge_w = charger_w / generator.charger_efficiency_frac / CHARGE_LOAD_FRAC / left_frac
    house_w = (
        max(sums.peak_w * HOUSE_ROOM, sums.start_surge_w / SURGE_RATIO)
        + generator.charger_w / generator.charger_efficiency_frac
    ) / left_frac
    return (
        _Size("as_is", "as it is", generator.rated_w, generator.charger_w),
        _Size("charge", "sized to charge only", next_size(charge_w, SIZES_W), charger_w),
        _Size("house", "sized to carry the house", next_size(house_w, SIZES_W), generator.charger_w),
    )


def _through_the_outage(size: _Size, generator: Generator, prepared: PreparedOutage) -> GeneratorChoice:
    update = {"rated_w": float(size.rated_w), "charger_w": float(size.charger_w), "surge_w": None}
    if size.key != "as_is":
        update |= {"fuel_idle_l_per_h": None, "fuel_l_per_kwh": None, "charges_only": size.key == "charge"}
    charging = prepared.design.charging.model_copy(update={"generator": generator.model_copy(update=update)})
    changed = prepared.with_parts({"charging": charging})
    run = changed.run()
    mean_w = run.totals_wh[GENERATOR] / run.generator_h if run.generator_h > 0 else None
    return GeneratorChoice(
        key=size.key,
        label=size.label,
        rated_w=float(size.rated_w),
        charger_w=float(size.charger_w),
        charges_only=size.key == "charge" or (size.key == "as_is" and generator.charges_only),
        hours_carried_h=changed.carried_h(run.dark_h),
        fuel_l=float(run.fuel_l),
        running_h=float(run.generator_h),
        mean_load_frac=None if mean_w is None else float(mean_w / size.rated_w),
    )
