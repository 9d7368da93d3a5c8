"""Transfer: how the house is switched from the grid to the backup supply and back."""

from __future__ import annotations

from collections import Counter
from enum import StrEnum
from typing import Annotated, Self

from pydantic import Field, field_validator, model_validator

from hearthkeep.core.design.circuits import (
    MOST_FURTHER,
    MOST_SLOTS,
    Circuit,
    FurtherCircuit,
    FurtherPanel,
    Leg,
    RatedAmps,
    WireSize,
)
from hearthkeep.core.design.fields import DesignPart
from hearthkeep.core.design.sheets import Money


class ArrangementKind(StrEnum):
    """How house and backup supply are joined, in rising order of work."""

    #: Cords from a portable unit; no house circuit is touched.
    CORDS = "cords"
    #: An inlet at the main panel, its breaker interlocked with the main breaker.
    INLET = "inlet"
    #: A manual switch for six to ten circuits.
    MANUAL_SWITCH = "manual_switch"
    #: A panel of critical loads behind an inverter/charger.
    CRITICAL_PANEL = "critical_panel"
    #: Circuits moved for good to a panel fed by an all-in-one unit that only charges from the grid.
    MOVED_CIRCUITS = "moved_circuits"
    #: An automatic switch for the whole house.
    AUTOMATIC = "automatic"
    #: A battery inverter and an existing grid-tied array, both on the critical panel.
    AC_COUPLED = "ac_coupled"
    #: A portable unit in 230 V practice, with earth-neutral relay and residual-current protection.
    PORTABLE_METRIC = "portable_metric"
    #: The house's own panel on the inverter for good: there is no grid to switch from.
    OWN_PANEL = "own_panel"


class Feed(StrEnum):
    """What stands on the two legs of the backed-up side."""

    #: Both legs of a true 120/240 V supply, 240 V between them.
    BOTH = "both"
    #: One 120 V supply joined to both legs; nothing between them.
    BRIDGED = "bridged"
    LEG_A = "leg_a"
    LEG_B = "leg_b"


class Interlock(StrEnum):
    """What keeps grid and backup supply from being joined."""

    #: A mechanism lets only one of the two be closed, or one switch breaks before it makes.
    MECHANICAL = "mechanical"
    #: A written rule alone.
    NONE = "none"


class Bypass(StrEnum):
    """How the backed-up circuits go back to the grid while the inverter is out."""

    NONE = "none"
    #: One switch or interlocked pair.
    INTERLOCKED = "interlocked"
    #: Two breakers that may both be closed.
    LOOSE = "loose"


class SourceBond(StrEnum):
    """Whether neutral and ground are joined inside the backup supply."""

    FLOATING = "floating"
    BONDED = "bonded"
    #: A relay joins them only while the unit makes its own supply.
    RELAY = "relay"
    UNKNOWN = "unknown"


class GeneratorAt(StrEnum):
    """Where a generator that carries the house is joined."""

    #: At the input of the inverter, whose relay follows it.
    INVERTER_INPUT = "inverter_input"
    #: At a breaker of the backed-up panel.
    PANEL = "panel"


class Use(StrEnum):
    """What takes the energy while the grid is up."""

    #: The backed-up loads.
    LOADS = "loads"
    BANK = "bank"
    #: The rest of the house.
    HOUSE = "house"
    EXPORT = "export"


class Device(DesignPart):
    """The transfer device and what leads to it; empty fields are not known."""

    #: Positions for circuits of one pole; a circuit of two poles takes two, one on each leg.
    positions: Annotated[int, Field(strict=True, ge=1, le=MOST_SLOTS)] | None = None
    #: Largest breaker or load of one position.
    position_a: RatedAmps | None = None
    #: Of the switch, relay or bus through which everything flows.
    rated_a: RatedAmps | None = None
    #: Breaker and conductor that feed the backed-up side.
    feeder_a: RatedAmps | None = None
    feeder_wire: WireSize | None = None
    #: Empty means what the inverter gives; of a 120 V supply one leg, A.
    feed: Feed | None = None
    interlock: Interlock = Interlock.MECHANICAL
    bypass: Bypass = Bypass.NONE
    #: Gap without supply at the change-over [s]; empty means the arrangement's usual one.
    transfer_s: Annotated[float, Field(strict=True, ge=0, le=3_600)] | None = None
    generator_at: GeneratorAt = GeneratorAt.INVERTER_INPUT
    #: What the inlet is rated for [A].
    inlet_a: RatedAmps | None = None
    #: The supply comes by a cord through an inlet; otherwise it is wired in.
    by_inlet: bool = True
    #: A cord with a plug at both ends, into an outlet of the house.
    into_outlet: bool = False
    #: What it was quoted at, work included, in the project's own currency.
    price: Money | None = None


class Grounding(DesignPart):
    """Where neutral and ground are joined, and what watches over leakage."""

    service_bond: bool = True
    source_bond: SourceBond = SourceBond.UNKNOWN
    #: The bonding screw of the backed-up panel is in.
    panel_bond: bool = False
    #: The change-over switches the neutral with the lines.
    switches_neutral: bool = False
    #: The portable unit's own outlets have ground-fault protection.
    ground_fault_outlets: bool = False
    #: Residual-current protection (30 mA) stands between unit and loads.
    residual_current: bool = False


class MainPanel(DesignPart):
    """The main panel; empty ratings are not known."""

    slots: Annotated[int, Field(strict=True, ge=2, le=MOST_SLOTS)] = 24
    bus_a: RatedAmps | None = None
    main_a: RatedAmps | None = None
    #: The utility's own breaker before it.
    utility_a: RatedAmps | None = None
    #: A supply joined to its bus by a breaker, where there is one, and whether that stands at the end away from the main.
    supply_breaker_a: RatedAmps | None = None
    supply_at_far_end: bool = True


