"""Gates of commissioning, as values: what is done, what it keeps from happening, what is read and what is expected there."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Annotated, NamedTuple

from pydantic import Field, field_validator

from hearthkeep.core.design import Celsius, DesignPart, Fraction, LocalMoment, Sky, local_moment
from hearthkeep.core.figure import Figure

#: Most a test load may be said to draw [W].
MOST_TEST_W = 50_000.0


class Danger(StrEnum):
    """What hurts or destroys when a step is taken too early or left out."""

    LIVE_WORK = "live_work"
    LOOSE_JOINT = "loose_joint"
    UNFUSED = "unfused"
    LIVE_CASE = "live_case"
    GAS = "gas"
    UNEQUAL_BLOCKS = "unequal_blocks"
    REVERSED = "reversed"
    SUN_FIRST = "sun_first"
    LOAD_TERMINALS = "load_terminals"
    RUSH = "rush"
    WRONG_CHARGE = "wrong_charge"
    LIVE_PLUG = "live_plug"
    BACK_FEED = "back_feed"
    FUMES = "fumes"
    UNLED_ARRAY = "unled_array"
    LIT_PANELS = "lit_panels"
    ARC = "arc"
    CREEPING = "creeping"
    MISREAD = "misread"
    UNLABELLED = "unlabelled"
    LIVE_ROOF = "live_roof"


class ReadingUnit(StrEnum):
    """Unit of a reading."""

    VOLTS = "V"
    AMPS = "A"
    WATTS = "W"
    OHMS = "Ω"
    HERTZ = "Hz"
    HOURS = "h"
    PERCENT = "%"
    SECONDS = "s"
    MILLIVOLTS = "mV"


class Moment(DesignPart):
    """The moment in which readings are taken, as far as it bears on them."""

    #: Local standard time.
    at: LocalMoment
    sky: Sky = Sky.CLEAR
    air_c: Celsius = 20.0
    #: Irradiance on the panels, where somebody measured it [W/m²]; empty takes it from hour and sky.
    sun_w_m2: Annotated[float, Field(strict=True, ge=0, le=1_600)] | None = None
    #: Charge of the bank as far as it is known; empty takes anything from empty to full.
    soc_frac: Fraction | None = None
    #: What the test load draws by its nameplate [W]; empty means one of a tenth of the inverter's rating.
    test_load_w: Annotated[float, Field(strict=True, gt=0, le=MOST_TEST_W)] | None = None

    @field_validator("at")
    @classmethod
    def _at_is_local(cls, at: datetime) -> datetime:
        return local_moment(at)


class Window(NamedTuple):
    """What a reading should be: the middle, and from where to where nothing is amiss."""

    expected: float
    low: float
    high: float

    def holds(self, value: float) -> bool:
        """Whether a reading lies inside."""
        return self.low - 1e-9 <= value <= self.high + 1e-9


class NeverKind(StrEnum):
    """Why a reading is never accepted."""

    ALIVE = "alive"
    REVERSED = "reversed"
    TOO_MANY_VOLTS = "too_many_volts"
    NO_EARTH = "no_earth"
    OPEN_NEUTRAL = "open_neutral"
    BACK_FED = "back_fed"
    DOES_NOT_TRIP = "does_not_trip"
    NOT_SHUT_DOWN = "not_shut_down"


@dataclass(frozen=True, kw_only=True, slots=True)
class Never:
    """Beyond these ends, in the reading's own unit, no word helps: it stays red until it is measured inside."""

    kind: NeverKind
    #: None where that side has no end.
    low: float | None
    high: float | None

    def holds(self, value: float) -> bool:
        """Whether a reading is one of those."""
        below = self.low is not None and value < self.low - 1e-9
        return below or (self.high is not None and value > self.high + 1e-9)


@dataclass(frozen=True, kw_only=True, slots=True)
class Ask:
    """One reading that a gate asks for."""

    key: str
    label: str
    unit: ReadingUnit
    #: Where the probes go, or what is looked at.
    where: str
    window: Window
    #: How the window comes about.
    figure: Figure
    #: Useful, but the gate can be passed without it.
    is_optional: bool = False
    #: Decimals worth writing.
    decimals: int = 1
    #: What is never accepted of it.
    never: tuple[Never, ...] = ()


@dataclass(frozen=True, kw_only=True, slots=True)
class Precaution:
    """A danger in words, before the step that keeps it away."""

    danger: Danger
    text: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Gate:
    """One step of commissioning: nothing behind it is touched before it is signed."""

    key: str
    title: str
    #: Why it comes here and not later.
    why: str
    precautions: tuple[Precaution, ...]
    do: tuple[str, ...]
    asks: tuple[Ask, ...]
    #: Gates that come before it.
    needs: tuple[str, ...]
    #: What is risked when it is left out.
    skipping: str
    #: What the moment adds; empty where it does not matter.
    now: str = ""
    #: Keys of readings that are two legs of one supply.
    legs: tuple[tuple[str, str], ...] = ()
    #: What it tries kills where it fails, though no meter shows it.
    is_deadly: bool = False
    #: Keys of the gates that are passed in it as one; empty where it is one alone.
    parts: tuple[str, ...] = ()

    @property
    def may_be_skipped(self) -> bool:
        """Whether it may be left out: a gate that keeps something deadly away is never."""
        return not self.is_deadly and not any(
            each.kind in DEADLY for ask in self.asks if not ask.is_optional for each in ask.never
        )


#: Kinds that kill; more volts than a part bears destroy, and are met at gates that may be left out.
DEADLY = tuple(kind for kind in NeverKind if kind is not NeverKind.TOO_MANY_VOLTS)
