"""Gates from the first closed device on: controllers on the bank, set points, inverter, branches, chargers."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.bank import TYPICAL
from hearthkeep.core.building.dangers import precautions
from hearthkeep.core.building.dead_gates import arrays_open, asked, joined_needs
from hearthkeep.core.building.forbidden import TOO_MUCH_FRAC, never
from hearthkeep.core.building.gate import Ask, Danger, Gate, NeverKind, ReadingUnit, Window
from hearthkeep.core.building.legs import has_legs, leg_v, too_much
from hearthkeep.core.building.windows import INVERTER_HZ_FRAC, Expected, around
from hearthkeep.core.design import Build, Controller
from hearthkeep.core.figure import COMMON_PRACTICE, Figure, Term
from hearthkeep.core.practice import degrees
from hearthkeep.core.sources import stage_points
from hearthkeep.core.wiring import RunKind, SizedRun, unit_output_v
from hearthkeep.core.words import listed, watts

#: More direct-current branches than this are measured at their far ends only by choice.
MOST_BRANCHES_ASKED = 8
#: Two displays of one board's count are no further apart [%]. Common practice, no source.
DATA_APART_PERCENT = 2.0
#: Filled so far the capacitors may be joined to the bank. ln 100 after 4.6 time constants: textbook.
FILLED_FRAC = 0.95


def charging_controllers(expected: Expected) -> tuple[Controller, ...]:
    """Controllers that charge the bank."""
    return tuple(each for each in expected.design.charging.controllers if each.charges)


def has_charging(expected: Expected) -> bool:
    """Whether anything is set to charge the bank."""
    charging = expected.design.charging
    return (
        bool(charging_controllers(expected))
        or charging.grid_charger.output_w > 0
        or charging.has_other_sources
        or charging.grid_tied is not None
    )


def live_gates(expected: Expected) -> Iterator[Gate]:
    """In the order in which they are passed."""
    design = expected.design
    controllers = charging_controllers(expected)
    # An all-in-one is one box behind one device: its capacitors are filled before it wakes.
    in_one_box = any(each.built_in for each in controllers)
    if controllers and not in_one_box:
        yield _controllers(expected)
    if needs_precharge(expected):
        yield _precharge(expected)
    if controllers and in_one_box:
        yield _controllers(expected)
    if design.inverter.reads_bank and design.inverter.rated_w > 0:
        yield _data_cable(expected)
    if has_charging(expected):
        yield _settings(expected)
    if design.inverter.rated_w > 0:
        yield _inverter(expected)
    if _branches(expected):
        yield _branch_gate(expected)
    if design.charging.grid_charger.output_w > 0 and not design.site.off_grid:
        yield _grid_charge(expected)
    if _others(expected):
        yield _other_chargers(expected)


def needs_precharge(expected: Expected) -> bool:
    """Whether the inverter's capacitors are filled through a resistor before anything is closed onto them."""
    precharge = expected.plan.precharge
    return precharge is not None and precharge.is_needed


def _controllers(expected: Expected) -> Gate:
    controllers = charging_controllers(expected)
    boxed, own = ([each.name for each in controllers if each.built_in is built_in] for built_in in (True, False))
    needs = joined_needs(expected)
    if boxed and needs_precharge(expected):
        needs = (*needs, "precharge")
    return Gate(
        key="controllers",
        title="Controllers on the bank, the sun still off",
        why="A controller learns its system's volts from the bank; the sun comes to it last.",
        precautions=precautions(Danger.SUN_FIRST),
        do=(
            f"{arrays_open(expected)}: look again.",
            *(
                ("Close the all-in-one's device onto the bank, its own switch still off: its display wakes, shows the bank's volts and names the right "
                 "system voltage.",)
                if boxed else ()
            ),
            *(
                (f"Close the device between bank and {listed(own)}: it wakes, shows the bank's volts and names the right system voltage.",)
                if own else ()
            ),
        ),
        asks=tuple(
            asked(f"controllers.{each.id}_v", f"{each.name} shows", ReadingUnit.VOLTS, "bank volts on its display", expected.bank_volts)
            for each in controllers
        ),
        needs=needs,
        skipping="A dead controller, or one that charges 12 V as if they were 48.",
    )  # fmt: skip


