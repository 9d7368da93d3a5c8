"""The outage model once more, written naively from its rules to check the compiled one against.

Explicit steps of seconds, no levels solved for, plain dictionaries. Slow and simple on purpose; shares no code with
the kernel beyond the design and its sun.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cache

from hearthkeep.core.bank import rate
from hearthkeep.core.design import Design, Generator, OutageDay, Wind
from hearthkeep.core.outage import scene_of

TIERS = ("life", "keep", "ease", "spare")


@dataclass
class SlowResult:
    dark_h: float | None
    stored_end_wh: float
    served_wh: float
    spilled_wh: float
    lowest_wh: float
    fuel_l: float = 0.0
    generator_wh: float = 0.0


@dataclass
class SlowGenerator:
    """The generator of a design: starts and stops on charge, obeys quiet hours, minimum run and fuel."""

    unit: Generator
    capacity_wh: float
    fuel_l: float
    tank_l: float
    runs: bool = False
    run_h: float = 0.0

    def step(self, stored: float, hour: int, away: bool, span: float) -> bool:
        unit = self.unit
        quiet = any(start <= hour < end for start, end in unit.quiet_hours)
        if not away:
            self.tank_l = min(unit.tank_l, self.fuel_l)
        at_hand = self.tank_l if away else self.fuel_l
        if self.runs and (
            quiet
            or at_hand <= 1e-9
            or (stored >= unit.stop_soc_frac * self.capacity_wh - 1e-6 and self.run_h >= unit.min_run_h - 1e-9)
        ):
            self.runs = False
        elif not self.runs and not quiet and at_hand > 1e-9 and stored <= unit.start_soc_frac * self.capacity_wh:
            self.runs, self.run_h = True, 0.0
        if self.runs:
            self.run_h += span
        return self.runs

    def burn(self, power_w: float, span: float) -> None:
        unit = self.unit
        litres = (unit.fuel_idle_l_per_h + unit.fuel_l_per_kwh * power_w / 1000) * span
        self.fuel_l = max(self.fuel_l - litres, 0.0)
        self.tank_l = max(self.tank_l - litres, 0.0)


@cache
def mean_wind_w(wind: Wind, mean_m_s: float) -> float:
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


def other_sources_w(design: Design, day: OutageDay, hour: int) -> list[float]:
    """Wind, and alternator and bench charger while somebody is there."""
    charging, power, away = design.charging, [0.0], day.away
    if charging.wind:
        mean = charging.wind.mean_m_s if day.wind_m_s is None else day.wind_m_s
        power.append(mean_wind_w(charging.wind, mean))
    if charging.alternator and not away and any(a <= hour < b for a, b in charging.alternator.driven_hours):
        power.append(charging.alternator.current_a * design.bank.nominal_v)
    if charging.bench_charger and not away and any(a <= hour < b for a, b in charging.bench_charger.plugged_hours):
        power.append(charging.bench_charger.output_w)
    return power


def live_through(design: Design, *, slice_h: float) -> SlowResult:
    bank, inverter, rating = design.bank, design.inverter, rate(design.bank)
    capacity = rating.capacity_wh
    floor = max(1 - bank.depth_frac, bank.cutoff_soc_frac)
    level = {"life": bank.cutoff_soc_frac, "keep": floor, "ease": max(design.rules.ease_level_frac, floor)}
    ac_loads = [row for row in design.loads if row.supply.value == "ac"]
    scene = scene_of(design, rating)
    stored = capacity * bank.start_soc_frac
    dropped = dict.fromkeys(level, False)
    result = SlowResult(None, stored, 0.0, 0.0, stored)
    overhead = inverter.rated_w / inverter.efficiency_frac - inverter.rated_w - inverter.idle_w

    unit = design.charging.generator
    generator = None if unit is None else SlowGenerator(unit, capacity, unit.stock_l, min(unit.tank_l, unit.stock_l))

    def draw(served: list[str], hour: int, dark: bool, runs: bool = False) -> tuple[float, float, float]:
        """Loads, what they cost at the bus, and what a running generator gives them."""
        ac = dc = lost = 0.0
        for row in design.loads:
            if row.tier.value in served:
                on = any(start <= hour < end for start, end in row.hours)
                watts = row.substitute_w if dark and row.dark_day == "substitute" else row.running_w
                power = row.quantity * (watts * row.duty_frac if on else row.standby_w)
                if dark and row.dark_day == "drop":
                    power = 0.0
                if row.supply.value == "ac":
                    ac += power
                else:
                    dc += power
                    lost += power / 0.9 - power if row.supply.value == "dc_converted" else 0.0
        taken = dc + lost
        if runs:
            return ac + dc, taken * (1 + design.wiring.loss_frac), ac
        if any(row.tier.value in served for row in ac_loads):
            taken += inverter.idle_w + ac * (1 + overhead / inverter.rated_w)
        return ac + dc, taken * (1 + design.wiring.loss_frac), 0.0

    def asks(tier: str, hour: int, dark: bool) -> bool:
        return draw([tier], hour, dark)[0] > 0

    now = 0.0
    edges = scene.clock.edges_h
    for step in range(len(scene.clock.length_h)):
        hour, sun = int(scene.clock.hour[step]), float(scene.sun.passed_w[step])
        day = design.outage.days[min(int(scene.clock.day[step]), len(design.outage.days) - 1)]
        sky, away = day.sky.value, day.away
        others = other_sources_w(design, day, hour)
        other = sum(others)
        dark = sky in ("overcast", "covered")
        clipped = float(scene.sun.clipped_w[step])

        def charging(house: float) -> tuple[float, float]:
            charger = min(unit.charger_w, max(unit.rated_w - house, 0.0) * unit.charger_efficiency_frac)
            if not design.charging.one_source:
                return sum((sun, *others)), charger  # noqa: B023
            strongest = max(sun, *others)  # noqa: B023
            return (0.0, charger) if charger > strongest else (strongest, 0.0)

        slices = max(1, round(float(scene.clock.length_h[step]) / slice_h))
        span = float(scene.clock.length_h[step]) / slices
        for number in range(slices):
            now = float(edges[step]) + number * span
            runs = generator is not None and generator.step(stored, hour, away, span)
            for place, tier in enumerate(("life", "keep")) if runs else ():
                # At once, unless it would draw on the bank.
                _, taken, house = draw(list(TIERS[: place + 1]), hour, dark, not unit.charges_only)
                if dropped[tier] and taken > sum(charging(house)) + 1e-9:
                    break
                dropped[tier] = False
            for tier in level:
                if dropped[tier] and stored >= min(level[tier] + 0.1, 1.0) * capacity - 1e-6:
                    dropped[tier] = False
                if dropped[tier]:
                    break
            while True:
                served = []
                for tier in level:
                    if dropped[tier]:
                        break
                    served.append(tier)
                load, taken, house = draw(served, hour, dark, runs and not unit.charges_only)
                source, charger = max(sun, *others) if design.charging.one_source else sun + other, 0.0
                if runs:
                    source, charger = charging(house)
                if taken <= source + charger + 1e-9:
                    break
                out = [tier for tier in served if asks(tier, hour, dark) and stored <= level[tier] * capacity + 1e-6]
                if not out and stored <= level["life"] * capacity + 1e-6 and served:
                    out = ["life"]
                if not out:
                    break
                # The lowest goes, and with it all below.
                for tier in TIERS[TIERS.index(out[-1]) : 3]:
                    dropped[tier] = True
            if result.dark_h is None and any(
                asks(tier, hour, dark) and tier not in served for tier in ("life", "keep")
            ):
                result.dark_h = now
            result.spilled_wh += (sun + other - source) * span
            from_source = source - taken
            net = from_source + charger
            if net >= 0:
                state = stored / capacity
                part = 1.0 if not rating.tapers or state < 0.8 else 1 - 0.95 * (state - 0.8) / 0.2
                into = min(net, rating.charge_limit_w * part) if stored < capacity - 1e-9 else 0.0
                spare_load, spare_taken, _ = draw([*served, "spare"], hour, dark)
                spare_taken -= taken
                if not runs and len(served) == 3 and asks("spare", hour, dark) and net - into >= spare_taken:
                    load, net = spare_load, net - spare_taken
                stored = min(capacity, stored + into * rating.charge_efficiency_frac * span)
                # A charger holds back what the bank does not take; the other sources are spilled.
                charger = max(into - from_source, 0.0) if runs else 0.0
                result.spilled_wh += (net - into if not runs else max(from_source - into, 0.0)) * span
            else:
                power = -net
                rated_w = rating.rated_current_a * rating.nominal_v
                factor = (power / rated_w) ** (rating.peukert_exponent - 1) if power > rated_w else 1.0
                stored -= power * factor / rating.discharge_efficiency_frac * span
            if runs:
                given = house + charger / unit.charger_efficiency_frac
                generator.burn(given, span)
                result.generator_wh += given * span
            result.spilled_wh += clipped * span
            result.served_wh += load * span
            result.lowest_wh = min(result.lowest_wh, stored)
    result.stored_end_wh = stored
    result.fuel_l = 0.0 if unit is None else unit.stock_l - generator.fuel_l
    return result
