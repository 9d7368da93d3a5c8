"""The outage model a second time, written from `docs/how-it-computes.md` to check the compiled one against.

It takes nothing from the code it checks but the design: its own rating, its own sun (pvlib called directly), its own house by
the hour, and a stepper that goes on second by second and only cuts a second at a level. Plain on purpose.

Outside its scope: weather years, the bank's heater, height and heat of a generator, and what leads other than those of bank and
inverter lose.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from datetime import timedelta
from functools import lru_cache
from itertools import pairwise

import numpy as np
import pandas as pd
import pvlib
from numba import njit

from hearthkeep.core.design import Design, Load

TIERS = ("life", "keep", "ease", "spare")
#: Ways to feed the house: by the inverter, with it off, by the generator.
INVERTER_ON, INVERTER_OFF, ON_GENERATOR = 0, 1, 2

# --- the bank


@dataclass
class Chemistry:
    charge_efficiency: float
    discharge_efficiency: float
    charge_per_ah: float
    discharge_per_ah: float
    peukert: float
    charge_from_c: float
    discharge_from_c: float
    cell_v: float
    charging_cell_v: float


CHEMISTRIES = {
    "lfp": Chemistry(0.97, 0.98, 0.5, 1.0, 1.0, 0.0, -20.0, 3.2, 3.55),
    "agm": Chemistry(0.85, 1.0, 0.25, 1.0, 1.1, -20.0, -40.0, 2.0, 2.4),
    "gel": Chemistry(0.85, 1.0, 0.15, 0.8, 1.15, -20.0, -40.0, 2.0, 2.35),
    "flooded": Chemistry(0.85, 1.0, 0.2, 1.0, 1.25, -20.0, -40.0, 2.0, 2.4),
    "starter": Chemistry(0.85, 1.0, 0.2, 3.0, 1.3, -20.0, -40.0, 2.0, 2.4),
}
#: Some size factors of IEEE Std 485 by °F, from memory.
SIZE_FACTORS = {
    25: 1.52,
    30: 1.43,
    35: 1.35,
    40: 1.30,
    45: 1.25,
    50: 1.19,
    55: 1.15,
    60: 1.11,
    65: 1.08,
    70: 1.04,
    77: 1.0,
}


def capacity_part(chemistry: str, temp_c: float) -> float:
    if chemistry == "lfp":
        return float(np.interp(temp_c, [-20, -10, 0, 10, 25], [0.70, 0.85, 0.93, 0.97, 1.0]))
    fahrenheit = 1.8 * temp_c + 32
    return min(1.0, 1.0 / float(np.interp(fahrenheit, list(SIZE_FACTORS), list(SIZE_FACTORS.values()))))


def largest_share(design: Design) -> float:
    """Part of the current in the hardest-worked string, by Kirchhoff's voltage law around each pair of neighbours."""
    bank = design.bank
    strings, link = bank.parallel, bank.link_mohm
    if strings == 1 or link == 0 or bank.takeoff == "equal_leads":
        return 1.0 / strings
    sheet = bank.unit.internal_resistance_mohm if bank.unit else None
    unit_mohm = 0.03 * bank.unit_v / bank.unit_ah * 1000 if sheet is None else sheet
    string = unit_mohm * bank.series
    rows, right = np.zeros((strings, strings)), np.zeros(strings)
    rows[-1], right[-1] = 1.0, 1.0
    for one in range(strings - 1):
        rows[one, one] += string
        rows[one, one + 1] -= string
        # The positive bar carries what comes from the strings beyond; the negative one too, or what lies before it.
        rows[one, one + 1 :] -= link
        if bank.takeoff == "one_end":
            rows[one, one + 1 :] -= link
        else:
            rows[one, : one + 1] += link
    return float(np.linalg.solve(rows, right).max())


@dataclass
class Rated:
    """The bank as it stands in the outage."""

    capacity_wh: float
    charge_limit_w: float
    discharge_limit_w: float
    charge_efficiency: float
    discharge_efficiency: float
    peukert: float
    rated_w: float
    tapers: bool
    charging_v: float


def cells_in_series(volts: float, cell_v: float) -> int:
    """Lithium blocks named after 12 V count four cells each."""
    twelves = volts / 12
    return 4 * round(twelves) if cell_v == 3.2 and twelves == round(twelves) else max(1, round(volts / cell_v))


