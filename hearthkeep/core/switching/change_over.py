"""From grid to backup and back, and around the inverter, by the chosen arrangement."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from hearthkeep.core.design import ArrangementKind, Bypass, Design, Interlock
from hearthkeep.core.switching.openings import bank_opened_by, has_breaker
from hearthkeep.core.switching.orders import MOST_NAMED, bank_on, cord_steps, handles, largest_first
from hearthkeep.core.switching.ways import NOTHING, Step, Way, WayKind, step, way
from hearthkeep.core.transfer import Fates, changes_over
from hearthkeep.core.wiring import WiringPlan
from hearthkeep.core.words import Names, Sentence, sentence

WORKERS = sentence("The grid may come back at any moment, and somebody may be working on the line.")
_Ways = tuple[tuple[Step, ...], tuple[Step, ...]]


def change_over_ways(design: Design, fates: Fates, plan: WiringPlan) -> Iterator[Way]:
    """Both ways of the change-over, and the one around the inverter; none where nothing changes over."""
    kind = design.transfer.arrangement
    if kind is None or not changes_over(design):
        return
    to_backup, to_grid = _WAYS[kind](design, fates, plan)
    yield way(WayKind.TO_BACKUP, to_backup)
    yield way(WayKind.TO_GRID, to_grid)
    around = _bypass(design, kind, plan)
    if around:
        yield way(WayKind.BYPASS, around)


def _planned(design: Design, fates: Fates) -> str | Names:
    there = handles(design, fates)
    return Names(there, MOST_NAMED) if there else sentence("the circuits")


def _by_cord(design: Design, fates: Fates, plan: WiringPlan) -> _Ways:
    # A unit with grid input stays on: its bank is not switched off between outages.
    closes = tuple(bank_on(design, plan)) if plan.find("grid") is None else ()
    has_unit = design.inverter.rated_w > 0
    switch_on = step(
        sentence("Switch the unit on, nothing plugged in."), sentence("Its display shows voltage and charge.")
    )
    opened_by = bank_opened_by(design, plan) if closes else None
    return (*closes, *((switch_on,) if has_unit else ()), *cord_steps(design, fates)), (
        step(sentence("Wait until the grid has stood for a few minutes."), sentence("A lamp on the grid burns steadily.")),
        step(sentence("Plug the loads back into the wall, one by one."), sentence("Each runs.")),
        *((step(sentence("Switch the unit off.")),) if has_unit else ()),
        *((step(sentence("Open {what}.", what=opened_by), sentence("No display is lit.")),) if opened_by else ()),
        *_charges_again(design, moved=True),
    )  # fmt: skip


def _by_inlet(design: Design, fates: Fates, plan: WiringPlan) -> _Ways:
    locked = design.transfer.device.interlock is Interlock.MECHANICAL
    by_inlet = design.transfer.device.by_inlet
    starters = largest_first(design, fates)
    return (
        (
            step(sentence("Switch every branch breaker off."), sentence("All are off.")),
            step(
                sentence("Switch the main breaker off."),
                sentence("Its handle is at OFF."),
                sentence("Do not force the interlock.") if locked else NOTHING,
            ),
            _supply_on(by_inlet=by_inlet),
            step(
                sentence("Slide the interlock and close the breaker of the supply."),
                sentence("The main cannot be closed."),
            )
            if locked
            else step(
                sentence("Close the breaker of the supply."),
                sentence("The main is still off."),
                sentence("Never close the main: nothing keeps the two apart."),
            ),
            step(
                sentence("Close the planned breakers one by one: {names}.", names=_planned(design, fates)),
                sentence("The supply carries each; motors first: {names}.", names=Names(starters, 4))
                if starters
                else sentence("The supply carries each."),
                sentence("Do not close a breaker that is not planned."),
            ),
        ),
        (
            step(sentence("See from a neighbour or the meter that the grid is back, and wait ten minutes."), sentence("It stays.")),
            step(sentence("Switch the planned breakers off, then the breaker of the supply."), sentence("All are off.")),
            step(sentence("Slide the interlock back and close the main breaker."), sentence("The breaker of the supply cannot be closed."), WORKERS)
            if locked
            else step(sentence("Close the main breaker."), sentence("The breaker of the supply is still off."), WORKERS),
            step(sentence("Close the branch breakers one by one; stop the supply."), sentence("The house runs on the grid.")),
        ),
    )  # fmt: skip


def _supply_on(*, by_inlet: bool) -> Step:
    if by_inlet:
        return step(
            sentence("Join cord and inlet, then start the supply and let it settle."),
            sentence("Its voltage is right."),
            sentence("The cord is never live before it is plugged in."),
        )
    return step(sentence("Start the supply and let it settle."), sentence("Its voltage is right."))


def _by_switch(design: Design, fates: Fates, plan: WiringPlan) -> _Ways:
    by_inlet = design.transfer.device.by_inlet
    two_legs = len(design.site.legs) > 1
    ties = any(circuit.poles == 2 or circuit.shares_neutral_with for circuit in design.transfer.circuits)
    return (
        (
            step(sentence("Set every switch of the transfer switch to OFF."), sentence("All stand in the middle.")),
            _supply_on(by_inlet=by_inlet),
            step(
                sentence("Set one switch after the other to BACKUP: {names}.", names=_planned(design, fates)),
                sentence("The meters of both legs stay within the supply's rating.")
                if two_legs
                else sentence("The supply's load stays within its rating."),
                sentence("Do not defeat a tie between two handles: they are one 240 V circuit or share a neutral.")
                if ties and two_legs
                else NOTHING,
            ),
        ),
        (
            step(
                sentence("Wait until the grid has stood for ten minutes."),
                sentence("A lamp on a grid circuit burns steadily."),
            ),
            step(
                sentence("Set each switch to OFF, then to LINE."),
                sentence("Each circuit runs."),
                sentence("Never pass OFF in one sweep."),
            ),
            step(sentence("Stop the supply and take the cord away."), sentence("The inlet is covered."))
            if by_inlet
            else step(sentence("Stop the supply.")),
        ),
    )


def _by_itself(design: Design, fates: Fates, plan: WiringPlan) -> _Ways:
    coupled = plan.find("coupled") is not None and design.transfer.arrangement is ArrangementKind.AC_COUPLED
    moved = design.transfer.arrangement is ArrangementKind.MOVED_CIRCUITS
    sun = (
        (
            step(
                sentence("By day look at the array's inverter."),
                sentence("It comes on within five minutes, and gives way when the bank is full."),
                sentence("Do not reset it again and again: it waits for a steady supply."),
            ),
        )
        if coupled
        else ()
    )
    return (
        (
            step(
                sentence("Nothing: the unit carries its circuits already.")
                if moved
                else sentence("Nothing: the change-over happens by itself."),
                sentence("The display says that the grid is out and the circuits are carried."),
                sentence("Do not touch the main breaker to help it."),
            ),
            *sun,
            step(
                sentence("Switch off by hand what is not needed."),
                sentence("Carried: {names}.", names=_planned(design, fates)),
            ),
        ),
        (
            step(
                sentence("Nothing: the circuits stay on the unit, grid or no grid.")
                if moved
                else sentence("Nothing: the unit waits until the grid is steady, then goes back."),
                NOTHING if plan.find("grid") is None else sentence("The display shows the grid."),
            ),
            *_charges_again(design, moved=moved),
        ),
    )


def _charges_again(design: Design, *, moved: bool) -> tuple[Step, ...]:
    """That the bank is filled again, by what the design has for it; `moved`: no relay carries house and charger together."""
    if design.charging.grid_charger.output_w > 0:
        rises = (
            sentence("Charge rises.")
            if moved
            else sentence("Charge rises; the relay's current stays within its rating.")
        )
        return (step(sentence("See that the bank charges."), rises),)
    if design.charging.controllers:
        return (step(sentence("See by day that the sun fills the bank."), sentence("Charge rises.")),)
    return ()


def _whole_house(design: Design, fates: Fates, plan: WiringPlan) -> _Ways:
    return (
        (
            step(
                sentence("Nothing: the switch starts and changes over by itself."),
                sentence("Its lamp shows EMERGENCY."),
            ),
            step(
                sentence("Switch off by hand what is not needed."),
                sentence("The supply's load is below its rating."),
            ),
        ),
        (
            step(
                sentence("Nothing: it goes back when the grid is steady."),
                sentence("Its lamp shows NORMAL."),
                sentence("Do not lock it in place."),
            ),
        ),
    )


_WAYS: dict[ArrangementKind, Callable[[Design, Fates, WiringPlan], _Ways]] = {
    ArrangementKind.CORDS: _by_cord,
    ArrangementKind.PORTABLE_METRIC: _by_cord,
    ArrangementKind.INLET: _by_inlet,
    ArrangementKind.MANUAL_SWITCH: _by_switch,
    ArrangementKind.CRITICAL_PANEL: _by_itself,
    ArrangementKind.MOVED_CIRCUITS: _by_itself,
    ArrangementKind.AC_COUPLED: _by_itself,
    ArrangementKind.AUTOMATIC: _whole_house,
}


def _bypass(design: Design, kind: ArrangementKind, plan: WiringPlan) -> tuple[Step, ...]:
    if design.transfer.device.bypass is Bypass.NONE or kind not in (
        ArrangementKind.CRITICAL_PANEL,
        ArrangementKind.AC_COUPLED,
        ArrangementKind.MOVED_CIRCUITS,
    ):
        return ()
    opened_by = bank_opened_by(design, plan)
    return (
        step(sentence("Switch the inverter off at its own switch."), sentence("Its output is dead.")),
        *(
            (
                step(
                    sentence("Open its output breaker."),
                    sentence("The breaker is off."),
                    sentence("Never close the bypass while the inverter makes a supply."),
                ),
            )
            if has_breaker(plan.find("panel"))
            else ()
        ),
        step(sentence("Close the bypass."), sentence("The circuits run on the grid.")),
        step(
            _opened_up(plan, opened_by),
            sentence("Measured dead; capacitors discharged."),
        ),
    )


def _opened_up(plan: WiringPlan, opened_by: Sentence | None) -> Sentence:
    """What is opened before anybody opens the inverter itself."""
    has_input = plan.find("grid") is not None
    if opened_by is None and not has_input:
        return sentence("Nothing that was entered opens the bank: treat everything up to its posts as live.")
    if opened_by is None:
        return sentence("Open the inverter's input before anybody opens it; nothing that was entered opens the bank.")
    if has_input:
        return sentence("Open the inverter's input and {what} before anybody opens it.", what=opened_by)
    return sentence("Open {what} before anybody opens it.", what=opened_by)
