"""Alarms while the outage is on: raised at one level and cleared at another, and only where it stays so for a while."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank import TYPICAL
from hearthkeep.core.checks import Severity
from hearthkeep.core.design import Chemistry, Design, Tier
from hearthkeep.core.figure import COMMON_PRACTICE
from hearthkeep.core.foresight import TierLeft
from hearthkeep.core.logbook import COLD_PER_H, HOUR_S, QUANTITIES, Log, Quantity, Trace, lengths_h, volts_limits
from hearthkeep.core.practice import degrees, volume_text
from hearthkeep.core.watch.devices import DeviceFault, FaultKind
from hearthkeep.core.watch.fault_words import FAULT_WORDS
from hearthkeep.core.watch.live import Phase
from hearthkeep.core.watch.stand import EPOCH, Stand
from hearthkeep.core.words import hours, listed, percent, watts

Floats = NDArray[np.float64]

#: The house takes more than planned from so many times the plan on, and no longer below so many; mean of so long [h], and
#: only from so many watts above it on. Our assumption.
DRAW_RAISES, DRAW_CLEARS, DRAW_OVER_H, DRAW_LEAST_W = 1.4, 1.15, 2.0, 50.0
#: It is looked at every so often [h].
DRAW_EVERY_H = 0.25
#: Displays of the bank's volts that lie further apart than this for each 12 V, and cleared below [V]. As in Build's cross-reading.
APART_RAISES_V, APART_CLEARS_V = 0.30, 0.20
#: Volts and amps have to stay there for so long, and instruments apart for so long [s]. Our assumption.
HOLD_S, APART_HOLD_S = 120.0, 600.0
#: Volts fall so far below their limit before they count as held again, for each 12 V [V].
VOLTS_CLEAR_V = 0.2
#: Cells have to be so much warmer before charging them counts as safe again [K].
COLD_CLEARS_K = 2.0
#: A series counts as silent after so many of its usual steps, and not before so long [s]; it had to be regular over a day, with so
#: many readings at least.
SILENT_STEPS, SILENT_LEAST_S, REGULAR_READINGS = 4.0, 900.0, 12
#: A word that was not believed is told for so long [h].
DOUBTED_H = 3.0
#: Only what was read within so long counts as read lately [h].
LATELY_H = 24.0


@dataclass(frozen=True, kw_only=True, slots=True)
class LiveAlarm:
    """One thing that is wrong now."""

    key: str
    severity: Severity
    title: str
    message: str
    #: What to do next.
    next: str
    basis: str
    #: It is so since then, local standard time; and somebody has seen it since.
    since: datetime
    is_acknowledged: bool


@dataclass(frozen=True, slots=True)
class Spell:
    """A time for which something is wrong; no end while it goes on [s since 1970, local standard time]."""

    start_s: float
    end_s: float | None


def spells(at_s: Floats, values: Floats, *, raises: float, clears: float, hold_s: float) -> tuple[Spell, ...]:
    """
    When values were too high: from where they reach one level and stay for a while, to where they fall below another and stay.

    :param at_s: moments, ascending [s], (n,).
    :param values: of any unit, (n,).
    :param hold_s: for so long it has to stay [s].
    """
    found: list[Spell] = []
    is_on, since = False, None
    for moment, value in zip(at_s.tolist(), values.tolist(), strict=True):
        turns = value >= raises if not is_on else value < clears
        if not turns:
            since = None
            continue
        since = moment if since is None else since
        if moment - since >= hold_s:
            if is_on:
                found[-1] = Spell(found[-1].start_s, since)
            else:
                found.append(Spell(since, None))
            is_on, since = not is_on, None
    return tuple(found)


def alarms_now(
    stand: Stand, log: Log, left: Sequence[TierLeft], faults: Sequence[DeviceFault] = ()
) -> tuple[LiveAlarm, ...]:
    """Everything that is wrong now, the gravest first; without an outage only what the readings and the devices say."""
    found = [*_life(stand, left), *_generator(stand), *_doubt(stand), *(_fault(stand, fault) for fault in faults)]
    told_by = {key for fault in faults for key in _TOLD_BY.get(fault.kind, ())}
    for key, each in spells_of(stand, log).items():
        if each and each[-1].end_s is None and key not in told_by:
            found.append(_told(stand, log, key, each[-1].start_s))
    order = {Severity.STOP: 0, Severity.MEND: 1, Severity.MIND: 2, Severity.GOOD: 3}
    return tuple(sorted(found, key=lambda alarm: (order[alarm.severity], alarm.since)))


def spells_of(stand: Stand, log: Log) -> dict[str, tuple[Spell, ...]]:
    """When what the readings can show was wrong since the outage began, by the alarm's key."""
    design, since_s = stand.prepared.design, _since_s(stand)
    blocks = design.bank.nominal_v / 12.0
    found = {"draw": _draw(stand, log)}
    volts = [_lately(log.find(Quantity.BANK_V, part), since_s) for part in log.parts(Quantity.BANK_V)]
    _, limit_v = volts_limits(design)
    for trace in volts:
        over = spells(trace.at_s, trace.values, raises=limit_v, clears=limit_v - VOLTS_CLEAR_V * blocks, hold_s=HOLD_S)
        found["over_volts"] = tuple(sorted((*found.get("over_volts", ()), *over), key=lambda each: each.start_s))
    found["apart"] = _apart(volts, blocks)
    found["cold"] = _cold(design, log, since_s)
    silent = _silent(stand, log)
    found["silent"] = (Spell(min(at_s for at_s, _ in silent), None),) if silent else ()
    return found


