"""What must be checked of each run and device before it is closed: polarity, volts, torque."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.bank import BankRating, rest_state
from hearthkeep.core.design import Design
from hearthkeep.core.practice import SUPPLY_FRAC
from hearthkeep.core.wiring.plan import WiringPlan
from hearthkeep.core.wiring.runs import RunKind
from hearthkeep.core.wiring.sized_run import SizedRun
from hearthkeep.core.wiring.words import conductor_set_words, device_words, torque_words

#: By daylight an open array reads from this part of its volts in the cold on. Common practice, no source.
DAYLIGHT_FRAC = 0.7
#: Order in which runs are closed: the bank before the sun, the sun last.
ORDER = (
    RunKind.GROUND, RunKind.LINK, RunKind.LEAD, RunKind.BANK, RunKind.FEED, RunKind.BRANCH, RunKind.CONTROLLER, RunKind.SOURCE, RunKind.INVERTER,
    RunKind.PANEL, RunKind.BYPASS, RunKind.GRID, RunKind.GENERATOR, RunKind.COUPLED, RunKind.STRING, RunKind.ARRAY,
)  # fmt: skip


@dataclass(frozen=True, kw_only=True, slots=True)
class RunCheck:
    """One run before it is closed."""

    run: str
    label: str
    #: What is looked at before.
    do: tuple[str, ...]
    #: Across its ends, open, the window a meter reads in [V]; none where nothing is to be read.
    low_v: float | None
    high_v: float | None
    torque_nm: float | None


def run_checks_of(design: Design, rating: BankRating, plan: WiringPlan) -> tuple[RunCheck, ...]:
    """What is looked at of each run, in the order in which they are closed."""
    table = rest_state(design.bank, 0.0).table
    bank_v = (table[0][1], rating.charging_v)
    ordered = sorted(plan.runs, key=lambda sized: ORDER.index(sized.run.kind))
    fills = plan.precharge is not None and plan.precharge.is_needed
    return tuple(_check(sized, design, bank_v, fills=fills) for sized in ordered)


def _check(sized: SizedRun, design: Design, bank_v: tuple[float, float], *, fills: bool) -> RunCheck:
    run = sized.run
    do = [f"{conductor_set_words(sized, design.practice)}, no damage, glands tight, lugs crimped and covered"]
    low_v: float | None = None
    high_v: float | None = None
    if run.kind is RunKind.GROUND:
        do.append("continuity to the ground bar, below 1 Ω")
    elif run.kind in (RunKind.STRING, RunKind.ARRAY):
        low_v, high_v = DAYLIGHT_FRAC * run.most_v, run.most_v
        do.append("polarity, open, with a meter made for these volts")
        do.append("disconnects open and locked until the controller has its bank")
    elif run.is_dc and run.kind is not RunKind.LINK:
        low_v, high_v = bank_v
        do.append("polarity at both ends with a meter, before anything is closed")
    elif not run.is_dc:
        frac = SUPPLY_FRAC[design.practice]
        low_v, high_v = run.volts_v * (1 - frac), run.volts_v * (1 + frac)
        do.append("dead and locked off while it is connected; line and neutral not crossed")
    if sized.device is not None:
        do.append(f"device in place and open: {device_words(sized.device)}")
    if run.kind is RunKind.INVERTER and fills:
        do.append("capacitors filled through the precharge resistor")
    do.append(
        "torque of every terminal, marked"
        if sized.torque_nm is None
        else f"torque {torque_words(sized.torque_nm, design.practice)}, marked"
    )
    return RunCheck(run=run.key, label=run.label, do=tuple(do), low_v=low_v, high_v=high_v, torque_nm=sized.torque_nm)