def rated(design: Design) -> Rated:
    bank, usual = design.bank, CHEMISTRIES[design.bank.chemistry.value]
    volts = bank.unit_v * bank.series
    at_once = 1.0 / largest_share(design)
    charge_a = usual.charge_per_ah * bank.unit_ah if bank.unit_max_charge_a is None else bank.unit_max_charge_a
    discharge_a = (
        usual.discharge_per_ah * bank.unit_ah if bank.unit_max_discharge_a is None else bank.unit_max_discharge_a
    )
    pick = lambda given, typical: typical if given is None else given  # noqa: E731
    is_lead = bank.chemistry.value != "lfp"
    return Rated(
        capacity_wh=volts
        * bank.unit_ah
        * bank.parallel
        * bank.ageing_frac
        * capacity_part(bank.chemistry.value, bank.temp_c),
        charge_limit_w=charge_a * at_once * volts if bank.temp_c >= usual.charge_from_c else 0.0,
        discharge_limit_w=discharge_a * at_once * volts if bank.temp_c >= usual.discharge_from_c else 0.0,
        charge_efficiency=pick(bank.charge_efficiency_frac, usual.charge_efficiency),
        discharge_efficiency=pick(bank.discharge_efficiency_frac, usual.discharge_efficiency),
        peukert=pick(bank.peukert_exponent, usual.peukert) if is_lead else 1.0,
        rated_w=bank.unit_ah * bank.parallel / bank.rated_hours_h * volts,
        tapers=is_lead,
        charging_v=cells_in_series(volts, usual.cell_v) * usual.charging_cell_v,
    )


# --- the outage: steps, sun, other sources

SKY_PART = {"clear": 1.0, "broken": 0.6, "overcast": 0.25, "covered": 0.0}


def steps_h(design: Design) -> list[tuple[float, float]]:
    """From and to of each step in hours from the start: the clock's multiples of the step between start and end."""
    start, step_min = design.outage.start, design.simulation.time_step_min
    edges, moment = [0.0], start.replace(minute=0, second=0)
    while moment < design.outage.end:
        moment += timedelta(minutes=step_min)
        after_h = (moment - start).total_seconds() / 3600
        if 0 < after_h < design.outage.duration_h - 1e-9:
            edges.append(after_h)
    edges.append(design.outage.duration_h)
    return list(pairwise(edges))


@lru_cache(maxsize=256)
def clear_plane(place: tuple[float, float, float, float], moments: tuple, tilt: float, azimuth: float) -> np.ndarray:
    latitude, longitude, elevation, offset = place
    times = pd.DatetimeIndex([moment - timedelta(hours=offset) for moment in moments], tz="UTC")
    location = pvlib.location.Location(latitude, longitude, altitude=elevation)
    sun = location.get_solarposition(times)
    sky = location.get_clearsky(times, solar_position=sun, dni_extra=pvlib.irradiance.get_extra_radiation(times))
    on_plane = pvlib.irradiance.get_total_irradiance(
        tilt, azimuth, sun["apparent_zenith"], sun["azimuth"], sky["dni"], sky["ghi"], sky["dhi"],
        dni_extra=pvlib.irradiance.get_extra_radiation(times), model="perez",
    )["poa_global"]  # fmt: skip
    return np.where(sun["apparent_zenith"] < 90, np.maximum(np.nan_to_num(on_plane), 0.0), 0.0)


def usable_sun(array, place, moments: tuple, days: list, hours: np.ndarray) -> np.ndarray:
    """A clear sky's sun on an array as it stands from hour to hour, less what snow, shade and hours of rest take."""
    sun = clear_plane(place, moments, array.tilt_deg, array.azimuth_deg).copy()
    for at, (hour, day) in enumerate(zip(hours, days, strict=True)):
        for stand in array.stands:
            if hour >= stand.from_hour:
                sun[at] = clear_plane(place, moments, stand.tilt_deg, stand.azimuth_deg)[at]
        is_clear = array.snow.value == "slides" or (
            array.snow.value == "swept" and not day.away and hour >= array.swept_hour
        )
        if day.sky.value == "covered" and not is_clear:
            sun[at] = 0.0
        if array.out_hours is not None and not within(hour, array.out_hours):
            sun[at] = 0.0
        if array.shade_frac:
            sun[at] *= 1 - array.shade_frac[hour]
    return sun


@dataclass
class Sources:
    """By step [W]: sun offered and let through, the small sources each on its own."""

    offered: np.ndarray
    passed: np.ndarray
    small: np.ndarray
    #: Of a grid-tied array at its own terminals, and beyond its rating.
    coupled: np.ndarray
    beyond: np.ndarray
    #: Of panels that feed loads straight.
    on_panels: np.ndarray


def day_at(design: Design, number: int):
    return design.outage.days[min(number, len(design.outage.days) - 1)]


