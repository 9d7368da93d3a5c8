"""
Everything off for service, the few handles that matter in danger, and from everything off to running, of any design.

The order is common practice, no source: what draws first, then the inverter, then what charges, the bank last; back in the
opposite order. The makers' own order goes before it where it differs.
"""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.design import ArrangementKind, Bypass, Chemistry, Design, OpenedBy
from hearthkeep.core.switching.openings import (
    arrays_never_opened,
    arrays_of,
    bank_opened_by,
    has_breaker,
    other_chargers,
    shut_down_by_switch,
)
from hearthkeep.core.switching.ways import NOTHING, Step, Way, WayKind, step, way
from hearthkeep.core.transfer import CORDS, Fate, Fates, is_coupled
from hearthkeep.core.wiring import RunKind, WiringPlan
from hearthkeep.core.words import Names, Sentence, sentence, shortened

LINE = sentence("Never a cord from the supply into an outlet of the house: it makes the line in the street live.")
#: Circuits or devices named in one step.
MOST_NAMED = 12


def service_way(design: Design, plan: WiringPlan) -> Way:
    """Everything off before anybody works on it, with what stays live."""
    return way(WayKind.SERVICE, tuple(_service(design, plan)))


def start_way(design: Design, fates: Fates, plan: WiringPlan) -> Way:
    """From everything off to running."""
    return way(WayKind.START, tuple(_start(design, fates, plan)))


def danger_way(design: Design, plan: WiringPlan) -> Way:
    """The few handles that matter in danger."""
    return way(WayKind.DANGER, tuple(_danger(design, plan)))


# --- everything off


def _service(design: Design, plan: WiringPlan) -> Iterator[Step]:
    generator = design.charging.generator
    if generator is not None:
        yield step(sentence("Stop the generator and switch off what draws much."), sentence("The house draws little."))
    else:
        yield step(sentence("Switch off what draws much."), sentence("Little is drawn."))
    if design.inverter.rated_w > 0:
        yield from _inverter_off(design, plan)
    coupled = plan.find("coupled")
    if coupled is not None and is_coupled(design):
        yield (
            step(sentence("Open the breaker of the grid-tied inverter."), sentence("Its display is dark."))
            if has_breaker(coupled)
            else step(sentence("Switch off at its own switch: {name}. Nothing opens its run.", name=shortened(coupled.run.label)))
        )  # fmt: skip
    yield from _sun_off(design, plan)
    for label, opens in other_chargers(plan):
        name = shortened(label)
        yield (
            step(sentence("Switch off and open: {name}.", name=name), sentence("No current flows into the bank."))
            if opens
            else step(sentence("Switch off at its own switch: {name}. Nothing opens its run.", name=name))
        )
    yield _bank_off(design, plan)
    yield step(
        sentence("Wait five minutes, then measure before anything is touched."),
        # Where nothing opens the bank, what is joined to it stays as it was.
        NOTHING if bank_opened_by(design, plan) is None else sentence("Below 2 V where the work is."),
        _stays_live(design, plan),
    )


def _inverter_off(design: Design, plan: WiringPlan) -> Iterator[Step]:
    panel = plan.find("panel")
    outlets = design.transfer.arrangement in (None, *CORDS)
    if outlets or not has_breaker(panel):
        dead = sentence("Its outlets are dead.") if outlets else sentence("What it feeds is dead.")
        yield step(sentence("Switch the inverter off at its own switch."), dead)
    else:
        yield step(
            sentence("Switch the inverter off at its own switch and open its output breaker."),
            sentence("What it feeds is dead."),
            sentence("Never close the bypass while the inverter makes a supply.")
            if plan.find("bypass") is not None and design.transfer.device.bypass is Bypass.LOOSE
            else NOTHING,
        )
    if has_breaker(plan.find("grid")):
        yield step(
            sentence("Pull its plug out of the grid's outlet.")
            if design.transfer.arrangement in CORDS
            else sentence("Open the breaker that feeds its grid input."),
            sentence("The display shows no grid."),
        )


def _sun_off(design: Design, plan: WiringPlan) -> Iterator[Step]:
    if shut_down_by_switch(design):
        yield step(
            sentence("Switch the rapid shutdown to OFF."),
            sentence("Within 30 s the wires outside the array are down to 30 V."),
        )
    by_switch, by_plug = arrays_of(design, plan, OpenedBy.SWITCH), arrays_of(design, plan, OpenedBy.PLUG)
    if by_switch:
        yield step(
            sentence("Open the disconnects: {names}.", names=Names(by_switch, MOST_NAMED)),
            sentence("The controllers show no sun; the bank stays their load until then."),
        )
    if by_plug:
        yield step(
            sentence("Cover the panels or wait for the night, then pull the plugs: {names}.", names=Names(by_plug, MOST_NAMED)),
            sentence("Their contacts are capped."),
            sentence("Never pull a solar connector under load."),
        )  # fmt: skip
    never = arrays_never_opened(design, plan)
    if never:
        yield step(
            sentence("Cover the panels, nothing opens them: {names}.", names=Names(never, MOST_NAMED)),
            sentence("The controllers show no sun."),
        )


