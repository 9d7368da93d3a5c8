"""An outage lived through, beside what the model says of it, and where the difference comes from."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.assess import assess
from hearthkeep.core.bank import rate
from hearthkeep.core.design import Design, Outage, OutageDay, Sky, SkySource
from hearthkeep.core.figure import PHYSICS
from hearthkeep.core.logbook.entries import OutageEntry
from hearthkeep.core.logbook.log import DAY_S, HOUR_S, Log, Trace, lengths_h
from hearthkeep.core.logbook.quantities import Quantity
from hearthkeep.core.sources import SKY_FACTOR, WeatherYear

Floats = NDArray[np.float64]

#: Points of the curve that is drawn.
POINTS = 240
#: Air where none was read [°C]. Our assumption.
USUAL_AIR_C = 5.0


@dataclass(frozen=True, kw_only=True, slots=True)
class ReplayPart:
    """One thing that the plan had otherwise: by so many points of charge at the end, minus for less."""

    what: str
    points: float
    said: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Replay:
    """An outage as it was lived and as the model lives it."""

    start: datetime
    duration_h: float
    #: Hours from the start [h], and charge by the model and as read [part of full]; none where nothing is read there.
    time_h: tuple[float, ...]
    model_soc_frac: tuple[float, ...]
    read_soc_frac: tuple[float | None, ...]
    #: Hours carried by the model, and as lived where it was noted.
    model_carried_h: float
    lived_carried_h: float | None
    #: Read less model, in points of charge at the last reading; none without readings.
    apart_points: float | None
    parts: tuple[ReplayPart, ...]
    #: The skies that the sun read stands for, a word a day; as the design has them where no sun was read.
    skies: tuple[Sky, ...]
    skies_are_read: bool
    basis: str


def replay(design: Design, lived: OutageEntry, log: Log, year: WeatherYear | None = None) -> Replay:
    """Live a past outage again in the model: its hours, its skies as far as the sun was read, the charge it began with."""
    start_s = (lived.start - datetime(1970, 1, 1)).total_seconds()
    end_s = start_s + lived.hours_h * HOUR_S
    charge = _within(log.find(Quantity.CHARGE), start_s, end_s)
    skies, are_read = _skies(design, log, lived, start_s, year)
    past = _past(design, lived, skies, are_read, log, charge)
    found = assess(past, year)
    series, capacity_wh = found.outage.series, rate(past.bank).capacity_wh
    at_h = np.linspace(0.0, lived.hours_h, POINTS)
    model = np.interp(at_h, series.time_h, series.stored_wh) / capacity_wh
    read: tuple[float | None, ...] = (None,) * POINTS
    apart: float | None = None
    parts: tuple[ReplayPart, ...] = ()
    if charge is not None:
        read_h = (charge.at_s - start_s) / HOUR_S
        inside = (at_h >= read_h[0]) & (at_h <= read_h[-1])
        values = np.interp(at_h, read_h, charge.values / 100.0)
        read = tuple(float(value) if ok else None for value, ok in zip(values, inside, strict=True))
        last_h = float(read_h[-1])
        apart = 100.0 * (
            float(charge.values[-1]) / 100.0 - float(np.interp(last_h, series.time_h, series.stored_wh)) / capacity_wh
        )
        parts = tuple(
            _parts(
                past,
                log,
                start_s,
                last_h,
                np.array(series.time_h),
                np.array(series.served_w),
                np.array(series.sun_w),
                np.array(series.spilled_w),
                capacity_wh,
                apart,
            )
        )
    return Replay(
        start=lived.start,
        duration_h=lived.hours_h,
        time_h=tuple(at_h.tolist()),
        model_soc_frac=tuple(model.tolist()),
        read_soc_frac=read,
        model_carried_h=found.outage.hours_carried_h,
        lived_carried_h=lived.hours_h if lived.dark_after_h is None else lived.dark_after_h,
        apart_points=apart,
        parts=parts,
        skies=skies,
        skies_are_read=are_read,
        basis=f"The outage's own model at the hours lived. {PHYSICS}",
    )  # fmt: skip


def _within(trace: Trace | None, start_s: float, end_s: float) -> Trace | None:
    if trace is None:
        return None
    own = (trace.at_s >= start_s - 1) & (trace.at_s <= end_s + 1)
    return Trace(at_s=trace.at_s[own], values=trace.values[own]) if own.any() else None


def _skies(
    design: Design, log: Log, lived: OutageEntry, start_s: float, year: WeatherYear | None
) -> tuple[tuple[Sky, ...], bool]:
    """The sky of each day: the one whose part of a clear day's sun lies nearest to what was read."""
    days = int((lived.start + timedelta(hours=lived.hours_h)).date().toordinal() - lived.start.date().toordinal()) + 1
    planned = tuple(design.outage.days[min(day, len(design.outage.days) - 1)].sky for day in range(days))
    sun = log.find(Quantity.SUN_W)
    if sun is None or not sun.at_s.size or not any(each.charges for each in design.charging.controllers):
        return planned, False
    clear = _past(design, lived, (Sky.CLEAR,) * days, True, log, None)
    series = assess(clear, year).outage.series
    hours, sun_w = np.array(series.time_h), np.array(series.sun_w)
    middle_s = start_s + (hours[:-1] + hours[1:]) / 2 * HOUR_S
    found = []
    for day, sky in enumerate(planned):
        first = (np.floor(start_s / DAY_S) + day) * DAY_S
        own = (middle_s >= first) & (middle_s < first + DAY_S)
        clear_wh = float((sun_w * np.diff(hours))[own].sum())
        read = _within(sun, max(first, start_s), first + DAY_S - 2)
        if read is None or clear_wh <= 0:
            found.append(sky)
            continue
        part = float(lengths_h(read.at_s) @ read.values) / clear_wh
        found.append(min(SKY_FACTOR, key=lambda each: abs(SKY_FACTOR[each] - part)))
    return tuple(found), True