def sources_of(design: Design, bank: Rated, spans: list[tuple[float, float]]) -> Sources:
    site, charging = design.site, design.charging
    place = (site.latitude_deg, site.longitude_deg, site.elevation_m, site.utc_offset_h)
    moments = tuple(design.outage.start + timedelta(hours=(a + b) / 2) for a, b in spans)
    days = [day_at(design, (moment.date() - design.outage.start.date()).days) for moment in moments]
    hours = np.array([moment.hour for moment in moments])
    part = np.array([SKY_PART["overcast" if day.sky.value == "covered" else day.sky.value] for day in days])
    air = np.array([day.air_temp_c for day in days])
    offered, passed, on_panels = np.zeros(len(spans)), np.zeros(len(spans)), np.zeros(len(spans))
    nominal = design.bank.unit_v * design.bank.series
    for controller in charging.controllers:
        if controller.kind.value == "panel_fed":
            for array in controller.arrays:
                on_panels += panel_w(array, usable_sun(array, place, moments, days, hours) * part, air)
            continue
        given = np.zeros(len(spans))
        for array in controller.arrays:
            sun = usable_sun(array, place, moments, days, hours) * part
            vmp = array.module.vmp_v * array.series if array.module else array.vmp_v or 1.5 * nominal
            if vmp <= nominal:
                continue
            if controller.kind.value == "mppt":
                given += panel_w(array, sun, air)
            else:
                given += array.stc_w / vmp * sun / 1000 * (1 - array.losses_frac) * bank.charging_v
        usual = 0.97 if controller.kind.value == "mppt" else 1.0
        given *= usual if controller.efficiency_frac is None else controller.efficiency_frac
        offered += given
        passed += np.minimum(given, controller.output_a * bank.charging_v)
    small = np.zeros((4, len(spans)))
    back = np.array([on_grid(design, (a + b) / 2) for a, b in spans])
    small[3] = np.where(back, charging.grid_charger.output_w, 0.0)
    for at, (moment, day) in enumerate(zip(moments, days, strict=True)):
        if charging.wind:
            small[0, at] = mean_wind_w(charging.wind, charging.wind.mean_m_s if day.wind_m_s is None else day.wind_m_s)
        if charging.alternator and not day.away and day.car and within(moment.hour, charging.alternator.driven_hours):
            small[1, at] = charging.alternator.current_a * bank.charging_v
        if charging.bench_charger and not day.away and within(moment.hour, charging.bench_charger.plugged_hours):
            small[2, at] = charging.bench_charger.output_w
    whole = np.zeros(len(spans))
    unit = grid_tied_of(design)
    for array in unit.arrays if unit else ():
        sun = usable_sun(array, place, moments, days, hours) * part
        whole += panel_w(array, sun, air) * unit.efficiency_frac
    whole = np.where(back, 0.0, whole)
    coupled = np.minimum(whole, unit.rated_w if unit else 0.0)
    return Sources(
        offered=offered, passed=passed, small=small, coupled=coupled, beyond=whole - coupled, on_panels=on_panels
    )


def grid_tied_of(design: Design):
    """The grid-tied array that lives on beside the battery inverter; none otherwise."""
    unit, kind = design.charging.grid_tied, design.transfer.arrangement
    is_led = kind == "ac_coupled" and unit is not None and unit.on_backup_panel and design.inverter.rated_w > 0
    return unit if is_led else None


def panel_w(array, sun: np.ndarray, air: np.ndarray) -> np.ndarray:
    cell = air + (array.noct_c - 20) * sun / 800
    heat = np.maximum(1 + array.power_temp_coeff_per_c * (cell - 25), 0)
    return array.stc_w * sun / 1000 * heat * (1 - array.losses_frac)


def within(hour: float, spans) -> bool:
    return any(start <= hour < end for start, end in spans)


@lru_cache(maxsize=64)
def mean_wind_w(wind, mean_m_s: float) -> float:
    """Power at the bus over Rayleigh winds, summed from the distribution's steps of a centimetre a second."""
    if mean_m_s == 0:
        return 0.0
    below = lambda speed: 1 - math.exp(-math.pi * (speed / mean_m_s) ** 2 / 4)  # noqa: E731
    total = 0.0
    for step in range(6000):
        low, high = step / 100, (step + 1) / 100
        speed = (low + high) / 2
        if wind.cut_in_m_s <= speed < wind.cut_out_m_s:
            cube = (speed**3 - wind.cut_in_m_s**3) / (wind.rated_m_s**3 - wind.cut_in_m_s**3)
            total += wind.rated_w * min(cube, 1.0) * (below(high) - below(low))
    return total * wind.efficiency_frac


# --- the house, hour by hour


@dataclass
class Asks:
    """One load in one hour, all of its units together [W]."""

    average: float
    running: float
    rise: float
    is_ac: bool
    tier: int
    converter: float


def lives_in(design: Design, load: Load) -> int:
    together = [load] if load.link is None else [other for other in design.loads if other.link == load.link]
    return min(TIERS.index(other.tier.value) for other in together)


def is_fed(design: Design, load: Load) -> bool:
    """Whether a load is carried in an outage: not straight by a panel, and not on a circuit that is left on the grid."""
    left = {entry.id for entry in design.transfer.circuits if not entry.backed_up}
    return load.supply.value != "panel" and load.circuit not in left


def on_panels_wh(design: Design, spans, sources: Sources) -> float:
    """What loads straight from panels are given: whole or not at all, the highest tiers first [Wh]."""
    found = 0.0
    fed = sorted((one for one in design.loads if one.supply == "panel"), key=lambda one: TIERS.index(one.tier.value))
    for at, (begins, ends) in enumerate(spans):
        moment = design.outage.start + timedelta(hours=(begins + ends) / 2)
        number, left = (moment.date() - design.outage.start.date()).days, sources.on_panels[at]
        for load in fed:
            asks = asks_in(design, load, number, moment.hour, [0.0] * 24)
            if within(moment.hour, load.hours) and 0 < asks.running <= left:
                left -= asks.running
                found += asks.average * (ends - begins)
    return found


