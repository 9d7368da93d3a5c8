"""Findings about a design's trials over a weather year."""

from __future__ import annotations

from calendar import month_name
from collections.abc import Iterator
from dataclasses import dataclass
from math import ceil

from hearthkeep.core.checks.finding import Change, Finding, Remedy, Severity, Step
from hearthkeep.core.checks.weather import FAR_KM
from hearthkeep.core.design import Design
from hearthkeep.core.figure import COMMON_PRACTICE
from hearthkeep.core.practice import distance_text, volume_text
from hearthkeep.core.trials import MOST_STARTS_FRAC, Trials, share_text
from hearthkeep.core.words import counted, percent

#: Below this share carried a plan fails too often. Our assumption.
TOO_FEW_FRAC = 0.8
#: A plan that begins so much above the year is worth a word. Our assumption.
HIGHER_FRAC = 0.1
#: Hours of running between two oil changes of a small generator. Common practice, no source.
OIL_CHANGE_H = 100.0
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


def dark_days(proved: Proved) -> Iterator[Finding]:
    """Off the grid: days of the year on which the house goes dark."""
    year = proved.trials.year
    if year is None or not proved.trials.is_asked:
        return
    if year.dark_days == 0:
        yield Finding(
            code="YEAR_CARRIED",
            severity=Severity.GOOD,
            step=Step.TRIALS,
            title="Carried on every day of the year",
            message=f"Off the grid Life and Keep are served through all of this weather year; the bank is never below "
            f"{percent(year.lowest_frac)}. Parts that fail, and years that are worse, are not in it.",
            basis=_BASIS,
            figure=year.figures["lowest"],
        )
        return
    worst = max(year.months, key=lambda month: (month.dark_days, month.dark_h))
    yield Finding(
        code="YEAR_GOES_DARK",
        severity=Severity.MEND,
        step=Step.TRIALS,
        title=f"Dark on {counted(year.dark_days, 'day')} of the year",
        message=f"Off the grid Life or Keep goes unserved for {year.dark_h:,.0f} h in all, most in {month_name[worst.month]}"
        + (f"; Life itself for {year.life_dark_h:,.0f} h" if year.life_dark_h > 0 else "")
        + ". "
        + (
            "From a moment on nothing fills the bank again: give it an array on a controller, or a generator, that needs no live inverter."
            if year.stays_dark_from is not None
            else "The generator does not keep up: its levels, its rating or its quiet hours."
            if year.has_generator
            else "More array in winter, more bank between bright days, or a generator for the dark weeks."
        ),
        basis=_BASIS,
        figure=year.figures["dark_days"],
    )


def generator_hours(proved: Proved) -> Iterator[Finding]:
    """Off the grid: what a year asks of the generator, and whether the fuel on hand lasts the worst month."""
    year, generator = proved.trials.year, proved.design.charging.generator
    if year is None or generator is None or year.generator_h <= 0:
        return
    short = year.most_fuel_l > generator.stock_l
    yield Finding(
        code="YEAR_OF_GENERATOR",
        severity=Severity.MIND,
        step=Step.TRIALS,
        title=f"The generator runs {year.generator_h:,.0f} h a year",
        message=f"It burns {volume_text(proved.design, year.fuel_l)}, at most {volume_text(proved.design, year.most_fuel_l)} in "
        f"{year.fuel_days} days; on hand are {volume_text(proved.design, generator.stock_l)}"
        + (", so that somebody has to fetch fuel in the worst month" if short else "")
        + f". With an oil change each {OIL_CHANGE_H:g} h that is {counted(ceil(year.generator_h / OIL_CHANGE_H), 'change')} a year.",
        basis=f"The outage model over the weather year; oil each {OIL_CHANGE_H:g} h: common practice, no source; the maker's manual decides",
        figure=year.figures["fuel"],
    )


def plan_begins_high(proved: Proved) -> Iterator[Finding]:
    """Off the grid: the planned spell begins with more than the year leaves in the bank on that date."""
    year = proved.trials.year
    if year is None or year.at_plan_frac > year.planned_frac - HIGHER_FRAC:
        return
    kept = round(year.at_plan_frac, 2)
    yield Finding(
        code="PLAN_BEGINS_HIGH",
        severity=Severity.MIND,
        step=Step.TRIALS,
        title=f"The year has {percent(year.at_plan_frac)} on that date",
        message=f"The planned spell begins with {percent(year.planned_frac)} in the bank. Off the grid nothing fills it beforehand: on that "
        f"date of the weather year it stands at {percent(year.at_plan_frac)}.",
        basis=_BASIS,
        remedy=Remedy(
            label=f"Try beginning at {percent(kept)}", changes=(Change(path="bank.start_soc_frac", value=kept),)
        ),
        figure=year.figures["lowest"],
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


CHECKS = (
    dark_days,
    generator_hours,
    plan_begins_high,
    plan_is_mild,
    too_few,
    life_goes_dark,
    well_carried,
    weather_behind,
)
