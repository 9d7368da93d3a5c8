"""The drill card: from grid to backup and back, in order, with what is checked at each step and what is never done."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.design import ArrangementKind, Bypass, Design, Interlock
from hearthkeep.core.transfer.fates import Fate, Fates
from hearthkeep.core.words import shortened, some_of


@dataclass(frozen=True, kw_only=True, slots=True)
class DrillStep:
    """One step: what to do, what must be seen before the next, and what must not be done."""

    do: str
    check: str
    never: str


@dataclass(frozen=True, kw_only=True, slots=True)
class DrillCard:
    """Both ways, and what holds throughout."""

    to_backup: tuple[DrillStep, ...]
    to_grid: tuple[DrillStep, ...]
    #: Around the inverter; empty where there is no bypass.
    to_bypass: tuple[DrillStep, ...]
    #: What the ways are called, in that order.
    titles: tuple[str, str, str]
    throughout: tuple[str, ...]


def _step(do: str, check: str = "", never: str = "") -> DrillStep:
    return DrillStep(do=do, check=check, never=never)


_OUTSIDE = "A generator runs outdoors, 6 m (20 ft) from doors, windows and vents, with carbon-monoxide alarms indoors."
_LINE = "Never a cord from the supply into an outlet of the house: it makes the line in the street live."
_ALONE = "There is no utility to call: who lives here knows this card, and where every disconnect is."
_TITLES = ("From grid to backup", "Back to the grid", "Around the inverter, for service")
_TITLES_ALONE = ("From dark to running", "Shut down, for service or in danger", "Around the inverter, for service")
_WORKERS = "The grid may come back at any moment, and somebody may be working on the line."


def drill_card(design: Design, fates: Fates) -> DrillCard | None:
    """The drill card of the chosen arrangement; none without one."""
    kind = design.transfer.arrangement
    if kind is None:
        return None
    to_backup, to_grid = _WAYS[kind](design, fates)
    alone = design.site.off_grid or kind is ArrangementKind.OWN_PANEL
    throughout = [_ALONE] if alone else [_WORKERS, _LINE]
    if design.charging.generator is not None:
        throughout.append(_OUTSIDE)
    return DrillCard(
        to_backup=to_backup,
        to_grid=to_grid,
        to_bypass=_bypass(design, kind),
        titles=_TITLES_ALONE if alone else _TITLES,
        throughout=tuple(throughout),
    )


Ways = tuple[tuple[DrillStep, ...], tuple[DrillStep, ...]]


def _named(design: Design, fates: Fates) -> str:
    """The backed-up circuits by the number on their handle and by name: positions of a switch of its own, else slots of the panel."""
    names = {circuit.id: shortened(circuit.name, 32) for circuit in design.transfer.circuits}
    on_switch = design.transfer.arrangement is ArrangementKind.MANUAL_SWITCH
    there = sorted(
        (state.positions if on_switch and state.positions else state.slots[:1], names[state.id])
        for state in fates.circuits
        if state.fate is Fate.CARRIED
    )
    return some_of([f"{'+'.join(map(str, handle))} {name}" for handle, name in there], most=12) or "the circuits"


def _largest_first(design: Design, fates: Fates) -> str:
    """Circuits with motors, the largest start first, by name."""
    left_out = fates.left_out
    starts = {
        load.name: load.quantity * (load.start_w or 0)
        for load in design.loads
        if load.supply.is_ac and (load.start_w or 0) > load.running_w and load.id not in left_out
    }
    return ", ".join(sorted(starts, key=lambda name: -starts[name])[:4])


def _by_cord(design: Design, fates: Fates) -> Ways:
    metric = design.transfer.arrangement is ArrangementKind.PORTABLE_METRIC
    first = (
        (
            _step(
                "Press the test button of the residual-current protection.",
                "It trips, and closes again.",
                "Do not use the unit if it does not trip.",
            ),
        )
        if metric
        else ()
    )
    starters = _largest_first(design, fates)
    return (
        (
            _step("Switch the unit on, nothing plugged in.", "Its display shows voltage and charge.", ""),
            *first,
            _step(
                "Run heavy cords, unrolled, where nobody trips or drives over them.",
                "No cord is warm or pinched.",
                "No cord through water, under a rug or through a closed door.",
            ),
            _step(
                f"Plug in one load after the other{', those with motors first: ' + starters if starters else ''}.",
                "The display stays below the rating after each.",
                "" if design.site.off_grid else _LINE,
            ),
        ),
        _shut_down(design)
        if design.site.off_grid
        else (
            _step("Wait until the grid has stood for a few minutes.", "A lamp on the grid burns steadily.", ""),
            _step("Plug the loads back into the wall, one by one.", "Each runs.", ""),
            _step("Switch the unit off and put it on charge.", "It charges.", ""),
        ),
    )


def _shut_down(design: Design) -> tuple[DrillStep, ...]:
    """A portable unit where there is no grid to go back to."""
    sun = "the sun" if design.charging.arrays else "its charger"
    return (
        _step("Switch the loads off and unplug them, one by one.", "The display shows nothing drawn.", ""),
        _step(f"Switch the unit off; leave it on {sun}.", "It charges.", ""),
    )


def _by_inlet(design: Design, fates: Fates) -> Ways:
    locked = design.transfer.device.interlock is Interlock.MECHANICAL
    starters = _largest_first(design, fates)
    return (
        (
            _step("Switch every branch breaker off.", "All are off.", ""),
            _step(
                "Switch the main breaker off.", "Its handle is at OFF.", "Do not force the interlock." if locked else ""
            ),
            _step(
                "Join cord and inlet, then start the supply and let it settle.",
                "Its voltage is right.",
                "The cord is never live before it is plugged in.",
            ),
            _step("Slide the interlock and close the inlet breaker.", "The main cannot be closed.", "")
            if locked
            else _step(
                "Close the inlet breaker.",
                "The main is still off.",
                "Never close the main: nothing keeps the two apart.",
            ),
            _step(
                f"Close the planned breakers one by one: {_named(design, fates)}.",
                f"The supply carries each{'; motors first: ' + starters if starters else ''}.",
                "Do not close a breaker that is not planned.",
            ),
        ),
        (
            _step("See from a neighbour or the meter that the grid is back, and wait ten minutes.", "It stays.", ""),
            _step("Switch the planned breakers off, then the inlet breaker.", "The inlet breaker is off.", ""),
            _step("Slide the interlock back and close the main breaker.", "The inlet cannot be closed.", _WORKERS)
            if locked
            else _step("Close the main breaker.", "The inlet breaker is still off.", _WORKERS),
            _step("Close the branch breakers one by one; stop the supply.", "The house runs on the grid.", ""),
        ),
    )


def _by_switch(design: Design, fates: Fates) -> Ways:
    by_inlet = design.transfer.device.by_inlet
    return (
        (
            _step("Set every switch of the transfer switch to OFF.", "All stand in the middle.", ""),
            _step(
                "Join cord and inlet, then start the supply." if by_inlet else "Start the supply.",
                "Its voltage is right.",
                "The cord is never live before it is plugged in." if by_inlet else "",
            ),
            _step(
                f"Set one switch after the other to BACKUP: {_named(design, fates)}.",
                "The meters of both legs stay within the supply's rating.",
                "Do not defeat a tie between two handles: they are one 240 V circuit or share a neutral.",
            ),
        ),
        (
            _step("Wait until the grid has stood for ten minutes.", "A lamp on a grid circuit burns steadily.", ""),
            _step("Set each switch to OFF, then to LINE.", "Each circuit runs.", "Never pass OFF in one sweep."),
            _step(
                "Stop the supply and take the cord away." if by_inlet else "Stop the supply.",
                "The inlet is covered." if by_inlet else "",
                "",
            ),
        ),
    )


def _by_itself(design: Design, fates: Fates) -> Ways:
    coupled = design.transfer.arrangement is ArrangementKind.AC_COUPLED
    moved = design.transfer.arrangement is ArrangementKind.MOVED_CIRCUITS
    sun = (
        (
            _step(
                "By day look at the array's inverter.",
                "It comes on within five minutes, and gives way when the bank is full.",
                "Do not reset it again and again: it waits for a steady supply.",
            ),
        )
        if coupled
        else ()
    )
    return (
        (
            _step(
                "Nothing: the unit carries its circuits already."
                if moved
                else "Nothing: the change-over happens by itself.",
                "The display says that the grid is out and the circuits are carried.",
                "Do not touch the main breaker to help it.",
            ),
            *sun,
            _step("Switch off by hand what is not needed.", f"Carried: {_named(design, fates)}.", ""),
        ),
        (
            _step(
                "Nothing: the circuits stay on the unit, grid or no grid."
                if moved
                else "Nothing: the unit waits until the grid is steady, then goes back.",
                "The display shows the grid.",
                "",
            ),
            *_charges_again(design, moved=moved),
        ),
    )


def _charges_again(design: Design, *, moved: bool) -> tuple[DrillStep, ...]:
    """That the bank is filled again, by what the design has for it."""
    if design.charging.grid_charger.output_w > 0:
        within = "" if moved else "; the relay's current stays within its rating"
        return (_step("See that the bank charges.", f"Charge rises{within}.", ""),)
    if design.charging.arrays:
        return (_step("See by day that the sun fills the bank.", "Charge rises.", ""),)
    return ()


def _whole_house(design: Design, fates: Fates) -> Ways:
    return (
        (
            _step("Nothing: the switch starts and changes over by itself.", "Its lamp shows EMERGENCY.", ""),
            _step("Switch off by hand what is not needed.", "The supply's load is below its rating.", ""),
        ),
        (
            _step(
                "Nothing: it goes back when the grid is steady.", "Its lamp shows NORMAL.", "Do not lock it in place."
            ),
        ),
    )


def _alone(design: Design, fates: Fates) -> Ways:
    starters = _largest_first(design, fates)
    generator = design.charging.generator
    on_generator = (
        (
            _step(
                "If the bank is empty, start the generator outdoors and let it charge first.",
                "The bank takes current, and rises.",
                "Do not switch the house on before the bank is above its floor.",
            ),
        )
        if generator is not None
        else ()
    )
    return (
        (
            _step("Open every branch breaker of the panel.", "All are off.", ""),
            _step(
                "Precharge the inverter, then close the bank's disconnect.",
                "No spark; the display comes on.",
                "Do not close it against an empty capacitor.",
            ),
            *(
                (_step("Close the disconnects of the arrays.", "The controllers find bank and sun.", ""),)
                if design.charging.arrays
                else ()
            ),
            *on_generator,
            _step("Switch the inverter on and close its output breaker.", "Its voltage is right.", ""),
            _step(
                f"Close the branch breakers one by one: {_named(design, fates)}.",
                f"The display stays below the rating after each{'; motors first: ' + starters if starters else ''}.",
                "",
            ),
        ),
        (
            _step("Stop the generator and switch off large loads.", "The house draws little.", "")
            if generator is not None
            else _step("Switch off large loads.", "The house draws little.", ""),
            _step("Switch the inverter off and open its output breaker.", "The panel is dead.", ""),
            _step(
                "Open the disconnects of the arrays, then that of the bank.",
                "Arrays first: the controllers keep the bank as their load until then.",
                "Never unplug a solar connector under load.",
            )
            if design.charging.arrays
            else _step("Open the disconnect of the bank.", "The inverter's display is dark.", ""),
            _step(
                "Wait five minutes, then measure before anything is touched.",
                "Capacitors discharged"
                + ("; the panels' side is live as long as there is light." if design.charging.arrays else "."),
                "",
            ),
        ),
    )


_WAYS = {
    ArrangementKind.CORDS: _by_cord,
    ArrangementKind.PORTABLE_METRIC: _by_cord,
    ArrangementKind.INLET: _by_inlet,
    ArrangementKind.MANUAL_SWITCH: _by_switch,
    ArrangementKind.CRITICAL_PANEL: _by_itself,
    ArrangementKind.MOVED_CIRCUITS: _by_itself,
    ArrangementKind.AC_COUPLED: _by_itself,
    ArrangementKind.AUTOMATIC: _whole_house,
    ArrangementKind.OWN_PANEL: _alone,
}


def _bypass(design: Design, kind: ArrangementKind) -> tuple[DrillStep, ...]:
    if design.transfer.device.bypass is Bypass.NONE or kind not in (
        ArrangementKind.CRITICAL_PANEL,
        ArrangementKind.AC_COUPLED,
        ArrangementKind.MOVED_CIRCUITS,
    ):
        return ()
    return (
        _step("Switch the inverter off at its own switch.", "Its output is dead.", ""),
        _step(
            "Open its output breaker.",
            "The breaker is off.",
            "Never close the bypass while the inverter makes a supply.",
        ),
        _step("Close the bypass.", "The circuits run on the grid.", ""),
        _step(
            "Open the inverter's input and the bank's disconnect before anybody opens it.",
            "Measured dead; capacitors discharged.",
            "",
        ),
    )