def on_grid(design: Design, middle_h: float) -> bool:
    """Whether the grid is back: its charger gives what it can, it carries the house, and what needs it not rests."""
    return within(middle_h, design.outage.grid_back)


def asks_in(design: Design, load: Load, number: int, hour: int, sun_by_hour: list[float]) -> Asks:
    day = day_at(design, number)
    dark = day.sky.value in ("overcast", "covered")
    running, start, duty, standby = load.running_w, load.start_w or load.running_w, load.duty_frac, load.standby_w
    on = within(hour, load.hours)
    if dark and load.dark_day == "substitute":
        running = start = load.substitute_w
    if load.flexible_h is not None:
        hours = [one for one in range(24) if within(one, load.hours)]
        need = load.quantity * running * duty
        bright = sorted(
            (one for one in hours if 0 < sun_by_hour[one] >= need), key=lambda one: (-sun_by_hour[one], one)
        )
        on = hour in bright[: load.flexible_h]
    if (dark and load.dark_day == "drop") or (day.away and load.stops_when_away):
        on, standby = False, 0.0
    efficiency = 0.9 if load.converter_efficiency_frac is None else load.converter_efficiency_frac
    return Asks(
        average=load.quantity * (running * duty if on else standby),
        running=load.quantity * (running if on else standby),
        rise=max(start - running, 0.0) if on else 0.0,
        is_ac=load.supply.value in ("ac", "ac240"),
        tier=lives_in(design, load),
        converter=1 / efficiency if load.supply.value == "dc_converted" else 1.0,
    )


#: Class 5 copper at 20 °C [Ω/km], from IEC 60228; it is counted at 70 °C.
OHM_PER_KM = {"16 mm²": 1.21, "35 mm²": 0.554, "95 mm²": 0.206}


class Cable:
    """What the bank gives for what arrives: a flat part more, or what leads of a size and a length lose at nominal volts."""

    def __init__(self, design: Design) -> None:
        self.flat, self.volts = design.wiring.loss_frac, design.bank.unit_v * design.bank.series
        if self.flat is not None:
            return
        runs = {entry.run: entry for entry in design.wiring.runs if entry.run.startswith(("bank", "inverter"))}
        ohm = {
            key: 2 * entry.length_m / 1000 * OHM_PER_KM[entry.size] * (1 + 0.00393 * 50) for key, entry in runs.items()
        }
        units = [value for key, value in ohm.items() if key.startswith("inverter")]
        # Each unit carries its part of the current in leads of its own.
        self.near, self.far = ohm.get("bank", 0.0), sum(units) / max(len(units), 1) ** 2

    def from_bank(self, direct: float, inverter: float) -> float:
        """Watts at the bank for direct current and for the inverter's input."""
        if self.flat is not None:
            return (direct + inverter) * (1 + self.flat)
        arrives = direct + inverter + self.far * (inverter / self.volts) ** 2
        return arrives + self.near * (arrives / self.volts) ** 2


