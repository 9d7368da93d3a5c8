"""The last gates: the sun, the first full charge, instruments, load test, labels, photographs, handing over."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from hearthkeep.core.building.dangers import precautions
from hearthkeep.core.building.dead_gates import asked
from hearthkeep.core.building.forbidden import never
from hearthkeep.core.building.gate import Ask, Danger, Gate, Never, NeverKind, ReadingUnit, Window
from hearthkeep.core.building.live_gates import charging_controllers
from hearthkeep.core.building.windows import Expected
from hearthkeep.core.design import Array, ControllerKind
from hearthkeep.core.figure import COMMON_PRACTICE, Figure, Term
from hearthkeep.core.practice import degrees
from hearthkeep.core.sources import stage_points
from hearthkeep.core.transfer import changes_over
from hearthkeep.core.wiring import placards_of
from hearthkeep.core.words import counted, some_of, watts

#: More strings of one array than this are measured by choice.
MOST_STRINGS_ASKED = 12
#: With less sun readings of arrays say nothing [W/m²]. Common practice, no source.
LEAST_SUN_W_M2 = 100.0
#: So warm no joint may get [°C]. Common practice, no source.
HOT_C = 90.0
#: Instruments on one bank agree within this for each 12 V [V]. Common practice, no source.
AGREE_V_PER_12 = 0.15


def sun_arrays(expected: Expected) -> tuple[Array, ...]:
    """Arrays that end at a disconnect of ours: on controllers, those that feed loads straight among them."""
    return tuple(array for controller in expected.design.charging.controllers for array in controller.arrays)


def last_gates(expected: Expected, before: Sequence[Gate]) -> Iterator[Gate]:
    """In the order in which they are passed; `before` are the gates that came before them."""
    there = [gate.key for gate in before]
    if sun_arrays(expected):
        yield _strings(expected, there)
        there.append("strings")
        yield _sun(expected, there)
        there.append("sun")
    shut = _shutdown(expected)
    if shut is not None:
        yield shut
        there.append("shutdown")
    chargers = [key for key in ("sun", "grid_charge", "others", "generator", "coupled") if key in there]
    if chargers and "settings" in there:
        yield _first_full(expected, chargers)
        there.append("first_full")
    yield _instruments(expected, there)
    if "inverter" in there:
        yield _load_test(expected)
        there.append("load_test")
    yield _labels(expected)
    yield _photos(expected)
    yield _handover(expected, [*there, "instruments", "labels", "photos"])


def string_keys(array: Array) -> tuple[str, ...]:
    """Keys of the strings of an array, as readings name them."""
    return tuple(f"{array.id}.{number}" for number in range(1, array.strings + 1))


def _of_string(expected: Expected, array: Array) -> tuple[Never, ...]:
    """What is never accepted of a string's volts."""
    most_v = next((each.max_input_v for each in expected.design.charging.controllers if array in each.arrays), None)
    over = () if most_v is None else (never(NeverKind.TOO_MANY_VOLTS, high=most_v),)
    return (never(NeverKind.REVERSED, low=-1.0), *over)


def _strings(expected: Expected, there: Sequence[str]) -> Gate:
    asks: list[Ask] = []
    limits = []
    for array in sun_arrays(expected):
        volts, amps = expected.open_volts(array), expected.short_amps(array)
        for at, key in enumerate(string_keys(array)):
            name = array.name if array.strings == 1 else f"{array.name}, string {at + 1}"
            asks.append(
                asked(f"strings.{key}_v", f"{name}: open", ReadingUnit.VOLTS, "at the open disconnect, a meter made for these volts", volts,
                      is_optional=at >= MOST_STRINGS_ASKED, never=_of_string(expected, array))
            )  # fmt: skip
            asks.append(
                asked(f"strings.{key}_a", f"{name}: shorted", ReadingUnit.AMPS,
                      "a clamp on a short made with a switch for direct current; only where you are used to it", amps,
                      is_optional=True, decimals=2)
            )  # fmt: skip
    for controller in expected.design.charging.controllers:
        if controller.max_input_v is not None:
            limits.append(f"{controller.name} takes {controller.max_input_v:g} V at most")
    told = expected.moment.sun_w_m2
    sun = max(expected.sun(array).expected for array in sun_arrays(expected))
    note = (
        f"Sun on the plane by hour and sky about {sun:.0f} W/m²."
        if told is None
        else f"Sun as measured, {told:.0f} W/m²."
    )
    if sun < 100:
        note += " That is too little to tell one fault from another: come back in brighter light."
    return Gate(
        key="strings",
        title="Strings, one by one, open",
        why="Each string is known before it meets another, and before a controller meets them.",
        precautions=precautions(Danger.LIT_PANELS),
        do=(
            "Polarity first, then volts, string by string; string fuses out.",
            *((f"{'; '.join(limits)}: a string above that is not connected.",) if limits else ()),
        ),
        now=_light(expected),
        asks=tuple(asks),
        needs=tuple(key for key in ("grounds", "devices", "mount") if key in there),
        skipping="A crossed string burns in its combiner; one panel too many ends the controller.",
    )