#: What a named fault tells already.
_TOLD_BY = {
    FaultKind.DROPPED: ("silent",),
    FaultKind.CREEPING: ("over_volts",),
    FaultKind.DRIFT: ("apart",),
    FaultKind.SCALE: ("apart", "over_volts"),
    FaultKind.FROZEN: ("apart",),
}


def _fault(stand: Stand, fault: DeviceFault) -> LiveAlarm:
    """A named fault of a device as an alarm."""
    severity, title, following, basis = FAULT_WORDS[fault.kind]
    return _made(
        stand,
        f"fault_{fault.kind.value}_{fault.key}"[:50].lower(),
        severity,
        fault.since,
        f"{fault.name}: {title}",
        fault.signs,
        following,
        basis,
    )


def _since_s(stand: Stand) -> float:
    """From when on readings are looked at: the beginning of the outage, or a day back without one [s]."""
    on = stand.live.phase is Phase.ON
    return ((stand.start if on else stand.now - timedelta(hours=LATELY_H)) - EPOCH).total_seconds()


def _lately(trace: Trace | None, since_s: float) -> Trace:
    if trace is None:
        return Trace(at_s=np.zeros(0), values=np.zeros(0))
    own = trace.at_s >= since_s
    return Trace(at_s=trace.at_s[own], values=trace.values[own])


def _draw(stand: Stand, log: Log) -> tuple[Spell, ...]:
    """Mean of what the house took over two hours beside the plan's in the same hours, every quarter of an hour."""
    trace = log.find(Quantity.INVERTER_W)
    if trace is None or stand.live.phase is not Phase.ON or stand.at_h < DRAW_OVER_H:
        return ()
    course, start_s = stand.course, (stand.start - EPOCH).total_seconds()
    at_h = np.arange(DRAW_OVER_H, stand.at_h + 1e-9, DRAW_EVERY_H)
    own = np.array([
        load.supply.is_ac and load.tier is not Tier.SPARE and load.id not in stand.by_plan.off for load in course.design.loads
    ], dtype=bool)  # fmt: skip
    planned_w = course.prepared.rows.average_w[own].sum(axis=0)[course.prepared.scene.row]
    planned_wh = np.concatenate(([0.0], np.cumsum(planned_w * course.prepared.scene.clock.length_h)))
    read_h = (trace.at_s - start_s) / HOUR_S
    lengths = lengths_h(trace.at_s)
    read_wh = np.concatenate(([0.0], np.cumsum(trace.values * lengths)))
    covered_h = np.concatenate(([0.0], np.cumsum(lengths)))
    edges = np.append(read_h, read_h[-1] if read_h.size else 0.0)

    def over(totals: Floats, places: Floats) -> Floats:
        found: Floats = np.interp(at_h, places, totals) - np.interp(at_h - DRAW_OVER_H, places, totals)
        return found

    plan_w = over(planned_wh, course.edges_h) / DRAW_OVER_H
    hours_read = over(covered_h, edges)
    mean_w = over(read_wh, edges) / np.maximum(hours_read, 1e-9)
    # Half of the time has to be read.
    counts = (hours_read >= 0.5 * DRAW_OVER_H) & (mean_w - plan_w >= DRAW_LEAST_W)
    ratio = np.where(counts, mean_w / np.maximum(plan_w, 1.0), np.minimum(mean_w / np.maximum(plan_w, 1.0), 1.0))
    return spells(start_s + at_h * HOUR_S, ratio, raises=DRAW_RAISES, clears=DRAW_CLEARS, hold_s=DRAW_EVERY_H * HOUR_S)


