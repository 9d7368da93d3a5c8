"""Suspects of set points, inverter, grounds, change-over and chargers. How often each is met is common practice, no source."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.bank import CELLS, cells_of
from hearthkeep.core.building.gate import Ask
from hearthkeep.core.building.live_gates import drop_runs
from hearthkeep.core.building.suspect import Range, Suspect
from hearthkeep.core.building.suspect_ranges import Asks, all_of, as_type, near, times
from hearthkeep.core.building.windows import Expected
from hearthkeep.core.design import Chemistry


def setting_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
    bank = expected.design.bank
    cells = cells_of(bank)
    play = 0.1 * expected.blocks
    for other in (Chemistry.LFP, Chemistry.AGM, Chemistry.GEL, Chemistry.FLOODED):
        if other is bank.chemistry:
            continue
        points, count = CELLS[other], cells_of(as_type(bank, other))
        says: dict[str, Range] = {}
        if "set.absorb_v" in asks:
            says["set.absorb_v"] = (count * points.absorb_low_v - play, count * points.absorb_high_v + play)
        if "set.float_v" in asks:
            says["set.float_v"] = near(count * points.float_v, 2 * play)
        if "set.absorb_h" in asks:
            says["set.absorb_h"] = (0.5, 6.0)
        if "set.equalise_v" in asks and points.equalise_v is not None:
            says["set.equalise_v"] = near(count * points.equalise_v, 2 * play)
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
            says=all_of(asks, factor, ending="_v"),
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


def inverter_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
    amps = asks["inverter.test_a"]
    yield Suspect(
        key="reversed_shunt", title="Shunt turned round, or its sense leads exchanged", prior=0.2, says={amps.key: times(amps, -1)},
        next="Compare the sign with a clamp. The bank's side of the shunt goes to the bank.",
    )  # fmt: skip
    for factor in (0.5, 2.0):
        yield Suspect(
            key=f"shunt_ratio.{factor:g}", title=f"Monitor set for a shunt of {factor:g} times its rating", prior=0.06,
            says={amps.key: times(amps, factor)},
            next="Compare the amps with a clamp; read the shunt's own stamp and the monitor's setting.",
        )  # fmt: skip
    yield Suspect(
        key="test_load", title="The test load is not what its nameplate says", prior=0.2, says={amps.key: times(amps, 0.5, 1.5)},
        next="Read its watts with a plug-in meter.",
    )  # fmt: skip
    yield Suspect(
        key="other_load", title="Something else is on", prior=0.15,
        says={amps.key: times(amps, 1.0, 1.6), "inverter.idle_w": (asks["inverter.idle_w"].window.high, 20 * max(asks["inverter.idle_w"].window.high, 1.0))},
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
            says={key: times(ask, 1.2, 2.6)}, next="Read the cable's print; measure its length; put both into Wiring.",
        )  # fmt: skip
    volts = asks["inverter.bank_v"]
    yield Suspect(
        key="weak_bank", title="The bank sinks under load: low, worn, or one block bad", prior=0.15,
        says={volts.key: (0.8 * volts.window.low, volts.window.low)},
        next="Block by block under the same load: the bad one is lowest.",
    )  # fmt: skip
    yield from _leg_suspects(asks, "inverter")
    for other_v in (120.0, 230.0, 240.0, 208.0, 100.0):
        if not asks["inverter.out_v"].window.holds(other_v):
            yield Suspect(
                key=f"output_set.{other_v:g}", title=f"Its output is set to {other_v:g} V", prior=0.04,
                says={"inverter.out_v": near(other_v, 0.02 * other_v)}
                | {key: near(other_v / 2, 0.02 * other_v / 2) for key in LEGS["inverter"][:2] if key in asks}, next="Read the output setting; change it with nothing plugged in.",
            )  # fmt: skip
    for other_hz in (50.0, 60.0):
        if not asks["inverter.hz"].window.holds(other_hz):
            yield Suspect(
                key=f"hertz_set.{other_hz:g}", title=f"Its output is set to {other_hz:g} Hz", prior=0.08,
                says={"inverter.hz": near(other_hz, 0.5)}, next="Read the output setting; change it with nothing plugged in.",
            )  # fmt: skip
    yield Suspect(
        key="meter_waveform", title="The meter averages: it shows a stepped wave too low", prior=0.08,
        says={"inverter.out_v": times(asks["inverter.out_v"], 0.75, 0.95)}, next="Use a meter that reads true effective values.",
    )  # fmt: skip


def precharge_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
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
        key="reversed_polarity", title="Plus and minus exchanged", prior=0.1, says={key: times(asks[key], -1, -0.02)},
        next="Take the resistor off at once; follow both leads home.",
    )  # fmt: skip


def ground_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
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


def transfer_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
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
        key="long_cord", title="A long thin cord or an overloaded run", prior=0.2, says={out.key: times(out, 0.85, 0.97)},
        next="Read at the inverter with the same load; what is missing is lost on the way.",
    )  # fmt: skip
    yield from _leg_suspects(asks, "transfer")
    yield Suspect(
        key="dead", title="A breaker still open", prior=0.25,
        says={key: (-1.0, 0.1 * ask.window.expected) for key, ask in asks.items() if key == out.key or key in LEGS["transfer"]},
        next="Read on both sides of each breaker on the way.",
    )  # fmt: skip
    yield from _set_elsewhere(out, "transfer", asks)
    rcd = asks.get("transfer.rcd_s")
    if rcd is not None:
        yield Suspect(
            key="rcd_stays", title="The residual current device does not trip: no bond, a second bond behind it, or worn", prior=0.2,
            says={rcd.key: (rcd.window.high, 20.0)},
            next="Count the bonds of neutral and earth on this supply: exactly one, before the device. Then try another device.",
        )  # fmt: skip


#: Readings of the legs at a gate.
LEGS = {gate: (f"{gate}.leg_a_v", f"{gate}.leg_b_v", f"{gate}.between_v") for gate in ("transfer", "inverter")}


def _leg_suspects(asks: Asks, gate: str) -> Iterator[Suspect]:
    """Of two legs apart: an open neutral lets one rise while the other falls, and their sum stays."""
    one_key, other_key, between_key = LEGS[gate]
    if one_key not in asks or other_key not in asks:
        return
    for high, low in ((one_key, other_key), (other_key, one_key)):
        nominal = asks[high].window.expected
        yield Suspect(
            key=f"open_neutral.{high}", title="An open neutral: one leg high, the other low", prior=0.1,
            says={high: (1.06 * nominal, 1.9 * nominal), low: (0.1 * nominal, 0.94 * nominal)},
            next="Everything off at once. Tighten every neutral on the way, then read both legs with plain lamps on.",
        )  # fmt: skip
        yield Suspect(
            key=f"dead_leg.{low}", title=f"{asks[low].label}: that leg is dead", prior=0.15,
            says={low: (-1.0, 0.1 * nominal)}
            | ({between_key: (-1.0, 1.06 * nominal)} if between_key in asks else {}),
            next="Look for its breaker, its fuse, or the unit of a pair that gives it.",
        )  # fmt: skip


def _set_elsewhere(out: Ask, gate: str, asks: Asks) -> Iterator[Suspect]:
    """A supply that is set to other volts: everything moves with it."""
    for factor, words in ((230.0 / 240.0, "230 V"), (208.0 / 240.0, "208 V"), (100.0 / 120.0, "100 V a line")):
        if out.window.expected in (120.0, 240.0):
            yield Suspect(
                key=f"supply_set.{words.split()[0]}", title=f"The supply is set to {words}", prior=0.05,
                says={
                    key: near(factor * ask.window.expected, 0.015 * ask.window.expected)
                    for key, ask in asks.items()
                    if key == out.key or key in LEGS[gate]
                },
                next="Read the output setting of the unit; change it with nothing plugged in.",
            )  # fmt: skip


def dead_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
    """Of a bus that should be dead."""
    key = "dead.bus_v"
    ask = asks[key]
    low = expected.bank_volts[0].low
    yield Suspect(
        key="main_closed", title="The bank's main device is closed, or bridged", prior=0.4, says={key: (0.93 * low, 1.02 * expected.rating.charging_v)},
        next="Hands off. Open it, lock it, read again; if it still reads, follow the plus from the bank's post.",
    )  # fmt: skip
    if expected.design.charging.arrays:
        yield Suspect(
            key="sun_on_bus", title="The sun: an array's disconnect is closed and its controller feeds the bus", prior=0.2,
            says={key: (0.4 * low, 1.6 * expected.rating.charging_v)},
            next="Open and lock every array's disconnect, then read again.",
        )  # fmt: skip
    if expected.design.inverter.rated_w > 0:
        yield Suspect(
            key="capacitors", title="The capacitors of inverter and controllers are still full: it falls while you watch", prior=0.3,
            says={key: (ask.window.high, 0.9 * low)},
            next="Wait five minutes; read again. Discharge them through a lamp or the precharge resistor, never with a tool.",
        )  # fmt: skip
    yield Suspect(
        key="reversed_source", title="A source joined the wrong way round", prior=0.05, says={key: (-1.02 * expected.rating.charging_v, -0.4 * low)},
        next="Hands off. Open it at its own post, mark plus and minus, then read again.",
    )  # fmt: skip


def charge_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
    """Of a charger's current, whichever gate asks for it."""
    for key, ask in asks.items():
        if not key.endswith(".a"):
            continue
        middle = ask.window.expected
        yield Suspect(
            key="reversed_shunt", title="Shunt turned round, or its sense leads exchanged", prior=0.2, says={key: times(ask, -1)},
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
                key="governor", title="Its governor: slow when loaded, fast when not", prior=0.3, says={key: times(ask, 0.85, 1.15)},
                next="Read with no load and at half load; a workshop sets it.",
            )  # fmt: skip
        elif key.endswith(".v"):
            yield Suspect(
                key="regulator", title="Its voltage regulator, or a long thin cord", prior=0.25, says={key: times(ask, 0.8, 1.15)},
                next="Read at its own outlet with the same load.",
            )  # fmt: skip


def full_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
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
