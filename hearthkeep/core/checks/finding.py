"""What a check has to say, and what it may look at."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

from hearthkeep.core.bank import BankRating
from hearthkeep.core.design import Design, Practice
from hearthkeep.core.loads import LoadSums
from hearthkeep.core.outage import OutageReport
from hearthkeep.core.sizing import BankSums, ChargingSums, InverterSums


class Severity(StrEnum):
    """Weight of a finding."""

    #: Can hurt someone.
    STOP = "stop"
    #: Will not work.
    MEND = "mend"
    #: Worth knowing.
    MIND = "mind"
    #: As it should be.
    GOOD = "good"


class Step(StrEnum):
    """The page a finding stands on."""

    STORM = "storm"
    LOADS = "loads"
    BANK = "bank"
    INVERTER = "inverter"
    CHARGING = "charging"


@dataclass(frozen=True, kw_only=True, slots=True)
class Change:
    """One field of the design to be set."""

    #: Dotted path into the Design document, for example ``bank.parallel``.
    path: str
    value: float | int | str | bool


@dataclass(frozen=True, kw_only=True, slots=True)
class Remedy:
    """A change that would settle the finding."""

    label: str
    changes: tuple[Change, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class Finding:
    """One thing a colleague would say, with its numbers and its basis."""

    code: str
    severity: Severity
    step: Step
    title: str
    message: str
    #: Published source, or "Common practice, no source".
    basis: str
    remedy: Remedy | None = None


@dataclass(frozen=True, kw_only=True, slots=True)
class Evidence:
    """Everything a check may look at."""

    design: Design
    rating: BankRating
    loads: LoadSums
    bank: BankSums
    inverter: InverterSums
    charging: ChargingSums
    outage: OutageReport


COMMON_PRACTICE = "Common practice, no source"


def watts(value: float) -> str:
    """Watts for a sentence.

    >>> watts(1234.4)
    '1,234 W'
    """
    # Halves go up, as the screens round them.
    return f"{math.floor(value + 0.5):,} W"


def percent(fraction: float) -> str:
    """A part of a whole for a sentence.

    >>> percent(0.274)
    '27 %'
    """
    return f"{100 * fraction:.0f} %"


def degrees(evidence: Evidence, temp_c: float) -> str:
    """A temperature in the units of the project's practice."""
    if evidence.design.practice is Practice.NORTH_AMERICAN:
        return f"{round(temp_c * 1.8 + 32, 1):g} °F"
    return f"{temp_c:g} °C"


def next_size(value: float, sizes: tuple[float, ...]) -> float:
    """The next size up that is usually sold, or the value rounded up to whole thousands beyond them.

    >>> next_size(2510, (2000, 3000)), next_size(31200, (2000, 3000))
    (3000, 32000)
    """
    for size in sizes:
        if size >= value:
            return size
    return -(-value // 1000) * 1000