def _apart(volts: Sequence[Trace], blocks: float) -> tuple[Spell, ...]:
    """Displays of one bank that do not agree, minute by minute."""
    read = [trace for trace in volts if trace.at_s.size]
    if len(read) < 2:
        return ()
    first_s, last_s = max(trace.at_s[0] for trace in read), min(trace.at_s[-1] for trace in read)
    at_s = np.arange(first_s, last_s + 1.0, 60.0)
    values = np.array([np.interp(at_s, trace.at_s, trace.values) for trace in read])
    return spells(
        at_s,
        np.ptp(values, axis=0) if at_s.size else np.zeros(0),
        raises=APART_RAISES_V * blocks,
        clears=APART_CLEARS_V * blocks,
        hold_s=APART_HOLD_S,
    )


def _cold(design: Design, log: Log, since_s: float) -> tuple[Spell, ...]:
    """Lithium that is charged below its least temperature: how far below, where a charge flows."""
    temp, amps = log.find(Quantity.BANK_C), _lately(log.find(Quantity.BANK_A), since_s)
    if design.bank.chemistry is not Chemistry.LFP or temp is None or not temp.at_s.size or not amps.at_s.size:
        return ()
    least_c = TYPICAL[design.bank.chemistry].charge_min_c
    below_k = least_c - np.interp(amps.at_s, temp.at_s, temp.values)
    flows = amps.values > COLD_PER_H * design.bank.rated_ah
    return spells(
        amps.at_s, np.where(flows, below_k, -COLD_CLEARS_K - 1.0), raises=1e-9, clears=-COLD_CLEARS_K, hold_s=HOLD_S
    )


def _silent(stand: Stand, log: Log) -> list[tuple[float, str]]:
    """Series that were regular over the last day and have stopped: since when, and what they are called."""
    now_s = (stand.now - EPOCH).total_seconds()
    found: list[tuple[float, str]] = []
    if stand.live.phase is not Phase.ON:
        # A log that was taken as a file is no device that stopped.
        return found
    for (quantity, part), trace in log.traces.items():
        recent = trace.at_s[(trace.at_s >= now_s - LATELY_H * HOUR_S) & (trace.at_s <= now_s)]
        if recent.size < REGULAR_READINGS:
            continue
        usual_s = float(np.median(np.diff(recent)))
        if now_s - float(recent[-1]) > max(SILENT_STEPS * usual_s, SILENT_LEAST_S):
            found.append((float(recent[-1]), QUANTITIES[quantity].label + (f", {part}" if part else "")))
    return found


def _acknowledged(stand: Stand, key: str, since: datetime) -> bool:
    return any(
        decision.key == f"alarm:{key}" and decision.is_done and moment >= since
        for moment, decision in stand.live.decisions
    )


def _made(
    stand: Stand, key: str, severity: Severity, since: datetime, title: str, message: str, following: str, basis: str
) -> LiveAlarm:
    return LiveAlarm(
        key=key,
        severity=severity,
        title=title,
        message=message,
        next=following,
        basis=basis,
        since=since,
        is_acknowledged=_acknowledged(stand, key, since),
    )


def _told(stand: Stand, log: Log, key: str, since_s: float) -> LiveAlarm:
    """An alarm of the readings in words."""
    design, since = stand.prepared.design, (EPOCH + timedelta(seconds=since_s)).replace(microsecond=0)
    if key == "draw":
        most = max(stand.uses, key=lambda use: use.read_w - use.plan_w, default=None)
        changed = (
            f" Most of it: {most.part or 'what no group of readings holds'}, {watts(most.read_w)} instead of {watts(most.plan_w)}."
            if most is not None and most.read_w > most.plan_w
            else ""
        )
        return _made(
            stand, key, Severity.MIND, since, "The house takes more than planned", f"Over the last two hours.{changed}",
            "Find what was switched on; the hours above are counted at this draw.", f"Our assumption: {DRAW_RAISES:g} times the plan",
        )  # fmt: skip
    if key == "over_volts":
        set_v, limit_v = volts_limits(design)
        return _made(
            stand, key, Severity.STOP, since, "Volts above every set point",
            f"The chargers are set to {set_v:.1f} V at most, and more than {limit_v:.1f} V were read.",
            "Open the array disconnect, then the charger's device; read at the posts with a meter.",
            f"{COMMON_PRACTICE}: a failed controller creeps upwards, and something burns",
        )  # fmt: skip
    if key == "apart":
        read = {
            part or "bank": float(trace.values[-1])
            for part in log.parts(Quantity.BANK_V)
            if (trace := log.find(Quantity.BANK_V, part)) is not None and trace.at_s.size
        }
        shown = listed([f"{part} {value:.1f} V" for part, value in read.items()])
        return _made(
            stand, key, Severity.MIND, since, "Displays of the bank do not agree", f"{shown}.",
            "Hold a hand meter to the posts and trust that one until they agree again.", COMMON_PRACTICE,
        )  # fmt: skip
    if key == "cold":
        least = degrees(design, TYPICAL[design.bank.chemistry].charge_min_c)
        return _made(
            stand, key, Severity.STOP, since, "Charged below freezing", f"Current flows into cells colder than {least}.",
            "Stop the charge until they are warm.", "Plating of lithium below 0 °C; makers' data sheets",
        )  # fmt: skip
    names = listed([name for _, name in _silent(stand, log)])
    return _made(
        stand, key, Severity.MEND, since, "A device is silent", f"No reading any more of: {names}.",
        "Look at its display and its cable. Until it speaks again the model reckons on from its last reading.",
        f"Our assumption: {SILENT_STEPS:g} of its usual steps, {SILENT_LEAST_S / 60:g} min at least",
    )  # fmt: skip


