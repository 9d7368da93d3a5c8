"""Gates of the house: switched over, its generator, a coupled array."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.building.dangers import precautions
from hearthkeep.core.building.dead_gates import asked, joined_needs
from hearthkeep.core.building.forbidden import TOO_MUCH_FRAC, never
from hearthkeep.core.building.gate import Ask, Danger, Gate, NeverKind, ReadingUnit, Window
from hearthkeep.core.building.legs import has_legs, leg_v, too_much
from hearthkeep.core.building.windows import GENERATOR_HZ_FRAC, INVERTER_HZ_FRAC, Expected
from hearthkeep.core.design import ArrangementKind, Design, Interlock, SourceBond
from hearthkeep.core.figure import COMMON_PRACTICE, Figure, Term
from hearthkeep.core.practice import distance_short
from hearthkeep.core.transfer import CORDS, gap_s
from hearthkeep.core.wiring import unit_output_v

#: Longest that a residual current device of the general type may take at its rated current [s]. IEC 61008-1 (from memory).
RCD_S = 0.3
#: A battery inverter raises its frequency by so much, from where an array begins to give less to where it has let go
#: [part of nominal]: 50.2 to 52 Hz, 60.2 to 63. IEEE 1547 and EN 50549-1 (from memory).
SHIFT_FRAC = (0.003, 0.05)
#: Change-overs by handles, which a mechanism keeps apart.
BY_HAND = (ArrangementKind.MANUAL_SWITCH, ArrangementKind.INLET)
#: A neutral that stands so far from ground floats [part of nominal volts]. Common practice, no source.
NO_BOND_FRAC = 0.2


def _leg_keys(expected: Expected) -> tuple[tuple[str, str], ...]:
    return (("transfer.leg_a_v", "transfer.leg_b_v"),) if has_legs(expected.design) else ()


def house_gates(expected: Expected) -> Iterator[Gate]:
    """The house switched over, the generator and a coupled array, in the order in which they are passed."""
    design = expected.design
    kind = design.transfer.arrangement
    if kind is not None and design.inverter.rated_w > 0:
        yield (
            _cords(expected)
            if kind in CORDS
            else _own_panel(expected)
            if kind is ArrangementKind.OWN_PANEL
            else _transfer(expected)
        )
    if design.charging.generator is not None:
        yield _generator(expected)
    if (
        design.charging.grid_tied is not None
        and design.charging.grid_tied.arrays
        and kind is ArrangementKind.AC_COUPLED
    ):
        yield _coupled(expected)


def interlock_gates(expected: Expected) -> Iterator[Gate]:
    """The interlock, tried while everything is dead; none where none was entered."""
    if has_interlock(expected.design):
        yield _interlock(expected)


def has_interlock(design: Design) -> bool:
    """Whether a mechanism that was entered keeps grid and backup supply apart."""
    transfer = design.transfer
    return (
        transfer.arrangement in BY_HAND
        and transfer.device.interlock is Interlock.MECHANICAL
        and design.inverter.rated_w > 0
        and not design.site.off_grid
    )


def _interlock(expected: Expected) -> Gate:
    return Gate(
        key="interlock",
        title="The interlock, tried both ways",
        why="It is what keeps the grid's line worker alive; it is tried while a failure hurts nobody.",
        precautions=(),
        do=(
            "Licensed electrician. Everything dead: main breaker off and locked, the inverter off.",
            "Grid's side closed: the backup's handle cannot be closed, nor half closed, with the force of a hand. Then the other way round.",
            "From one to the other by way of off, slowly: nowhere do both touch.",
        ),
        asks=(),
        needs=("mount", *(("grounds",) if _grounds_present(expected) else ())),
        skipping="Two supplies on one wire: a line worker killed, or an inverter burnt when the grid comes back.",
        is_deadly=True,
    )


def _outlet(expected: Expected, key: str, label: str) -> Ask:
    """Volts at an outlet: in a split-phase house those of one leg."""
    volts_v = leg_v(expected.design)
    where = "at an outlet, its load on"
    return asked(
        f"transfer.{key}",
        label,
        ReadingUnit.VOLTS,
        where,
        expected.supply_volts(label, volts_v),
        never=too_much(volts_v),
    )


def _by_legs(expected: Expected, key: str, side: str) -> tuple[Ask, ...]:
    """Each leg of a true 120/240 V supply to neutral, and both legs to each other; none of another supply."""
    if not has_legs(expected.design):
        return ()
    found = []
    for leg, label in (("a", f"{side}: A to neutral"), ("b", f"{side}: B to neutral")):
        volts_v = leg_v(expected.design)
        found.append(
            asked(f"{key}.leg_{leg}_v", label, ReadingUnit.VOLTS, "a plain lamp on that leg", expected.supply_volts(label, volts_v),
                  never=(never(NeverKind.OPEN_NEUTRAL, high=TOO_MUCH_FRAC * volts_v),))
        )  # fmt: skip
    both = f"{side}: A to B"
    found.append(asked(f"{key}.between_v", both, ReadingUnit.VOLTS, "both lamps on", expected.supply_volts(both, 2 * leg_v(expected.design)),
                       never=too_much(2 * leg_v(expected.design))))  # fmt: skip
    return tuple(found)


def _residual_current(expected: Expected) -> tuple[Ask, ...]:
    """How fast the residual current device trips, where one was entered."""
    if not expected.design.transfer.grounding.residual_current:
        return ()
    figure = Figure(
        label="Residual current device", value=RCD_S, unit="s", formula="trips at 30 mA within 0.3 s",
        terms=(Term(name="at most", value=RCD_S, unit="s"),), basis="IEC 61008-1 and 60364-6, general type (from memory)",
    )  # fmt: skip
    where = "on backup, with a tester at an outlet, at its rated current; 9 where it does not trip"
    return (
        asked("transfer.rcd_s", "Residual current device trips after", ReadingUnit.SECONDS, where, (Window(0.03, 0.0, RCD_S), figure),
              decimals=2, never=(never(NeverKind.DOES_NOT_TRIP, high=RCD_S),)),
    )  # fmt: skip


def _relay_bond(expected: Expected) -> tuple[Ask, ...]:
    """Neutral against ground while a relay joins them; floating they would stand about half the volts apart."""
    if expected.design.transfer.grounding.source_bond is not SourceBond.RELAY:
        return ()
    figure = Figure(
        label="Neutral to ground", value=0.0, unit="V", formula="joined by the unit's relay: next to nothing",
        terms=(Term(name="floating, about", value=unit_output_v(expected.design) / 2, unit="V"),), basis=COMMON_PRACTICE,
    )  # fmt: skip
    where = "at an outlet, on backup, a load on"
    return (
        asked(
            "transfer.neutral_v",
            "Neutral to ground",
            ReadingUnit.VOLTS,
            where,
            (Window(0.5, 0.0, 5.0), figure),
            never=(never(NeverKind.NO_EARTH, high=NO_BOND_FRAC * unit_output_v(expected.design)),),
        ),
    )


def _cords(expected: Expected) -> Gate:
    metric = expected.design.transfer.arrangement is ArrangementKind.PORTABLE_METRIC
    return Gate(
        key="transfer",
        title="Loads on cords",
        why="The unit works by itself; now what it is for.",
        precautions=precautions(Danger.BACK_FEED),
        do=(
            *(("The test button of the residual-current protection trips it, and it closes again.",) if metric else ()),
            "Heavy cords, unrolled; one load after the other, the largest motor first. Never a cord into an outlet of the house.",
        ),
        asks=(
            _outlet(expected, "outlet_v", "At the far end of the longest cord"),
            *_relay_bond(expected),
            *_residual_current(expected),
        ),
        needs=("inverter", *(("grounds",) if _grounds_present(expected) else ())),
        skipping="A load that starts on the bench and not in the storm.",
    )


def _own_panel(expected: Expected) -> Gate:
    return Gate(
        key="transfer",
        title="The house's own panel, circuit by circuit",
        why="The inverter is proven; each circuit comes to it alone.",
        precautions=precautions(Danger.BACK_FEED),
        do=(
            "Every circuit breaker open; see that no other supply"
            + (", a generator's plug least of all," if expected.design.charging.generator is not None else "")
            + " can reach the panel by another way.",
            "Close the feeder, then one circuit after the other, motors first.",
        ),
        asks=(
            _outlet(expected, "outlet_v", "At the panel, every circuit on"),
            *_by_legs(expected, "transfer", "Panel"),
            *_relay_bond(expected),
            *_residual_current(expected),
        ),
        legs=_leg_keys(expected),
        needs=("inverter", "grounds"),
        skipping="A crossed circuit, found by whoever touches it.",
    )


def _grounds_present(expected: Expected) -> bool:
    return "grounds" in joined_needs(expected)


def _transfer(expected: Expected) -> Gate:
    design = expected.design
    dead = expected.dead_volts("Grid side", unit_output_v(design))
    asks = [
        asked("transfer.backfeed_v", "Grid side of the change-over, on backup", ReadingUnit.VOLTS, "line to neutral, main breaker open and locked",
              dead, never=(never(NeverKind.BACK_FED, low=dead[0].low, high=dead[0].high),)),
        _outlet(expected, "outlet_v", "At the backed-up side, on backup"),
        *_by_legs(expected, "transfer", "Backed-up side"),
        *_relay_bond(expected),
        *_residual_current(expected),
    ]  # fmt: skip
    gap = gap_s(design)
    if gap is not None and 0 < gap <= 60:
        figure = Figure(
            label="Gap", value=gap, unit="s", formula="the change-over's own gap", terms=(Term(name="by the design", value=gap, unit="s"),),
            basis="The maker's figure, or the usual one of its kind",
        )  # fmt: skip
        asks.append(
            asked("transfer.gap_s", "Gap at the change-over", ReadingUnit.SECONDS, "by a clock that stays on, or by a film of a lamp",
                  (Window(gap, 0.0, max(2 * gap, gap + 1.0)), figure), is_optional=True, decimals=2)
        )  # fmt: skip
    return Gate(
        key="transfer",
        title="Change-over, with the grid safely off",
        why="First dead against dead; the grid comes back when nothing reaches it.",
        precautions=precautions(Danger.BACK_FEED),
        do=(
            "Licensed electrician. Main breaker open and locked, the line side proven by meter.",
            "To backup: both positions cannot be closed at once. Tried with the handles, not believed.",
            "Every backed-up circuit runs; every other is dead. Then back, the grid on, and once more as in an outage.",
            *(
                ("The test button of each residual-current device trips it, on grid and on backup.",)
                if expected.hertz == 50.0
                else ()
            ),
        ),
        asks=tuple(asks),
        legs=_leg_keys(expected),
        needs=("inverter", "grounds", *(("interlock",) if has_interlock(design) else ())),
        skipping="The first real outage is the test, with a line worker at the other end.",
    )


def _generator(expected: Expected) -> Gate:
    design = expected.design
    generator = design.charging.generator
    assert generator is not None
    run = expected.plan.find("generator")
    far = distance_short(design, 6.0)
    asks = []
    if run is not None:
        asks.append(
            asked("generator.v", "Its volts", ReadingUnit.VOLTS, "at the inlet, warm, loaded", expected.supply_volts("Generator", run.run.volts_v))
        )  # fmt: skip
    asks.append(
        asked(
            "generator.hz",
            "Its frequency",
            ReadingUnit.HERTZ,
            "at half load",
            expected.hertz_of("Frequency", GENERATOR_HZ_FRAC),
        )
    )
    if generator.charger_w > 0:
        asks.append(
            asked("generator.a", "Its charger into the bank", ReadingUnit.AMPS, "battery monitor, loads off",
                  expected.charger_amps("Charger", generator.charger_w))
        )  # fmt: skip
    needs = ["settings"]
    if design.inverter.rated_w > 0:
        needs.append("inverter")
    if design.transfer.arrangement is not None and design.inverter.rated_w > 0:
        needs.append("transfer")
    return Gate(
        key="generator",
        title="Generator, outdoors, under load",
        why="Its supply meets a change-over that is proven.",
        precautions=precautions(Danger.FUMES),
        do=(
            f"Outdoors, {far} from doors, windows and vents, exhaust away; carbon-monoxide alarms indoors tried at their buttons.",
            "Start, five minutes warm, then half its rating for half an hour. Fuel before and after noted.",
        ),
        asks=tuple(asks),
        needs=tuple(needs),
        skipping="A generator that has never carried what it is for.",
    )


def _held_back(expected: Expected) -> tuple[Window, Figure]:
    """Frequency by which a battery inverter that leads an array makes it give less."""
    low, high = (1 + each for each in SHIFT_FRAC)
    hertz = expected.hertz
    middle = hertz * (low + high) / 2
    return Window(middle, hertz * low, hertz * high), Figure(
        label="Frequency, held back", value=middle, unit="Hz", formula="raised until the array gives less, and at last lets go",
        terms=(
            Term(name="begins, at least", value=hertz * low, unit="Hz"),
            Term(name="lets go, at most", value=hertz * high, unit="Hz"),
        ), basis="IEEE 1547 and EN 50549-1 (from memory); both inverters' settings decide",
    )  # fmt: skip


def _coupled(expected: Expected) -> Gate:
    return Gate(
        key="coupled",
        title="The grid-tied array led by the battery inverter",
        why="On backup it has to follow, and to give way.",
        precautions=precautions(Danger.UNLED_ARRAY),
        do=(
            "On backup, in sun, the bank below nine tenths: the grid-tied inverter joins after its waiting time.",
            "Take the loads off: its power falls before the bank's volts reach the over-voltage limit. Watch until it has.",
            "With the bank full it is held back or switched off, and comes back below the limit set.",
        ),
        asks=(
            asked("coupled.hz", "Frequency, joined and not held back", ReadingUnit.HERTZ, "on backup", expected.hertz_of("Frequency", INVERTER_HZ_FRAC)),
            asked("coupled.held_hz", "Frequency, held back", ReadingUnit.HERTZ, "on backup, loads off, the bank nearly full", _held_back(expected),
                  is_optional=True, decimals=2),
        ),
        needs=("transfer", "settings"),
        skipping="A bank over-charged by an array that nobody leads.",
    )  # fmt: skip