class House:
    """What is taken and served when so many tiers are in, for one hour of one day."""

    def __init__(self, design: Design, bank: Rated, asks: list[Asks], hour: int, back: bool) -> None:
        self.design, self.bank = design, bank
        self.asks = [one for one in asks if not (back and one.is_ac)]
        inverter = design.inverter
        self.is_off = back or within(hour, inverter.off_hours)
        self.units = inverter.units
        self.rated, self.surge, self.idle = (
            self.units * each for each in (inverter.rated_w, inverter.surge_w, inverter.idle_w)
        )
        self.search_w, self.wakes_at = self.units * inverter.search_w, inverter.search_threshold_w
        if grid_tied_of(design) is not None:
            # What the array is to follow must not sleep.
            self.wakes_at = 0.0
        self.per_watt = 1.0 if self.rated == 0 else (self.rated / inverter.efficiency_frac - self.idle) / self.rated
        self.cable = Cable(design)

    def of(self, tier: int, is_ac: bool) -> list[Asks]:
        return [one for one in self.asks if one.tier == tier and one.is_ac == is_ac]

    def fits(self, mode: int, tiers: int) -> tuple[int, int]:
        """How many tiers, from Life down, have their direct and their house current carried."""
        owns = any(one.is_ac and one.tier < tiers for one in self.asks)
        takes_idle = mode == INVERTER_ON and owns and not self.is_off and self.rated > 0
        direct = self.idle if takes_idle else 0.0
        house = rise = 0.0
        direct_tiers = house_tiers = 0
        house_goes_on = True
        generator = self.design.charging.generator
        for tier in range(tiers):
            more = sum(one.running * one.converter for one in self.of(tier, False))
            by_inverter = house * self.per_watt if mode == INVERTER_ON else 0.0
            own = self.idle if takes_idle else 0.0
            if self.cable.from_bank(direct + more - own, own + by_inverter) > self.bank.discharge_limit_w + 1e-9:
                if mode != ON_GENERATOR:
                    break
            elif direct_tiers == tier:
                direct += more
                direct_tiers = tier + 1
            with_this = house + sum(one.running for one in self.of(tier, True))
            rise = max([rise, *(one.rise for one in self.of(tier, True))])
            if mode == ON_GENERATOR:
                surge = 1.25 * generator.rated_w if generator.surge_w is None else generator.surge_w
                carries = with_this <= generator.rated_w + 1e-9 and with_this + rise <= surge + 1e-9
            elif mode == INVERTER_OFF:
                carries = False
            else:
                carries = (
                    with_this <= self.rated + 1e-9
                    and with_this + rise <= self.surge + 1e-9
                    and self.cable.from_bank(
                        direct - self.idle * takes_idle, self.idle * takes_idle + with_this * self.per_watt
                    )
                    <= self.bank.discharge_limit_w + 1e-9
                    and not (self.is_off and with_this > 0)
                )
            house_goes_on = house_goes_on and carries
            if house_goes_on:
                house, house_tiers = with_this, tier + 1
        return direct_tiers, house_tiers

    def asleep(self, tiers: int) -> tuple[float, list[Asks]]:
        """Part of the hour in which the inverter only listens, and the loads too small to wake it."""
        if self.wakes_at <= 0:
            return 0.0, []
        house = [one for one in self.asks if one.is_ac and one.tier < tiers]
        steady = [one for one in house if one.average >= 0.999 * one.running]
        base = sum(one.running for one in steady)
        cycling = [one for one in house if one not in steady and one.running > 0]
        wakers = [one for one in cycling if base + one.running >= self.wakes_at]
        part = 0.0 if base >= self.wakes_at else 1.0
        for one in wakers:
            part *= 1 - one.average / one.running
        return part, [one for one in house if one not in wakers]

    def left_out(self, mode: int, tiers: int, direct_tiers: int, house_tiers: int) -> bool:
        """Whether something that asks is not carried; with the inverter off that is said of Spare's house loads alone."""
        waits = [one for one in self.asks if one.average > 0 and one.tier < tiers]
        if mode == INVERTER_OFF:
            return any((one.tier == 3) if one.is_ac else one.tier >= direct_tiers for one in waits)
        return any(one.tier >= (house_tiers if one.is_ac else direct_tiers) for one in waits)

    def serve(self, mode: int, tiers: int) -> list[float]:
        """Taken at the bus, given by the generator, loads, idle with nothing else on the inverter, loads by tier [W], and whether
        something is left out.
        """
        direct_tiers, house_tiers = self.fits(mode, tiers)
        left = float(self.left_out(mode, tiers, direct_tiers, house_tiers))
        part, small = self.asleep(tiers) if mode == INVERTER_ON else (0.0, [])
        by_tier, taken, house = [0.0] * 4, 0.0, 0.0
        for one in self.asks:
            if one.tier >= tiers or one.tier >= (house_tiers if one.is_ac else direct_tiers):
                continue
            if one.is_ac:
                alive = one.average * (1 - part) if one in small else one.average
                by_tier[one.tier] += alive
                house += alive
            else:
                by_tier[one.tier] += one.average
                taken += one.average * one.converter
        if mode == ON_GENERATOR:
            return [self.cable.from_bank(taken, 0.0), house, sum(by_tier), 0.0, *by_tier, left, 0.0, 0.0]
        ready = 0.0
        owns = any(one.is_ac and one.tier < tiers for one in self.asks)
        if mode == INVERTER_ON and owns and not self.is_off and direct_tiers > 0 and self.rated > 0:
            ready = part * self.search_w + (1 - part) * self.idle if self.wakes_at > 0 else self.idle
        through = ready + house * self.per_watt
        leads = mode == INVERTER_ON and owns and not self.is_off and direct_tiers > 0 and self.rated > 0
        idle = ready if house <= 0 else 0.0
        return [self.cable.from_bank(taken, through), 0.0, sum(by_tier), idle, *by_tier, left, house, float(leads)]


#: Columns of the table that House.serve fills and the stepper reads.
TAKEN, GIVEN, LOAD, IDLES, TIER, LEFT, HOUSE, LEADS, WIDTH = 0, 1, 2, 3, 4, 8, 9, 10, 11


