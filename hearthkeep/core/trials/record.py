"""The outages that the home has had, lived with this design: reliability indices by IEEE Std 1366, without it and with it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from math import ceil

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.design import LONGEST_OUTAGE_H, Design, RecordedOutage, UtilityIndices
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.trials.lived import Lived, live
from hearthkeep.core.trials.year import TrialYear, trial_year

Floats = NDArray[np.float64]
#: Longer ones count as sustained, the others as momentary [min]. IEEE Std 1366-2012; some utilities take 1 or 3 minutes.
SUSTAINED_FROM_MIN = 5.0
#: The house is followed from each start for a week at least [h], and for so many usual lengths of the utility's outages: what is
#: longer still is no ten-thousandth of them.
_LEAST_FOLLOWED_H, _FOLLOWED_MEANS = 168.0, 9.3
_HOURS_A_YEAR = 8760


@dataclass(frozen=True, kw_only=True, slots=True)
class Indices:
    """Reliability by IEEE Std 1366, of one year."""

    #: Sustained interruptions, and momentary ones, per customer [1/a].
    saifi_per_year: float
    maifi_per_year: float
    #: Minutes interrupted per customer and year, and per sustained interruption [min].
    saidi_min_per_year: float
    caidi_min: float
    #: Part of the year in which there is supply.
    asai_frac: float


def indices(events: Iterable[tuple[float, float]], *, customers: float, years: float) -> Indices:
    """
    Reliability indices of interruptions.

    :param events: of each, how many customers it took the supply from, and for how long [min].
    :param customers: served in all.
    :param years: in which the events came [a].

    IEEE Std 1366: SAIFI = sum(N_i) / N_T, SAIDI = sum(r_i N_i) / N_T, CAIDI = SAIDI / SAIFI, of sustained interruptions.

    >>> indices([(100, 60.0), (250, 120.0), (50, 30.0)], customers=1000, years=1.0).saidi_min_per_year
    37.5
    """
    all_events = list(events)
    sustained = [(count, minutes) for count, minutes in all_events if minutes > SUSTAINED_FROM_MIN]
    served = customers * years
    saifi = sum(count for count, _ in sustained) / served
    saidi = sum(count * minutes for count, minutes in sustained) / served
    return Indices(
        saifi_per_year=saifi,
        maifi_per_year=sum(count for count, minutes in all_events if minutes <= SUSTAINED_FROM_MIN) / served,
        saidi_min_per_year=saidi,
        caidi_min=saidi / saifi if saifi > 0 else 0.0,
        asai_frac=1.0 - saidi / 60.0 / _HOURS_A_YEAR,
    )


@dataclass(frozen=True, kw_only=True, slots=True)
class OutageLived:
    """One outage of the record, as this design would have met it."""

    start: datetime
    length_h: float
    #: Until Life or Keep first went unserved, and for how long they did, within its length [h].
    carried_h: float
    dark_h: float


@dataclass(frozen=True, kw_only=True, slots=True)
class Reliability:
    """What the past, and what the utility says, come to without this design and with it."""

    years: float
    #: Of the record; none where it holds no outage. The longest dark first, then the longest.
    outages: tuple[OutageLived, ...]
    without: Indices | None
    with_design: Indices | None
    #: Of the utility's own figures; none where they are not given.
    utility_without: Indices | None
    utility_with_design: Indices | None
    #: For so long the house is followed from each start for it; one that lasts longer counts as dark from there [h]. None without it.
    utility_followed_h: float | None


def reliability(design: Design, given: WeatherYear | None = None) -> Reliability:
    """
    Live the record's outages on their dates under the weather year, each from its full hour and in whole hours, rounded up.

    :param given: the weather year of the site; without it the made-up one is taken.
    """
    record = design.record
    # In what was written down the grid was away throughout.
    design = design.model_copy(update={"outage": design.outage.model_copy(update={"grid_back": ()})})
    lived = _lived(design, record.outages, given)
    past = [(1.0, 60.0 * outage.length_h) for outage in record.outages]
    dark = [(1.0, 60.0 * outage.dark_h) for outage in lived if outage.dark_h > 0]
    usual = None if record.utility is None else _usual(design, record.utility, given)
    return Reliability(
        years=record.years,
        outages=tuple(sorted(lived, key=lambda outage: (-outage.dark_h, -outage.length_h, outage.start))),
        without=indices(past, customers=1, years=record.years) if past else None,
        with_design=indices(dark, customers=1, years=record.years) if past else None,
        utility_without=None if usual is None else usual[0],
        utility_with_design=None if usual is None else usual[1],
        utility_followed_h=None if record.utility is None else _followed_h(record.utility),
    )


def _lived(design: Design, outages: tuple[RecordedOutage, ...], given: WeatherYear | None) -> list[OutageLived]:
    if not outages:
        return []
    whole_h = np.array([float(ceil(outage.length_h - 1e-9)) for outage in outages])
    year = trial_year(design, float(whole_h.max()), given)
    start_h = np.array([_hour_of(year, outage.start) for outage in outages], dtype=np.int64)
    found: list[OutageLived | None] = [None] * len(outages)
    for length_h in np.unique(whole_h).tolist():
        places = np.flatnonzero(whole_h == length_h)
        lived = live(year, [length_h], start_h[places])[length_h]
        for at, place in enumerate(places.tolist()):
            found[place] = _met(outages[place], lived, at)
    return [outage for outage in found if outage is not None]


def _met(outage: RecordedOutage, lived: Lived, at: int) -> OutageLived:
    carried_h = min(float(lived.carried_h[at]), outage.length_h)
    return OutageLived(
        start=outage.start,
        length_h=outage.length_h,
        carried_h=carried_h,
        dark_h=min(float(lived.dark_for_h[at]), outage.length_h - carried_h),
    )


def _hour_of(year: TrialYear, moment: datetime) -> int:
    """The full hour of a date in the trial's year; 29 February is taken for the 28th."""
    day = 28 if (moment.month, moment.day) == (2, 29) else moment.day
    date = year.first_day.replace(month=moment.month, day=day, hour=moment.hour)
    return round((date - year.first_day).total_seconds() / 3600)


def _followed_h(utility: UtilityIndices) -> float:
    """How long the house is followed from each start for a utility's usual outages, in whole days [h]."""
    mean_h = utility.saidi_min_per_year / utility.saifi_per_year / 60.0
    return float(min(LONGEST_OUTAGE_H, max(_LEAST_FOLLOWED_H, 24.0 * ceil(_FOLLOWED_MEANS * mean_h / 24.0))))


def _usual(design: Design, utility: UtilityIndices, given: WeatherYear | None) -> tuple[Indices, Indices]:
    """
    What a utility says, for the home without and with this design.

    Lengths are taken to be spread exponentially about their mean (our assumption), and starts over the year: of those that begin
    at s the part exp(-T_s / mean) is longer than the house lasts from there, and then lasts for the mean once more.
    """
    mean_min = utility.saidi_min_per_year / utility.saifi_per_year
    followed_h = _followed_h(utility)
    carried_h = live(trial_year(design, followed_h, given), [followed_h])[followed_h].carried_h
    part = float(np.exp(-60.0 * carried_h / mean_min).mean())

    def of(saifi: float) -> Indices:
        saidi = saifi * mean_min
        return Indices(
            saifi_per_year=saifi,
            maifi_per_year=0.0,
            saidi_min_per_year=saidi,
            caidi_min=mean_min,
            asai_frac=1.0 - saidi / 60.0 / _HOURS_A_YEAR,
        )

    return of(utility.saifi_per_year), of(utility.saifi_per_year * part)
