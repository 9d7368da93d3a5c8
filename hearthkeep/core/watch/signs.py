"""
The signs of each fault: what several instruments say of the same thing, laid side by side.

Levels are our assumption; the ways in which instruments lie are common practice, no source.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from math import log10

import numpy as np

from hearthkeep.core.inverter import marginal_efficiency
from hearthkeep.core.logbook import Quantity, Trace, volts_limits
from hearthkeep.core.watch.devices import DeviceFault, DeviceTrack, FaultKind, Floats, InstrumentKind
from hearthkeep.core.watch.side import NOW_STEPS, SILENT_S, STEP_S, Known, Side, silent_s
from hearthkeep.core.words import begun

#: The same words for so long are no readings any more [s].
FROZEN_S, FROZEN_LEAST = 120.0, 6
#: A ratio counts as a power of ten within so much of its logarithm, and small values prove nothing [A, W].
DECADE_LOG, LEAST_A, LEAST_W = 0.12, 1.5, 30.0
#: Amps that are mirrored over so many steps, from so many on, and from this part of the rated Ah [A, 1/h].
MIRROR_STEPS, MIRROR_A, MIRROR_PER_H = 6, 0.8, 0.004
#: A display leaves the others by so much for each 12 V [V], a shunt by so many amps or this part of the rated Ah [A, 1/h]. It goes one
#: way: by its correlation with time over five minutes, and no minute makes more than this part of the way.
DRIFT_V, DRIFT_A, DRIFT_PER_H, ONE_WAY, ONE_MINUTE, WAY_S = 0.06, 1.5, 0.02, 0.9, 0.6, 300.0
#: Volts past the highest set point by so much for each 12 V [V]; that far they have to climb [V/min], and past the second they need not.
CREEP_V, CREEP_V_PER_MIN, FAR_V = 0.1, 0.005, 0.3
#: An inverter that grows hotter by so much within five minutes [K], with so much allowed for a whole rating more that it gives.
HOT_K, ALLOWED_K, COOLER_K, HOT_C = 5.0, 25.0, 2.0, 75.0
#: Carbon monoxide as a device tells it: from here on it is a danger [ppm]. Of memory: alarms after UL 2034 have to sound at 70 ppm
#: within four hours.
CO_PPM = 50.0


def _dropped(side: Side, known: Known) -> Iterator[DeviceFault]:
    for track in side.tracks:
        longest_s = max((silent_s(trace) for trace in track.traces.values()), default=SILENT_S)
        last_s = track.asked_since_s if track.answered_s is None else track.answered_s
        if side.now_s - last_s > longest_s:
            told = "It has not answered yet." if track.answered_s is None else "It answers no more."
            yield side.fault(FaultKind.DROPPED, track, 1.0, told, since_s=last_s)


def _frozen(side: Side, known: Known) -> Iterator[DeviceFault]:
    own, volts = side.volts()
    # Without the newest steps: in one round some are asked before a change and some behind it.
    lately = volts[:, -int(FROZEN_S / STEP_S) - 1 : -2]
    moves = [np.unique(column[np.isfinite(column)]).size > 1 for column in lately]
    for track in side.tracks:
        traces = [trace for trace in track.traces.values() if trace.at_s.size]
        if not traces or not _is_alive(track):
            continue
        since_s = max(_same_since(trace) for trace in traces)
        said = min(int(np.count_nonzero(trace.at_s >= since_s)) for trace in traces)
        if side.now_s - since_s < FROZEN_S or said < FROZEN_LEAST:
            continue
        others = [moved for other, moved in zip(own, moves, strict=True) if other.key != track.key]
        # In a bank at rest nothing moves; what others see move has to be seen here as well.
        if any(others) or (not others and _was_lively(traces, since_s)) or (FaultKind.FROZEN, track.key) in known:
            minutes = (side.now_s - since_s) / 60.0
            yield side.fault(
                FaultKind.FROZEN, track, 0.9, f"All it says has been the same for {minutes:.0f} min while others move.", since_s=since_s
            )  # fmt: skip


def _same_since(trace: Trace) -> float:
    """Since when a trace says the same [s]."""
    changes = np.flatnonzero(np.diff(trace.values) != 0.0)
    return float(trace.at_s[changes[-1] + 1]) if changes.size else float(trace.at_s[0])


def _is_alive(track: DeviceTrack) -> bool:
    """What it says is no zero of a thing that stands still."""
    watts = track.find(Quantity.GENERATOR_W)
    return track.find(Quantity.BANK_V) is not None or (watts is not None and watts.values[-1] > LEAST_W)


def _was_lively(traces: Sequence[Trace], until_s: float) -> bool:
    """Before a moment one of them hardly ever said the same twice."""
    for trace in traces:
        before = trace.values[trace.at_s < until_s]
        if before.size >= FROZEN_LEAST and np.count_nonzero(np.diff(before)) >= 0.6 * (before.size - 1):
            return True
    return False


def _scale(side: Side, known: Known) -> Iterator[DeviceFault]:
    nominal_v, inverter = side.design.bank.nominal_v, side.design.inverter
    for track in side.tracks:
        volts = side.column(track, Quantity.BANK_V)
        tests: list[tuple[str, Floats]] = [("volts of the bank", volts / nominal_v)]
        amps = side.column(track, Quantity.DEVICE_A)
        if track.kind is InstrumentKind.INVERTER:
            watts, taken_w = side.column(track, Quantity.INVERTER_W), -amps * volts
            loads_w = (taken_w - inverter.idle_w) * marginal_efficiency(inverter)
            # An array behind the inverter carries part of what it gives.
            if side.design.charging.grid_tied is None:
                tests.append(("watts given to watts taken", _ratio(watts, loads_w, LEAST_W)))
        if track.kind is InstrumentKind.CONTROLLER:
            tests.append(
                ("watts to volts times amps", _ratio(side.column(track, Quantity.SUN_W), amps * volts, LEAST_W))
            )
        charge = side.column(track, Quantity.CHARGE)
        if np.isfinite(charge).sum() > 2 * NOW_STEPS:
            before = float(np.nanmedian(charge[:-NOW_STEPS])) if np.isfinite(charge[:-NOW_STEPS]).any() else np.nan
            tests.append(("charge to what it was", _ratio(charge, np.full(charge.size, before), 1.0)))
        if track.kind is InstrumentKind.MONITOR:
            # Amps by its own watts, where it says both.
            tests.append(("amps to watts by volts", _ratio(side.column(track, Quantity.BANK_A), amps, LEAST_A / 3.0)))
        if track.kind is InstrumentKind.GENERATOR:
            watts = side.column(track, Quantity.GENERATOR_W)
            tests.append(
                ("watts to what the house and the charger take", _ratio(watts, _asked_of_generator(side), LEAST_W))
            )
        for what, ratios in tests:
            power = _decade(ratios[-NOW_STEPS:])
            if power:
                yield side.fault(FaultKind.SCALE, track, 0.95, f"{begun(what)}: {_times(power)}.")
        if track.kind is InstrumentKind.MONITOR:
            others, balance = side.balance()
            power = _decade(_ratio(np.abs(side.column(track, Quantity.BANK_A)), np.abs(balance), LEAST_A)[-NOW_STEPS:])
            if power:
                yield side.fault(
                    FaultKind.SCALE, track, 0.8, f"Its amps to those of the other devices: {_times(power)}.", measured_by=others
                )  # fmt: skip


def _asked_of_generator(side: Side) -> Floats:
    """What the inverters give and charge while the generator carries them [W], (moments,); NaN where one says nothing."""
    own = side.of(InstrumentKind.INVERTER)
    if not own or side.design.charging.generator is None:
        return np.full(side.at_s.size, np.nan)
    asked_w = np.zeros(side.at_s.size)
    for track in own:
        charges_w = side.column(track, Quantity.DEVICE_A) * side.column(track, Quantity.BANK_V)
        asked_w = asked_w + np.where(charges_w > 0, charges_w, np.nan) + side.column(track, Quantity.INVERTER_W)
    return asked_w


def _ratio(one: Floats, other: Floats, least: float) -> Floats:
    """One to the other where both are large enough to say something, NaN elsewhere; a tenth of what is large enough counts."""
    with np.errstate(divide="ignore", invalid="ignore"):
        found: Floats = np.where((np.abs(other) >= least) & (np.abs(one) >= least / 10.0), one / other, np.nan)
    return found


def _decade(ratios: Floats) -> int:
    """The power of ten that all ratios share, 0 where there is none."""
    if not ratios.size or not np.isfinite(ratios).all() or not (ratios > 0).all():
        return 0
    powers = [log10(float(each)) for each in ratios]
    power = round(float(np.median(powers)))
    return power if power and all(abs(each - power) <= DECADE_LOG for each in powers) else 0


def _times(power: int) -> str:
    return f"{10**power} times what it should be" if power > 0 else f"1/{10**-power} of what it should be"


def _reversed(side: Side, known: Known) -> Iterator[DeviceFault]:
    others, balance = side.balance()
    for track in side.of(InstrumentKind.MONITOR):
        own, due = side.column(track, Quantity.BANK_A)[-MIRROR_STEPS:], balance[-MIRROR_STEPS:]
        if not (np.isfinite(own) & np.isfinite(due)).all():
            continue
        least_a = max(MIRROR_A, MIRROR_PER_H * side.design.bank.rated_ah)
        says_little = bool((np.abs(due) < least_a).any())
        # A source that nobody reads makes amps the other way as well; only a mirror moves the other way too.
        is_mirrored = bool((np.abs(own + due) < 0.4 * np.abs(due)).all()) and float(np.cov(own, due)[0, 1]) <= 0
        is_mirrored = (is_mirrored and not says_little) or _turned(
            side.column(track, Quantity.BANK_A), balance, least_a
        )
        was_known = (FaultKind.REVERSED, track.key) in known
        still_is = was_known and float(np.median(own) * np.median(due)) <= 0
        if is_mirrored or still_is or (was_known and says_little):
            yield side.fault(
                FaultKind.REVERSED, track, 0.85,
                f"It reads {float(own[-1]):+.1f} A where the other devices together make {float(due[-1]):+.1f} A.",
                measured_by=others,
            )  # fmt: skip


def _turned(amps: Floats, balance: Floats, least_a: float) -> bool:
    """Amps that turned to their own mirror image while those of the other devices stayed as they were."""
    now, then = slice(-MIRROR_STEPS, None), slice(-2 * MIRROR_STEPS - NOW_STEPS, -MIRROR_STEPS - 1)
    before, due_before = amps[then], balance[then]
    if not (np.isfinite(before) & np.isfinite(due_before)).all():
        return False
    was, was_due = float(np.median(before)), float(np.median(due_before))
    turned = bool((np.abs(amps[now] + was) < 0.2 * abs(was)).all())
    stayed = bool((np.abs(balance[now] - was_due) < 0.3 * abs(was)).all())
    return abs(was) >= least_a and turned and stayed


def _drift(side: Side, known: Known) -> Iterator[DeviceFault]:
    own, volts = side.volts()
    for at, track in enumerate(own):
        others = np.delete(volts, at, axis=0)
        # Of two that part the one that has moved farther from where it stood is the likelier.
        is_one_of_two = others.shape[0] == 1
        if not others.size or (is_one_of_two and _moved(volts[at]) < _moved(others[0])):
            continue
        # The middle of three and more is one of those that agree.
        agreed_v = others[0] if is_one_of_two else _middle(volts)
        apart_v = _leaves(side, _drifting(known, track, "V"), volts[at] - agreed_v, DRIFT_V * side.blocks)
        if apart_v is not None:
            yield side.fault(
                FaultKind.DRIFT, track, 0.5 if is_one_of_two else 0.7, f"It has left the other displays of the bank by {apart_v:+.2f} V.", level=apart_v, unit="V"
            )  # fmt: skip
    balancing, balance = side.balance()
    for track in side.of(InstrumentKind.MONITOR):
        least_a = max(DRIFT_A, DRIFT_PER_H * side.design.bank.rated_ah)
        apart_a = _leaves(side, _drifting(known, track, "A"), side.column(track, Quantity.BANK_A) - balance, least_a)
        if apart_a is not None:
            yield side.fault(
                FaultKind.DRIFT, track, 0.6, f"Its amps have left those of the other devices by {apart_a:+.1f} A.", level=apart_a, unit="A",
                measured_by=balancing,
            )  # fmt: skip


def _drifting(known: Known, track: DeviceTrack, unit: str) -> DeviceFault | None:
    """What was named of a device's drift in one unit."""
    before = known.get((FaultKind.DRIFT, track.key))
    return before if before is not None and before.unit == unit else None


