"""What a check has to say, and what it may look at."""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

from hearthkeep.core.bank import BankRating
from hearthkeep.core.charging import GeneratorRating, WeatherYear
from hearthkeep.core.design import MOST_STRINGS, Bank, Design, Inverter, TakeOff
from hearthkeep.core.failures import OneFailed
from hearthkeep.core.figure import COMMON_PRACTICE, Figure
from hearthkeep.core.loads import LoadSums
from hearthkeep.core.outage import OutageReport
from hearthkeep.core.sizing import BankDetail, BankSums, ChargingSums, InverterSums

__all__ = [
    "COMMON_PRACTICE",
    "SIZES_W",
    "USUAL_HEADROOM_FRAC",
    "Change",
    "Evidence",
    "Finding",
    "Remedy",
    "Severity",
    "Step",
    "counted",
    "headroom",
    "kilowatts",
    "next_size",
    "percent",
    "watts",
    "with_strings",
]


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
    value: float | int | str | bool | dict[str, str | float] | tuple[tuple[int, int], ...] | None


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
    #: The working behind its numbers.
    figure: Figure | None = None


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
    arrangement: BankDetail
    #: All inverters as one; `design.inverter` is one of them, as entered.
    whole_inverter: Inverter
    one_failed: OneFailed | None
    #: The generator as height and heat leave it; none without one.
    generator: GeneratorRating | None
    #: The stored weather year the site names, as far as it is at hand, and how far its place is [km].
    year: WeatherYear | None
    year_distance_km: float


#: Continuous and surge watts of units usually sold.
SIZES_W = (
    300.0,
    600.0,
    1000.0,
    1500.0,
    2000.0,
    2500.0,
    3000.0,
    3500.0,
    4000.0,
    5000.0,
    6000.0,
    8000.0,
    10000.0,
    12000.0,
)
#: Headroom is written in per cent up to here.
HEADROOM_IN_PERCENT = 3.0
#: Headroom on the running watts that is usual.
USUAL_HEADROOM_FRAC = 0.2


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
    # Adding nothing keeps a rounded negative zero from being printed.
    return f"{round(100 * fraction) + 0:,} %"


def counted(number: int, thing: str) -> str:
    """A count for a sentence, with the plural where it takes one.

    >>> counted(1, "day"), counted(3, "day")
    ('1 day', '3 days')
    """
    return f"{number:,} {thing}" if number == 1 else f"{number:,} {thing}s"


def kilowatts(power_w: float) -> str:
    """A size in kilowatts with its article.

    >>> kilowatts(8000.0), kilowatts(2500.0), kilowatts(11000.0)
    ('an 8 kW', 'a 2.5 kW', 'an 11 kW')
    """
    text = f"{power_w / 1000:g}"
    article = "an" if text.startswith("8") or text.split(".")[0] in ("11", "18") else "a"
    return f"{article} {text} kW"


def headroom(frac: float) -> str:
    """Headroom for a sentence: a part of the peak, or how many times the peak where it is far more.

    >>> headroom(0.25), headroom(149.0)
    ('25 %', '150 times the peak')
    """
    return percent(frac) if frac < HEADROOM_IN_PERCENT else f"{frac + 1:,.0f} times the peak"


def with_strings(bank: Bank, strings: int, takeoff: TakeOff) -> Remedy | None:
    """So many strings side by side, on other leads where they have to be; none where there cannot be as many."""
    if strings > MOST_STRINGS:
        return None
    changes = []
    if strings != bank.parallel:
        changes.append(Change(path="bank.parallel", value=strings))
    label = f"{strings} in parallel" if changes else ""
    if takeoff is not bank.takeoff:
        changes.append(Change(path="bank.takeoff", value=takeoff.value))
        label = f"{label} on equal leads" if label else "equal leads to bus bars"
    return Remedy(label=f"Try {label}", changes=tuple(changes))


def next_size(value: float, sizes: tuple[float, ...]) -> float:
    """The next size up that is usually sold, or the value rounded up to whole thousands beyond them.

    >>> next_size(2510, (2000, 3000)), next_size(31200, (2000, 3000))
    (3000, 32000)
    """
    for size in sizes:
        if size >= value:
            return size
    return -(-value // 1000) * 1000
