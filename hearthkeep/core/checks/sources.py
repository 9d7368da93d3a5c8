"""Findings about the grid before a storm, the small sources, and how sources share the bank."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.bank import charged_frac
from hearthkeep.core.checks.finding import COMMON_PRACTICE, Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.design import Build, Chemistry, ControllerKind, Sky, SnowHabit, Supply, Tier
from hearthkeep.core.outage import FULL_ENOUGH_FRAC
from hearthkeep.core.practice import volume_text
from hearthkeep.core.words import counted, percent, some_of, watts

#: Chargers usually sold [W].
CHARGERS_W = (200.0, 300.0, 500.0, 750.0, 1000.0, 1500.0, 2000.0, 3000.0, 4000.0, 5000.0, 8000.0, 10_000.0, 15_000.0)
#: A difference between the habits that is worth a word [h].
HABIT_H = 0.25


def fill(evidence: Evidence) -> Iterator[Finding]:
    """Does the bank get full between the warning and the storm?"""
    charger, found = evidence.design.charging.grid_charger, evidence.charging.fill
    if charger.top_up_soc_frac is None:
        return
    if found.is_full:
        yield Finding(
            code="FILLED_IN_TIME",
            severity=Severity.GOOD,
            step=Step.CHARGING,
            title="Full before the storm",
            message=f"From {percent(found.from_frac)} the grid charger needs {found.needed_h or 0:.1f} h; the warning is {found.warning_h:g} h.",
            basis="Charger output, charge limit and acceptance near full; the sun of these hours left out",
        )
        return
    needed = "It needs a charger" if found.needed_h is None else f"It needs {found.needed_h:.1f} h"
    yield Finding(
        code="FILL_TOO_SLOW",
        severity=Severity.MEND,
        step=Step.CHARGING,
        title=f"The storm finds the bank at {percent(found.reached_frac)}",
        message=f"Kept at {percent(found.from_frac)} in normal times, it has {found.warning_h:g} h of warning. {needed} to full. "
        "Keep it higher, charge faster, or start at the first forecast.",
        basis="Charger output, charge limit and acceptance near full; the sun of these hours left out",
        remedy=_fill_remedy(evidence),
    )


def _fill_remedy(evidence: Evidence) -> Remedy:
    """The next charger that makes it within the bank's limit, else a bank kept full enough, else kept full."""
    found, rating = evidence.charging.fill, evidence.rating
    charger = evidence.design.charging.grid_charger

    def reaches(output_w: float, from_frac: float) -> bool:
        reached = charged_frac(rating, charger_w=output_w, from_frac=from_frac, hours_h=found.warning_h)
        return reached >= FULL_ENOUGH_FRAC

    for output_w in CHARGERS_W:
        if charger.output_w < output_w <= rating.charge_limit_w and reaches(output_w, found.from_frac):
            change = Change(path="charging.grid_charger.output_w", value=output_w)
            return Remedy(label=f"Try a charger of {watts(output_w)}", changes=(change,))
    kept = next((step / 100 for step in range(50, 100, 5) if reaches(charger.output_w, step / 100)), 1.0)
    change = Change(path="charging.grid_charger.top_up_soc_frac", value=kept)
    return Remedy(label=f"Try keeping it at {percent(kept)}", changes=(change,))


def alternator(evidence: Evidence) -> Iterator[Finding]:
    """An alternator is a small generator with a vehicle around it."""
    if evidence.design.charging.alternator is None:
        return
    heat = ""
    if evidence.design.bank.chemistry is Chemistry.LFP:
        heat = " A lithium bank takes all an alternator gives and burns it; charge through a DC-DC charger set well below its rating."
    yield Finding(
        code="ALTERNATOR",
        severity=Severity.MIND,
        step=Step.CHARGING,
        title="Charging from a vehicle",
        message="Never let it run in a garage or beside a window: exhaust kills. Fuse both ends of the cable." + heat,
        basis=COMMON_PRACTICE,
    )