USUAL_ORDER = (Use.LOADS, Use.BANK, Use.HOUSE, Use.EXPORT)


class Transfer(DesignPart):
    """How the house is switched over; without an arrangement every load counts as carried."""

    arrangement: ArrangementKind | None = None
    device: Device = Device()
    grounding: Grounding = Grounding()
    main: MainPanel = MainPanel()
    circuits: Annotated[tuple[Circuit, ...], Field(max_length=MOST_SLOTS)] = ()
    #: Panels behind one another: what hangs there is fed by a circuit of the main panel in the end.
    further: Annotated[tuple[FurtherPanel, ...], Field(max_length=MOST_FURTHER)] = ()
    #: With the grid up, from first to last; a use that is left out gets nothing.
    order: Annotated[tuple[Use, ...], Field(min_length=1, max_length=4)] = USUAL_ORDER
    #: The labels and placards that the arrangement asks for are in place.
    labels_in_place: bool = False

    @field_validator("order")
    @classmethod
    def _each_use_once(cls, order: tuple[Use, ...]) -> tuple[Use, ...]:
        if len(set(order)) < len(order):
            raise ValueError(f"each use must stand once (got {', '.join(order)})")
        if Use.LOADS not in order:
            raise ValueError("must hold loads: what is backed up is never left out")
        return order

    @model_validator(mode="after")
    def _circuits_are_their_own(self) -> Self:
        ids = [circuit.id for circuit in self.circuits]
        ids += [circuit.id for panel in self.further for circuit in panel.circuits]
        twice = [key for key, count in Counter(ids).items() if count > 1]
        if twice:
            raise ValueError(f"circuits: each id must stand once (repeated: {', '.join(sorted(twice)[:5])})")
        for at, circuit in enumerate(self.circuits):
            if circuit.shares_neutral_with == circuit.id:
                raise ValueError(f"circuits.{at}.shares_neutral_with must name another circuit (got {circuit.id})")
        return self

    @model_validator(mode="after")
    def _further_panels_are_fed(self) -> Self:
        """Each by a circuit that there is, of which no other is fed, and none by itself."""
        there = set(self.feeding)
        for at, panel in enumerate(self.further):
            if panel.fed_by not in there:
                raise ValueError(f"further.{at}.fed_by must name a circuit of a panel (got {panel.fed_by})")
        for what, keys in (
            ("id", [panel.id for panel in self.further]),
            ("fed_by", [panel.fed_by for panel in self.further]),
        ):
            twice = sorted(key for key, count in Counter(keys).items() if count > 1)
            if twice:
                raise ValueError(f"further: each {what} must stand once (repeated: {', '.join(twice[:5])})")
        for at, panel in enumerate(self.further):
            if self.root_of(panel.fed_by) is None:
                raise ValueError(f"further.{at}.fed_by must lead to the main panel (got {panel.fed_by})")
        return self

    @property
    def feeding(self) -> dict[str, Circuit | FurtherCircuit]:
        """Every circuit of every panel by its id, those of the main panel first."""
        found: dict[str, Circuit | FurtherCircuit] = {circuit.id: circuit for circuit in self.circuits}
        return found | {circuit.id: circuit for panel in self.further for circuit in panel.circuits}

    def root_of(self, circuit_id: str | None) -> str | None:
        """The circuit of the main panel that feeds a circuit in the end: itself, where it stands there; none where none does."""
        own = {circuit.id for circuit in self.circuits}
        fed_by = {circuit.id: panel.fed_by for panel in self.further for circuit in panel.circuits}
        for _ in range(len(self.further) + 1):
            if circuit_id is None or circuit_id in own:
                return circuit_id
            circuit_id = fed_by.get(circuit_id)
        return None

    def behind(self, panel: FurtherPanel) -> frozenset[str]:
        """Ids of the circuits of a further panel, and of those behind them."""
        found = {circuit.id for circuit in panel.circuits}
        for _ in self.further:
            found |= {own.id for each in self.further if each.fed_by in found for own in each.circuits}
        return frozenset(found)

    def find(self, circuit_id: str | None) -> Circuit | None:
        """The circuit of that id; none where there is none."""
        return next((circuit for circuit in self.circuits if circuit.id == circuit_id), None)


def placed_wrongly(transfer: Transfer, *, legs: tuple[Leg, ...]) -> str | None:
    """What keeps the circuits from standing in the panel as they are said to: field, what was given, what is accepted.

    `legs` are those of the service; with two of them the panel has two columns.
    """
    stacked, last = len(legs) > 1, transfer.main.slots
    taken: dict[int, Circuit] = {}
    for at, circuit in enumerate(transfer.circuits):
        field = f"transfer.circuits.{at}"
        for slot in circuit.slots(stacked=stacked):
            if slot > last:
                return f"{field}.slot must leave its breaker within the panel's slots, 1 to {last} (got {circuit.slot})"
            if slot in taken:
                return (
                    f"{field}.slot must be free: slot {slot} holds the breaker {taken[slot].name[:40]} already "
                    f"(got {circuit.slot})"
                )
            taken[slot] = circuit
        for name, leg in (("leg", circuit.leg), ("backup_leg", circuit.backup_leg)):
            if leg is not None and leg not in legs:
                return f"{field}.{name} must be a leg of the service, {' or '.join(legs)} (got {leg.value})"
    return None