#: After the switch, the volts outside an array on a building fall below this within so long [V], [s]. NEC 690.12 (from memory).
SHUT_DOWN_V, SHUT_DOWN_S = 30.0, 30.0


def _shutdown(expected: Expected) -> Gate | None:
    """Rapid shutdown tried in the sun; none where no array has it."""
    asks = []
    for array in sun_arrays(expected):
        if not array.rapid_shutdown:
            continue
        figure = Figure(
            label=f"{array.name}, shut down", value=SHUT_DOWN_V, unit="V", formula="30 V or less, 30 s after the switch",
            terms=(Term(name="seconds", value=SHUT_DOWN_S, unit="s"),), basis="NEC 690.12(B) (from memory); the adopted edition decides",
        )  # fmt: skip
        asks.append(
            asked(f"shutdown.{array.id}_v", f"{array.name}: {SHUT_DOWN_S:g} s after the switch", ReadingUnit.VOLTS,
                  "between the conductors and to ground where they leave the array, in sun", (Window(5.0, 0.0, SHUT_DOWN_V), figure),
                  never=(never(NeverKind.NOT_SHUT_DOWN, high=SHUT_DOWN_V),))
        )  # fmt: skip
    if not asks:
        return None
    tested = [each.name for each in expected.design.charging.controllers if each.ground_fault and each.arrays]
    return Gate(
        key="shutdown",
        title="Rapid shutdown, tried in the sun",
        why="It is for those who come when the house burns; they cannot measure first.",
        precautions=precautions(Danger.LIVE_ROOF),
        do=(
            "Everything running in sun: work the switch outside, and read after 30 s.",
            "Switch on again: the array comes back by itself.",
            *(
                (f"Test button of the ground-fault protection, {some_of(tested)}: it trips and shows it.",)
                if tested
                else ()
            ),
        ),
        asks=tuple(asks),
        needs=("sun",),
        skipping="Firefighters on a roof that is live.",
    )


def _light(expected: Expected) -> str:
    """How much sun the windows count on, and whether it is enough to say anything."""
    told = expected.moment.sun_w_m2
    sun = max(expected.sun(array).expected for array in sun_arrays(expected))
    said = f"Sun by hour and sky about {sun:.0f} W/m²." if told is None else f"Sun as measured, {told:.0f} W/m²."
    if sun < LEAST_SUN_W_M2:
        return f"{said} That is too little to tell one fault from another: come back in brighter light."
    return said


def _sun(expected: Expected, there: Sequence[str]) -> Gate:
    asks = []
    for controller in charging_controllers(expected):
        asks.append(
            asked(f"sun.{controller.id}.in_v", f"{controller.name}: solar input", ReadingUnit.VOLTS, "its display", expected.input_volts(controller))
        )  # fmt: skip
        asks.append(
            asked(
                f"sun.{controller.id}_a",
                f"{controller.name}: into the bank",
                ReadingUnit.AMPS,
                "its display",
                expected.solar_amps(controller),
            )
        )
    if asks:
        total = [expected.solar_amps(each)[0] for each in charging_controllers(expected)]
        window = Window(*(sum(each[at] for each in total) for at in range(3)))
        figure = Figure(
            label="Monitor", value=window.expected, unit="A", formula="all controllers together, nothing on; into the bank counts as plus",
            terms=tuple(Term(name=f"controller {at + 1}", value=each.expected, unit="A") for at, each in enumerate(total)),
            basis="Arithmetic of power and energy",
        )  # fmt: skip
        if expected.design.wiring.has_shunt:
            slack = 0.5 + 0.03 * window.high
            asks.append(
                asked("sun.monitor_a", "Battery monitor", ReadingUnit.AMPS, "inverter off, nothing on; plus is charging",
                      (Window(window.expected, window.low - slack, window.high + slack), figure))
            )  # fmt: skip
    needs = [key for key in ("controllers", "settings", "strings", "inverter", "branches", "grid_charge", "others", "transfer", "generator") if key in there]  # fmt: skip
    feeds = any(each.kind is ControllerKind.PANEL_FED for each in expected.design.charging.controllers)
    return Gate(
        key="sun",
        title="The sun, last",
        why="What cannot be switched off comes when everything that it meets is proven.",
        precautions=precautions(Danger.ARC),
        do=(
            "String fuses in with the disconnect open; then close it, once and firmly, one array after the other.",
            "The controller wakes to the sun within minutes; current flows into the bank.",
            *(("The panel that feeds its loads straight: load on first, then the panel.",) if feeds else ()),
        ),
        now=_light(expected),
        asks=tuple(asks),
        needs=tuple(needs),
        skipping="An array that was counted on and never gave.",
    )


