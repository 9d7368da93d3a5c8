"""Trials: the design against an outage from every hour of its weather year."""

from __future__ import annotations

from calendar import month_name
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from enum import StrEnum

from hearthkeep.core.design import Design
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.loads import HOURS
from hearthkeep.core.outage import prepare
from hearthkeep.core.sources import WeatherYear, distance_km
from hearthkeep.core.trials.carried import (
    CarriedCell,
    EnduranceCurve,
    carried_map,
    endurance_curves,
    lasts_at_least_h,
    times_of,
)
from hearthkeep.core.trials.lived import Lived, all_starts, end_matters, joined, live
from hearthkeep.core.trials.pieces import Pieces
from hearthkeep.core.trials.whole_year import WholeYear, whole_year
from hearthkeep.core.trials.worst import WorstStart, worst_starts
from hearthkeep.core.trials.year import TrialYear, planned_length_h, trial_year


class Reach(StrEnum):
    """How long the longest outages of a trial are."""

    WEEK = "week"
    MONTH = "month"


#: Lengths of outage beside the planned one [h].
LENGTHS_H: dict[Reach, tuple[float, ...]] = {
    Reach.WEEK: (12.0, 24.0, 48.0, 72.0, 96.0, 120.0, 168.0),
    Reach.MONTH: (24.0, 72.0, 120.0, 168.0, 240.0, 336.0, 504.0, 720.0),
}
#: The share of starts that a careful plan is held against. Our assumption.
MOST_STARTS_FRAC = 0.95
_BASIS = (
    "The outage model of the strip, lived from every hour of the weather year as a start, each under that hour's own weather. "
    "An outage may begin at any hour here; real ones often come with bad weather, so that the true share may be lower."
)


@dataclass(frozen=True, kw_only=True, slots=True)
class Trials:
    """A design's trials over a weather year."""

    year_key: str
    year_name: str
    is_made_up: bool
    #: Of the weather's place from the site [km]; 0 for the made-up year.
    distance_km: float
    starts: int
    #: Length of the planned outage in whole hours, rounded up, which the worst starts have; and the lengths of the map.
    planned_h: float
    lengths_h: tuple[float, ...]
    cells: tuple[CarriedCell, ...]
    #: Times of the curves [h].
    times_h: tuple[float, ...]
    curves: tuple[EnduranceCurve, ...]
    worst: tuple[WorstStart, ...]
    #: Off the grid: the year lived through, day after day; none where there is a grid.
    year: WholeYear | None
    #: Of the starts, carried through the planned length: Life and Keep, and Life alone.
    keep_frac: float
    life_frac: float
    #: The planned outage as it stands, under its own sky: carried for so long [h].
    planned_carried_h: float
    #: Half of all starts, and nearly all, last at least so long, at most the longest length [h].
    half_last_h: float
    most_last_h: float
    #: The share that counts as nearly all.
    most_frac: float
    #: Whether anything of Life or Keep asks at all.
    is_asked: bool
    #: What it comes to, in one or two sentences.
    verdict: str
    #: How the figures come about, by key: keep, life, half, most, worst.
    figures: dict[str, Figure]


def trials(design: Design, given: WeatherYear | None = None, *, reach: Reach = Reach.WEEK) -> Trials:
    """Live the outage from every hour of the year; `given` is the site's weather year, else the made-up one is taken."""
    asked = _asked(design, given, reach)
    return _report(asked, live(asked.year, asked.to_live_h))