def _bank_off(design: Design, plan: WiringPlan) -> Step:
    opened_by = bank_opened_by(design, plan)
    if opened_by is None:
        return step(
            sentence("Nothing that was entered opens the bank: treat everything up to its posts as live."),
            NOTHING,
            sentence("No lug is loosened while anything draws or charges."),
        )
    return step(
        sentence("Open {what}, lock it where it can be locked, and tag it.", what=opened_by),
        sentence("No display is lit."),
    )


def _stays_live(design: Design, plan: WiringPlan) -> Sentence:
    """What stays live when everything is open."""
    has_sun = any(each.run.kind is RunKind.ARRAY for each in plan.runs) or plan.find("coupled") is not None
    grid = not design.site.off_grid and plan.find("grid") is not None and design.transfer.arrangement not in CORDS
    if has_sun and grid:
        return sentence("Still live: the bank's posts, the panels' side by daylight, the grid's side of its breaker.")
    if has_sun:
        return sentence("Still live: the bank's posts, and the panels' side by daylight.")
    if grid:
        return sentence("Still live: the bank's posts, and the grid's side of its breaker.")
    return sentence("Still live: the bank's posts.")


# --- from everything off to running


def _start(design: Design, fates: Fates, plan: WiringPlan) -> Iterator[Step]:
    alone = design.transfer.arrangement is ArrangementKind.OWN_PANEL
    yield step(
        sentence("Open every branch breaker of the panel.") if alone else sentence("Switch off everything it feeds."),
        sentence("All are off, and nobody is at work on it."),
    )
    yield from bank_on(design, plan)
    by_switch, by_plug = arrays_of(design, plan, OpenedBy.SWITCH), arrays_of(design, plan, OpenedBy.PLUG)
    if by_switch or by_plug or arrays_never_opened(design, plan):
        yield step(_sun_on(by_switch, by_plug), sentence("The controllers find bank and sun."))
    for label, _ in other_chargers(plan):
        yield step(sentence("Switch on again: {name}.", name=shortened(label)), sentence("It shows the bank's volts."))
    if design.charging.generator is not None and design.site.off_grid:
        yield step(
            sentence("If the bank is empty, start the generator outdoors and let it charge first."),
            sentence("The bank takes current, and rises."),
            sentence("Do not switch the house on before the bank is above its floor."),
        )
    if design.inverter.rated_w > 0:
        yield from _inverter_on(design, plan)
    if design.transfer.arrangement in CORDS:
        yield from cord_steps(design, fates)
    else:
        yield _loads_on(design, fates, alone=alone)


def cord_steps(design: Design, fates: Fates) -> Iterator[Step]:
    """How loads come to a unit by cords, once it runs."""
    if design.transfer.grounding.residual_current:
        yield step(
            sentence("Press the test button of the residual-current protection."),
            sentence("It trips, and closes again."),
            sentence("Do not use the unit if it does not trip."),
        )
    yield step(
        sentence("Run heavy cords, unrolled, where nobody trips or drives over them."),
        sentence("No cord is warm or pinched."),
        sentence("No cord through water, under a rug or through a closed door."),
    )
    starters = largest_first(design, fates)
    yield step(
        sentence("Plug in one load after the other, those with motors first: {names}.", names=Names(starters, 4))
        if starters
        else sentence("Plug in one load after the other."),
        sentence("The display stays below the rating after each."),
        NOTHING if design.site.off_grid else LINE,
    )


def bank_on(design: Design, plan: WiringPlan) -> Iterator[Step]:
    """How the bank is closed onto what hangs behind it, through the resistor where that is needed."""
    opened_by, precharge = bank_opened_by(design, plan), plan.precharge
    if opened_by is None:
        return
    if precharge is not None and precharge.is_needed:
        yield step(
            sentence(
                "Fill the inverter's capacitors through {ohm} Ω for {seconds} s, then close {what}.",
                ohm=f"{precharge.resistor_ohm:g}", seconds=f"{max(precharge.seconds_s, 1.0):.0f}", what=opened_by,
            ),
            sentence("No spark."),
            sentence("Do not close it against an empty capacitor."),
        )  # fmt: skip
    else:
        yield step(sentence("Close {what}.", what=opened_by), sentence("The displays come on."))


def _sun_on(by_switch: tuple[str, ...], by_plug: tuple[str, ...]) -> Sentence:
    if by_switch and by_plug:
        return sentence("Close the disconnects of the arrays, and join the plugs of the others.")
    if by_switch:
        return sentence("Close the disconnects of the arrays.")
    return sentence("Join the plugs of the panels.") if by_plug else sentence("Uncover the panels.")


