"""Findings about arrays and controllers."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.bank import TYPICAL, strings_for
from hearthkeep.core.checks.finding import (
    COMMON_PRACTICE,
    Change,
    Evidence,
    Finding,
    Remedy,
    Severity,
    Step,
    with_strings,
)
from hearthkeep.core.design import ControllerKind
from hearthkeep.core.sources import KINDS, SourceCurrent, array_vmp_v, reaches_bank, source_currents
from hearthkeep.core.words import begun, percent

#: Clipping above this part of the offered sun is worth a word.
CLIPPED_MIND_FRAC = 0.03
#: A switching controller wastes what the panel's voltage has over this multiple of the bank's.
PWM_WASTE_RATIO = 1.7


def no_sun(evidence: Evidence) -> Iterator[Finding]:
    """Nothing puts energy back."""
    if evidence.charging.stc_w == 0 and not evidence.design.charging.has_other_sources:
        yield Finding(
            code="NO_SOURCE",
            severity=Severity.MEND if evidence.design.site.off_grid else Severity.MIND,
            step=Step.CHARGING,
            title="Nothing puts energy back",
            message="There is no array, so the bank only empties. "
            + (
                "Off the grid nothing else fills it: enter an array, or a generator."
                if evidence.design.site.off_grid
                else "After the outage the grid charger has to fill it."
            ),
            basis="The design's own sources",
        )


def voltage_reaches(evidence: Evidence) -> Iterator[Finding]:
    """An array whose voltage stays below the bank's charges nothing."""
    bank_v = evidence.rating.nominal_v
    for controller in evidence.design.charging.controllers:
        if controller.kind is ControllerKind.PANEL_FED:
            continue
        for array in controller.arrays:
            vmp_v = array_vmp_v(array, bank_v)
            if not reaches_bank(array, bank_v):
                yield Finding(
                    code="ARRAY_VOLTAGE_LOW",
                    severity=Severity.MEND,
                    step=Step.CHARGING,
                    title=f"{array.name}: voltage below the bank's",
                    message=f"{vmp_v:g} V at full power cannot charge a bank of {bank_v:g} V. Put panels in series.",
                    basis="Current flows only from higher to lower voltage",
                )
            elif controller.kind is ControllerKind.PWM and vmp_v > PWM_WASTE_RATIO * bank_v:
                yield Finding(
                    code="PWM_WASTES_VOLTAGE",
                    severity=Severity.MIND,
                    step=Step.CHARGING,
                    title=f"{array.name}: a PWM controller wastes its voltage",
                    message=f"It pins {vmp_v:g} V panels to a {bank_v:g} V bank at {evidence.rating.charging_v:.1f} V, so {percent(1 - evidence.rating.charging_v / vmp_v)} of their watts is lost. "
                    "A converting (MPPT) controller keeps it.",
                    basis="Panel current x bank voltage over panel watts",
                )


def battery_volts(evidence: Evidence) -> Iterator[Finding]:
    """A controller that is not made for a bank of these volts."""
    bank_v = evidence.rating.nominal_v
    for at, controller in enumerate(evidence.design.charging.controllers):
        low, high = controller.battery_min_v, controller.battery_max_v
        # A 12 V controller takes the 12.8 V of four lithium cells.
        if controller.kind is ControllerKind.PANEL_FED or (low or 0.0) / 1.1 <= bank_v <= (high or bank_v) * 1.1:
            continue
        made_for = (
            f"{low:g} V and more" if high is None else f"up to {high:g} V" if low is None else f"{low:g} to {high:g} V"
        )
        yield Finding(
            code="CONTROLLER_BATTERY_VOLTS",
            severity=Severity.STOP,
            step=Step.CHARGING,
            title=f"{controller.name} is not made for this bank",
            message=f"It charges banks of {made_for}; this one has {bank_v:g} V. It would charge to the wrong volts or be destroyed.",
            basis="The controller's data sheet against the bank's nominal volts, 10 % for the chemistry",
            remedy=Remedy(
                label="Try one whose volts are not said",
                changes=tuple(
                    Change(path=f"charging.controllers.{at}.{field}", value=None)
                    for field in ("battery_min_v", "battery_max_v")
                ),
            ),
        )


