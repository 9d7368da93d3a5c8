"""Which line of a method misled: each is set right by the model in turn, and the storm is lived with what is bought then."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, field
from enum import StrEnum

from hearthkeep.core.design import MOST_STRINGS, Design
from hearthkeep.core.opinions.bought import with_strings
from hearthkeep.core.opinions.referee import (
    Referee,
    is_whole,
    least_array_w,
    least_strings,
    panels_w,
    with_inverter,
)
from hearthkeep.core.opinions.sheet import OpinionLine
from hearthkeep.core.outage import PreparedOutage, prepare, with_other_watts
from hearthkeep.core.sizing import units_price
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.words import counted

#: A kit that costs so much more than the same with the least bank is more than the storm asks for.
OVER_FRAC = 0.15
#: Gains below this are none [h].
_LEAST_H = 0.05
#: Lines named at the most.
_MOST_LINES = 2


class Verdict(StrEnum):
    """What the storm says of a kit."""

    SHORT = "short"
    RIGHT = "right"
    OVER = "over"


@dataclass(frozen=True, kw_only=True, slots=True)
class Blame:
    """Whether a method would have misled, by how much, and which of its lines is to blame."""

    verdict: Verdict
    #: Hours missing in the planned outage [h], and money spent on more bank than it asks for.
    short_h: float
    over_price: float
    #: Keys of the lines to blame, the worst first, and hours carried with all of them set right [h].
    lines: tuple[str, ...]
    set_right_h: float | None
    sentence: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Kitted:
    """A design with a kit, lived through the planned outage."""

    design: Design
    prepared: PreparedOutage
    hours_h: float

    @property
    def is_whole(self) -> bool:
        """Whether it is carried to the end."""
        return is_whole(self.hours_h, self.prepared.duration_h)


@dataclass(slots=True)
class Trying:
    """The design's outage lived with other kits."""

    design: Design
    year: WeatherYear | None
    referee: Referee
    #: Prepared outages by the planes of their arrays, which are what takes time.
    _bases: dict[tuple[str, ...], PreparedOutage] = field(default_factory=dict)
    _lived: dict[tuple[object, ...], Kitted] = field(default_factory=dict)

    def kitted(self, design: Design) -> Kitted:
        """The planned outage with a design that differs in bank, inverter and charging alone; what was bought once is kept."""
        key = _what_is_bought(design)
        if key not in self._lived:
            prepared = self.prepared(design)
            self._lived[key] = Kitted(design=design, prepared=prepared, hours_h=_hours_h(prepared))
        return self._lived[key]

    def kitted_anew(self, design: Design) -> Kitted:
        """The same prepared from the ground up, so that the hours are to the last bit those of the strip."""
        prepared = prepare(design, self.year)
        return Kitted(design=design, prepared=prepared, hours_h=_hours_h(prepared))

    def with_inverter_h(self, kitted: Kitted) -> float:
        """Hours carried with an inverter that holds the running loads and the worst start, where that is longer [h]."""
        fitting = with_inverter(kitted.design, self.referee.right.inverter_w)
        if fitting is kitted.design:
            return kitted.hours_h
        # A larger inverter may also carry more of Ease, and then the bank goes down sooner.
        larger = kitted.prepared.with_parts({"inverter": fitting.inverter.together})
        return max(kitted.hours_h, _hours_h(larger))

    def prepared(self, design: Design) -> PreparedOutage:
        """The outage prepared, from one with the same arrays where there is one."""
        key = tuple(array.id for array in design.charging.arrays)
        base = self._bases.get(key)
        if base is None:
            base = self._bases[key] = prepare(design, self.year)
            return base
        # Off the grid its charger counts for nothing, whatever the document says; no kit has another one.
        charging = design.charging.model_copy(update={"grid_charger": base.design.charging.grid_charger})
        changed = base.with_parts({"bank": design.bank, "inverter": design.inverter.together, "charging": charging})
        return changed.with_scene(with_other_watts(changed.scene, changed.design, changed.rating))


def _what_is_bought(design: Design) -> tuple[object, ...]:
    """What distinguishes one kit from another."""
    return (design.bank.parallel, design.inverter, design.charging.controllers, design.charging.generator)


def _hours_h(prepared: PreparedOutage) -> float:
    return prepared.carried_h(prepared.outcome().dark_h)


def blame_of(
    lines: tuple[OpinionLine, ...],
    kitted: Kitted,
    trying: Trying,
    with_right: Callable[[frozenset[str]], Design],
) -> Blame:
    """
    What the storm says of a method's kit.

    :param with_right: the design with the kit that the method buys once the lines of those keys are set right.
    """
    if not kitted.is_whole:
        return _short(lines, kitted, trying, with_right)
    return _carried(lines, kitted, trying, with_right)


# --- too little