def _life(stand: Stand, left: Sequence[TierLeft]) -> Iterator[LiveAlarm]:
    """Life does not last until help is expected: by the forecast itself, or in the worst of nine futures in ten."""
    if stand.live.phase is not Phase.ON:
        return
    life, to_help_h = left[0], (stand.live.help - stand.now).total_seconds() / HOUR_S
    if not any(load.tier is Tier.LIFE for load in stand.prepared.design.loads) or life.low_h >= to_help_h:
        return
    # What grows graver is another alarm: to have seen the one is not to have seen the other.
    fails = life.hours < to_help_h
    yield _made(
        stand, "life" if fails else "life_poor", Severity.STOP if fails else Severity.MIND, stand.start,
        "Life is not carried until help is there" if fails else "Life may not be carried until help is there",
        f"By the forecast it lasts {hours(life.hours)}, in the worst of nine futures in ten {hours(life.low_h)}; help is expected "
        f"in {hours(max(to_help_h, 0.0))}.",
        "Follow the instruction above, and call for help now: whoever depends on a machine needs the supplier's and the utility's own plan.",
        "The outage's model run forward from now",
    )  # fmt: skip


def _doubt(stand: Stand) -> Iterator[LiveAlarm]:
    """The gauge's newest word is not believed."""
    last = stand.doubted[-1] if stand.doubted else None
    if last is None or last.charge_frac is None or stand.at_h - last.at_h > DOUBTED_H:
        return
    now_frac = stand.state.stored_wh / stand.prepared.plant.acceptance.capacity_wh
    yield _made(
        stand, "doubt", Severity.MEND, stand.moment(last.at_h), "The gauge of the bank jumped",
        f"It says {percent(last.charge_frac)}; from what it said before the bank cannot be there. Reckoned on it is "
        f"{percent(float(now_frac))}, and that is counted with.",
        "Read the volts on another instrument. If the gauge stays where it is for some hours it is believed.", "Our assumption",
    )  # fmt: skip


def _generator(stand: Stand) -> Iterator[LiveAlarm]:
    """With each run: what kills, and when it has to be refuelled."""
    genset, plant = stand.state.genset, stand.prepared.plant.generator
    if not genset.runs or plant.rated_w <= 0 or stand.live.phase is not Phase.ON:
        return
    burn_l_per_h = plant.idle_l_per_h + plant.l_per_kwh * plant.charger_w / plant.charger_efficiency / 1000
    # From a full tank on: the model fills it up whenever somebody is there.
    full_h = plant.tank_l / burn_l_per_h if burn_l_per_h > 0 else 0.0
    tank_h = min(max(full_h - genset.run_h, 0.0), genset.fuel_l / burn_l_per_h if burn_l_per_h > 0 else 0.0)
    design = stand.prepared.design
    began = (stand.now - timedelta(hours=float(genset.run_h))).replace(second=0, microsecond=0)
    yield _made(
        stand, "generator", Severity.MIND, began, "The generator runs",
        f"From a full tank on it lasts about {hours(tank_h)} more at full charge; {volume_text(design, float(genset.fuel_l))} are left in all.",
        "Outdoors only, away from doors, windows and vents; the alarm for carbon monoxide has to be awake. Stop it and let it cool "
        "before refuelling.", COMMON_PRACTICE,
    )  # fmt: skip