def _moved(volts: Floats) -> float:
    """How far a display has moved from where it stood some minutes ago [V]."""
    earlier, newest = volts[: -int(WAY_S / STEP_S) - 1], volts[-NOW_STEPS:]
    if not np.isfinite(earlier).any() or not np.isfinite(newest).any():
        return 0.0
    return abs(float(np.nanmedian(newest)) - float(np.nanmedian(earlier)))


def _middle(columns: Floats) -> Floats:
    """The median of those that say something, NaN where nobody does, (moments,)."""
    silent = ~np.isfinite(columns).any(axis=0)
    found: Floats = np.where(silent, np.nan, np.nanmedian(np.where(silent, 0.0, columns), axis=0))
    return found


def _leaves(side: Side, before: DeviceFault | None, apart: Floats, least: float) -> float | None:
    """By how much it has left the others, step by step one way; none where it has not."""
    way = apart[-int(WAY_S / STEP_S) - 1 :]
    now = float(np.median(way[-NOW_STEPS:]))
    if not np.isfinite(now):
        return None
    if before is not None:
        return now if abs(now) > abs(before.level) / 2.0 else None
    # Where it stood before: as it is read from the beginning of what is held.
    earlier = apart[: -way.size]
    stood = float(np.nanmedian(earlier)) if np.isfinite(earlier).any() else 0.0
    if abs(now - stood) < least:
        return None
    begins = next((at for at in range(way.size) if np.isfinite(way[at:]).all()), way.size)
    way = way[begins:]
    # Where it had not begun yet, it stood still.
    began = _onset(way - stood, least)
    way = way[began:]
    if way.size < 2 * NOW_STEPS or np.ptp(way) <= 0:
        return None
    minutes = np.array([part.mean() for part in np.array_split(way, max(way.size // NOW_STEPS, 2))])
    steps = np.diff(minutes)
    total = abs(float(minutes[-1] - minutes[0]))
    one_way = abs(float(np.corrcoef(np.arange(way.size), way)[0, 1]))
    is_steady = total > 0 and one_way >= ONE_WAY and (steps.size < 2 or np.abs(steps).max() <= ONE_MINUTE * total)
    return now if is_steady and total >= 0.5 * least else None


def _onset(apart: Floats, least: float) -> int:
    """The first moment from which on it is never again as near as a quarter of the least that counts."""
    near = np.flatnonzero(np.abs(apart) < least / 4.0)
    return int(near[-1]) if near.size else 0


def _creeping(side: Side, known: Known) -> Iterator[DeviceFault]:
    own, volts = side.volts()
    if not own:
        return
    middle = _middle(volts)
    newest = middle[-NOW_STEPS:]
    if not np.isfinite(newest).all():
        return
    set_v, _ = volts_limits(side.design)
    over_v = float(np.median(newest)) - set_v
    minutes = np.isfinite(middle[-3 * NOW_STEPS :])
    recent = middle[-3 * NOW_STEPS :][minutes]
    climbs_v = (
        float(np.polyfit(np.arange(recent.size) * STEP_S / 60.0, recent, 1)[0]) if recent.size > NOW_STEPS else 0.0
    )
    source = _charging(side)
    if source is None:
        return
    is_known = (FaultKind.CREEPING, source.key) in known
    far = over_v > FAR_V * side.blocks
    climbing = over_v > CREEP_V * side.blocks and climbs_v > CREEP_V_PER_MIN * side.blocks
    if far or climbing or (is_known and over_v > 0.5 * CREEP_V * side.blocks):
        yield side.fault(
            FaultKind.CREEPING, source, 0.9,
            f"The displays agree on {float(np.median(newest)):.2f} V; set are {set_v:.2f} V at most.",
        )  # fmt: skip


def _charging(side: Side) -> DeviceTrack | None:
    """What charges the bank now: a controller with sun, else an inverter/charger, else nobody."""
    strongest: tuple[float, DeviceTrack] | None = None
    for track in (*side.of(InstrumentKind.CONTROLLER), *side.of(InstrumentKind.INVERTER)):
        amps = side.column(track, Quantity.DEVICE_A)[-NOW_STEPS:]
        mean_a = float(np.nanmean(amps)) if np.isfinite(amps).any() else 0.0
        if mean_a > 0.1 and (strongest is None or mean_a > strongest[0]):
            strongest = (mean_a, track)
    return None if strongest is None else strongest[1]


def _fan(side: Side, known: Known) -> Iterator[DeviceFault]:
    steps = int(WAY_S / STEP_S)
    for track in side.of(InstrumentKind.INVERTER):
        hot_c, watts = side.column(track, Quantity.DEVICE_C), side.column(track, Quantity.INVERTER_W)
        now_c, then_c = float(hot_c[-1]), float(hot_c[-steps - 1])
        before = known.get((FaultKind.FAN, track.key))
        if not np.isfinite(now_c):
            continue
        if before is not None:
            hotter = now_c >= before.level - COOLER_K
        else:
            older, newer = watts[:-steps], watts[-steps:]
            if not np.isfinite(then_c) or not np.isfinite(older).any() or not np.isfinite(newer).any():
                continue
            # What it gave more, at the most: some of the heat is still on its way.
            more_w = max(float(np.nanmax(watts)) - float(np.nanmean(older)), 0.0)
            allowed_k = HOT_K + ALLOWED_K * more_w / max(side.design.inverter.rated_w, 1.0)
            hotter = now_c - then_c >= allowed_k or now_c >= HOT_C
        if hotter:
            rise = (
                f" {now_c - then_c:+.0f} K within five minutes, and it gives no more than before."
                if np.isfinite(then_c)
                else ""
            )
            yield side.fault(FaultKind.FAN, track, 0.75, f"Inside it are {now_c:.0f} °C.{rise}", level=now_c, unit="°C")


def _co(side: Side, known: Known) -> Iterator[DeviceFault]:
    for track in side.tracks:
        if track.co_ppm is not None and track.co_ppm >= CO_PPM:
            yield side.fault(FaultKind.CO, track, 1.0, f"It tells of {track.co_ppm:.0f} ppm.")


SIGNS: tuple[Callable[[Side, Known], Iterator[DeviceFault]], ...] = (
    _dropped,
    _co,
    _frozen,
    _scale,
    _reversed,
    _drift,
    _creeping,
    _fan,
)
