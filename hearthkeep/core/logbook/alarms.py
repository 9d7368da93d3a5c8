"""What the log warns of: volts above the set point, a bank that is never full, instruments apart, a silent fan, charging in the cold."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta

import numpy as np

from hearthkeep.core.bank import TYPICAL, rate
from hearthkeep.core.building import Round, Shown, cross_read
from hearthkeep.core.checks import Severity
from hearthkeep.core.design import Chemistry, Design
from hearthkeep.core.figure import COMMON_PRACTICE
from hearthkeep.core.logbook.due import Written
from hearthkeep.core.logbook.entries import CrossEntry, EventEntry, EventKind
from hearthkeep.core.logbook.log import DAY_S, Log
from hearthkeep.core.logbook.quantities import Quantity
from hearthkeep.core.sources import stage_points

#: Above the set point by more than this for each 12 V a controller does not hold. Common practice, no source.
OVER_V_PER_12 = 0.3
#: Daily tops that rise by so much for each 12 V over the days looked at: it creeps. Our assumption.
CREEP_V_PER_12, CREEP_DAYS, LEAST_TOPS = 0.2, 21, 7
#: So long a bank may go without being full [d]: lead-acid sulphates, lithium's gauge drifts. Common practice, no source.
DAYS_SINCE_FULL = {True: 10.0, False: 91.0}
#: From here a gauge counts as full [%].
FULL_PERCENT = 99.0
#: Charging in the cold counts from this current on, as a part of the rated Ah [1/h].
COLD_PER_H = 0.01
MOST_ROUNDS = 60


@dataclass(frozen=True, kw_only=True, slots=True)
class Alarm:
    """One thing that the log warns of."""

    key: str
    severity: Severity
    title: str
    message: str
    #: What to do next.
    next: str
    basis: str


def alarms_of(design: Design, written: Sequence[Written], log: Log, *, today: date) -> tuple[Alarm, ...]:
    """Everything that the entries and readings warn of, the gravest first."""
    found = [
        *_over_volts(design, log),
        *_cold(design, log),
        *_not_full(design, log, today),
        *_instruments(design, written),
        *_fan(written),
    ]
    order = {Severity.STOP: 0, Severity.MEND: 1, Severity.MIND: 2, Severity.GOOD: 3}
    return tuple(sorted(found, key=lambda each: order[each.severity]))


def _tops(log: Log) -> tuple[np.ndarray, np.ndarray]:
    """The highest volts of each day of the last weeks: days since 1970 and volts; hand-written highs count as well."""
    at, values = [np.zeros(0)], [np.zeros(0)]
    for quantity in (Quantity.BANK_V, Quantity.HIGHEST_V):
        trace = log.find(quantity)
        if trace is not None:
            at.append(trace.at_s)
            values.append(trace.values)
    at_s, volts = np.concatenate(at), np.concatenate(values)
    if not at_s.size:
        return at_s, volts
    recent = at_s >= at_s.max() - CREEP_DAYS * DAY_S
    day = np.floor(at_s[recent] / DAY_S).astype(np.int64)
    days, group = np.unique(day, return_inverse=True)
    tops = np.full(days.size, -np.inf)
    np.maximum.at(tops, group, volts[recent])
    return days.astype(float), tops


def volts_limits(design: Design) -> tuple[float, float]:
    """The highest volts that any charger is set to, and those above which a controller does not hold [V]."""
    rating = rate(design.bank)
    points = stage_points(design, temp_c=rating.temp_c)
    set_v = max(points.absorb_at_temp_v, points.equalise_v or 0.0)
    over_v = set_v + OVER_V_PER_12 * rating.nominal_v / 12.0
    return set_v, max(over_v, points.usual_over_voltage_v if points.equalise_v is None else 0.0)


def _over_volts(design: Design, log: Log) -> Iterator[Alarm]:
    days, tops = _tops(log)
    if not tops.size:
        return
    rating = rate(design.bank)
    points = stage_points(design, temp_c=rating.temp_c)
    blocks = rating.nominal_v / 12.0
    set_v, limit_v = volts_limits(design)
    top_v = float(tops[-3:].max())
    slope = float(np.polyfit(days - days[0], tops, 1)[0]) if days.size >= LEAST_TOPS else 0.0
    rises_v = slope * float(np.ptp(days)) if days.size >= LEAST_TOPS else 0.0
    creeps = rises_v > CREEP_V_PER_12 * blocks
    if top_v > limit_v:
        yield Alarm(
            key="over_volts", severity=Severity.STOP, title=f"{top_v:.1f} V: above every set point",
            message=f"The chargers are set to {set_v:.1f} V at most; {top_v:.1f} V were read."
            + (f" The daily top has risen by {rises_v:.1f} V in {np.ptp(days):.0f} days: a controller creeps." if creeps else ""),
            next="Open the array disconnect, then the charger's device. Read at the posts with a meter; replace what does not hold.",
            basis=f"{COMMON_PRACTICE}: a failed controller creeps from 14.4 towards 18 V, and something burns",
        )  # fmt: skip
    elif creeps and top_v > points.float_at_temp_v:
        yield Alarm(
            key="creeping", severity=Severity.MEND, title="The daily top of the volts rises",
            message=f"By {rises_v:.1f} V in {np.ptp(days):.0f} days, to {top_v:.1f} V; set are {set_v:.1f} V.",
            next="Watch the end of a charge beside it; read the set points back; compare with a meter.",
            basis=f"{COMMON_PRACTICE}; the slope is that of the days read",
        )  # fmt: skip


def _cold(design: Design, log: Log) -> Iterator[Alarm]:
    least_c = TYPICAL[design.bank.chemistry].charge_min_c
    temp, amps = log.find(Quantity.BANK_C), log.find(Quantity.BANK_A)
    if (
        design.bank.chemistry is not Chemistry.LFP
        or temp is None
        or amps is None
        or not temp.at_s.size
        or not amps.at_s.size
    ):
        return
    at_c = np.interp(amps.at_s, temp.at_s, temp.values)
    cold = (at_c < least_c) & (amps.values > COLD_PER_H * design.bank.rated_ah)
    if cold.any():
        last = datetime(1970, 1, 1) + timedelta(seconds=float(amps.at_s[cold][-1]))
        yield Alarm(
            key="cold_charge", severity=Severity.STOP, title="Charged below freezing",
            message=f"{int(cold.sum())} readings with {amps.values[cold].max():.0f} A into cells as cold as {at_c[cold].min():.0f} °C, last on {last:%d %b %Y %H:%M}.",
            next="Stop the charge until they are warm; find why the cut-off did not work.",
            basis="Plating of lithium below 0 °C; makers' data sheets",
        )  # fmt: skip


def _not_full(design: Design, log: Log, today: date) -> Iterator[Alarm]:
    lead = TYPICAL[design.bank.chemistry].is_lead_acid
    days: float | None = None
    told = log.find(Quantity.DAYS_SINCE_FULL)
    charge = log.find(Quantity.CHARGE)
    if charge is not None and charge.at_s.size:
        full = charge.at_s[charge.values >= FULL_PERCENT]
        since_s = full[-1] if full.size else charge.at_s[0]
        days = (charge.at_s[-1] - since_s) / DAY_S
    elif told is not None and told.at_s.size:
        read_on = (datetime(1970, 1, 1) + timedelta(seconds=float(told.at_s[-1]))).date()
        days = float(told.values[-1]) + max((today - read_on).days, 0)
    if days is not None and days > DAYS_SINCE_FULL[lead]:
        yield Alarm(
            key="not_full", severity=Severity.MEND if lead else Severity.MIND, title=f"{days:.0f} days without being full",
            message="Lead-acid that stands part full sulphates." if lead else "Lithium that is never full lets its gauge drift and its cells part.",
            next="Charge to the end of absorb, by grid or generator where the sun does not.",
            basis=COMMON_PRACTICE,
        )  # fmt: skip


def _instruments(design: Design, written: Sequence[Written]) -> Iterator[Alarm]:
    for shown in Shown:
        rounds = [
            Round(at=one.at.replace(tzinfo=UTC), values=dict(one.entry.values))
            for one in written
            if isinstance(one.entry, CrossEntry) and one.entry.shown is shown
        ][-MOST_ROUNDS:]
        found = cross_read(shown, rounds, nominal_v=design.bank.nominal_v) if rounds else None
        if found is not None and any(each.verdict.value in ("off", "drifts") for each in found.instruments):
            yield Alarm(
                key=f"instruments.{shown.value}", severity=Severity.MIND, title="Instruments drift apart", message=found.sentence,
                next="Read all of them against a hand meter whose battery is fresh, then set the one that is off.", basis=found.figure.basis,
            )  # fmt: skip


def _fan(written: Sequence[Written]) -> Iterator[Alarm]:
    checks = [one for one in written if isinstance(one.entry, EventEntry) and one.entry.what is EventKind.FAN_CHECK]
    if checks and isinstance(checks[-1].entry, EventEntry) and not checks[-1].entry.is_well:
        entry = checks[-1].entry
        yield Alarm(
            key="fan", severity=Severity.MEND, title=f"A fan is silent{': ' + entry.part if entry.part else ''}",
            message=f"Noted on {checks[-1].at:%d %b %Y}. Cheap inverters die by their fans.",
            next="Off and open by its maker's leave: dust, connector, then a new fan. Until then no more than half its rating.",
            basis=COMMON_PRACTICE,
        )  # fmt: skip