def table_of(design: Design, bank: Rated, spans, sources: Sources) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Row of each step; by row: mode and number of tiers what is served; and what is asked by tier."""
    start = design.outage.start
    moments = [start + timedelta(hours=(a + b) / 2) for a, b in spans]
    number = [(moment.date() - start.date()).days for moment in moments]
    sun_by_day: dict[int, list[float]] = {}
    for day in set(number):
        sun_by_day[day] = []
        for hour in range(24):
            here = [at for at, moment in enumerate(moments) if number[at] == day and moment.hour == hour]
            length = sum(spans[at][1] - spans[at][0] for at in here)
            energy = sum(sources.offered[at] * (spans[at][1] - spans[at][0]) for at in here)
            # To the thousandth of a watt, so that equal hours are equal.
            sun_by_day[day].append(round(energy / length, 3) if length else 0.0)
    rows: dict[tuple[int, int, bool], int] = {}
    served, asked = [], []
    back = [on_grid(design, (a + b) / 2) for a, b in spans]
    keys = [(day, moment.hour, here) for day, moment, here in zip(number, moments, back, strict=True)]
    for day, hour, here in keys:
        if (day, hour, here) in rows:
            continue
        rows[day, hour, here] = len(served)
        asks = [asks_in(design, load, day, hour, sun_by_day[day]) for load in design.loads if is_fed(design, load)]
        house = House(design, bank, asks, hour, here)
        block = np.zeros((3, 5, WIDTH))
        for mode in range(3):
            if mode == ON_GENERATOR and design.charging.generator is None:
                continue
            for tiers in range(5):
                block[mode, tiers] = house.serve(mode, tiers)
        served.append(block)
        asked.append([sum(one.average for one in house.asks if one.tier == tier) for tier in range(4)])
    return (
        np.array([rows[key] for key in keys]),
        np.array(served),
        np.array(asked),
    )


# --- second by second


@dataclass
class SecondRun:
    """What the second model gives back."""

    hours_carried_h: float
    end_wh: float
    lowest_wh: float
    served_wh: float
    sun_wh: float
    other_wh: float
    generator_wh: float
    spilled_wh: float
    unserved_wh: list[float]
    fuel_l: float
    generator_h: float
    starts: int
    capacity_wh: float


def live_through(design: Design, *, slice_s: float = 1.0) -> SecondRun:
    """Live a design's outage in slices of so many seconds."""
    bank = rated(design)
    spans = steps_h(design)
    sources = sources_of(design, bank, spans)
    row, served, asked = table_of(design, bank, spans, sources)
    floor = max(1 - design.bank.depth_frac, design.bank.cutoff_soc_frac)
    keep = max(floor, design.policy.keep_level_frac or 0.0)
    levels = np.array([design.bank.cutoff_soc_frac, keep, max(design.policy.ease_level_frac, keep)])
    generator = design.charging.generator
    unit = np.zeros(12)
    if generator is not None:
        lines = {"diesel": (0.08415, 0.246), "gasoline": (0.15, 0.456), "propane": (0.255, 0.629)}[generator.fuel.value]
        unit[:] = (
            generator.rated_w, generator.start_soc_frac, generator.stop_soc_frac, generator.min_run_h,
            generator.charger_w, generator.charger_efficiency_frac, generator.stock_l, generator.tank_l,
            lines[0] * generator.rated_w / 1000 if generator.fuel_idle_l_per_h is None else generator.fuel_idle_l_per_h,
            lines[1] if generator.fuel_l_per_kwh is None else generator.fuel_l_per_kwh,
            generator.charges_only, 1.0,
        )  # fmt: skip
    start = design.outage.start
    moments = [start + timedelta(hours=(a + b) / 2) for a, b in spans]
    quiet = np.array([generator is not None and within(moment.hour, generator.quiet_hours) for moment in moments])
    quiet |= np.array([on_grid(design, (a + b) / 2) for a, b in spans])
    home = np.array([not day_at(design, (moment.date() - start.date()).days).away for moment in moments])
    quiet |= np.array([generator is not None and generator.by_hand]) & ~home
    fetched = np.array([
        day_at(design, (moment.date() - start.date()).days).fuel and at_home and moment.hour == 12
        and (at == 0 or moments[at - 1].hour != 12)
        for at, (moment, at_home) in enumerate(zip(moments, home, strict=True))
    ])  # fmt: skip
    tied = grid_tied_of(design)
    follower = np.zeros(5)
    if tied is not None:
        inverter = design.inverter
        per_watt = (inverter.rated_w / inverter.efficiency_frac - inverter.idle_w) / inverter.rated_w
        follower[:] = (
            {"frequency": 0, "blocks": tied.blocks, "none": 1}[tied.throttle.value],
            inverter.units * inverter.rated_w if tied.charge_w is None else tied.charge_w,
            1 / per_watt, per_watt * (1 + (design.wiring.loss_frac or 0.0)), tied.back_soc_frac,
        )  # fmt: skip
    found = _step(
        np.array(spans), row, served, asked, sources.offered, sources.passed, sources.small, sources.coupled, sources.beyond,
        follower, quiet, home, fetched, levels, unit,
        (bank.capacity_wh, bank.charge_limit_w, bank.charge_efficiency, bank.discharge_efficiency, bank.peukert,
         bank.rated_w, 1.0 if bank.tapers else 0.0, 1.0 if design.charging.one_source else 0.0,
         filled_part(design, bank), design.policy.return_margin_frac),
        slice_s / 3600.0,
    )  # fmt: skip
    dark_h, end, lowest, totals, unserved = found
    straight = on_panels_wh(design, spans, sources)
    offered = sum(watts * (after - before) for watts, (before, after) in zip(sources.on_panels, spans, strict=True))
    totals[0] += straight
    totals[1] += offered
    totals[4] += offered - straight
    return SecondRun(
        hours_carried_h=design.outage.duration_h if dark_h < 0 else float(dark_h),
        end_wh=end, lowest_wh=lowest, served_wh=totals[0], sun_wh=totals[1], other_wh=totals[2],
        generator_wh=totals[3], spilled_wh=totals[4], unserved_wh=unserved.tolist(), fuel_l=totals[5],
        generator_h=totals[6], starts=int(totals[7]), capacity_wh=bank.capacity_wh,
    )  # fmt: skip


