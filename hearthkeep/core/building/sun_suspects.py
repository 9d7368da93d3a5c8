"""Suspects of strings and of the closed sun. How often each is met is common practice, no source."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations

from hearthkeep.core.building.gate import Ask
from hearthkeep.core.building.last_gates import string_keys, sun_arrays
from hearthkeep.core.building.live_gates import charging_controllers
from hearthkeep.core.building.suspect import Range, Suspect
from hearthkeep.core.building.suspect_ranges import Asks, near, times
from hearthkeep.core.building.windows import Expected
from hearthkeep.core.design import ControllerKind


def string_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
    volts = {key: ask for key, ask in asks.items() if key.endswith("_v")}
    count = max(len(volts), 1)
    for array in sun_arrays(expected):
        for key in string_keys(array):
            volt_key, amp_key = f"strings.{key}_v", f"strings.{key}_a"
            volt, amp = asks[volt_key], asks[amp_key]
            name = volt.label.removesuffix(": open")
            yield Suspect(
                key=f"reversed.{key}", title=f"{name}: plus and minus exchanged", prior=0.25 / count,
                says={volt_key: times(volt, -1), amp_key: times(amp, -1)},
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
                    says={volt_key: times(volt, (array.series - 1) / array.series)},
                    next="Count the panels of this string; measure each alone.",
                )  # fmt: skip
            yield Suspect(
                key=f"one_too_many.{key}", title=f"{name}: one panel too many", prior=0.06 / count,
                says={volt_key: times(volt, (array.series + 1) / array.series)},
                next="Count the panels of this string before anything is connected: the controller's limit is at stake.",
            )  # fmt: skip
            yield Suspect(
                key=f"diode.{key}", title=f"{name}: a bypass diode shorted", prior=0.08 / count,
                says={volt_key: times(volt, 1 - 1 / (3 * array.series))},
                next="Measure panel by panel; one is a third below its neighbours.",
            )  # fmt: skip
            yield Suspect(
                key=f"shaded.{key}", title=f"{name}: shaded, dirty or under snow", prior=0.25 / count,
                says={volt_key: times(volt, 0.9, 1.0), amp_key: (0.05 * amp.window.low, 0.85 * amp.window.low)},
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
        says={key: times(ask, 0.88, 1.0) if key.endswith("_v") else (0.1 * ask.window.low, 0.9 * ask.window.low) for key, ask in asks.items()},
        next="Measure the sun on the plane, or wait for a sky without doubt.",
    )  # fmt: skip
    yield Suspect(
        key="meter_range", title="Meter on alternating current, on the wrong range or with a flat battery", prior=0.08,
        says=dict.fromkeys(volts, (-0.5, 1.0)), next="Try the meter on a battery whose volts you know.",
    )  # fmt: skip


def _alike(one: Ask, other: Ask) -> bool:
    """Whether two strings could not be told apart by their volts."""
    return one.window.holds(other.window.expected) and other.window.holds(one.window.expected)


def sun_suspects(expected: Expected, asks: Asks) -> Iterator[Suspect]:
    monitor = asks.get("sun.monitor_a")
    if monitor is not None:
        yield Suspect(
            key="reversed_shunt", title="Shunt turned round, or its sense leads exchanged", prior=0.25, says={monitor.key: times(monitor, -1)},
            next="Inverter on with a load and the sun off: the monitor must count downwards. The bank's side of the shunt goes to the bank.",
        )  # fmt: skip
        for factor in (0.5, 2.0):
            yield Suspect(
                key=f"shunt_ratio.{factor:g}", title=f"Monitor set for a shunt of {factor:g} times its rating", prior=0.06,
                says={monitor.key: times(monitor, factor)},
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
        if amp.window.high > 0:
            others = [each for each in charging_controllers(expected) if each.id != controller.id]
            if others:
                yield Suspect(
                    key=f"two_on_one.{controller.id}", title=f"{controller.name}: another array's strings are on it too", prior=0.12,
                    says=with_monitor(1.15 * amp.window.high / max(expected_a, 0.1), 3.0),
                    next="Open one array's disconnect after the other and see whose current falls.",
                )  # fmt: skip
            yield Suspect(
                key=f"cloud_edge.{controller.id}", title=f"{controller.name}: the bright edge of a cloud, or more sun than was said", prior=0.15,
                says=with_monitor(amp.window.high / max(expected_a, 0.1), 1.35 * amp.window.high / max(expected_a, 0.1)),
                next="Wait a minute and read again; measure the sun on the plane.",
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
                says={in_key: near(expected.rating.charging_v + expected.blocks, 2 * expected.blocks), **with_monitor(0.3, 0.8)},
                next="Start it anew, sun off first. If it stays there, it is one that switches, or a broken one.",
            )  # fmt: skip