def _precharge(expected: Expected) -> Gate:
    precharge = expected.plan.precharge
    assert precharge is not None
    meter_v = expected.bank_volts[0]
    window = Window(meter_v.expected * 0.99, meter_v.low * FILLED_FRAC, meter_v.high)
    seconds_s = max(precharge.seconds_s, 1.0)
    figure = Figure(
        label="Capacitors of the inverter", value=window.expected, unit="V", formula="V × (1 − exp(−t ÷ RC)), until they settle",
        terms=(
            Term(name="bank", value=meter_v.expected, unit="V"),
            Term(name="resistor", value=precharge.resistor_ohm, unit="Ω"),
            Term(name="capacitors", value=1000 * precharge.capacitance_f, unit="mF"),
            Term(name="until 99 %", value=precharge.seconds_s, unit="s"),
        ), basis="Textbook; the capacitors of an inverter whose figure is not known are common practice, low confidence",
    )  # fmt: skip
    units = expected.design.inverter.units
    return Gate(
        key="precharge",
        title="The inverter's capacitors, filled through the resistor",
        why="The last thing between bank and inverter is closed when there is nothing left to rush.",
        precautions=precautions(Danger.RUSH, Danger.LOAD_TERMINALS),
        do=(
            "Inverter switched off at its own switch; its leads come from the bus bars, never from a controller's load terminals.",
            f"Resistor of {precharge.resistor_ohm:g} Ω across the open device for {seconds_s:.0f} s, {precharge.energy_j:.0f} J or more; "
            "watch the volts at the inverter until they settle.",
            "Close the device, take the resistor off." + (" One inverter after the other." if units > 1 else ""),
        ),
        asks=(
            asked("precharge.v", "At the inverter's terminals, before the device is closed", ReadingUnit.VOLTS,
                  f"after {seconds_s:.0f} s through the resistor", (window, figure)),
        ),
        needs=joined_needs(expected),
        skipping="A spark that pits the contacts or takes the class T fuse with it.",
    )  # fmt: skip


def _data_cable(expected: Expected) -> Gate:
    figure = Figure(
        label="State of charge, unit less board", value=0.0, unit="%", formula="both displays show what the board counts",
        terms=(Term(name="apart at most", value=DATA_APART_PERCENT, unit="%"),), basis=f"{COMMON_PRACTICE}; displays that round",
    )  # fmt: skip
    apart = Window(0.0, -DATA_APART_PERCENT, DATA_APART_PERCENT)
    boxed = any(each.built_in for each in charging_controllers(expected))
    return Gate(
        key="data",
        title="The unit reads the bank over its data cable",
        why="From here on the board says how the bank is charged; a wrong protocol shows nothing, or another bank's values.",
        precautions=(),
        do=(
            "Cable in the sockets that both manuals name, its ends made for this pair; the board's address and protocol set before it is joined.",
            f"On the unit's display: the board's limits, no more than {expected.rating.charge_limit_a:.0f} A, and the bank's own state of charge.",
            "Pull the cable: the unit says that it has lost the bank, and stops charging or falls back to its own set points as its manual "
            "says. Join it again.",
        ),
        asks=(
            asked("data.unit_v", "Bank's volts as the unit shows them", ReadingUnit.VOLTS, "on the unit's display", expected.bank_volts),
            asked("data.soc_apart", "State of charge: the unit's display less the bank's own", ReadingUnit.PERCENT,
                  "both displays in one minute", (apart, figure), decimals=0),
        ),
        needs=(
            *joined_needs(expected),
            *(("precharge",) if needs_precharge(expected) else ()),
            *(("controllers",) if boxed else ()),
        ),
        skipping="A bank charged by guesses while everybody believes that its board decides.",
    )  # fmt: skip