def filled_part(design: Design, bank: Rated) -> float:
    """Charge as the outage begins, as a part: filled second by second from the set point while the warning lasts."""
    charger = design.charging.grid_charger
    if charger.top_up_soc_frac is None:
        return design.bank.start_soc_frac
    stored, near = charger.top_up_soc_frac * bank.capacity_wh, 1e-7 * bank.capacity_wh
    for _ in range(round(design.outage.warning_h * 3600)):
        into = min(charger.output_w, takes(stored, bank.capacity_wh, near, bank.charge_limit_w, float(bank.tapers)))
        stored = min(stored + into * bank.charge_efficiency / 3600, bank.capacity_wh)
    return stored / bank.capacity_wh


@njit(cache=True)
def takes(stored, capacity, near, charge_limit, tapers):  # type: ignore[no-untyped-def]
    """What the bank accepts [W]."""
    if stored >= capacity - near:
        return 0.0
    return (
        charge_limit * (1 - 0.95 * (stored / capacity - 0.8) / 0.2)
        if tapers > 0 and stored > 0.8 * capacity
        else charge_limit
    )


@njit(cache=True)
def _flow(turn, every, best, one_source, runs, unit, coupled, follower, off):  # type: ignore[no-untyped-def]
    """For a row of the table: sources used, the generator's charger, all that is left of them after what is taken (without the
    charger), and of a follower what goes to the loads and what may go into the bank.
    """
    parts, most_in, part_in, per_house, _ = follower
    straight, into = 0.0, 0.0
    if coupled > 0 and turn[LEADS] > 0:
        given = coupled
        if off:
            one = coupled / parts
            given = 0.0
            while given + one <= turn[HOUSE] + 1e-9 * one and given + one <= coupled * (1 + 1e-12):
                given += one
        straight = min(given, turn[HOUSE])
        into = 0.0 if off else min(given - straight, most_in)
    source = every if one_source == 0.0 else best
    charger = min(unit[4], max(unit[0] - turn[GIVEN], 0.0) * unit[5]) if runs else 0.0
    if one_source > 0.0:
        if charger > source and charger > into * part_in:
            source, into = 0.0, 0.0
        elif into * part_in > source:
            source, charger = 0.0, 0.0
        else:
            into, charger = 0.0, 0.0
    left = source + into * part_in - (turn[TAKEN] - straight * per_house)
    return source, charger, left, straight, into


