"""Wiring: what is really there of each run, how the parts stand on the board, and what the wiring is held to.

The runs themselves follow from the design; here stands only what somebody has set on one of them, by the run's key.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from enum import StrEnum
from typing import Annotated, Literal, Self

from pydantic import Field, StringConstraints, model_validator

from hearthkeep.core.design.circuits import RatedAmps, WireSize
from hearthkeep.core.design.fields import Celsius, DesignPart, Identifier, Name
from hearthkeep.core.design.sheets import Money

#: Runs that can have something set on them, parts that can be placed, items that can have a price.
MOST_RUNS, MOST_PLACES, MOST_PRICES = 400, 200, 400
#: Ways of the largest distribution block.
MOST_WAYS = 24
#: Longest run, one way [m].
LONGEST_RUN_M = 1_000.0


class RunFact(StrEnum):
    """What somebody who looked could not find out about a run."""

    SIZE = "size"
    INSULATION = "insulation"
    TERMINALS = "terminals"
    DEVICE = "device"
    DISCONNECTS = "disconnects"


class DeviceKind(StrEnum):
    """Kinds of overcurrent device."""

    CLASS_T = "class_t"
    #: A flat strip between two studs.
    STRIP = "strip"
    #: Mounted on the battery's own post.
    POST = "post"
    BOLT_SMALL = "bolt_small"
    BOLT_LARGE = "bolt_large"
    BLADE = "blade"
    DC_BREAKER = "dc_breaker"
    #: A cylindrical fuse for solar strings.
    SOLAR_FUSE = "solar_fuse"
    AC_BREAKER = "ac_breaker"
    NONE = "none"


class Disconnects(StrEnum):
    """At which ends of a run it can be opened by hand."""

    NONE = "none"
    SOURCE = "source"
    LOAD = "load"
    BOTH = "both"


class OpenedBy(StrEnum):
    """By what a run is opened by hand."""

    SWITCH = "switch"
    #: A plug, or a pair of panel connectors, pulled apart.
    PLUG = "plug"


class FedFrom(StrEnum):
    """Where a run to a direct-current load or an inverter begins."""

    BUS = "bus"
    #: The load terminals of a solar controller.
    LOAD_TERMINALS = "load_terminals"


#: What a conductor's insulation and the terminals at its ends bear [°C].
RatedCelsius = Literal[60, 70, 75, 90]
#: How a run lies: reference methods of IEC 60364-5-52; in a raceway or single in free air by the NEC; or as leads lie in carts, vans
#: and boats.
Method = Literal["A1", "B1", "B2", "C", "D1", "E", "raceway", "free_air", "vehicle"]
ConduitKind = Literal["emt", "pvc"]
#: Trade sizes of conduit.
ConduitSize = Literal["1/2", "3/4", "1", "1 1/4", "1 1/2", "2", "2 1/2", "3"]
#: Key of a run or of a part, as the core makes them.
RunKey = Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9][A-Za-z0-9_-]{0,63}$")]
#: Key of a line of the shopping list.
ItemKey = Annotated[str, StringConstraints(pattern=r"^[a-z0-9][A-Za-z0-9_./ -]{0,79}$")]
DropLimit = Annotated[float, Field(strict=True, ge=0.002, le=0.1)]


class RunSet(DesignPart):
    """What is set on one run; empty fields are as the page works them out."""

    run: RunKey
    #: One way [m].
    length_m: Annotated[float, Field(strict=True, gt=0, le=LONGEST_RUN_M)] | None = None
    size: WireSize | None = None
    #: What it is good for, where nothing else is known of it [A].
    good_for_a: Annotated[float, Field(strict=True, gt=0, le=5_000)] | None = None
    #: Conductors side by side in each pole.
    per_pole: Annotated[int, Field(strict=True, ge=1, le=8)] | None = None
    insulation_c: RatedCelsius | None = None
    terminal_c: RatedCelsius | None = None
    ambient_c: Celsius | None = None
    #: Current-carrying conductors together; in metric practice circuits together.
    bundled: Annotated[int, Field(strict=True, ge=1, le=60)] | None = None
    method: Method | None = None
    conduit: ConduitSize | None = None
    conduit_kind: ConduitKind = "emt"
    device: DeviceKind | None = None
    device_a: RatedAmps | None = None
    #: What it can break at the volts of its place, by its own data sheet [A].
    interrupt_a: Annotated[float, Field(strict=True, gt=0, le=500_000)] | None = None
    #: Device and enclosure are listed to carry their whole rating for hours.
    full_rated: bool = False
    #: How far along the run from its source it sits [m].
    device_at_m: Annotated[float, Field(strict=True, ge=0, le=LONGEST_RUN_M)] | None = None
    disconnects: Disconnects | None = None
    opened_by: OpenedBy = OpenedBy.SWITCH
    #: What its switches, plugs or connectors are rated for [A].
    contact_a: Annotated[float, Field(strict=True, gt=0, le=5_000)] | None = None
    #: They can be locked open.
    lock_off: bool | None = None
    #: Hole of the lug and stud it goes on [mm].
    lug_mm: Annotated[float, Field(strict=True, gt=0, le=40)] | None = None
    stud_mm: Annotated[float, Field(strict=True, gt=0, le=40)] | None = None
    #: As the equipment's label asks [N·m].
    torque_nm: Annotated[float, Field(strict=True, gt=0, le=400)] | None = None
    #: Colours of the conductors where they are not the usual ones.
    colours: Name | None = None
    fed_from: FedFrom = FedFrom.BUS
    #: What was looked for and could not be found out.
    unknown: Annotated[tuple[RunFact, ...], Field(max_length=5)] = ()


class PartPlace(DesignPart):
    """Where a part stands on the board: its lower left corner [mm]."""

    part: RunKey
    x_mm: Annotated[float, Field(strict=True, ge=0, le=20_000)]
    y_mm: Annotated[float, Field(strict=True, ge=0, le=20_000)]


class Board(DesignPart):
    """The wall, board or box that carries the parts, and what stands on the floor below it."""

    width_mm: Annotated[float, Field(strict=True, ge=200, le=20_000)] = 2_000.0
    height_mm: Annotated[float, Field(strict=True, ge=200, le=20_000)] = 1_800.0
    places: Annotated[tuple[PartPlace, ...], Field(max_length=MOST_PLACES)] = ()


class ItemPrice(DesignPart):
    """What one of an item costs, in the project's own currency."""

    item: ItemKey
    price: Money