def _inverter_on(design: Design, plan: WiringPlan) -> Iterator[Step]:
    if has_breaker(plan.find("grid")):
        yield step(
            sentence("Plug it into the grid's outlet again, where the grid is there.")
            if design.transfer.arrangement in CORDS
            else sentence("Close the breaker that feeds the inverter's grid input."),
            sentence("The display shows the grid, where it is there."),
        )
    wired = design.transfer.arrangement not in (None, *CORDS) and has_breaker(plan.find("panel"))
    yield step(
        sentence("Switch the inverter on and close its output breaker.") if wired else sentence("Switch the inverter on."),
        sentence("Its voltage is right."),
    )  # fmt: skip
    coupled = plan.find("coupled")
    if coupled is not None and is_coupled(design):
        yield step(
            sentence("Close the breaker of the grid-tied inverter.")
            if has_breaker(coupled)
            else sentence("Switch on again: {name}.", name=shortened(coupled.run.label)),
            sentence("It comes on within five minutes."),
        )


def _loads_on(design: Design, fates: Fates, *, alone: bool) -> Step:
    starters = largest_first(design, fates)
    names = handles(design, fates) if alone else ()
    check = (
        sentence("The display stays below the rating after each; motors first: {names}.", names=Names(starters, 4))
        if starters
        else sentence("The display stays below the rating after each.")
    )
    if names:
        return step(sentence("Close the branch breakers one by one: {names}.", names=Names(names, MOST_NAMED)), check)
    return step(sentence("Switch on one load after the other."), check)


def handles(design: Design, fates: Fates) -> tuple[str, ...]:
    """The backed-up circuits by the number on their handle and by name: positions of a switch of its own, else slots of the panel."""
    names = {circuit.id: shortened(circuit.name, 32) for circuit in design.transfer.circuits}
    on_switch = design.transfer.arrangement is ArrangementKind.MANUAL_SWITCH
    there = sorted(
        (state.positions if on_switch and state.positions else state.slots[:1], names[state.id])
        for state in fates.circuits
        if state.fate is Fate.CARRIED
    )
    return tuple(f"{'+'.join(map(str, handle))} {name}" for handle, name in there)


def largest_first(design: Design, fates: Fates) -> tuple[str, ...]:
    """Carried loads with motors, the largest start first, by name."""
    left_out = fates.left_out
    starts = {
        load.name: load.quantity * (load.start_w or 0)
        for load in design.loads
        if load.supply.is_ac and (load.start_w or 0) > load.running_w and load.id not in left_out
    }
    return tuple(sorted(starts, key=lambda name: -starts[name])[:4])


# --- in danger


def _danger(design: Design, plan: WiringPlan) -> Iterator[Step]:
    yield step(
        sentence("Everybody out of the room; call the emergency number."),
        NOTHING,
        sentence("Never go back for a handle through smoke or standing water."),
    )
    if shut_down_by_switch(design):
        yield step(sentence("From outside: the rapid shutdown switch to OFF."))
    if design.charging.generator is not None:
        yield step(sentence("Stop the generator where it stands."))
    if design.inverter.rated_w > 0:
        yield step(sentence("Only if it can be reached safely: the inverter off at its own switch."))
    opened_by = bank_opened_by(design, plan)
    if opened_by is not None:
        yield step(sentence("Only if it can be reached safely: open {what}.", what=opened_by))
    by_switch = arrays_of(design, plan, OpenedBy.SWITCH)
    if by_switch:
        yield step(sentence("Open the disconnects of the panels, if they are out of danger."))
    yield step(
        sentence("Tell the fire service: {what}.", what=Names(_told(design, plan), 6)),
        NOTHING,
        sentence("A battery that hisses, smokes or swells is left alone, also after it seems out.")
        if design.bank.chemistry is Chemistry.LFP
        else sentence("No flame and no spark near the battery: its gas explodes, and its acid burns."),
    )


def _told(design: Design, plan: WiringPlan) -> tuple[str, ...]:
    """What those who come have to know."""
    bank = sentence(
        "a {chemistry} battery of {energy} kWh",
        energy=f"{design.bank.rated_wh / 1000:.1f}",
        chemistry=CHEMISTRY_WORDS[design.bank.chemistry is Chemistry.LFP],
    )
    found: list[str] = [bank]
    if any(each.run.kind is RunKind.ARRAY for each in plan.runs) or plan.find("coupled") is not None:
        found.append(sentence("solar panels, live whenever it is light"))
    if design.charging.generator is not None:
        found.append(sentence("a generator with its fuel"))
    return tuple(found)


CHEMISTRY_WORDS = {True: sentence("lithium"), False: sentence("lead-acid")}