def _first_full(expected: Expected, chargers: Sequence[str]) -> Gate:
    points = stage_points(expected.design, temp_c=expected.rating.temp_c)
    play = 0.2 * expected.blocks
    window = Window(points.absorb_at_temp_v, points.absorb_at_temp_v - play, points.absorb_at_temp_v + play)
    if points.over_voltage_v is not None:
        window = Window(window.expected, window.low, min(window.high, points.over_voltage_v))
    figure = Figure(
        label="Highest volts of the first full charge", value=window.expected, unit="V",
        formula="absorb volts at the bank's temperature, 0.2 V for each 12 V either way",
        terms=(
            Term(name="absorb at 25 °C", value=points.absorb_v, unit="V"),
            Term(name="bank", value=points.temp_c, unit="°C"),
            Term(name="with the correction", value=points.absorb_at_temp_v, unit="V"),
        ), basis=f"{COMMON_PRACTICE}; the bank's maker decides",
    )  # fmt: skip
    return Gate(
        key="first_full",
        title="The first full charge, watched to its end",
        why="Only at the end of a charge does it show whether anything stops it.",
        precautions=precautions(Danger.CREEPING),
        do=(
            "Stay until absorb is held and float follows. Volts that go on climbing: "
            + (
                "open the array disconnect, then the charger's device."
                if sun_arrays(expected)
                else "open the charger's device."
            ),
            "Set the monitor to 100 % there, and nowhere else.",
        ),
        asks=(
            asked(
                "first_full.v",
                "Highest volts",
                ReadingUnit.VOLTS,
                "at the bank's posts, by a meter",
                (window, figure),
                decimals=2,
            ),
        ),
        needs=tuple(chargers),
        skipping="A controller that creeps past its set point, alone in the cellar.",
    )


def _instruments(expected: Expected, there: Sequence[str]) -> Gate:
    band = AGREE_V_PER_12 * expected.blocks
    return Gate(
        key="instruments",
        title="Instruments against the meter",
        why="From here on they are believed.",
        precautions=precautions(Danger.MISREAD),
        do=(
            f"The bank's volts by monitor, inverter, controllers and meter, within a minute: {band:.2f} V apart at most. Enter them under "
            "Cross-reading.",
            "Amps of the monitor against a clamp, charging and discharging: the sign turns with the current.",
        ),
        asks=(),
        needs=tuple(key for key in ("polarity", "controllers", "inverter", "sun") if key in there),
        skipping="Decisions in the storm by a display that is off.",
    )


def _load_test(expected: Expected) -> Gate:
    rated_w = expected.design.inverter.together.rated_w
    return Gate(
        key="load_test",
        title="Load test in steps",
        why="What the design promises is seen once by daylight.",
        precautions=(),
        do=(
            f"A plain heater in steps up to {watts(rated_w)} or as much as there is; ten minutes each. Volts, amps and the warmest lug "
            "under Tests.",
            f"Stop where something smells, smokes or passes {degrees(expected.design, HOT_C)}.",
        ),
        asks=(),
        needs=("inverter", "instruments"),
        skipping="The weakest joint, found by the longest night.",
    )


def _labels(expected: Expected) -> Gate:
    placards = tuple(placards_of(expected.design, expected.rating, expected.plan))
    return Gate(
        key="labels",
        title="Labels and placards up",
        why="The last day on which everybody still knows what is what.",
        precautions=precautions(Danger.UNLABELLED),
        do=(
            f"{counted(len(placards), 'placard')} of the wall's paper: {some_of([each.where for each in placards], most=10)}.",
            "Every breaker, disconnect and cable end named; the one-line and the switching card beside it.",
        ),
        asks=(),
        needs=("mount",),
        skipping="A guess in the dark, by somebody who was not there.",
    )


def _photos(expected: Expected) -> Gate:
    design = expected.design
    shots = ["the whole wall, doors open", "every nameplate", "every torque mark", "the main fuse with its rating"]
    shots += ["inside of the panel before its cover goes on"] if design.transfer.arrangement is not None else []
    shots += ["each array and its disconnect, open and closed"] if design.charging.arrays else []
    shots += (
        ["the settings pages of every charger"]
        if design.charging.controllers or design.charging.grid_charger.output_w
        else []
    )
    shots += ["each block's serial number and date"]
    return Gate(
        key="photos",
        title="Photographs",
        why="What is covered afterwards is seen once more here.",
        precautions=(),
        do=(f"Taken and kept with the papers: {some_of(shots, most=12)}.",),
        asks=(),
        needs=("mount",),
        skipping="Opening everything again for one number.",
    )


def _handover(expected: Expected, before: Sequence[str]) -> Gate:
    design = expected.design
    once = "switched over and back" if changes_over(design) else "switched everything off and on again"
    burns = design.charging.generator is not None
    return Gate(
        key="handover",
        title="Handed over",
        why="It is finished when the people who live with it have done it themselves.",
        precautions=(),
        do=(
            f"Whoever lives with it has {once} once, by the switching card, without help.",
            f"Smoke{' and carbon-monoxide' if burns else ''} alarms sound at their buttons; the family's sheet hangs where everybody finds it.",
            "Inspection passed where one is asked for; the certificate printed and signed.",
        ),
        asks=(),
        needs=tuple(before),
        skipping="A system that one person knows.",
    )