def _short(
    lines: tuple[OpinionLine, ...], kitted: Kitted, trying: Trying, with_right: Callable[[frozenset[str]], Design]
) -> Blame:
    duration_h = kitted.prepared.duration_h
    now, blamed = kitted, frozenset[str]()
    order: list[str] = []
    while not now.is_whole and len(order) < _MOST_LINES:
        tried = [(key, trying.kitted(with_right(blamed | {key}))) for key in _comparable(lines) if key not in blamed]
        if not tried:
            break
        key, best = max(tried, key=lambda one: (round(one[1].hours_h, 3), -units_price(one[1].design).total))
        if best.hours_h <= now.hours_h + _LEAST_H:
            break
        order.append(key)
        now, blamed = best, blamed | {key}
    short_h = duration_h - kitted.hours_h
    said = f"Dark after {kitted.hours_h:.0f} h of {duration_h:.0f}: {short_h:.0f} h short."
    if kitted.design.bank.parallel == MOST_STRINGS:
        said += f" It asks for more than the {MOST_STRINGS} strings that a bank may have."
    if not order:
        said += " No line alone, set right, makes it carry longer: several are wrong together, or no bank helps."
        return Blame(verdict=Verdict.SHORT, short_h=short_h, over_price=0.0, lines=(), set_right_h=None, sentence=said)
    by_key = {line.key: line for line in lines}
    names = " and ".join(_line_said(by_key[key]) for key in order)
    carried = "the whole of it" if now.is_whole else f"{now.hours_h:.0f} h"
    said += f" To blame: {names}. Set right, {'it' if len(order) == 1 else 'with both, it'} would carry {carried}."
    return Blame(
        verdict=Verdict.SHORT,
        short_h=short_h,
        over_price=0.0,
        lines=tuple(order),
        set_right_h=now.hours_h,
        sentence=said,
    )


def _comparable(lines: Iterable[OpinionLine]) -> list[str]:
    """Keys of the lines for which the model has something else."""
    return [
        line.key for line in lines if line.right is not None and not math.isclose(line.right, line.value, rel_tol=1e-6)
    ]


# --- enough, and perhaps too much


def _carried(
    lines: tuple[OpinionLine, ...], kitted: Kitted, trying: Trying, with_right: Callable[[frozenset[str]], Design]
) -> Blame:
    price = units_price(kitted.design).total
    over_price, too_much = max(_savings(kitted), default=(0.0, ""))
    if over_price < OVER_FRAC * price:
        least = kitted.design.bank.parallel == 1
        said = "the smallest bank of its units does." if least else "with little more of bank or array than it takes."
        return Blame(
            verdict=Verdict.RIGHT,
            short_h=0.0,
            over_price=over_price,
            lines=(),
            set_right_h=None,
            sentence=f"Carries the whole of it; {said}" if least else f"Carries the whole of it, {said}",
        )
    cheaper = []
    for key in _comparable(lines):
        then = trying.kitted(with_right(frozenset({key})))
        then_price = units_price(then.design).total
        if then.is_whole and then_price < price - 1e-6:
            cheaper.append((then_price, key))
    blamed = (min(cheaper)[1],) if cheaper else ()
    said = f"Carries the whole of it, with {too_much}, and costs {over_price:,.0f} more than the storm asks for."
    if blamed:
        said += f" To blame: {_line_said(next(line for line in lines if line.key == blamed[0]))}."
    else:
        said += " No line alone, set right, buys less and still carries it."
    return Blame(
        verdict=Verdict.OVER,
        short_h=0.0,
        over_price=over_price,
        lines=blamed,
        set_right_h=kitted.hours_h if blamed else None,
        sentence=said,
    )


def _savings(kitted: Kitted) -> Iterator[tuple[float, str]]:
    """Money to be saved in bank alone and in array alone, the outage still carried, and what there is too much of."""
    design, price = kitted.design, units_price(kitted.design)
    strings, least = design.bank.parallel, least_strings(kitted.prepared) or design.bank.parallel
    if least < strings:
        saved = price.total - units_price(with_strings(design, least)).total
        yield saved, f"{counted(strings, 'string')} where {least} would do"
    has_w = panels_w(design)
    if design.site.off_grid:
        # Its array is there for the year, not for one dark spell.
        return
    least_w = least_array_w(kitted.prepared, has_w)
    if least_w is not None and least_w < has_w:
        sunny = sum(line.price for line in price.lines if line.key in ("panels", "other_panels", "controllers"))
        asked = f"{least_w:,.0f} W would do" if least_w > 0 else "none would do"
        yield sunny * (1 - least_w / has_w), f"{has_w:,.0f} W of panels where {asked}"


def _line_said(line: OpinionLine) -> str:
    assert line.right is not None, "only lines with something to compare are blamed"
    right = amount(line.right, line.unit)
    if line.is_left_out:
        return f"“{line.label}”, {line.formula}, where the model has {right}"
    return f"“{line.label}”, {amount(line.value, line.unit)} where the model has {right}"


def amount(value: float, unit: str) -> str:
    """A number of a sheet for a sentence.

    >>> amount(4630.0, "Wh"), amount(0.5, ""), amount(2.456, "h")
    ('4.6 kWh', '0.5', '2.5 h')
    """
    if unit == "Wh" and abs(value) >= 1000:
        return f"{value / 1000:,.1f} kWh"
    if unit == "":
        return f"{round(value, 2):g}"
    return f"{value:,.0f} {unit}" if abs(value) >= 100 else f"{round(value, 1):g} {unit}"