def small_sources_pay(evidence: Evidence) -> Iterator[Finding]:
    """Wind is mostly poor value against one more battery, but may prove itself."""
    values = {value.key: value for value in evidence.charging.values}
    wind, battery = values.get("wind"), values["battery"]
    if wind is None:
        return
    if wind.dark_wh <= 0:
        yield Finding(
            code="WIND_NEVER_TURNS",
            severity=Severity.MEND,
            step=Step.CHARGING,
            title="The turbine gives nothing in this outage",
            message="The mean wind is too low for it, or the outage has no wind at all.",
            basis="Rayleigh winds on the turbine's cubic curve",
        )
    elif wind.price_per_dark_kwh is None or battery.price_per_dark_kwh is None:
        return
    elif wind.price_per_dark_kwh > battery.price_per_dark_kwh:
        yield Finding(
            code="WIND_POOR_VALUE",
            severity=Severity.MIND,
            step=Step.CHARGING,
            title="One more battery is better value than this wind",
            message=f"Over the dark days of this outage a kilowatt-hour of wind costs {wind.price_per_dark_kwh:,.0f}, one more "
            f"battery holds it for {battery.price_per_dark_kwh:,.0f}. A windier site or a longer outage turns that round.",
            basis="Price over energy brought on the outage's dark days; Rayleigh winds on the turbine's cubic curve",
            remedy=Remedy(
                label="Try it without wind, one battery more",
                changes=(
                    Change(path="charging.wind", value=None),
                    Change(path="bank.parallel", value=evidence.design.bank.parallel + 1),
                ),
            )
            if evidence.design.bank.parallel < 64
            else None,
        )
    else:
        yield Finding(
            code="WIND_PAYS",
            severity=Severity.GOOD,
            step=Step.CHARGING,
            title="The wind proves itself here",
            message=f"A kilowatt-hour on dark days costs {wind.price_per_dark_kwh:,.0f} by wind, {battery.price_per_dark_kwh:,.0f} by battery.",
            basis="Price over energy brought on the outage's dark days; Rayleigh winds on the turbine's cubic curve",
        )


def habit(evidence: Evidence) -> Iterator[Finding]:
    """One source at a time costs energy; several want a limit."""
    habits = evidence.charging.habits
    if habits is None or not evidence.design.charging.one_source:
        return
    lost_h = habits.together_h - habits.one_source_h
    wasted_wh = habits.one_source_spilled_wh - habits.together_spilled_wh
    if lost_h < HABIT_H and wasted_wh < 100:
        return
    yield Finding(
        code="ONE_SOURCE_COSTS",
        severity=Severity.MIND,
        step=Step.CHARGING,
        title="One source at a time costs charge",
        message=f"{wasted_wh:,.0f} Wh more are spilled and {max(lost_h, 0):.1f} h less are carried than with regulated sources together. "
        "The habit is safe where nothing limits their sum; chargers that hold to the bank's limit may work side by side.",
        basis="The outage simulated under both habits; both are common practice",
        remedy=Remedy(label="Try them together", changes=(Change(path="charging.one_source", value=False),)),
    )


def snow(evidence: Evidence) -> Iterator[Finding]:
    """Covered days on arrays that hold the snow."""
    design, covered = evidence.design, sum(sky is Sky.COVERED for sky in evidence.charging.skies)
    if covered == 0:
        return
    nobody = all(day.away for day in design.outage.days)
    holding = [
        (f"charging.controllers.{at}.arrays.{number}.snow", array.name)
        for at, controller in enumerate(design.charging.controllers)
        for number, array in enumerate(controller.arrays)
        if array.snow is SnowHabit.LIES and array.stc_w > 0
    ]
    if not holding:
        return
    yield Finding(
        code="SNOW_LIES",
        severity=Severity.MIND,
        step=Step.CHARGING,
        title=f"Snow keeps the sun off for {counted(covered, 'day')}",
        message=f"{some_of([name for _, name in holding])} "
        + (
            "stay covered: nobody is at home to clear them. Panels stood steep shed the snow by themselves."
            if nobody
            else "can be cleared only if reached safely from the ground; panels stood steep shed it by themselves. Never climb on "
            "an icy roof."
        ),
        basis="Covered days give nothing on panels that hold the snow; common practice, no source",
        remedy=Remedy(
            label="Try them steep enough to shed it" if nobody else "Try clearing them at 10:00",
            changes=tuple(Change(path=path, value="slides" if nobody else "swept") for path, _ in holding),
        ),
    )