def clipped(evidence: Evidence) -> Iterator[Finding]:
    """A controller too small for its arrays."""
    sums = evidence.charging
    if sums.offered_wh > 0 and sums.clipped_wh / sums.offered_wh > CLIPPED_MIND_FRAC:
        yield Finding(
            code="CONTROLLER_CLIPS",
            severity=Severity.MIND,
            step=Step.CHARGING,
            title="The controller holds the sun back",
            message=f"{sums.clipped_wh:,.0f} Wh of {sums.offered_wh:,.0f} Wh offered in this outage lie beyond the controllers' "
            "output current and are spilled.",
            basis="Output current x the bank's volts while it is charged, step by step",
        )


def charge_limit(evidence: Evidence) -> Iterator[Finding]:
    """All sources against what the bank may be charged with."""
    currents = source_currents(evidence.design, evidence.rating.volts)
    limit_a = evidence.rating.charge_limit_a
    largest = max(currents, key=lambda source: source.current_a, default=None)
    if largest is None:
        return
    sum_a = sum(source.current_a for source in currents)
    is_known = evidence.design.bank.unit_max_charge_a is not None
    if largest.current_a > limit_a * (1 + 1e-9):
        yield Finding(
            code="CHARGE_LIMIT",
            severity=Severity.STOP if is_known else Severity.MIND,
            step=Step.CHARGING,
            title="More charge than the bank may take",
            message=f"{begun(largest.name)} alone can give {largest.current_a:.0f} A; the bank may take {limit_a:.0f} A"
            + (
                ""
                if is_known
                else f", a typical figure for {TYPICAL[evidence.design.bank.chemistry].label}: look up the unit's own"
            )
            + ". The model holds to the limit, but the chargers have to be set to it, or the bank is overheated.",
            basis="Currents of the sources at the bank's volts while it is charged, the sun's as the most that a clear day brings, "
            "against the units' charge limits; typical limits are common practice",
            remedy=_within_limit(evidence, currents),
        )
    elif sum_a > limit_a * (1 + 1e-9) and not evidence.design.charging.one_source:
        parts = ", ".join(f"{source.name} {source.current_a:.0f} A" for source in currents)
        yield Finding(
            code="CHARGE_LIMIT_TOGETHER",
            severity=Severity.MIND,
            step=Step.CHARGING,
            title="Sources together pass the bank's limit",
            message=f"{begun(parts)}: {sum_a:.0f} A together; the bank may take {limit_a:.0f} A. The model "
            "holds to it. Set one down, let one source wait for the other, or use chargers that talk to the bank.",
            basis="Sum of the sources' currents against the units' charge limits; several regulated sources and one at a time are both practised",
            remedy=Remedy(label="Try one source at a time", changes=(Change(path="charging.one_source", value=True),)),
        )


def _within_limit(evidence: Evidence, currents: tuple[SourceCurrent, ...]) -> Remedy | None:
    """More strings while that at most doubles the bank, else each source that passes its limit set down to it."""
    bank, rating = evidence.design.bank, evidence.rating
    asked = strings_for(bank, asked_a=max(source.current_a for source in currents), string_a=rating.string_charge_a)
    if asked.strings <= 2 * bank.parallel:
        return with_strings(bank, asked.strings, asked.takeoff)
    over = {source.name for source in currents if source.current_a > rating.charge_limit_a}
    changes: list[Change] = []
    for kind in KINDS:
        if kind.name not in over:
            continue
        settings = kind.set_down(evidence.design.charging, limit_a=rating.charge_limit_a, charging_v=rating.charging_v)
        if settings is None:
            return None
        changes += [Change(path=setting.path, value=setting.value) for setting in settings]
    if any(change.value == 0 for change in changes):
        # Next to nothing may go in: no setting of a charger is that low.
        return None
    return Remedy(label=f"Try {rating.charge_limit_a:.3g} A from each", changes=tuple(changes))


def refill(evidence: Evidence) -> Iterator[Finding]:
    """No charger for the grid's return, where there is a grid."""
    charger, has_grid = evidence.design.charging.grid_charger, not evidence.design.site.off_grid
    if has_grid and charger.output_w == 0 and evidence.design.loads:
        yield Finding(
            code="NO_GRID_CHARGER",
            severity=Severity.MIND,
            step=Step.CHARGING,
            title="No grid charger",
            message="Before a storm the bank is filled from the grid, and after it again. Without a charger that waits for the sun.",
            basis=COMMON_PRACTICE,
            remedy=Remedy(
                label="Try a charger within the bank's limit",
                changes=(
                    Change(
                        path="charging.grid_charger.output_w",
                        value=float(min(2000, round(evidence.rating.charge_limit_w or 500, -1))),
                    ),
                ),
            ),
        )


CHECKS = (no_sun, voltage_reaches, battery_volts, clipped, charge_limit, refill)