def _settings(expected: Expected) -> Gate:
    design = expected.design
    points = stage_points(design, temp_c=expected.rating.temp_c)
    typical = TYPICAL[design.bank.chemistry]
    entered = design.charging.stages
    low_v, high_v = (
        (points.usual_absorb_low_v, points.usual_absorb_high_v) if entered.absorb_v is None else (points.absorb_v,) * 2
    )
    basis = f"{COMMON_PRACTICE}; the bank's maker decides"
    asks: list[Ask] = [
        asked("set.absorb_v", "Absorb volts", ReadingUnit.VOLTS, "on every charger's display, base set point at 25 °C",
              expected.set_point("Absorb", points.absorb_v, low_v, high_v)),
        asked("set.absorb_h", "Absorb time", ReadingUnit.HOURS, "on every charger's display",
              around(points.absorb_h, 0.5, label="Absorb time", unit="h", formula="set points of Charging",
                     terms=(Term(name="as the design has it", value=points.absorb_h, unit="h"),), basis=basis)),
        asked("set.float_v", "Float volts", ReadingUnit.VOLTS, "on every charger's display, base set point at 25 °C",
              expected.set_point("Float", points.float_v, points.float_v, points.float_v)),
    ]  # fmt: skip
    do = [
        f"Battery type: {typical.label}. Where a charger knows only numbers, enter them; where it knows only types, read back what it took.",
        "The same in every charger: controllers, inverter/charger, plug-in charger.",
    ]  # fmt: skip
    if points.equalise_v is None:
        do.append("Equalise: off, and locked off.")
    else:
        asks.append(
            asked("set.equalise_v", "Equalise volts", ReadingUnit.VOLTS, "on every charger's display",
                  expected.set_point("Equalise", points.equalise_v, points.equalise_v, points.equalise_v))
        )  # fmt: skip
        if points.equalise_every_days is not None:
            do.append(f"Equalise every {points.equalise_every_days} days, or by hand.")
    if points.over_voltage_v is not None:
        asks.append(
            asked("set.over_v", "Over-voltage cut-off", ReadingUnit.VOLTS, "where the chargers are cut off",
                  expected.set_point("Over-voltage", points.over_voltage_v, points.over_voltage_v, points.over_voltage_v))
        )  # fmt: skip
    if design.inverter.rated_w > 0:
        cut_v = design.inverter.low_cutoff_v
        asks.append(
            asked("set.low_v", "Low cut-off", ReadingUnit.VOLTS, "in the inverter, under load",
                  expected.set_point("Low cut-off", cut_v, cut_v, cut_v))
        )  # fmt: skip
    if points.compensation_mv_per_c:
        do.append(
            f"Temperature compensation {points.compensation_mv_per_c:g} mV a cell and °C, with its sensor on a block: warmed in the hand it "
            "makes the set point fall."
        )
    else:
        do.append("Temperature compensation: 0.")
    if typical.charge_min_c >= 0:
        do.append(
            f"Charging below {degrees(design, typical.charge_min_c)} is cut off: by the board, the charger or a sensor; tried or read back."
        )
    limit_a = expected.rating.charge_limit_a
    do.append(f"All chargers together no more than {limit_a:.0f} A, the bank's own limit.")
    needs = list(joined_needs(expected))
    if charging_controllers(expected):
        needs.append("controllers")
    if design.inverter.reads_bank and design.inverter.rated_w > 0:
        needs.append("data")
    if needs_precharge(expected) and design.inverter.build is not Build.SEPARATE:
        needs.append("precharge")
    return Gate(
        key="settings",
        title="Charge settings, before the first ampere",
        why="A charger that is not told takes its maker's guess.",
        precautions=precautions(Danger.WRONG_CHARGE),
        do=tuple(do),
        asks=tuple(asks),
        needs=tuple(needs),
        skipping="A bank cooked or starved, quietly, for months.",
    )


def drop_runs(expected: Expected) -> tuple[SizedRun, ...]:
    """The runs whose drop the test load shows."""
    found = (expected.plan.find("bank"), expected.plan.find("inverter-1"))
    return tuple(run for run in found if run is not None)


