"""A run made ready to buy, as values: conductor, device, disconnects, lugs and what else is bought or checked of it."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from hearthkeep.core.design import (
    DeviceKind,
    Disconnects,
    OpenedBy,
    RunFact,
)
from hearthkeep.core.wiring.conductors import (
    Conductor,
    Lying,
)
from hearthkeep.core.wiring.runs import Run


class Binding(StrEnum):
    """What decides a run's conductor."""

    HEAT = "heat"
    DROP = "drop"
    #: Set by hand to what is there.
    SET = "set"
    #: A table of grounding conductors.
    TABLE = "table"


@dataclass(frozen=True, kw_only=True, slots=True)
class SizedDevice:
    """The overcurrent device of a run, as it is or as it is asked for."""

    kind: DeviceKind
    #: None while it is not known.
    rating_a: float | None
    #: What it breaks at the volts of its place, and the fault it may meet there [A]; none where not known, or none is fed.
    interrupt_a: float | None
    fault_a: float | None
    #: How far along the run it sits, from the end where the fault is fed [m].
    at_m: float
    #: As set by hand.
    is_set: bool
    #: False where somebody looked and could not find out.
    is_known: bool = True
    #: The current-limiting device before it that opens for it; empty where there is none.
    limited_by: str = ""


@dataclass(frozen=True, kw_only=True, slots=True)
class SizedRun:
    """A run with everything that is bought or checked of it."""

    run: Run
    length_m: float
    #: set, board, usual.
    length_from: str
    lying: Lying
    #: None where the size is not known, or not in the tables.
    conductor: Conductor | None
    #: As it is written, where it is set to something that is not in the tables.
    size: str | None
    #: The ladder's conductors by heat and device, and by drop; none where the ladder has none.
    by_heat: Conductor | None
    by_drop: Conductor | None
    binding: Binding
    #: What the conductor has to carry, and what it may where it lies [A].
    needed_a: float
    ampacity_a: float | None
    largest_device_a: float | None
    #: The largest that may stand before it where the next standard rating above its ampacity is allowed [A].
    next_size_a: float | None
    ambient_factor: float
    bundling_factor: float
    drop_v: float | None
    drop_limit_frac: float
    #: Whole loop, there and back [Ω].
    loop_ohm: float | None
    device: SizedDevice | None
    #: At which ends it is opened by hand: as it is, and as it is asked for; none where not known.
    disconnects: Disconnects | None
    asks_disconnects: Disconnects
    opened_by: OpenedBy
    #: What its switches, plugs or connectors are rated for [A]; none where nobody has said.
    contact_a: float | None
    #: A plug that is pulled cannot close by itself: it needs no lock.
    has_locks: bool
    asks_locks: bool
    #: Equipment grounding conductor that goes with it; none where it has none of its own.
    ground_size: str | None
    lug_mm: float
    stud_mm: float
    fill_frac: float | None
    fill_limit_frac: float | None
    colours: str
    torque_nm: float | None
    unknown: tuple[RunFact, ...]
    is_set: bool
    #: What is asked of a device that is there, whether or not one is needed [A].
    device_least_a: float = 0.0
    #: Its device and enclosure are listed for their whole rating.
    is_full_rated: bool = False

    @property
    def least_a(self) -> float:
        """What is asked of a conductor that is there [A]; what is proposed may be asked more."""
        if self.is_full_rated or self.run.least_factor is None:
            return self.needed_a
        return self.run.least_factor * self.run.current_a

    @property
    def drop_frac(self) -> float | None:
        """Its drop as a part of its volts."""
        return None if self.drop_v is None else self.drop_v / self.run.volts_v