def _past(
    design: Design, lived: OutageEntry, skies: Sequence[Sky], are_read: bool, log: Log, charge: Trace | None
) -> Design:
    air = log.find(Quantity.AIR_C)
    start_s = (lived.start - datetime(1970, 1, 1)).total_seconds()
    days = []
    for day, sky in enumerate(skies):
        planned = design.outage.days[min(day, len(design.outage.days) - 1)]
        own = _within(air, start_s + (day - 1) * DAY_S, start_s + (day + 1) * DAY_S)
        air_c = (
            round(float(own.values.mean()), 1)
            if own is not None
            else planned.air_temp_c
            if not are_read
            else USUAL_AIR_C
        )
        days.append(
            OutageDay(
                sky=sky,
                air_temp_c=air_c,
                away=planned.away,
                wind_m_s=planned.wind_m_s,
                fuel=planned.fuel,
                car=planned.car,
            )
        )
    outage = Outage(
        start=lived.start, duration_h=max(lived.hours_h, 0.25), warning_h=0.0, days=tuple(days[:31]), sky_from=SkySource.BY_HAND,
        people=design.outage.people,
    )  # fmt: skip
    bank, charging = design.bank, design.charging
    if charge is not None:
        bank = bank.model_copy(update={"start_soc_frac": float(np.clip(charge.values[0] / 100.0, 0.0, 1.0))})
        # The charge it began with was read: no filling before it is counted.
        charger = charging.grid_charger.model_copy(update={"top_up_soc_frac": None})
        charging = charging.model_copy(update={"grid_charger": charger})
    return design.model_copy(update={"outage": outage, "bank": bank, "charging": charging})


def _parts(
    past: Design, log: Log, start_s: float, last_h: float, time_h: Floats, served_w: Floats, sun_w: Floats, spilled_w: Floats,
    capacity_wh: float, apart: float,
) -> list[ReplayPart]:  # fmt: skip
    """Where the difference comes from, in points of charge at the last reading."""
    rating = rate(past.bank)
    found = []
    explained = 0.0
    until = np.clip(np.minimum(time_h[1:], last_h) - time_h[:-1], 0.0, None)
    house = _within(log.find(Quantity.INVERTER_W), start_s, start_s + last_h * HOUR_S)
    if house is not None and house.at_s.size > 1:
        read_wh, model_wh = float(lengths_h(house.at_s) @ house.values), float(served_w @ until)
        points = (
            -100.0
            * (read_wh - model_wh)
            / past.inverter.efficiency_frac
            / rating.discharge_efficiency_frac
            / capacity_wh
        )
        more = "more" if read_wh > model_wh else "less"
        found.append(
            ReplayPart(what="house", points=points, said=f"The house used {abs(read_wh - model_wh) / 1000:.1f} kWh {more} than the plan has for these hours.")
        )  # fmt: skip
        explained += points
    sun = _within(log.find(Quantity.SUN_W), start_s, start_s + last_h * HOUR_S)
    if sun is not None and sun.at_s.size > 1:
        read_wh, model_wh = float(lengths_h(sun.at_s) @ sun.values), float((sun_w - spilled_w) @ until)
        points = 100.0 * (read_wh - model_wh) * rating.charge_efficiency_frac / capacity_wh
        more = "more" if read_wh > model_wh else "less"
        found.append(
            ReplayPart(what="sun", points=points, said=f"The sun gave {abs(read_wh - model_wh) / 1000:.1f} kWh {more} than under the skies that come nearest.")
        )  # fmt: skip
        explained += points
    rest = apart - explained
    found.append(
        ReplayPart(
            what="rest", points=rest,
            said="Left over: capacity, losses of the inverter and of charging, other chargers, and the gauge." if found
            else "Read house and sun as well, to tell where it comes from.",
        )
    )  # fmt: skip
    return found