class BusKind(StrEnum):
    """Where the runs of direct current come together."""

    #: A bar of its own, behind the bank's run.
    BAR = "bar"
    #: The bank's own posts or bars: there is no run from the bank to a bus.
    POSTS = "posts"


class DistributionBlock(DesignPart):
    """A block with a feed of its own and numbered ways, each with its fuse or breaker; its feed is the run feed-<id>."""

    id: Identifier
    name: Name
    #: The loads on its ways, in order.
    loads: Annotated[tuple[Identifier, ...], Field(max_length=MOST_WAYS)] = ()


class Wiring(DesignPart):
    """Runs, protection and board; without anything set they are as the page works them out."""

    #: A flat part of what the bank gives that stands in for the drop of the runs; empty counts the runs.
    loss_frac: Annotated[float, Field(strict=True, ge=0, le=0.2)] | None = None
    #: Drop that one run may have, as a part of its volts: solar; bank and inverter leads; branches and house side.
    solar_drop_frac: DropLimit = 0.02
    bank_drop_frac: DropLimit = 0.01
    branch_drop_frac: DropLimit = 0.03
    #: Around the runs, where one names no other [°C].
    ambient_c: Celsius = 30.0
    #: Input capacitors of one inverter [F]; empty takes what is usual for its size and volts.
    inverter_capacitance_f: Annotated[float, Field(strict=True, gt=0, le=1)] | None = None
    #: A shunt sits in the negative, and its rating [A]; empty takes the next usual one.
    has_shunt: bool = True
    shunt_a: Annotated[float, Field(strict=True, gt=0, le=5_000)] | None = None
    #: Surge protection at the solar input and at the backed-up panel.
    surge_dc: bool = True
    surge_ac: bool = True
    #: Leads of direct current are those of carts, vans and boats: fine strands, 105 °C, on studs.
    vehicle: bool = False
    bus: BusKind = BusKind.BAR
    #: The negative of direct current is joined to ground, at one place; empty means that nobody has said.
    dc_grounded: bool | None = None
    blocks: Annotated[tuple[DistributionBlock, ...], Field(max_length=20)] = ()
    runs: Annotated[tuple[RunSet, ...], Field(max_length=MOST_RUNS)] = ()
    board: Board = Board()
    prices: Annotated[tuple[ItemPrice, ...], Field(max_length=MOST_PRICES)] = ()

    @model_validator(mode="after")
    def _keys_stand_once(self) -> Self:
        for what, keys in (
            ("runs", [entry.run for entry in self.runs]),
            ("board.places", [entry.part for entry in self.board.places]),
            ("prices", [entry.item for entry in self.prices]),
            ("blocks", [entry.id for entry in self.blocks]),
            ("blocks.loads", [key for entry in self.blocks for key in entry.loads]),
        ):
            twice = _repeated(keys)
            if twice:
                raise ValueError(f"{what}: each key must stand once (repeated: {', '.join(twice[:5])})")
        return self

    def of_run(self, key: str) -> RunSet | None:
        """What is set on a run."""
        return next((entry for entry in self.runs if entry.run == key), None)


def _repeated(keys: Sequence[str]) -> list[str]:
    return sorted(key for key, count in Counter(keys).items() if count > 1)
