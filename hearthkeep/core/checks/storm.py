"""Findings about the outage as a whole."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.checks.finding import COMMON_PRACTICE, Change, Evidence, Finding, Remedy, Severity, Step
from hearthkeep.core.design import MOST_STRINGS, Kind, Sky, SkySource
from hearthkeep.core.outage import OutageReport
from hearthkeep.core.words import hours, percent

#: Why Life or Keep goes unserved while the bank still has charge.
WHY_DARK = {
    "rating": "Then more runs at once than the rating carries. ",
    "surge": "Then a start passes the surge. ",
    "bank_current": "Then the current passes what the bank may give. ",
    "switched_off": "Then the inverter is switched off. ",
}


def _why_dark(outage: OutageReport) -> str:
    """In words; nothing where the charge ends."""
    return WHY_DARK[outage.dark_cause] if outage.dark_cause else ""


def goes_dark(evidence: Evidence) -> Iterator[Finding]:
    """Life or Keep is not carried to the end."""
    outage, bank = evidence.outage, evidence.design.bank
    if not outage.is_asked:
        return
    if outage.carried_to_the_end:
        yield Finding(
            code="CARRIED",
            severity=Severity.GOOD,
            step=Step.STORM,
            title="Carried to the end",
            message=f"Life and Keep are served for all {hours(outage.duration_h)}; the bank is never below "
            f"{percent(outage.min_soc_frac)}, at hour {outage.min_soc_time_h:.0f}.",
            basis="The outage model, hour by hour; see how it computes",
        )
        return
    why = _why_dark(outage)
    remedy = None
    # Where it is not the charge that ends, another finding says what does it and what to try.
    if bank.parallel < MOST_STRINGS and not why:
        remedy = Remedy(
            label=f"Try {bank.parallel + 1} in parallel",
            changes=(Change(path="bank.parallel", value=bank.parallel + 1),),
        )
    missed = " and ".join(
        f"{tier.title()} goes without {outage.per_tier[tier].unserved_wh:,.0f} Wh"
        for tier in ("life", "keep")
        if outage.per_tier[tier].unserved_wh >= 0.5
    )
    yield Finding(
        code="GOES_DARK",
        severity=Severity.MEND,
        step=Step.STORM,
        title=f"Not carried past hour {outage.hours_carried_h:.0f}",
        message=f"Life and Keep are served for {hours(outage.hours_carried_h)} of {hours(outage.duration_h)}. "
        f"{why}Afterwards {missed or 'only moments are missed'}.",
        basis="The outage model, hour by hour; see how it computes",
        remedy=remedy,
    )


def every_day_sunny(evidence: Evidence) -> Iterator[Finding]:
    """A storm under a clear sky is an optimist's storm."""
    by_hand = evidence.design.outage.sky_from is SkySource.BY_HAND
    if evidence.charging.stc_w > 0 and all(sky is Sky.CLEAR for sky in evidence.charging.skies):
        yield Finding(
            code="ALL_CLEAR_SKY",
            severity=Severity.MIND,
            step=Step.STORM,
            title="Every day is clear",
            message="The outage has only clear days. Storms bring overcast, which yields about a quarter, and snow on the "
            "panels, which yields nothing. Prove the design against dark days as well.",
            basis=COMMON_PRACTICE,
            remedy=Remedy(
                label="Try an overcast first day", changes=(Change(path="outage.days.0.sky", value="overcast"),)
            )
            if by_hand
            else None,
        )


def house_wiring_caution(evidence: Evidence) -> Iterator[Finding]:
    """Anything wired to a house is licensed work."""
    if evidence.design.kind is Kind.HOME and evidence.design.site.off_grid:
        yield Finding(
            code="LICENSED_WORK_ALONE",
            severity=Severity.MIND,
            step=Step.STORM,
            title="A house of its own: licensed work",
            message="Without a utility the wiring code still holds: main disconnect, overcurrent protection, one neutral-ground bond and "
            "a grounding electrode, by a licensed electrician and with a permit where local code asks for one. Nobody comes when it "
            "fails: keep a second way to heat, to light and to call.",
            basis="NEC 2023 Article 710 in our own words, from memory; the adopted local code decides",
        )
    elif evidence.design.kind is Kind.HOME:
        yield Finding(
            code="LICENSED_WORK",
            severity=Severity.MIND,
            step=Step.STORM,
            title="Wired to the house: licensed work",
            message="A source that feeds house circuits needs a transfer switch or interlock, a permit where local code asks "
            "for one, and a licensed electrician. Back-feed into the street kills line workers.",
            basis="NEC 2023 Article 702 in our own words, from memory; the adopted local code decides",
        )


CHECKS = (goes_dark, every_day_sunny, house_wiring_caution)
