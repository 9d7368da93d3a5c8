"""Findings about heat: made from a battery, and heating whose parts need each other."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.checks.finding import (
    COMMON_PRACTICE,
    Change,
    Evidence,
    Finding,
    Remedy,
    Severity,
    Step,
)
from hearthkeep.core.design import (
    DarkDay,
    Load,
    Tier,
)
from hearthkeep.core.loads import load_energy_figure
from hearthkeep.core.outage import HEATER_ID
from hearthkeep.core.words import watts

#: Words that mark heat made from electricity, and the watts from which it matters [W].
HEAT_WORDS = (
    "heater",
    "kettle",
    "toaster",
    "oven",
    "dryer",
    "hob",
    "iron",
    "induction",
    "stove top",
    "coffee",
    "cooker",
)
HEAT_FROM_W = 700.0
HEAT_SOURCE_WORDS = ("boiler", "furnace", "burner")
HEAT_PUMP_WORDS = ("circulator", "heating pump", "blower")


def heat_from_a_battery(evidence: Evidence) -> Iterator[Finding]:
    """Cooking or heating by resistance."""
    rows = [
        (index, load)
        for index, load in enumerate(evidence.design.loads)
        if load.running_w >= HEAT_FROM_W
        and load.id != HEATER_ID
        and load.tier is not Tier.SPARE
        and load.dark_day is DarkDay.KEEP
        and any(word in load.name.lower() for word in HEAT_WORDS)
    ]
    if not rows:
        return
    index, load = max(rows, key=lambda row: row[1].running_w * row[1].duty_frac)
    energy_wh = next(row.daily_wh for row in evidence.loads.rows if row.id == load.id)
    yield Finding(
        code="HEAT_FROM_BATTERY",
        severity=Severity.MIND,
        step=Step.LOADS,
        title=f"{load.name}: heat from a battery",
        message=f"{watts(load.running_w)} of heat takes {energy_wh:,.0f} Wh a day. Gas or wood does it for nothing here; as Spare "
        "it would run on sun that is left over, and on dark days it can be dropped or replaced.",
        basis=COMMON_PRACTICE,
        remedy=Remedy(label="Try it as Spare", changes=(Change(path=f"{evidence.row(index)}.tier", value="spare"),)),
        figure=load_energy_figure(load, _daily_wh(evidence, load)),
    )


def heating_needs_both(evidence: Evidence) -> Iterator[Finding]:
    """A boiler without its pump heats nothing, and the other way round."""
    loads = list(enumerate(evidence.design.loads))
    # A furnace blower is a pump of the furnace: what carries both words is no heat source of its own.
    pumps = [row for row in loads if any(word in row[1].name.lower() for word in HEAT_PUMP_WORDS)]
    sources = [
        row for row in loads if row not in pumps and any(word in row[1].name.lower() for word in HEAT_SOURCE_WORDS)
    ]
    if not sources or not pumps:
        return
    both = [*sources, *pumps]
    names = f"{sources[0][1].name} and {pumps[0][1].name}"
    if len({load.link for _, load in both}) == 1 and both[0][1].link:
        yield Finding(
            code="HEATING_LINKED",
            severity=Severity.GOOD,
            step=Step.LOADS,
            title="Heating needs both lines",
            message=f"{names} are linked: they are kept or dropped together.",
            basis="The drop rules of the outage model",
        )
        return
    link = next((load.link for _, load in both if load.link), "heating")
    yield Finding(
        code="HEATING_NOT_LINKED",
        severity=Severity.MIND,
        step=Step.LOADS,
        title="Heat without its pump",
        message=f"{names} are useless apart, yet one may be dropped while the other goes on drawing.",
        basis="The drop rules of the outage model",
        remedy=Remedy(
            label="Link them",
            changes=tuple(Change(path=f"{evidence.row(index)}.link", value=link) for index, _ in both),
        ),
    )


def _daily_wh(evidence: Evidence, load: Load) -> float:
    return next(row.daily_wh for row in evidence.loads.rows if row.id == load.id)
