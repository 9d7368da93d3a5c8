"""One more of each: what another battery string, panel, can of fuel or kilowatt of generator brings."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import partial

from hearthkeep.core.design import MOST_STOCK_L, MOST_STRINGS, Design
from hearthkeep.core.practice import can_of_fuel, volume_text
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.trials.outlook import Outlook, outlook
from hearthkeep.core.trials.pieces import Pieces
from hearthkeep.core.whatif import with_panels

#: Where only the watts of an array are known, one more panel has so many [W]; and a generator's step [W]. Our assumptions.
USUAL_PANEL_W, GENERATOR_STEP_W = 400.0, 1000.0
#: Of a watt and of a litre little comes, so that this many are counted at a time.
EACH = {"W": 100.0, "L": 10.0}
#: Hours and shares are given for so much money.
MONEY_STEP = 100.0


@dataclass(frozen=True, kw_only=True, slots=True)
class OneMore:
    """One part more, and what that brings."""

    key: str
    title: str
    outlook: Outlook
    #: Gained in the planned outage [h], and of the year's starts.
    gained_h: float
    gained_frac: float
    #: How much of it that is, in which unit it is counted, and what so much of that unit brings.
    amount: float
    unit: str
    each_amount: float
    gained_h_each: float
    gained_frac_each: float
    #: In the project's own currency, and what each hundred of it brings; none where the price is not known.
    price: float | None
    gained_h_per_100: float | None
    gained_frac_per_100: float | None


@dataclass(frozen=True, kw_only=True, slots=True)
class OneMoreOfEach:
    """Every part that may be had once more, that with the most starts gained first."""

    now: Outlook
    parts: tuple[OneMore, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class _More:
    key: str
    title: str
    design: Design
    amount: float
    unit: str
    price: float | None = None


def one_more_of_each(design: Design, given: WeatherYear | None = None) -> OneMoreOfEach:
    """Live the planned outage and the year's with one more of each part; `given` is the site's weather year."""
    return one_more_pieces(design, given).at_once()


def one_more_pieces(design: Design, given: WeatherYear | None = None) -> Pieces[Outlook, OneMoreOfEach]:
    """The same in pieces: the design as it is first, then one more of one part each."""
    more = list(_each(design))

    def answer(number: int, threads: int | None) -> Outlook:
        return outlook(design if number == 0 else more[number - 1].design, given, threads=threads)

    return Pieces(count=1 + len(more), years=1.0 + len(more), answer=answer, whole=partial(_ranked, more))


def _ranked(each: Sequence[_More], outlooks: Sequence[Outlook]) -> OneMoreOfEach:
    now, *then = outlooks
    found = [_told(more, now, one) for more, one in zip(each, then, strict=True)]
    found.sort(key=lambda part: (-part.gained_frac, -part.gained_h))
    return OneMoreOfEach(now=now, parts=tuple(found))


def _told(more: _More, now: Outlook, then: Outlook) -> OneMore:
    gained_h, gained_frac = then.carried_h - now.carried_h, then.keep_frac - now.keep_frac
    each = EACH.get(more.unit, 1.0)
    hundreds = more.price / MONEY_STEP if more.price else None
    return OneMore(
        key=more.key,
        title=more.title,
        outlook=then,
        gained_h=gained_h,
        gained_frac=gained_frac,
        amount=more.amount,
        unit=more.unit,
        each_amount=each,
        gained_h_each=gained_h / more.amount * each,
        gained_frac_each=gained_frac / more.amount * each,
        price=more.price,
        gained_h_per_100=None if hundreds is None else gained_h / hundreds,
        gained_frac_per_100=None if hundreds is None else gained_frac / hundreds,
    )


def _each(design: Design) -> Iterator[_More]:
    bank, charging = design.bank, design.charging
    if bank.parallel < MOST_STRINGS:
        unit_price = None if bank.unit is None else bank.unit.price
        unit = f"{bank.unit_v:g} V {bank.unit_ah:g} Ah"
        yield _More(
            key="bank",
            title=f"Battery unit, {unit}" if bank.series == 1 else f"String of {bank.series} battery units, {unit}",
            design=design.model_copy(update={"bank": bank.model_copy(update={"parallel": bank.parallel + 1})}),
            amount=float(bank.series),
            unit="unit",
            price=None if unit_price is None else unit_price * bank.series,
        )
    tied = charging.grid_tied
    charge = [array for controller in charging.controllers if controller.charges for array in controller.arrays]
    for array in (*charge, *(() if tied is None else tied.arrays)):
        panel_w = USUAL_PANEL_W if array.module is None else array.module.stc_w
        if array.stc_w > 0:
            yield _More(
                key=f"array:{array.id}",
                title=f"Panel of {panel_w:g} W on {array.name}",
                design=with_panels(design, {array.id}, 1.0 + panel_w / array.stc_w),
                amount=panel_w,
                unit="W",
                price=None if array.module is None else array.module.price,
            )
    generator = charging.generator
    if generator is None:
        return
    can_l = can_of_fuel(design)
    if generator.stock_l + can_l <= MOST_STOCK_L:
        fuller = generator.model_copy(update={"stock_l": generator.stock_l + can_l})
        yield _More(
            key="fuel",
            title=f"Can of fuel, {volume_text(design, can_l)}",
            design=design.model_copy(update={"charging": charging.model_copy(update={"generator": fuller})}),
            amount=can_l,
            unit="L",
        )
    surge_w = None if generator.surge_w is None else generator.surge_w * (1 + GENERATOR_STEP_W / generator.rated_w)
    larger = generator.model_copy(update={"rated_w": generator.rated_w + GENERATOR_STEP_W, "surge_w": surge_w})
    yield _More(
        key="generator",
        title=f"Kilowatt of generator, its charger as it is ({generator.charger_w:g} W)",
        design=design.model_copy(update={"charging": charging.model_copy(update={"generator": larger})}),
        amount=GENERATOR_STEP_W / 1000,
        unit="kW",
    )
