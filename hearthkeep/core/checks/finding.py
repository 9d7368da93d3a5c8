"""What a check has to say, and what it may look at."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from hearthkeep.core.bank import BankRating
from hearthkeep.core.design import MOST_STRINGS, Bank, Change, Design, Inverter, TakeOff
from hearthkeep.core.figure import COMMON_PRACTICE, Figure
from hearthkeep.core.loads import LoadSums
from hearthkeep.core.outage import OutageReport
from hearthkeep.core.sizing import BankDetail, BankSums, InverterSums
from hearthkeep.core.sources import GeneratorRating, WeatherYear
from hearthkeep.core.transfer import TransferReport
from hearthkeep.core.whatif import ChargingSums, OneFailed
from hearthkeep.core.wiring import InverterVolts, WiringPlan

__all__ = [
    "COMMON_PRACTICE",
    "USUAL_HEADROOM_FRAC",
    "Change",
    "Evidence",
    "Finding",
    "Remedy",
    "Severity",
    "Step",
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
    TRANSFER = "transfer"
    WIRING = "wiring"
    TRIALS = "trials"


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
    all_inverters: Inverter
    one_failed: OneFailed | None
    #: The generator as height and heat leave it; none without one.
    generator: GeneratorRating | None
    #: The stored weather year the site names, as far as it is at hand, and how far its place is [km].
    year: WeatherYear | None
    year_distance_km: float
    #: The coldest hour of that year [°C]; none without one.
    year_low_c: float | None
    #: How the house is switched over; `design.loads` are those that are carried.
    transfer: TransferReport
    #: Every run, sized or judged; and the inverter's volts while it works hard, none where they are not known.
    wiring: WiringPlan
    volts: InverterVolts | None
    #: The design as it was entered.
    entered: Design

    def row(self, index: int) -> str:
        """Path of a carried load in the design as entered."""
        places = {load.id: at for at, load in enumerate(self.entered.loads)}
        return f"loads.{places[self.design.loads[index].id]}"


#: Headroom on the running watts that is usual.
USUAL_HEADROOM_FRAC = 0.2


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
