"""What comes of one kit: its price, the share of the year's hours it carries, and what the checks stop it for."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from pydantic import ValidationError

from hearthkeep.core.assess import assess
from hearthkeep.core.checks import Finding, Severity
from hearthkeep.core.design import Design, Tier
from hearthkeep.core.design.reading import field_problems
from hearthkeep.core.errors import InputError
from hearthkeep.core.kits.choices import Kit, newly_dead
from hearthkeep.core.kits.ranges import KitTarget
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.trials import live, trial_year
from hearthkeep.core.words import shortened, some_of

#: What a kit is stopped for that leaves loads without a supply; beside the codes of the checks.
LEAVES_DEAD = "LEAVES_DEAD"
#: Longest name of a design that the format admits [characters].
_LONGEST_NAME = 120


@dataclass(frozen=True, kw_only=True, slots=True)
class Stopped:
    """Something the checks stop a design for."""

    code: str
    title: str


@dataclass(frozen=True, kw_only=True, slots=True)
class KitAnswer:
    """One kit lived through."""

    number: int
    #: What is chosen, in words, and what that costs in the project's own currency.
    titles: tuple[str, ...]
    price: float
    #: Of the year's starts, carried through the target's hours: the target's tiers, and Life alone.
    share_frac: float
    life_frac: float
    #: The planned outage, until Life or Keep first goes unserved [h].
    carried_h: float
    #: What the checks stop this kit for and not the design it is put into; and the loads it leaves dead and that does not.
    stops: tuple[Stopped, ...] = ()
    #: Why it could not be worked out; empty where it could.
    fault: str = ""


def stops_of(design: Design, given: WeatherYear | None = None) -> Counter[str]:
    """How often the checks stop a design for each of their codes."""
    return Counter(found.code for found in assess(design, given).findings if found.severity is Severity.STOP)


def answer_of(
    kit: Kit, design: Design, target: KitTarget, known_stops: Counter[str], given: WeatherYear | None = None
) -> KitAnswer:
    """
    Live a kit through its planned outage and through one of the target's length from every hour of the weather year.

    :param known_stops: what the checks stop the design for as it stands, see `stops_of`.
    :param given: the weather year of the site; without it the made-up one is taken.
    """
    try:
        kitted = kit.of(design)
    except ValidationError as error:
        # A unit of the library that the format admits alone, but not in this place: other units may do.
        return _faulty(kit, error.errors()[0]["msg"])
    length_h = float(target.hours_h)
    try:
        found = assess(kitted, given)
        # One thread: kits run side by side already.
        lived = live(trial_year(kitted, length_h, given), [length_h], threads=1)[length_h]
    except (ArithmeticError, ValueError) as error:
        return _faulty(kit, f"a figure in it is beyond what can be worked with ({type(error).__name__})")
    life_frac = float(lived.carries(length_h, life_only=True).mean())
    both_frac = float(lived.carries(length_h, life_only=False).mean())
    return KitAnswer(
        number=kit.number,
        titles=kit.titles,
        price=kit.price,
        share_frac=life_frac if target.lowest_tier is Tier.LIFE else both_frac,
        life_frac=life_frac,
        carried_h=found.outage.hours_carried_h,
        stops=(
            *_left_dead(kitted, design),
            *_new_stops(found.findings, known_stops),
        ),
    )


def _new_stops(findings: Iterable[Finding], known_stops: Counter[str]) -> Iterator[Stopped]:
    """Stops beyond those of the design, code by code: a second string too long is not excused by the first."""
    left = Counter(known_stops)
    for finding in findings:
        if finding.severity is not Severity.STOP:
            continue
        if left[finding.code] > 0:
            left[finding.code] -= 1
        else:
            yield Stopped(code=finding.code, title=finding.title)


def _left_dead(kitted: Design, design: Design) -> tuple[Stopped, ...]:
    """A kit lasts longer when it leaves loads without a supply that the design gives one; such a kit is no answer."""
    dead = newly_dead(kitted, design)
    return (Stopped(code=LEAVES_DEAD, title=f"Leaves {some_of(dead)} dead"),) if dead else ()


def _faulty(kit: Kit, why: str) -> KitAnswer:
    return KitAnswer(
        number=kit.number,
        titles=kit.titles,
        price=kit.price,
        share_frac=0.0,
        life_frac=0.0,
        carried_h=0.0,
        fault=f"It cannot be worked out: {why}.",
    )


def kitted_design(kit: Kit, design: Design) -> Design:
    """The design with a kit, checked whole and named after both. Raises InputError where a unit cannot stand in it."""
    name = shortened(f"{design.name}: {', '.join(kit.titles)}", _LONGEST_NAME)
    try:
        return Design.model_validate({**kit.of(design).model_dump(), "name": name})
    except ValidationError as error:
        raise InputError(field_problems(error)) from None