def _inverter(expected: Expected) -> Gate:
    design = expected.design
    amps = expected.test_amps()
    share = amps[0]
    if design.inverter.units > 1:
        one = Window(*(value / design.inverter.units for value in share))
    else:
        one = share
    asks = [
        asked("inverter.out_v", "House volts, one unit", ReadingUnit.VOLTS, "at its output or an outlet, a meter that reads true effective values",
              expected.own_volts("House volts", unit_output_v(design)), never=too_much(unit_output_v(design))),
        *_own_legs(expected),
        asked("inverter.hz", "Frequency", ReadingUnit.HERTZ, "the same meter", expected.hertz_of("Frequency", INVERTER_HZ_FRAC)),
        asked("inverter.idle_w", "Nothing on: taken from the bank", ReadingUnit.WATTS, "battery monitor, or amps × volts",
              expected.idle_watts()),
        asked("inverter.test_a", "Test load on: from the bank", ReadingUnit.AMPS, "battery monitor or a clamp on one bank lead", amps, decimals=1),
        asked("inverter.bank_v", "Test load on: bank's posts", ReadingUnit.VOLTS, "at the posts, not the lugs", _loaded(expected), decimals=2),
    ]  # fmt: skip
    for run in drop_runs(expected):
        current = amps[0] if run.run.kind is RunKind.BANK else one
        drop = expected.drop_millivolts(run, current)
        if drop is not None:
            asks.append(
                asked(f"inverter.drop.{run.run.key}_mv", f"Test load on: drop, {run.run.label}", ReadingUnit.MILLIVOLTS,
                      "post to terminal along plus, and along minus; the two added", drop, decimals=0)
            )  # fmt: skip
    return Gate(
        key="inverter",
        title="Inverter on, with a test load already plugged in",
        why="A lamp or a heater first: the house comes later.",
        precautions=precautions(Danger.LIVE_PLUG)
        if needs_precharge(expected)
        else precautions(Danger.LOAD_TERMINALS, Danger.LIVE_PLUG),
        do=(
            *_closed_at_once(expected),
            "A plain test load plugged in before the inverter is switched on, or in the order its maker asks for; nothing of the house yet.",
            "Switch on. Read with the load on, then with nothing on.",
            "Fans heard, nothing hot, no smell. The polarity of an outlet with a tester.",
        ),
        now=f"The windows are for a test load of {watts(expected.test_load_w)}.",
        legs=(("inverter.leg_a_v", "inverter.leg_b_v"),) if _own_legs(expected) else (),
        asks=tuple(asks),
        needs=(
            *joined_needs(expected),
            *(("precharge",) if needs_precharge(expected) else ()),
            *(("settings",) if has_charging(expected) else ()),
        ),
        skipping="House devices as the first test load.",
    )


def _closed_at_once(expected: Expected) -> tuple[str, ...]:
    """Why no resistor is needed, with the sum; nothing where one is."""
    precharge = expected.plan.precharge
    if precharge is None or precharge.is_needed:
        return ()
    return (
        f"Its capacitors take ½ × {1000 * precharge.capacitance_f:.1f} mF × ({precharge.bank_v:.1f} V)² = {precharge.energy_j:.1f} J as its device "
        "closes: no resistor is needed. Its leads come from the bank's side, never from a controller's load terminals.",
    )


def _own_legs(expected: Expected) -> tuple[Ask, ...]:
    """Both legs of one unit that gives a true 120/240 V."""
    design = expected.design
    if not has_legs(design) or unit_output_v(design) != 2 * leg_v(design):
        return ()
    return tuple(
        asked(f"inverter.leg_{leg}_v", f"House volts, {leg.upper()} to neutral", ReadingUnit.VOLTS, "the same meter",
              expected.own_volts("One leg", leg_v(design)), never=(never(NeverKind.OPEN_NEUTRAL, high=TOO_MUCH_FRAC * leg_v(design)),))
        for leg in ("a", "b")
    )  # fmt: skip