def direct_loads(evidence: Evidence) -> Iterator[Finding]:
    """Loads straight from a panel."""
    design = evidence.design
    on_panel = [(at, load) for at, load in enumerate(design.loads) if load.supply is Supply.PANEL]
    if not on_panel:
        return
    if evidence.charging.panel_loads.offered_wh <= 0 and not any(
        controller.kind is ControllerKind.PANEL_FED and controller.arrays for controller in design.charging.controllers
    ):
        yield Finding(
            code="NO_DIRECT_PANEL",
            severity=Severity.MEND,
            step=Step.CHARGING,
            title="No panel feeds loads straight",
            message=f"{on_panel[0][1].name} is to run straight from a panel; add a controller of the kind direct with its array.",
            basis="The design's own sources",
        )
    vital = [(at, load) for at, load in on_panel if load.tier in (Tier.LIFE, Tier.KEEP)]
    if vital:
        yield Finding(
            code="VITAL_ON_PANEL",
            severity=Severity.MEND,
            step=Step.CHARGING,
            title=f"{vital[0][1].name} stands still without sun",
            message="It depends on a panel alone. Hours carried leave such loads out; what has to run at night belongs on the bank.",
            basis="The outage model, hour by hour; see how it computes",
            remedy=Remedy(
                label="Try it on the bank, DC",
                changes=tuple(Change(path=f"{evidence.row(at)}.supply", value="dc") for at, _ in vital),
            ),
        )


def built_in(evidence: Evidence) -> Iterator[Finding]:
    """A solar input of the inverter needs an inverter that has one."""
    design = evidence.design
    inputs = [controller for controller in design.charging.controllers if controller.built_in]
    if not inputs:
        return
    if design.inverter.build is not Build.ALL_IN_ONE or design.inverter.rated_w == 0:
        yield Finding(
            code="NO_BUILT_IN_INPUT",
            severity=Severity.MEND,
            step=Step.CHARGING,
            title=f"{inputs[0].name}: the inverter has no solar input",
            message="It is entered as the all-in-one's own input, but the inverter is not built that way.",
            basis="The design's own parts",
            remedy=Remedy(
                label="Try it as a controller of its own",
                changes=tuple(
                    Change(path=f"charging.controllers.{at}.built_in", value=False)
                    for at, controller in enumerate(design.charging.controllers)
                    if controller.built_in
                ),
            ),
        )
    elif all(controller.built_in for controller in design.charging.controllers):
        yield Finding(
            code="ALL_IN_ONE_FAILS_WHOLE",
            severity=Severity.MIND,
            step=Step.CHARGING,
            title="One failure takes inverter and sun together",
            message="All solar inputs are the all-in-one's. That is tidy and cheap; a small controller of its own keeps the bank "
            "charging, and DC loads alive, when the unit goes for repair. Both schools are valid.",
            basis=COMMON_PRACTICE,
        )


def tank_runs_dry(evidence: Evidence) -> Iterator[Finding]:
    """Nobody is there to fill the tank."""
    generator, outage = evidence.design.charging.generator, evidence.outage
    if generator is None or outage.tank_empty_h is None:
        return
    yield Finding(
        code="TANK_RUNS_DRY",
        severity=Severity.MEND,
        step=Step.CHARGING,
        title=f"Its tank is empty at hour {outage.tank_empty_h:.0f}, with nobody at home",
        message=f"{volume_text(evidence.design, generator.tank_l)} are in the tank, {volume_text(evidence.design, generator.stock_l)} on hand. On days away it runs on the tank alone.",
        basis="Fuel line of the generator against its tank on days away",
        remedy=Remedy(
            label="Try a tank that holds it all",
            changes=(Change(path="charging.generator.tank_l", value=max(generator.stock_l, 0.1)),),
        )
        if generator.stock_l <= 10_000
        else None,
    )


CHECKS = (
    fill,
    alternator,
    small_sources_pay,
    habit,
    snow,
    direct_loads,
    built_in,
    tank_runs_dry,
)
