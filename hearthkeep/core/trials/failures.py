"""Single failures: the planned outage, and the year's, with one thing wrong."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import partial

from hearthkeep.core.design import Design, Load, Place, Supply, Tier
from hearthkeep.core.loads import daily_wh
from hearthkeep.core.practice import temperature_step_text
from hearthkeep.core.sources import WeatherYear, year_for
from hearthkeep.core.transfer import fates_of
from hearthkeep.core.trials.outlook import Outlook, outlook
from hearthkeep.core.trials.pieces import Pieces
from hearthkeep.core.whatif import with_panels, without_one

#: How much colder a cold snap is than planned [K]. Our assumption.
SNAP_K = 10.0
#: Loads looked at as ones left on: those that would ask for most more.
MOST_LEFT_ON = 3
#: What stands for a bank whose only string is open: nothing of note, but not nothing, which the model does not know.
_OPEN_PART = 1e-4


@dataclass(frozen=True, kw_only=True, slots=True)
class Spare:
    """What keeping one of the failed part at hand would buy."""

    name: str
    #: In the project's own currency; none where it is not known.
    price: float | None
    #: Hours of the planned outage, and share of the year's starts, that are not lost with it.
    hours_h: float
    starts_frac: float


@dataclass(frozen=True, kw_only=True, slots=True)
class Failure:
    """One thing wrong, and what the house comes to then."""

    key: str
    title: str
    #: What is taken to be so, in a sentence.
    assumes: str
    outlook: Outlook
    #: Lost against nothing wrong.
    lost_h: float
    lost_frac: float
    #: How often it happens when it is asked for, and the hours carried on the mean of both; none where it is not known.
    chance_frac: float | None
    mean_carried_h: float | None
    spare: Spare | None


@dataclass(frozen=True, kw_only=True, slots=True)
class Failures:
    """Every single failure that a design knows, the worst first."""

    duration_h: float
    sound: Outlook
    failures: tuple[Failure, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class _Wrong:
    """One thing wrong, before it is lived."""

    key: str
    title: str
    assumes: str
    design: Design
    #: Another weather than the design's own.
    weather: WeatherYear | None = None
    chance_frac: float | None = None
    #: Of the part that failed, where one can be kept; and its price.
    spare: str | None = None
    price: float | None = None


def single_failures(design: Design, given: WeatherYear | None = None) -> Failures:
    """Live the planned outage and the year's once for each thing that may be wrong; `given` is the site's weather year."""
    return failure_pieces(design, given).at_once()


def failure_pieces(design: Design, given: WeatherYear | None = None) -> Pieces[Outlook, Failures]:
    """The same in pieces: the sound design first, then one thing wrong each."""
    wrongs = [
        wrong
        for rule in (_bank, _inverter, _sun, _generator, _cold, _left_on, _nobody)
        for wrong in rule(design, given)
    ]

    def answer(number: int, threads: int | None) -> Outlook:
        if number == 0:
            return outlook(design, given, threads=threads)
        wrong = wrongs[number - 1]
        return outlook(wrong.design, wrong.weather or given, threads=threads)

    return Pieces(count=1 + len(wrongs), years=1.0 + len(wrongs), answer=answer, whole=partial(_ranked, design, wrongs))


def _ranked(design: Design, wrongs: Sequence[_Wrong], outlooks: Sequence[Outlook]) -> Failures:
    sound, *left = outlooks
    found = [_told(wrong, sound, one) for wrong, one in zip(wrongs, left, strict=True)]
    found.sort(key=lambda failure: (failure.outlook.carried_h, failure.outlook.keep_frac))
    return Failures(duration_h=design.outage.duration_h, sound=sound, failures=tuple(found))


def _told(wrong: _Wrong, sound: Outlook, left: Outlook) -> Failure:
    lost_h, lost_frac = sound.carried_h - left.carried_h, sound.keep_frac - left.keep_frac
    chance = wrong.chance_frac
    return Failure(
        key=wrong.key,
        title=wrong.title,
        assumes=wrong.assumes,
        outlook=left,
        lost_h=lost_h,
        lost_frac=lost_frac,
        chance_frac=chance,
        mean_carried_h=None if chance is None else chance * left.carried_h + (1 - chance) * sound.carried_h,
        spare=None
        if wrong.spare is None
        else Spare(name=wrong.spare, price=wrong.price, hours_h=lost_h, starts_frac=lost_frac),
    )


def _bank(design: Design, given: WeatherYear | None) -> Iterator[_Wrong]:
    bank = design.bank
    price = None if bank.unit is None else bank.unit.price
    unit = f"battery unit of {bank.unit_v:g} V {bank.unit_ah:g} Ah"
    opens = "Its protection opens" if bank.series == 1 else "It opens, and the string it stands in with it"
    if bank.parallel > 1:
        yield _Wrong(
            key="bank",
            title="One battery unit out" if bank.series == 1 else "One battery unit out, its string with it",
            assumes=f"{opens}; the other {bank.parallel - 1} of {bank.parallel} strings go on.",
            design=design.model_copy(update={"bank": bank.model_copy(update={"parallel": bank.parallel - 1})}),
            spare=unit,
            price=price,
        )
        return
    # Without a bank nothing makes a supply for controllers and coupled arrays; only a generator carries the house itself.
    alone = {"controllers": (), "grid_tied": None, "alternator": None, "wind": None, "bench_charger": None}
    yield _Wrong(
        key="bank",
        title="The only string out",
        assumes=f"{opens}, and nothing is left of the bank: inverter and sun stand still, only a generator carries the house.",
        design=design.model_copy(
            update={
                "bank": bank.model_copy(update={"unit_ah": bank.unit_ah * _OPEN_PART}),
                "charging": design.charging.model_copy(update=alone),
            }
        ),
        spare=unit,
        price=price,
    )


def _inverter(design: Design, given: WeatherYear | None) -> Iterator[_Wrong]:
    inverter = design.inverter
    if inverter.rated_w == 0:
        return
    one = inverter.units == 1
    built_in = any(controller.built_in for controller in design.charging.controllers)
    yield _Wrong(
        key="inverter",
        title="The inverter out" if one else f"One of {inverter.units} inverters out",
        assumes=("Direct-current loads go on." if one else "The others go on, with the tiers that fit them.")
        + (" The solar inputs built into it are lost too." if built_in else ""),
        design=without_one(design),
        spare=f"inverter of {inverter.rated_w:g} W",
        price=None if inverter.sheet is None else inverter.sheet.price,
    )


def _sun(design: Design, given: WeatherYear | None) -> Iterator[_Wrong]:
    """What arrays hang on dead, and each array covered; one thing where a single array hangs on it."""
    tied = design.charging.grid_tied
    groups = [
        (f"controller:{unit.id}", unit.name, f"controller of {unit.output_a:g} A", unit.arrays)
        for unit in design.charging.controllers
        if unit.charges
    ]
    if tied is not None:
        groups.append(("grid_tied", "Grid-tied inverter", f"grid-tied inverter of {tied.rated_w:g} W", tied.arrays))
    for key, name, spare, arrays in groups:
        if not arrays:
            continue
        one = len(arrays) == 1
        yield _Wrong(
            key=key,
            title=f"{name} dead, or {arrays[0].name} covered" if one else f"{name} dead",
            assumes="It gives nothing all through the outage: a fault, snow or ice on it, a fallen branch."
            if one
            else f"The {len(arrays)} arrays on it give nothing.",
            design=with_panels(design, {array.id for array in arrays}, 0.0),
            spare=spare,
        )
        for array in () if one else arrays:
            yield _Wrong(
                key=f"array:{array.id}",
                title=f"{array.name} covered",
                assumes="Snow, ice or a fallen branch lies on it all through the outage.",
                design=with_panels(design, {array.id}, 0.0),
            )


def _generator(design: Design, given: WeatherYear | None) -> Iterator[_Wrong]:
    generator, charging = design.charging.generator, design.charging
    if generator is None:
        return
    yield _Wrong(
        key="generator",
        title="The generator will not start",
        assumes=f"Not once in the outage. By its own figure {100 * generator.start_failure_frac:g} % of its cold starts fail.",
        design=design.model_copy(update={"charging": charging.model_copy(update={"generator": None})}),
        chance_frac=generator.start_failure_frac,
    )
    if generator.stock_l > 0:
        half = generator.model_copy(update={"stock_l": generator.stock_l / 2})
        yield _Wrong(
            key="fuel",
            title="Half the fuel",
            assumes="Half of the stock is old, lent or spilled.",
            design=design.model_copy(update={"charging": charging.model_copy(update={"generator": half})}),
        )


def _cold(design: Design, given: WeatherYear | None) -> Iterator[_Wrong]:
    outage, bank, weather = design.outage, design.bank, year_for(design.site, given)
    days = tuple(day.model_copy(update={"air_temp_c": max(day.air_temp_c - SNAP_K, -60.0)}) for day in outage.days)
    warm = bank.place in (Place.LIVING_SPACE, Place.UTILITY_ROOM)
    colder = bank if warm else bank.model_copy(update={"temp_c": bank.temp_c - SNAP_K})
    yield _Wrong(
        key="cold",
        title="Cold snap",
        assumes=f"The air is {temperature_step_text(design, SNAP_K)} colder than planned"
        + (", the bank's room is not." if warm else ", and so is the bank.")
        + " Heating asks for no more than is entered.",
        design=design.model_copy(update={"outage": outage.model_copy(update={"days": days}), "bank": colder}),
        weather=replace(weather, key=f"{weather.key}:colder", air_c=weather.air_c - SNAP_K),
    )


def _left_on(design: Design, given: WeatherYear | None) -> Iterator[_Wrong]:
    def more_wh(load: Load) -> float:
        return 24 * load.quantity * load.running_w - daily_wh(load)

    left_out = fates_of(design).left_out
    asks = [
        load
        for load in design.loads
        if load.tier is not Tier.SPARE and load.supply is not Supply.PANEL and load.id not in left_out
    ]
    for load in sorted(asks, key=more_wh, reverse=True)[:MOST_LEFT_ON]:
        if more_wh(load) < 1.0:
            return
        left_on = load.model_copy(
            update={
                "hours": ((0, 24),),
                "duty_frac": 1.0,
                "flexible_h": None,
                "month_factors": None,
                "dark_day": type(load.dark_day).KEEP,
                "stops_when_away": False,
            }
        )
        yield _Wrong(
            key=f"load:{load.id}",
            title=f"{load.name} left on",
            assumes=f"At {load.quantity * load.running_w:g} W day and night, as long as its tier is served.",
            design=design.model_copy(
                update={"loads": tuple(left_on if entry is load else entry for entry in design.loads)}
            ),
        )


def _nobody(design: Design, given: WeatherYear | None) -> Iterator[_Wrong]:
    outage = design.outage
    if all(day.away for day in outage.days):
        return
    days = tuple(day.model_copy(update={"away": True}) for day in outage.days)
    yield _Wrong(
        key="nobody",
        title="Nobody there to act",
        assumes="The generator runs on its tank alone, nobody sweeps snow, drives or plugs in; what stops when nobody is at home stops.",
        design=design.model_copy(update={"outage": outage.model_copy(update={"days": days})}),
    )