def _loaded(expected: Expected) -> tuple[Window, Figure]:
    (rest, low, high), _ = expected.bank_volts
    current = expected.test_amps()[0]
    middle = rest - current.expected * expected.bank_ohm
    return Window(middle, low - 1.5 * current.high * expected.bank_ohm, high), Figure(
        label="Bank with the test load", value=middle, unit="V", formula="rest volts − I × bank's own resistance",
        terms=(
            Term(name="rest volts", value=rest, unit="V"),
            Term(name="current", value=current.expected, unit="A"),
            Term(name="bank", value=1000 * expected.bank_ohm, unit="mΩ"),
        ), basis="Ohm's law; the bank's resistance by its sheet or common practice",
    )  # fmt: skip


def _branches(expected: Expected) -> tuple[SizedRun, ...]:
    return tuple(run for run in expected.plan.runs if run.run.kind is RunKind.BRANCH)


def _branch_gate(expected: Expected) -> Gate:
    (middle, low, high), figure = expected.bank_volts
    asks = []
    for at, run in enumerate(_branches(expected)):
        fall_v = (run.drop_v or 0.0) * 1.5 + 0.1 * expected.blocks
        window = Window(middle - (run.drop_v or 0.0), low - fall_v, high)
        asks.append(
            asked(f"branches.{run.run.key}_v", run.run.label, ReadingUnit.VOLTS, "at its far end, its load on", (window, figure), decimals=2,
                  is_optional=at >= MOST_BRANCHES_ASKED)
        )  # fmt: skip
    return Gate(
        key="branches",
        title="Direct-current branches, one by one",
        why="Each is closed alone, so that the one that trips is known.",
        precautions=(),
        do=("Close one, switch its load on, read at its far end, polarity as well; then the next.",),
        asks=tuple(asks),
        needs=joined_needs(expected),
        skipping="A branch that is crossed or starved, found in the dark.",
    )


def _grid_charge(expected: Expected) -> Gate:
    design = expected.design
    needs = ["settings"]
    if design.inverter.rated_w > 0:
        needs.append("inverter")
    return Gate(
        key="grid_charge",
        title="First charge from the grid",
        why="The charger is tried while somebody stands beside it"
        + (", before the sun can mask it." if design.charging.controllers else "."),
        precautions=(),
        do=(
            "Close the grid's input. Volts and current rise slowly; the monitor counts upwards.",
            "Feel the leads after ten minutes: hand-warm at most.",
        ),
        asks=(
            asked("grid_charge.a", "Charger into the bank", ReadingUnit.AMPS, "battery monitor, loads off",
                  expected.charger_amps("Charger", design.charging.grid_charger.output_w)),
        ),
        needs=tuple(needs),
        skipping="A storm warning, and a charger that never charged.",
    )  # fmt: skip


def _others(expected: Expected) -> tuple[tuple[str, str, float], ...]:
    """Chargers that are neither sun, grid nor generator: key, name and output into the bank [W]."""
    charging, volts = expected.design.charging, expected.rating.volts
    found = []
    if charging.alternator is not None:
        found.append(
            ("alternator", "Alternator charger, engine running", charging.alternator.current_a * volts.nominal_v)
        )
    if charging.bench_charger is not None:
        found.append(("bench", "Plug-in charger", charging.bench_charger.output_w))
    if charging.wind is not None:
        found.append(("wind", "Wind turbine, in a good wind", charging.wind.rated_w))
    return tuple(found)


def _other_chargers(expected: Expected) -> Gate:
    asks = []
    for key, name, output_w in _others(expected):
        window, figure = expected.charger_amps(name, output_w)
        # A turbine gives what the wind lets it.
        low = 0.0 if key == "wind" else window.low
        asks.append(
            asked(f"others.{key}.a", name, ReadingUnit.AMPS, "battery monitor, loads off", (window._replace(low=low), figure), is_optional=key == "wind")
        )  # fmt: skip
    return Gate(
        key="others",
        title="Other chargers, one by one",
        why="Each alone, so that its own current is seen.",
        precautions=(),
        do=("Close one, read, open it; then the next. A turbine is braked until its charger is on the bank.",),
        asks=tuple(asks),
        needs=("settings",),
        skipping="A charger that was counted on and never charged.",
    )