@njit(cache=True)
def _step(
    spans,
    row,
    served,
    asked,
    offered,
    passed,
    small,
    coupled,
    beyond,
    follower,
    quiet,
    home,
    fetched,
    levels,
    unit,
    bank,
    slice_h,
):  # type: ignore[no-untyped-def]
    capacity, charge_limit, into_part, out_part, peukert, rated_w, tapers, one_source, start_part, margin = bank
    _, start_at, stop_at, min_run, _, charger_part, stock, tank_most, idle_l, slope_l, alone, exists = unit
    off = False
    near = 1e-7 * capacity
    stored = capacity * start_part
    out = np.zeros(3, dtype=np.bool_)
    inverter_out = False
    runs, ran = False, 0.0
    fuel, tank, bought = stock, min(stock, tank_most), 0.0
    dark_h = -1.0
    lowest = stored
    totals, unserved = np.zeros(8), np.zeros(4)
    back = np.minimum(levels + margin, 1.0)
    marks = np.concatenate((levels, back, np.array([start_at, stop_at, 1.0, 0.8, follower[4]]))) * capacity
    for step in range(spans.shape[0]):
        begins, ends = spans[step, 0], spans[step, 1]
        totals[1] += (offered[step] + coupled[step] + beyond[step]) * (ends - begins)
        totals[4] += beyond[step] * (ends - begins)
        others = small[:, step].sum()
        totals[2] += others * (ends - begins)
        totals[4] += (offered[step] - passed[step]) * (ends - begins)
        if fetched[step]:
            bought += stock - fuel
            fuel = stock
        best = max(passed[step], small[:, step].max())
        every = passed[step] + others
        now, turns = begins, 0
        # An array that is below its level while switched off comes back at a change or a step only.
        changed = True
        in_turns = served[row[step]]
        while now < ends - 1e-12:
            span = min(slice_h, ends - now)
            turns += 1
            calm = turns < 100 + (ends - begins) / slice_h
            # The generator.
            if exists > 0:
                if home[step]:
                    tank = min(tank_most, fuel)
                hand = fuel if home[step] else tank
                if runs:
                    if quiet[step] or hand <= 1e-9 or (stored >= stop_at * capacity - near and ran >= min_run - 1e-9):
                        runs = False
                elif calm and not quiet[step] and hand > 1e-9 and stored <= start_at * capacity + near:
                    runs, ran = True, 0.0
                    totals[7] += 1
            carries_house = runs and alone == 0.0
            # Who comes back.
            for attempt in range(2):
                if not runs or not calm:
                    break
                if attempt == 0 and inverter_out and not carries_house:
                    number = 0
                    while number < 3 and not out[number]:
                        number += 1
                    found = _flow(
                        in_turns[0, number], every, best, one_source, True, unit, coupled[step], follower, off
                    )
                    if found[2] + found[1] >= -1e-9:
                        inverter_out = False
                if attempt == 1:
                    for tier in range(2):
                        if out[tier]:
                            mode = 2 if carries_house else (1 if inverter_out else 0)
                            turn = in_turns[mode, tier + 1]
                            found = _flow(turn, every, best, one_source, True, unit, coupled[step], follower, off)
                            if found[2] + found[1] < -1e-9:
                                break
                            out[tier] = False
            if calm:
                for tier in range(3):
                    if out[tier]:
                        if stored < back[tier] * capacity - near:
                            break
                        out[tier] = False
                if stored >= back[0] * capacity - near:
                    inverter_out = False
                if off and changed and stored <= follower[4] * capacity + near:
                    number = 0
                    while number < 3 and not out[number]:
                        number += 1
                    mode = 2 if carries_house else (1 if inverter_out else 0)
                    found = _flow(
                        in_turns[mode, number], every, best, one_source, runs, unit, coupled[step], follower, False
                    )
                    off = (
                        found[4] > 0
                        and found[2] + (0.0 if runs else found[1])
                        > takes(stored, capacity, near, charge_limit, tapers) + 1e-9
                    )
            # Who goes.
            while True:
                number = 0
                while number < 3 and not out[number]:
                    number += 1
                mode = 2 if carries_house else (1 if inverter_out else 0)
                given = in_turns[mode, number, GIVEN]
                source, charger, from_sun, straight, surplus = _flow(
                    in_turns[mode, number], every, best, one_source, runs, unit, coupled[step], follower, off
                )
                limit = takes(stored, capacity, near, charge_limit, tapers)
                if not off and follower[0] > 0 and surplus > 0 and from_sun > limit + 1e-9:
                    off = True
                    continue
                if from_sun + charger >= -1e-9:
                    break
                if mode == 0 and in_turns[0, number, IDLES] > 0 and stored <= levels[0] * capacity + near:
                    inverter_out = True
                    continue
                gone = -1
                for tier in range(number - 1, -1, -1):
                    if in_turns[mode, number, TIER + tier] > 0 and stored <= levels[tier] * capacity + near:
                        gone = tier
                        break
                if gone < 0:
                    break
                out[gone] = True
            net = from_sun + charger
            column = number
            into = 0.0
            if net >= 0:
                into = min(net, limit)
                if not runs and number == 3 and asked[row[step], 3] > 0:
                    # Spare, whole, on what is left over.
                    richer = _flow(
                        in_turns[mode, 4], every, best, one_source, False, unit, coupled[step], follower, off
                    )
                    if in_turns[mode, 4, LEFT] == 0 and richer[2] - into >= -1e-9:
                        column = 4
                        source, _, from_sun, straight, surplus = richer
                        net = from_sun
                change = into * into_part
            else:
                over = -net / rated_w
                change = net * (over ** (peukert - 1) if over > 1 else 1.0) / out_part
            # Cut the slice at a level, at the end of the least run, and where the fuel ends.
            after = stored + change * span
            changed = False
            for at, mark in enumerate(marks):
                if (stored < mark - near and after > mark) or (stored > mark + near and after < mark):
                    # Falling, it meets what goes and what starts; rising, what returns and stops, the knee and full.
                    meets = (at < 3 or at == 6 or at == 10) == (change < 0)
                    if (mark - stored) / change < span:
                        span, changed = (mark - stored) / change, meets
            if runs:
                if ran < min_run - 1e-9:
                    changed = changed or min_run - ran <= span
                    span = min(span, min_run - ran)
                gives = given + (charger if net < 0 else max(into - from_sun, 0.0)) / charger_part
                burns = idle_l + slope_l * gives / 1000
                hand = fuel if home[step] else tank
                if burns * span > hand:
                    span, changed = hand / burns, True
                totals[3] += gives * span
                totals[6] += span
                fuel = max(fuel - burns * span, 0.0)
                tank = max(tank - burns * span, 0.0)
                ran += span
                over = max(from_sun - into, 0.0)
            else:
                over = net - into if net >= 0 else 0.0
            # A follower gives way first, at its own terminals.
            held = min(over / follower[2], surplus) if surplus > 0 else 0.0
            totals[4] += (over - held * follower[2] + held) * span
            totals[4] += (every - source + coupled[step] - straight - surplus) * span
            dark = False
            for tier in range(4):
                short = asked[row[step], tier] - in_turns[mode, column, TIER + tier]
                if short > 1e-9:
                    unserved[tier] += short * span
                    dark = dark or tier < 2
            if dark and dark_h < 0:
                dark_h = now
            totals[0] += in_turns[mode, column, LOAD] * span
            stored = min(max(stored + change * span, 0.0), capacity)
            lowest = min(lowest, stored)
            now += span
    totals[5] = stock + bought - fuel
    return dark_h, stored, lowest, totals, unserved
