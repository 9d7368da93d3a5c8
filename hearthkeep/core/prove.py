"""The second door: a design against its weather year. Pure, as the first one is, and slower: tenths of a second."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.checks import TRIAL_CHECKS, Finding, Proved
from hearthkeep.core.design import Design
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.trials import Reach, Trials, trials


@dataclass(frozen=True, kw_only=True, slots=True)
class Proof:
    """A design's trials and what is to be said about them."""

    trials: Trials
    findings: tuple[Finding, ...]


def prove(design: Design, year: WeatherYear | None = None, *, reach: Reach = Reach.WEEK) -> Proof:
    """
    Live the outage from every hour of the weather year.

    :param year: the weather year of the site; without it the made-up one is taken.
    """
    return proof_of(design, trials(design, year, reach=reach))


def proof_of(design: Design, found: Trials) -> Proof:
    """A design's trials with what is to be said about them."""
    proved = Proved(design=design, trials=found)
    return Proof(trials=found, findings=tuple(finding for check in TRIAL_CHECKS for finding in check(proved)))
