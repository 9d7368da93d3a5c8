"""What opens each source of a design by hand, as its wiring has it; what nothing opens is said to be opened by nothing."""

from __future__ import annotations

from hearthkeep.core.design import Design, DeviceKind, Disconnects, OpenedBy
from hearthkeep.core.wiring import RunKind, SizedRun, WiringPlan
from hearthkeep.core.words import Sentence, sentence, shortened

#: Where a bank feeds its runs from its own posts, these leave it.
_FROM_POSTS = (RunKind.INVERTER, RunKind.CONTROLLER, RunKind.SOURCE, RunKind.FEED)


def opens_by_hand(sized: SizedRun) -> bool:
    """Whether a run is opened by hand somewhere: by a switch, a plug or its breaker."""
    return sized.disconnects not in (None, Disconnects.NONE) or _is_breaker(sized)


def has_breaker(sized: SizedRun | None) -> bool:
    """Whether a run of alternating current has a breaker."""
    return sized is not None and sized.device is not None and sized.device.kind is DeviceKind.AC_BREAKER


def _is_breaker(sized: SizedRun) -> bool:
    return sized.device is not None and sized.device.kind in (DeviceKind.DC_BREAKER, DeviceKind.AC_BREAKER)


def bank_opened_by(design: Design, plan: WiringPlan) -> Sentence | None:
    """What opens the bank; none where nothing that was entered does."""
    bank = plan.find("bank")
    if bank is not None and opens_by_hand(bank):
        if bank.disconnects in (None, Disconnects.NONE):
            return sentence("the bank's breaker")
        return (
            sentence("the bank's plug") if bank.opened_by is OpenedBy.PLUG else sentence("the disconnect of the bank")
        )
    leads = plan.find("string-leads")
    if leads is not None and opens_by_hand(leads):
        return sentence("the disconnect of each string of the bank")
    if design.bank.unit_breaker_a is not None:
        return sentence("the breakers of the blocks")
    if bank is None:
        behind = [each for each in plan.runs if each.run.kind in _FROM_POSTS and each.run.from_bank]
        if behind and all(opens_by_hand(each) for each in behind):
            return sentence("the disconnect of every lead that leaves the bank")
    return None


def arrays_of(design: Design, plan: WiringPlan, opened_by: OpenedBy) -> tuple[str, ...]:
    """Names of the arrays that a switch, or a plug, opens."""
    return tuple(
        name
        for name, run in _array_runs(design, plan)
        if run is not None and opens_by_hand(run) and run.opened_by is opened_by
    )


def arrays_never_opened(design: Design, plan: WiringPlan) -> tuple[str, ...]:
    """Names of the arrays that nothing opens."""
    return tuple(name for name, run in _array_runs(design, plan) if run is not None and not opens_by_hand(run))


def _array_runs(design: Design, plan: WiringPlan) -> tuple[tuple[str, SizedRun | None], ...]:
    return tuple(
        (shortened(array.name), plan.find(f"array-{array.id}"))
        for controller in design.charging.controllers
        for array in controller.arrays
    )


def other_chargers(plan: WiringPlan) -> tuple[tuple[str, bool], ...]:
    """Chargers besides the sun and the inverter, by the name of their run, and whether something opens each."""
    return tuple((each.run.label, opens_by_hand(each)) for each in plan.runs if each.run.kind is RunKind.SOURCE)


def shut_down_by_switch(design: Design) -> bool:
    """Whether an array has rapid shutdown."""
    return any(array.rapid_shutdown for each in design.charging.controllers for array in each.arrays)
