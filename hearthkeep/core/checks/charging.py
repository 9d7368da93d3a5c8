"""Findings about arrays and controllers."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.charging import array_vmp_v, reaches_bank
from hearthkeep.core.checks.finding import COMMON_PRACTICE, Change, Evidence, Finding, Remedy, Severity, Step, percent
from hearthkeep.core.design import ControllerKind

#: Clipping above this part of the offered sun is worth a word.
CLIPPED_MIND_FRAC = 0.03
#: A switching controller wastes what the panel's voltage has over this multiple of the bank's.
PWM_WASTE_RATIO = 1.7


def no_sun(evidence: Evidence) -> Iterator[Finding]:
    """Nothing puts energy back."""
    if evidence.charging.stc_w == 0:
        yield Finding(
            code="NO_SOURCE",
            severity=Severity.MIND,
            step=Step.CHARGING,
            title="Nothing puts energy back",
            message="There is no array, so the bank only empties. After the outage the grid charger has to fill it.",
            basis="The design's own sources",
        )


def voltage_reaches(evidence: Evidence) -> Iterator[Finding]:
    """An array whose voltage stays below the bank's charges nothing."""
    bank_v = evidence.rating.nominal_v
    for controller in evidence.design.charging.controllers:
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
                    message=f"It pins {vmp_v:g} V panels to a {bank_v:g} V bank, so {percent(1 - bank_v / vmp_v)} of their watts is lost. "
                    "A converting (MPPT) controller keeps it.",
                    basis="Panel current x bank voltage over panel watts",
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
            basis="Output current x nominal bank volts, step by step",
        )


def charge_limit(evidence: Evidence) -> Iterator[Finding]:
    """All controllers together against what the bank may be charged with."""
    charging = evidence.design.charging
    together_a = sum(controller.output_a for controller in charging.controllers if controller.arrays)
    limit_a = evidence.rating.charge_limit_a
    sun_a = min(together_a, evidence.charging.stc_w / evidence.rating.nominal_v)
    # While the grid is up or the generator runs, its charger works beside the sun.
    chargers_w = max(charging.generator.charger_w if charging.generator else 0.0, charging.grid_charger.output_w)
    sum_a = sun_a + chargers_w / evidence.rating.nominal_v
    if sun_a <= limit_a < sum_a:
        yield Finding(
            code="CHARGE_LIMIT_TOGETHER",
            severity=Severity.MIND,
            step=Step.CHARGING,
            title="Sources together pass the bank's limit",
            message=f"Sun {sun_a:.0f} A and a charger {sum_a - sun_a:.0f} A are {sum_a:.0f} A; the bank may take {limit_a:.0f} A. The model "
            "holds to it. Set the charger down, let one source wait for the other, or use chargers that talk to the bank.",
            basis="Sum of the sources' currents against the units' charge limits; several regulated sources and one at a time are both practised",
        )
    if sun_a > limit_a:
        yield Finding(
            code="CHARGE_LIMIT",
            severity=Severity.STOP,
            step=Step.CHARGING,
            title="More charge than the bank may take",
            message=f"Controllers and panels can give {sun_a:.0f} A; the bank may take {limit_a:.0f} A. The model "
            "holds to the bank's limit, but the controllers have to be set to it, or the bank is overheated.",
            basis="Sum of controller currents against the units' charge limits; typical limits are common practice",
            remedy=Remedy(
                label=f"Try one more unit in parallel ({evidence.design.bank.parallel + 1})",
                changes=(Change(path="bank.parallel", value=evidence.design.bank.parallel + 1),),
            ),
        )


def refill(evidence: Evidence) -> Iterator[Finding]:
    """No charger for the grid's return."""
    if evidence.design.charging.grid_charger.output_w == 0 and evidence.design.loads:
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


CHECKS = (no_sun, voltage_reaches, clipped, charge_limit, refill)
