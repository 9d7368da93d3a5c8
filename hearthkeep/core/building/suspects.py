"""Suspects by gate: what is met behind readings that are not as expected. How often is common practice, no source."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from itertools import combinations

from hearthkeep.core.bank import CELLS, cells_of, rest_state
from hearthkeep.core.building.dead_gates import block_key
from hearthkeep.core.building.gate import Ask, Gate
from hearthkeep.core.building.last_gates import string_keys, sun_arrays
from hearthkeep.core.building.live_gates import charging_controllers, drop_runs
from hearthkeep.core.building.suspect import Range, Suspect
from hearthkeep.core.building.windows import Expected
from hearthkeep.core.design import Bank, Chemistry, ControllerKind

Asks = dict[str, Ask]

#: Nominal volts of a block that is called 12 V.
LFP_BLOCK_V, LEAD_BLOCK_V = 12.8, 12.0


def suspects_of(expected: Expected, gate: Gate) -> tuple[Suspect, ...]:
    """What may lie behind the readings of a gate."""
    make = _BY_GATE.get(gate.key)
    asks = {ask.key: ask for ask in gate.asks}
    return () if make is None else tuple(make(expected, asks))


def _times(ask: Ask, low: float, high: float | None = None) -> Range:
    """A window multiplied; with two factors from the lower end by the first to the upper by the second."""
    ends = sorted((ask.window.low * low, ask.window.high * (low if high is None else high)))
    return ends[0], ends[1]


def _near(value: float, play: float) -> Range:
    return value - play, value + play


def _all(asks: Asks, low: float, high: float | None = None, *, ending: str = "") -> dict[str, Range]:
    return {key: _times(ask, low, high) for key, ask in asks.items() if key.endswith(ending)}


def _as_type(bank: Bank, other: Chemistry) -> Bank:
    """The bank somebody takes this one for: as many 12 V blocks of another chemistry."""
    cells_a_block = 4 if bank.chemistry is Chemistry.LFP else 6
    blocks = max(round(cells_of(bank) / cells_a_block), 1)
    nominal_v = (LFP_BLOCK_V if other is Chemistry.LFP else LEAD_BLOCK_V) * blocks
    return bank.model_copy(update={"chemistry": other, "unit": None, "unit_v": nominal_v, "series": 1})


# --- bank


def _bank_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
    """Of the whole bank, read before anything is closed or on a controller's display."""
    bank = expected.design.bank
    yield Suspect(
        key="reversed_polarity", title="Plus and minus exchanged", prior=0.3, says=_all(asks, -1),
        next="Follow the conductor from the post marked + by hand, then measure again at the post itself.",
    )  # fmt: skip
    yield Suspect(
        key="low_charge", title="Less charged than was said", prior=0.3,
        says={key: _near(expected.rest_v(0.1), expected.rest_v(0.5) - expected.rest_v(0.0)) for key in asks},
        next="Charge it with a bench charger and read again after some hours of rest.",
    )  # fmt: skip
    for other in (Chemistry.LFP, Chemistry.FLOODED, Chemistry.AGM):
        if other is bank.chemistry or (other is not Chemistry.LFP and bank.chemistry is not Chemistry.LFP):
            continue
        table = rest_state(_as_type(bank, other), 0.0).table
        yield Suspect(
            key="wrong_battery", title="Batteries of another type than the design's", prior=0.12,
            says={key: (table[len(table) // 3][1], table[-1][1]) for key in asks},
            next="Read the type on every block's label; set the chargers for what is there, and put it into the design.",
        )  # fmt: skip
    for missing in (1, -1):
        series = bank.series - missing
        if series >= 1:
            factor = series / bank.series
            yield Suspect(
                key="series_count", title=f"{series} blocks in series where the design has {bank.series}", prior=0.08,
                says=_all(asks, factor), next="Count the links from one end post to the other.",
            )  # fmt: skip
    cells = cells_of(bank)
    yield Suspect(
        key="dead_cell", title="One cell shorted", prior=0.08, says=_all(asks, (cells - 1) / cells),
        next="Measure block by block; the bad one is lower by a cell's volts and sinks first under load.",
    )  # fmt: skip
    yield Suspect(
        key="board_open", title="A protection board that has opened, or an open fuse", prior=0.1 if bank.chemistry is Chemistry.LFP else 0.05,
        says=dict.fromkeys(asks, (0.0, 0.5 * expected.blocks)),
        next="Wake the board with a charger of the right volts; measure on both sides of the fuse.",
    )  # fmt: skip
    yield Suspect(
        key="meter_range", title="Meter on the wrong range or with a flat battery", prior=0.06,
        says=dict.fromkeys(asks, (-0.01, 0.01)), next="Try the meter on a battery whose volts you know.",
    )  # fmt: skip


def _block_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
    bank = expected.design.bank
    unit_cells = max(cells_of(bank) // bank.series, 1)
    span = expected.rest_v(0.5) - expected.rest_v(0.0)
    for string in range(1, bank.parallel + 1):
        for block in range(bank.series + 1):
            key = block_key(string, block)
            if key not in asks:
                continue
            ask = asks[key]
            name = ask.label[0].lower() + ask.label[1:]
            cells = unit_cells if block else cells_of(bank)
            each = len(asks)
            yield Suspect(
                key=f"reversed.{key}", title=f"Probes or posts exchanged on {name}", prior=0.3 / each, says={key: _times(ask, -1)},
                next="Look for the post's own mark, not the cable's colour.",
            )  # fmt: skip
            yield Suspect(
                key=f"low.{key}", title=f"{ask.label} is less charged than the others", prior=0.4 / each,
                says={key: (ask.window.low - span / max(bank.series if block else 1, 1), ask.window.low)},
                next="Charge it alone to full and let it rest; if it falls back, it is worn.",
            )  # fmt: skip
            yield Suspect(
                key=f"dead_cell.{key}", title=f"A shorted cell in {name}", prior=0.2 / each, says={key: _times(ask, (cells - 1) / cells)},
                next="Load it for a minute with a lamp: a shorted cell sinks at once. Replace the block.",
            )  # fmt: skip
            yield Suspect(
                key=f"open.{key}", title=f"Board open, or a broken link, in {name}", prior=0.15 / each, says={key: (-0.05, 0.5)},
                next="Wake the board with a charger of the right volts; try the meter on another block.",
            )  # fmt: skip
    yield Suspect(
        key="all_low", title="All of them less charged than was said", prior=0.25,
        says={key: (ask.window.low - span / bank.series, ask.window.low) for key, ask in asks.items()},
        next="Charge them all and read again after some hours of rest.",
    )  # fmt: skip


# --- sun


def _string_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
    volts = {key: ask for key, ask in asks.items() if key.endswith("_v")}
    count = max(len(volts), 1)
    for array in sun_arrays(expected):
        for key in string_keys(array):
            volt_key, amp_key = f"strings.{key}_v", f"strings.{key}_a"
            volt, amp = asks[volt_key], asks[amp_key]
            name = volt.label.removesuffix(": open")
            yield Suspect(
                key=f"reversed.{key}", title=f"{name}: plus and minus exchanged", prior=0.25 / count,
                says={volt_key: _times(volt, -1), amp_key: _times(amp, -1)},
                next="Follow the string home from the panel's own + lead; mark it again.",
            )  # fmt: skip
            yield Suspect(
                key=f"open.{key}", title=f"{name}: fuse blown or a connector not home", prior=0.25 / count,
                says={volt_key: (-1.0, 0.02 * volt.window.expected + 1.0), amp_key: (-0.05, 0.05)},
                next="Fuse out, measure it for continuity; then go along the connectors with the string open.",
            )  # fmt: skip
            if array.series > 1:
                yield Suspect(
                    key=f"short_of_one.{key}", title=f"{name}: one panel too few, or one bridged", prior=0.15 / count,
                    says={volt_key: _times(volt, (array.series - 1) / array.series)},
                    next="Count the panels of this string; measure each alone.",
                )  # fmt: skip
            yield Suspect(
                key=f"one_too_many.{key}", title=f"{name}: one panel too many", prior=0.06 / count,
                says={volt_key: _times(volt, (array.series + 1) / array.series)},
                next="Count the panels of this string before anything is connected: the controller's limit is at stake.",
            )  # fmt: skip
            yield Suspect(
                key=f"diode.{key}", title=f"{name}: a bypass diode shorted", prior=0.08 / count,
                says={volt_key: _times(volt, 1 - 1 / (3 * array.series))},
                next="Measure panel by panel; one is a third below its neighbours.",
            )  # fmt: skip
            yield Suspect(
                key=f"shaded.{key}", title=f"{name}: shaded, dirty or under snow", prior=0.25 / count,
                says={volt_key: _times(volt, 0.9, 1.0), amp_key: (0.05 * amp.window.low, 0.85 * amp.window.low)},
                next="Look at the whole plane at this hour; wipe one panel and read again.",
            )  # fmt: skip
    for first, second in combinations(
        [(array, key) for array in sun_arrays(expected) for key in string_keys(array)], 2
    ):
        one, other = asks[f"strings.{first[1]}_v"], asks[f"strings.{second[1]}_v"]
        if first[0].id == second[0].id or _alike(one, other):
            continue
        yield Suspect(
            key=f"swapped.{first[1]}.{second[1]}",
            title=f"{one.label.removesuffix(': open')} and {other.label.removesuffix(': open')} exchanged", prior=0.2 / count,
            says={one.key: (other.window.low, other.window.high), other.key: (one.window.low, one.window.high)},
            next="Cover one of the two planes and see whose volts fall.",
        )  # fmt: skip
    yield Suspect(
        key="less_sun", title="Less sun than was said", prior=0.2,
        says={key: _times(ask, 0.88, 1.0) if key.endswith("_v") else (0.1 * ask.window.low, 0.9 * ask.window.low) for key, ask in asks.items()},
        next="Measure the sun on the plane, or wait for a sky without doubt.",
    )  # fmt: skip
    yield Suspect(
        key="meter_range", title="Meter on alternating current, on the wrong range or with a flat battery", prior=0.08,
        says=dict.fromkeys(volts, (-0.5, 1.0)), next="Try the meter on a battery whose volts you know.",
    )  # fmt: skip


def _alike(one: Ask, other: Ask) -> bool:
    """Whether two strings could not be told apart by their volts."""
    return one.window.holds(other.window.expected) and other.window.holds(one.window.expected)


def _sun_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
    monitor = asks.get("sun.monitor_a")
    if monitor is not None:
        yield Suspect(
            key="reversed_shunt", title="Shunt turned round, or its sense leads exchanged", prior=0.25, says={monitor.key: _times(monitor, -1)},
            next="Inverter on with a load and the sun off: the monitor must count downwards. The bank's side of the shunt goes to the bank.",
        )  # fmt: skip
        for factor in (0.5, 2.0):
            yield Suspect(
                key=f"shunt_ratio.{factor:g}", title=f"Monitor set for a shunt of {factor:g} times its rating", prior=0.06,
                says={monitor.key: _times(monitor, factor)},
                next="Compare the amps with a clamp; read the shunt's own stamp and the monitor's setting.",
            )  # fmt: skip
        yield Suspect(
            key="beside_shunt", title="A negative that goes round the shunt", prior=0.12, says={monitor.key: (-1.0, 0.4 * monitor.window.expected)},
            next="Nothing but the shunt hangs on the bank's negative post: look for the second lug.",
        )  # fmt: skip
    for controller in charging_controllers(expected):
        in_key, out_key = f"sun.{controller.id}.in_v", f"sun.{controller.id}_a"
        volt, amp = asks[in_key], asks[out_key]
        expected_a = amp.window.expected

        def with_monitor(
            factor_low: float, factor_high: float, out: str = out_key, amps: float = expected_a
        ) -> dict[str, Range]:
            says = {out: (factor_low * amps, factor_high * amps)}
            if monitor is not None:
                lost = monitor.window.expected - amps
                says[monitor.key] = (lost + factor_low * amps - 0.5, lost + factor_high * amps + 0.5)
            return says

        strings = sum(array.strings for array in controller.arrays)
        if strings > 1:
            for blown in range(1, min(strings, 3)):
                left = (strings - blown) / strings
                # Under less sun than hour and sky say, less still; never more than what is left.
                reach = amp.window.low / expected_a if expected_a > 0 and amp.window.low > 0 else 0.85
                yield Suspect(
                    key=f"string_fuse.{controller.id}.{blown}",
                    title=f"{controller.name}: {blown} of {strings} strings without current, a string fuse blown", prior=0.2 / blown,
                    says=with_monitor(left * reach, left * 1.08),
                    next="Clamp each string; the dead one shows nothing. Disconnect open before the fuse is touched.",
                )  # fmt: skip
        yield Suspect(
            key=f"no_sun.{controller.id}", title=f"{controller.name}: disconnect or fuse still open, or too few volts to start", prior=0.2,
            says={in_key: (-1.0, 0.3 * volt.window.expected), **with_monitor(-0.02, 0.02)},
            next="Measure on both sides of the disconnect, then of the fuse.",
        )  # fmt: skip
        yield Suspect(
            key=f"shaded.{controller.id}", title=f"{controller.name}: shade, dirt or snow on its array", prior=0.2,
            says=with_monitor(0.1, 0.75), next="Look at the plane at this hour; compare with the neighbouring array.",
        )  # fmt: skip
        yield Suspect(
            key=f"holds_back.{controller.id}", title=f"{controller.name} holds back: the bank is nearly full, or its limit is set lower",
            prior=0.25, says={in_key: (volt.window.expected, volt.window.high), **with_monitor(0.02, 0.8)},
            next="Switch a load on: its current follows. If not, read its current limit and its stage.",
        )  # fmt: skip
        if controller.kind is ControllerKind.MPPT:
            yield Suspect(
                key=f"not_tracking.{controller.id}", title=f"{controller.name} does not track: it sits at the bank's volts", prior=0.08,
                says={in_key: _near(expected.rating.charging_v + expected.blocks, 2 * expected.blocks), **with_monitor(0.3, 0.8)},
                next="Start it anew, sun off first. If it stays there, it is one that switches, or a broken one.",
            )  # fmt: skip


# --- set points, inverter, house


def _setting_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
    bank = expected.design.bank
    cells = cells_of(bank)
    play = 0.1 * expected.blocks
    for other in (Chemistry.LFP, Chemistry.AGM, Chemistry.GEL, Chemistry.FLOODED):
        if other is bank.chemistry:
            continue
        points, count = CELLS[other], cells_of(_as_type(bank, other))
        says: dict[str, Range] = {}
        if "set.absorb_v" in asks:
            says["set.absorb_v"] = (count * points.absorb_low_v - play, count * points.absorb_high_v + play)
        if "set.float_v" in asks:
            says["set.float_v"] = _near(count * points.float_v, 2 * play)
        if "set.absorb_h" in asks:
            says["set.absorb_h"] = (0.5, 6.0)
        if "set.equalise_v" in asks and points.equalise_v is not None:
            says["set.equalise_v"] = _near(count * points.equalise_v, 2 * play)
        yield Suspect(
            key=f"wrong_type.{other.value}", title=f"The charger is set for {_NAMES[other]}", prior=0.2, says=says,
            next="Set the type again, then read every number back; some chargers fall back after a loss of power.",
        )  # fmt: skip
    for factor, title in (
        (0.5, "half the system's volts"),
        (2.0, "twice the system's volts"),
        (0.25, "12 V in a 48 V system"),
    ):
        yield Suspect(
            key=f"system_volts.{factor:g}", title=f"Set for {title}, or shown for it", prior=0.12,
            says=_all(asks, factor, ending="_v"),
            next="Some chargers show set points for a 12 V system: multiply, or set the system voltage by hand.",
        )  # fmt: skip
    points_mv = CELLS[bank.chemistry].compensation_mv_per_c
    if points_mv:
        shift = -cells * points_mv / 1000 * 15
        yield Suspect(
            key="compensated", title="Shown with the correction for temperature", prior=0.2,
            says={
                key: (ask.window.low - shift, ask.window.high + shift)
                for key, ask in asks.items()
                if key in ("set.absorb_v", "set.float_v", "set.equalise_v")
            },
            next="Look for the base set point at 25 °C; with the sensor at 25 °C both are the same.",
        )  # fmt: skip
    for key, ask in asks.items():
        yield Suspect(
            key=f"mistyped.{key}", title=f"{ask.label} mistyped, the rest is right", prior=0.25 / len(asks), says={key: (0.0, 3 * abs(ask.window.high))},
            next="Enter it again and read it back.",
        )  # fmt: skip


_NAMES = {
    Chemistry.LFP: "lithium iron phosphate",
    Chemistry.AGM: "AGM",
    Chemistry.GEL: "gel",
    Chemistry.FLOODED: "flooded cells",
    Chemistry.STARTER: "starter batteries",
}


def _inverter_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
    amps = asks["inverter.test_a"]
    yield Suspect(
        key="reversed_shunt", title="Shunt turned round, or its sense leads exchanged", prior=0.2, says={amps.key: _times(amps, -1)},
        next="Compare the sign with a clamp. The bank's side of the shunt goes to the bank.",
    )  # fmt: skip
    for factor in (0.5, 2.0):
        yield Suspect(
            key=f"shunt_ratio.{factor:g}", title=f"Monitor set for a shunt of {factor:g} times its rating", prior=0.06,
            says={amps.key: _times(amps, factor)},
            next="Compare the amps with a clamp; read the shunt's own stamp and the monitor's setting.",
        )  # fmt: skip
    yield Suspect(
        key="test_load", title="The test load is not what its nameplate says", prior=0.2, says={amps.key: _times(amps, 0.5, 1.5)},
        next="Read its watts with a plug-in meter.",
    )  # fmt: skip
    yield Suspect(
        key="other_load", title="Something else is on", prior=0.15,
        says={amps.key: _times(amps, 1.0, 1.6), "inverter.idle_w": (asks["inverter.idle_w"].window.high, 20 * max(asks["inverter.idle_w"].window.high, 1.0))},
        next="Open every branch and unplug everything; read again with nothing on.",
    )  # fmt: skip
    yield Suspect(
        key="searching", title="Search mode is on: it listens instead of making a supply", prior=0.08,
        says={"inverter.out_v": (0.0, 0.6 * asks["inverter.out_v"].window.expected), "inverter.idle_w": (0.0, asks["inverter.idle_w"].window.low)},
        next="Plug the test load in, or switch search mode off.",
    )  # fmt: skip
    for run in drop_runs(expected):
        key = f"inverter.drop.{run.run.key}_mv"
        if key not in asks:
            continue
        ask = asks[key]
        yield Suspect(
            key=f"loose_lug.{run.run.key}", title=f"{run.run.label}: a loose lug or a bad crimp", prior=0.2,
            says={key: (1.3 * ask.window.high, 30 * ask.window.high)},
            next="Probe from post to lug, lug to wire, and across the fuse, on plus and minus: the drop sits in one of them. Open and "
            "lock before it is tightened.",
        )  # fmt: skip
        yield Suspect(
            key=f"thin_cable.{run.run.key}", title=f"{run.run.label}: thinner or longer than the design's", prior=0.08,
            says={key: _times(ask, 1.2, 2.6)}, next="Read the cable's print; measure its length; put both into Wiring.",
        )  # fmt: skip
    volts = asks["inverter.bank_v"]
    yield Suspect(
        key="weak_bank", title="The bank sinks under load: low, worn, or one block bad", prior=0.15,
        says={volts.key: (0.8 * volts.window.low, volts.window.low)},
        next="Block by block under the same load: the bad one is lowest.",
    )  # fmt: skip
    for other_v in (120.0, 230.0, 240.0, 208.0, 100.0):
        if not asks["inverter.out_v"].window.holds(other_v):
            yield Suspect(
                key=f"output_set.{other_v:g}", title=f"Its output is set to {other_v:g} V", prior=0.04,
                says={"inverter.out_v": _near(other_v, 0.03 * other_v)}, next="Read the output setting; change it with nothing plugged in.",
            )  # fmt: skip
    for other_hz in (50.0, 60.0):
        if not asks["inverter.hz"].window.holds(other_hz):
            yield Suspect(
                key=f"hertz_set.{other_hz:g}", title=f"Its output is set to {other_hz:g} Hz", prior=0.08,
                says={"inverter.hz": _near(other_hz, 0.5)}, next="Read the output setting; change it with nothing plugged in.",
            )  # fmt: skip
    yield Suspect(
        key="meter_waveform", title="The meter averages: it shows a stepped wave too low", prior=0.08,
        says={"inverter.out_v": _times(asks["inverter.out_v"], 0.75, 0.95)}, next="Use a meter that reads true effective values.",
    )  # fmt: skip


def _precharge_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
    key = "precharge.v"
    full_v = asks[key].window.expected
    yield Suspect(
        key="switched_on", title="The inverter is switched on, or something else hangs on its side", prior=0.4, says={key: (0.1 * full_v, 0.85 * full_v)},
        next="Switch it off at its own switch and take everything else off; start again.",
    )  # fmt: skip
    yield Suspect(
        key="longer", title="Larger capacitors than assumed: not settled yet", prior=0.3, says={key: (0.6 * full_v, 0.95 * full_v)},
        next="Leave the resistor on and read again after as long once more; put the maker's farads into Wiring.",
    )  # fmt: skip
    yield Suspect(
        key="no_path", title="The resistor makes no contact, or is burnt", prior=0.2, says={key: (-0.5, 0.08 * full_v)},
        next="Measure the resistor; measure from the bank's plus to each of its ends.",
    )  # fmt: skip
    yield Suspect(
        key="reversed_polarity", title="Plus and minus exchanged", prior=0.1, says={key: _times(asks[key], -1, -0.02)},
        next="Take the resistor off at once; follow both leads home.",
    )  # fmt: skip


def _ground_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
    for key, ask in asks.items():
        if key == "ground.neutral_ohm":
            yield Suspect(
                key="no_bond", title="Neutral and ground are joined nowhere in this position", prior=0.3, says={key: (5.0, 1e7)},
                next="Find the one place the design names, and close it there and nowhere else.",
            )  # fmt: skip
            continue
        yield Suspect(
            key=f"paint.{key}", title=f"{ask.label}: paint, coating or rust under a lug", prior=0.3, says={key: (1.2, 100.0)},
            next="Bare the metal under the lug, a washer with teeth, tighten, read again.",
        )  # fmt: skip
        yield Suspect(
            key=f"open.{key}", title=f"{ask.label}: not joined", prior=0.3, says={key: (100.0, 1e7)},
            next="Go along it from the ground bar.",
        )  # fmt: skip
    yield Suspect(
        key="meter_leads", title="The meter's own leads were counted", prior=0.2,
        says={key: (ask.window.low + 0.2, ask.window.high + 0.8) for key, ask in asks.items()},
        next="Hold the probes together and take that off.",
    )  # fmt: skip


def _transfer_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
    back, out = asks.get("transfer.backfeed_v"), asks["transfer.outlet_v"]
    if back is not None:
        yield Suspect(
            key="back_feed", title="The supply reaches the grid's side", prior=0.4,
            says={back.key: (0.8 * out.window.low, 1.1 * out.window.high)},
            next="Switch everything off now. No way from backup to grid may be left: both poles, and the neutral where it is switched.",
        )  # fmt: skip
        yield Suspect(
            key="ghost", title="A meter that takes no current shows what a dead wire picks up", prior=0.3,
            says={back.key: (back.window.high, 0.6 * out.window.expected)},
            next="Read again with a lamp or a low-impedance tester across it: ghosts vanish, a supply does not.",
        )  # fmt: skip
    neutral = asks.get("transfer.neutral_v")
    if neutral is not None:
        yield Suspect(
            key="no_bond", title="The unit's relay does not join neutral and ground", prior=0.3,
            says={neutral.key: (0.2 * out.window.expected, 0.7 * out.window.expected)},
            next="Look for the relay's setting in the unit; until it is right, residual-current devices may not trip.",
        )  # fmt: skip
    yield Suspect(
        key="long_cord", title="A long thin cord or an overloaded run", prior=0.2, says={out.key: _times(out, 0.85, 0.97)},
        next="Read at the inverter with the same load; what is missing is lost on the way.",
    )  # fmt: skip
    yield Suspect(
        key="open_neutral", title="An open neutral: one leg high, the other low", prior=0.1, says={out.key: _times(out, 0.3, 1.6)},
        next="Everything off. Read both legs to neutral; tighten every neutral of the change-over.",
    )  # fmt: skip
    yield Suspect(
        key="dead", title="A breaker still open", prior=0.25, says={out.key: (-1.0, 0.1 * out.window.expected)},
        next="Read on both sides of each breaker on the way.",
    )  # fmt: skip


def _charge_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
    """Of a charger's current, whichever gate asks for it."""
    for key, ask in asks.items():
        if not key.endswith(".a"):
            continue
        middle = ask.window.expected
        yield Suspect(
            key="reversed_shunt", title="Shunt turned round, or its sense leads exchanged", prior=0.2, says={key: _times(ask, -1)},
            next="Compare the sign with a clamp. The bank's side of the shunt goes to the bank.",
        )  # fmt: skip
        yield Suspect(
            key="limited", title="Its current limit is set lower, or a board holds it back", prior=0.25, says={key: (0.1 * middle, 0.8 * middle)},
            next="Read the limit in its settings, and what the bank's board allows at this temperature.",
        )  # fmt: skip
        yield Suspect(
            key="nearly_full", title="The bank is nearly full", prior=0.3, says={key: (0.0, 0.7 * middle)},
            next="Read its volts: at absorb volts the current falls by itself.",
        )  # fmt: skip
        yield Suspect(
            key="not_charging", title="It does not charge: no input, too cold, or still waiting", prior=0.25, says={key: (-0.5, 0.03 * middle + 0.3)},
            next="Read volts at its input; wait for its delay; see whether the bank's board blocks charging in the cold.",
        )  # fmt: skip
        yield Suspect(
            key="load_on", title="A load takes part of it past the monitor", prior=0.12, says={key: (0.4 * middle, 0.9 * middle)},
            next="Everything off, read again.",
        )  # fmt: skip
    for key, ask in asks.items():
        if key.endswith(".hz"):
            yield Suspect(
                key="governor", title="Its governor: slow when loaded, fast when not", prior=0.3, says={key: _times(ask, 0.85, 1.15)},
                next="Read with no load and at half load; a workshop sets it.",
            )  # fmt: skip
        elif key.endswith(".v"):
            yield Suspect(
                key="regulator", title="Its voltage regulator, or a long thin cord", prior=0.25, says={key: _times(ask, 0.8, 1.15)},
                next="Read at its own outlet with the same load.",
            )  # fmt: skip


def _full_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
    ask = asks["first_full.v"]
    top_v = ask.window.high
    yield Suspect(
        key="creeping", title="A controller that does not stop: it creeps past its set point", prior=0.3, says={ask.key: (top_v, 1.3 * top_v)},
        next="Array disconnect open at once. With the sun off and on again it must hold; if not, it is replaced.",
    )  # fmt: skip
    yield Suspect(
        key="equalising", title="It equalises", prior=0.2, says={ask.key: (1.02 * ask.window.expected, 1.12 * ask.window.expected)},
        next="Switch equalising off; let the volts fall and charge once more.",
    )  # fmt: skip
    yield Suspect(
        key="ended_early", title="The charge ended early: float came before absorb was reached", prior=0.3,
        says={ask.key: (0.9 * ask.window.expected, ask.window.low)},
        next="Look for another charger that told it the bank was full; read the volts at its own terminals: sense wires, drop.",
    )  # fmt: skip
    yield Suspect(
        key="not_full", title="Not at the end yet", prior=0.3, says={ask.key: (0.88 * ask.window.expected, ask.window.low)},
        next="Wait: it is full when the volts hold and the current has fallen to a few per cent of the Ah.",
    )  # fmt: skip


_BY_GATE: dict[str, Callable[[Expected, Asks], Iterator[Suspect]]] = {
    "blocks": _block_suspects,
    "polarity": _bank_suspects,
    "controllers": _bank_suspects,
    "strings": _string_suspects,
    "sun": _sun_suspects,
    "settings": _setting_suspects,
    "inverter": _inverter_suspects,
    "precharge": _precharge_suspects,
    "grounds": _ground_suspects,
    "transfer": _transfer_suspects,
    "grid_charge": _charge_suspects,
    "others": _charge_suspects,
    "generator": _charge_suspects,
    "first_full": _full_suspects,
}
