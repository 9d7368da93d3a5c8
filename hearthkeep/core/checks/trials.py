"""Findings about a design's trials over a weather year."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from hearthkeep.core.checks.finding import Change, Finding, Remedy, Severity, Step
from hearthkeep.core.checks.weather import FAR_KM
from hearthkeep.core.design import Design
from hearthkeep.core.figure import COMMON_PRACTICE
from hearthkeep.core.practice import distance_text
from hearthkeep.core.trials import MOST_STARTS_FRAC, Trials, share_text

#: Below this share carried a plan fails too often. Our assumption.
TOO_FEW_FRAC = 0.8
_BASIS = "The outage model over every hour of the weather year; what share is enough is for the people in the house"


@dataclass(frozen=True, kw_only=True, slots=True)
class Proved:
    """What these checks may look at."""

    #: As it was entered.
    design: Design
    trials: Trials


def plan_is_mild(proved: Proved) -> Iterator[Finding]:
    """The planned storm is carried, and too many others are not."""
    trials, first = proved.trials, proved.trials.worst[0]
    if trials.planned_carried_h < trials.planned_h or trials.keep_frac >= MOST_STARTS_FRAC:
        return
    failing = share_text(1 - trials.keep_frac)
    yield Finding(
        code="TRIALS_PLAN_IS_MILD",
        severity=Severity.MEND if trials.keep_frac < TOO_FEW_FRAC else Severity.MIND,
        step=Step.TRIALS,
        title="The planned storm is mild",
        message=f"It is carried, but from {failing} of the year's hours {trials.planned_h:g} h are not: at worst Life or Keep "
        f"goes dark after {first.carried_h:.0f} h. Plan for a harder start, or know what the plan leaves open.",
        basis=_BASIS,
        remedy=Remedy(
            label="Try the worst start as the plan",
            changes=(
                Change(path="outage.start", value=first.start.isoformat()),
                Change(path="outage.sky_from", value="year"),
            ),
        ),
        figure=trials.figures["keep"],
    )


def too_few(proved: Proved) -> Iterator[Finding]:
    """The planned storm is not carried, and too many others are not either."""
    trials = proved.trials
    if trials.planned_carried_h >= trials.planned_h or trials.keep_frac >= TOO_FEW_FRAC:
        return
    yield Finding(
        code="TRIALS_TOO_FEW",
        severity=Severity.MEND,
        step=Step.TRIALS,
        title=f"Carried from {share_text(trials.keep_frac)} of the starts",
        message=f"The planned storm is not carried, nor are {share_text(1 - trials.keep_frac)} of the others of "
        f"{trials.planned_h:g} h. What one more battery, panel or litre brings stands on its page; a shorter list of loads costs "
        "nothing.",
        basis=_BASIS,
        figure=trials.figures["keep"],
    )


def life_goes_dark(proved: Proved) -> Iterator[Finding]:
    """Life itself is not carried from every start."""
    trials = proved.trials
    if trials.life_frac == 1.0:
        return
    yield Finding(
        code="TRIALS_LIFE_DARK",
        severity=Severity.MEND,
        step=Step.TRIALS,
        title=f"Life goes dark from {share_text(1 - trials.life_frac)} of the starts",
        message=f"Within {trials.planned_h:g} h what keeps people warm, dry and reached is off. Who depends on it needs a plan for "
        "that hour: where to go, whom to call. Equipment that keeps someone alive needs its supplier's and the utility's own plan.",
        basis=COMMON_PRACTICE,
        figure=trials.figures["life"],
    )


def well_carried(proved: Proved) -> Iterator[Finding]:
    """Nearly every start is carried."""
    trials = proved.trials
    if trials.keep_frac < MOST_STARTS_FRAC or not trials.is_asked:
        return
    yield Finding(
        code="TRIALS_CARRIED",
        severity=Severity.GOOD,
        step=Step.TRIALS,
        title=f"Carried from {share_text(trials.keep_frac)} of the starts",
        message=f"An outage of {trials.planned_h:g} h at any hour of this weather year finds the house ready. Parts that fail, and "
        "years that are worse, are not in it.",
        basis=_BASIS,
        figure=trials.figures["keep"],
    )


def weather_behind(proved: Proved) -> Iterator[Finding]:
    """The year is invented, or from somewhere else."""
    trials, design = proved.trials, proved.design
    if trials.is_made_up:
        yield Finding(
            code="TRIALS_MADE_UP_YEAR",
            severity=Severity.MIND,
            step=Step.TRIALS,
            title="The year behind this is made up",
            message="The shares are those of invented skies with snowy winters under the site's true sun. Load an EPW or TMY3 file of "
            "a station nearby on the Charging page before they are trusted.",
            basis="Skies from a fixed seed; clear-sky sun by Ineichen and Perez",
        )
    elif trials.distance_km > FAR_KM:
        yield Finding(
            code="TRIALS_YEAR_FROM_AFAR",
            severity=Severity.MIND,
            step=Step.TRIALS,
            title="The year behind this is from somewhere else",
            message=f"{trials.year_name} lies {distance_text(design, trials.distance_km)} away; its storms are not those of the site.",
            basis="Great-circle distance of the file's place; our assumption of what is near",
        )


CHECKS = (plan_is_mild, too_few, life_goes_dark, well_carried, weather_behind)
