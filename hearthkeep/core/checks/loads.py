"""Findings about the audit."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.checks.finding import COMMON_PRACTICE, Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.design import Quality, Tier
from hearthkeep.core.loads import quality_of
from hearthkeep.core.outage import HEATER_ID
from hearthkeep.core.words import counted, percent, some_of, watts

#: Above this share of the daily draw the inverter's idle is worth a word.
IDLE_SHARE_MIND_FRAC = 0.15
#: Words that mark a motor which cycles by thermostat or float.
CYCLING_WORDS = ("fridge", "freezer", "cooler", "cool box", "sump", "pump", "boiler", "compressor")


def no_loads(evidence: Evidence) -> Iterator[Finding]:
    """An empty audit."""
    if not evidence.design.loads:
        yield Finding(
            code="NO_LOADS",
            severity=Severity.MIND,
            step=Step.LOADS,
            title="No loads yet",
            message="Type a load into the line above the table, for example: fridge 120W starts 780 duty 36%.",
            basis="Nothing is computed from an empty audit",
        )


def life_equipment(evidence: Evidence) -> Iterator[Finding]:
    """Equipment that keeps someone well is not to rest on this tool."""
    # The bank's own heater is Life to the bank, not to a person.
    names = [load.name for load in evidence.design.loads if load.tier is Tier.LIFE and load.id != HEATER_ID]
    if names:
        unserved = evidence.outage.per_tier["life"].unserved_wh
        yield Finding(
            code="LIFE_EQUIPMENT",
            severity=Severity.STOP if unserved > 0 else Severity.MIND,
            step=Step.LOADS,
            title="Someone depends on this" + (": it is not carried" if unserved > 0 else ""),
            message=f"{some_of(names)}: ask the equipment's supplier for a backup plan, "
            + ("" if evidence.design.site.off_grid else "register with the utility where it keeps such a list, ")
            + "and agree where to go if the power stays off. "
            "Hearth Keep is not a medical device.",
            basis="Public safety guidance (from memory); the supplier's instructions decide",
        )


def idle_loss(evidence: Evidence) -> Iterator[Finding]:
    """Energy lost to the inverter standing ready."""
    share, idle_wh = evidence.inverter.idle_share_frac, evidence.inverter.idle_daily_wh
    if idle_wh > 0 and share >= IDLE_SHARE_MIND_FRAC:
        yield Finding(
            code="IDLE_LOSS",
            severity=Severity.MIND,
            step=Step.INVERTER,
            title=f"Idle takes {percent(share)} of a day's draw",
            message=f"Standing ready costs {evidence.all_inverters.idle_w:.0f} W day and night, {idle_wh:,.0f} Wh of the "
            f"{evidence.bank.daily_drawn_wh:,.0f} Wh drawn a day. Feed small loads from the DC side or choose a smaller unit.",
            basis="Idle x 24 h over the daily draw; 15-50 W is common for 1-3 kW units, common practice",
        )


def full_duty(evidence: Evidence) -> Iterator[Finding]:
    """A cycling motor entered as if it never stopped."""
    for index, load in enumerate(evidence.design.loads):
        name = load.name.lower()
        if (
            load.duty_frac >= 1
            and quality_of(load) is not Quality.MEASURED
            and sum(load.on_by_hour) >= 12
            and any(word in name for word in CYCLING_WORDS)
        ):
            yield Finding(
                code="FULL_DUTY",
                severity=Severity.MIND,
                step=Step.LOADS,
                title=f"{load.name}: does it never stop?",
                message=f"It is entered as running all of its {counted(sum(load.on_by_hour), 'hour')} at {watts(load.running_w)}. Such motors "
                "usually cycle; a plug-in meter over 24 h gives the true share.",
                basis=COMMON_PRACTICE,
                remedy=Remedy(
                    label="Try a duty of 40 %", changes=(Change(path=f"{evidence.row(index)}.duty_frac", value=0.4),)
                ),
            )
            return


def spare_never_runs(evidence: Evidence) -> Iterator[Finding]:
    """Spare loads with nothing to ride on."""
    spare = evidence.outage.per_tier["spare"]
    names = [load.name for load in evidence.design.loads if load.tier is Tier.SPARE]
    if names and spare.served_wh == 0 and spare.unserved_wh > 0:
        yield Finding(
            code="SPARE_NEVER_RUNS",
            severity=Severity.MIND,
            step=Step.LOADS,
            title=f"{names[0]} has no sun to ride on",
            message=f"Spare runs only on power that would be spilled, and none is left over in its hours: "
            f"{spare.unserved_wh:,.0f} Wh are asked for and none served. Move it to Ease to let it draw on the bank.",
            basis="The drop rules of the outage model",
        )


CHECKS = (no_loads, life_equipment, full_duty, spare_never_runs, idle_loss)