def trial_pieces(
    design: Design, given: WeatherYear | None = None, *, reach: Reach = Reach.WEEK
) -> Pieces[Lived, Trials]:
    """The same in pieces, the longest outages first: those of one length that begin in one month."""
    asked = _asked(design, given, reach)
    starts = all_starts(asked.year.first_day.year)
    month = asked.year.month[starts // HOURS]
    each = [(length_h, number) for length_h in sorted(asked.to_live_h, reverse=True) for number in range(1, 13)]

    def answer(number: int, threads: int | None) -> Lived:
        length_h, here = each[number]
        return live(asked.year, [length_h], starts[month == here], threads=threads)[length_h]

    def whole(found: Sequence[Lived]) -> Trials:
        return _report(
            asked,
            {
                length_h: joined([piece for (of_h, _), piece in zip(each, found, strict=True) if of_h == length_h])
                for length_h in asked.to_live_h
            },
        )

    years = sum(asked.to_live_h) / asked.planned_h
    return Pieces(count=len(each), years=years, answer=answer, whole=whole)


@dataclass(frozen=True, kw_only=True, slots=True)
class _Asked:
    """What a trial is about."""

    design: Design
    given: WeatherYear | None
    year: TrialYear
    planned_h: float
    lengths_h: tuple[float, ...]
    #: Those that are lived: where the end matters each length for itself; else a shorter outage is the longest one's beginning.
    to_live_h: tuple[float, ...]


def _asked(design: Design, given: WeatherYear | None, reach: Reach) -> _Asked:
    planned_h = planned_length_h(design)
    lengths = tuple(sorted({*LENGTHS_H[reach], planned_h}))
    year = trial_year(design, lengths[-1], given)
    return _Asked(
        design=design,
        given=given,
        year=year,
        planned_h=planned_h,
        lengths_h=lengths,
        to_live_h=lengths if end_matters(year) else tuple(sorted({planned_h, lengths[-1]})),
    )


def _report(asked: _Asked, lived: Mapping[float, Lived]) -> Trials:
    design, given, year, planned_h, lengths = asked.design, asked.given, asked.year, asked.planned_h, asked.lengths_h
    planned, longest = lived[planned_h], lived[lengths[-1]]
    cells, times_h = carried_map(lived, lengths), times_of(lengths[-1])
    whole = next(cell for cell in cells if cell.month is None and cell.length_h == planned_h)
    worst = worst_starts(year, planned, given)
    return Trials(
        year_key=year.weather.key,
        year_name=year.weather.name,
        is_made_up=given is None,
        distance_km=0.0 if given is None else distance_km(design.site, given),
        starts=whole.starts,
        planned_h=planned_h,
        lengths_h=lengths,
        cells=cells,
        times_h=times_h,
        curves=endurance_curves(longest, times_h, is_north=design.site.latitude_deg >= 0),
        worst=worst,
        year=whole_year(design, given) if design.site.off_grid else None,
        keep_frac=whole.keep_frac,
        life_frac=whole.life_frac,
        planned_carried_h=_planned_carried_h(design, given),
        half_last_h=lasts_at_least_h(longest.carried_h, 0.5),
        most_last_h=lasts_at_least_h(longest.carried_h, MOST_STARTS_FRAC),
        most_frac=MOST_STARTS_FRAC,
        is_asked=_is_asked(year),
        verdict=_verdict(cells, planned_h)
        if _is_asked(year)
        else "Nothing of Life or Keep is entered: nothing to carry.",
        figures=_figures(year, planned, longest, whole, worst),
    )


def _planned_carried_h(design: Design, given: WeatherYear | None) -> float:
    """Hours carried of the planned outage, counted in whole hours where it is carried to its end [h]."""
    dark_h = prepare(design, given).outcome().dark_h
    return planned_length_h(design) if dark_h < 0 else dark_h


def _is_asked(year: TrialYear) -> bool:
    """Whether the house asks for Life or Keep in any hour of the base's kinds of day."""
    return bool((year.base.draws.asked_w[:, :2] > 0.0).any())


def _verdict(cells: tuple[CarriedCell, ...], planned_h: float) -> str:
    """The share for the planned length, and the months in which it is least."""
    here = [cell for cell in cells if cell.length_h == planned_h]
    whole = next(cell for cell in here if cell.month is None)
    months = sorted((cell for cell in here if cell.month is not None), key=lambda cell: (cell.keep_frac, cell.month))
    hours = f"{planned_h:g} hours" if planned_h != 1 else "one hour"
    if whole.keep_frac == 1.0:
        return f"Life and Keep are carried through {hours} from every hour of the year."
    if whole.keep_frac == 0.0:
        return f"Life and Keep are carried through {hours} from no hour of the year" + (
            f", Life alone from {share_text(whole.life_frac)} of them."
            if whole.life_frac > 0
            else ", nor is Life alone."
        )
    least = months[0]
    always = sum(cell.keep_frac == 1.0 for cell in months)
    return (
        f"Life and Keep are carried through {hours} from {share_text(whole.keep_frac)} of the year's hours, Life alone from "
        f"{share_text(whole.life_frac)}. {month_name[least.month or 1]} is hardest with {share_text(least.keep_frac)}; "
        + (
            f"{always} months are carried throughout."
            if always > 1
            else "one month is carried throughout."
            if always
            else "no month is carried throughout."
        )
    )


def share_text(share: float) -> str:
    """A share in words; neither nothing nor everything unless it is.

    >>> [share_text(share) for share in (0.0, 0.0001, 0.5, 0.9999, 1.0)]
    ['none', 'under 1 %', '50 %', 'over 99 %', 'all']
    """
    if share in (0.0, 1.0):
        return "all" if share else "none"
    if share < 0.01:
        return "under 1 %"
    return "over 99 %" if share > 0.99 else f"{100 * share:.0f} %"


def share_figure(label: str, value: float, what: str, starts: int, length_h: float) -> Figure:
    """How a share of the year's starts comes about."""
    return Figure(
        label=label,
        value=100 * value,
        unit="%",
        formula=f"starts from which {what} never go unserved for {length_h:g} h ÷ starts",
        terms=(
            Term(name="carried", value=round(value * starts), unit="starts"),
            Term(name="starts", value=starts, unit="starts"),
        ),
        basis=_BASIS,
    )


def _figures(
    year: TrialYear, planned: Lived, longest: Lived, whole: CarriedCell, worst: tuple[WorstStart, ...]
) -> dict[str, Figure]:
    def lasting(label: str, part: float) -> Figure:
        lasts_h = lasts_at_least_h(longest.carried_h, part)
        return Figure(
            label=label,
            value=lasts_h,
            unit="h",
            formula=f"the longest time that {100 * part:g} % of the starts last, looked for up to {longest.duration_h:g} h",
            terms=(
                Term(
                    name="starts that last so long",
                    value=float((longest.carried_h >= lasts_h).sum()),
                    unit="starts",
                ),
                Term(name="starts", value=whole.starts, unit="starts"),
            ),
            basis=_BASIS,
        )

    first = worst[0]
    return {
        "keep": share_figure("Life and Keep carried", whole.keep_frac, "Life and Keep", whole.starts, whole.length_h),
        "life": share_figure("Life carried", whole.life_frac, "Life", whole.starts, whole.length_h),
        "half": lasting("Half of the starts last", 0.5),
        "most": lasting(f"{100 * MOST_STARTS_FRAC:g} % of the starts last", MOST_STARTS_FRAC),
        "worst": Figure(
            label="The worst start",
            value=first.carried_h,
            unit="h",
            formula="hours until Life or Keep first goes unserved; of like ones that which is dark for longest, then that "
            "with the lowest charge",
            terms=(
                Term(name="dark for, all together", value=first.dark_for_h, unit="h"),
                Term(name="lowest charge", value=100 * first.lowest_frac, unit="%"),
                Term(name="mean of all starts", value=float(planned.carried_h.mean()), unit="h"),
            ),
            basis=_BASIS,
        ),
    }
