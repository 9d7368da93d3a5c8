"""A generator: what altitude and heat leave of it, and what it burns."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.bank import BankVolts
from hearthkeep.core.design import Charging, Design, Fuel, Generator
from hearthkeep.core.sources.kind import Setting, SourceKind, whole_watts

#: Fuel lines where the design gives none: no-load part of the rating [L/h per kW rated], and per energy [L/kWh].
#: Diesel: Skarstein & Uhlen, Wind Engineering 13(2), 1989 (from memory). Gasoline and propane: through the quarter and
#: full-load points of public charts for 5 and 6 kW portables; common practice, no source, +-25 %.
TYPICAL_LINES: dict[Fuel, tuple[float, float]] = {
    Fuel.DIESEL: (0.08415, 0.246),
    Fuel.GASOLINE: (0.15, 0.456),
    Fuel.PROPANE: (0.255, 0.629),
}
#: What height and heat take: 3.5 % for each 300 m above 300 m, 1 % for each 5.5 °C above 25 °C. Common practice, no source.
HEIGHT_FRAC_PER_M, HEIGHT_FROM_M = 0.035 / 300.0, 300.0
HEAT_FRAC_PER_C, HEAT_FROM_C = 0.01 / 5.5, 25.0
LEAST_LEFT_FRAC = 0.1
SURGE_RATIO = 1.25


@dataclass(frozen=True, kw_only=True, slots=True)
class GeneratorRating:
    """The generator as the outage meets it."""

    #: Air of the outage's warmest day [°C], and the parts of the rating that height and heat take.
    warmest_c: float
    height_frac: float
    heat_frac: float
    #: Part of the rating they leave, and what that comes to.
    derate_frac: float
    rated_w: float
    surge_w: float
    fuel_idle_l_per_h: float
    fuel_l_per_kwh: float

    @property
    def best_l_per_kwh(self) -> float:
        """Fuel for each kilowatt-hour at full load [L/kWh]."""
        return self.fuel_l_per_kwh + 1000 * self.fuel_idle_l_per_h / self.rated_w


def fuel_line(generator: Generator) -> tuple[float, float]:
    """No-load fuel [L/h] and fuel per energy [L/kWh]: F = F0 + F1 P."""
    per_kw, per_kwh = TYPICAL_LINES[generator.fuel]
    idle = generator.fuel_idle_l_per_h
    slope = generator.fuel_l_per_kwh
    return (
        per_kw * generator.rated_w / 1000 if idle is None else idle,
        per_kwh if slope is None else slope,
    )


def fuel_l_per_h(generator: Generator, power_w: float) -> float:
    """Fuel at a load [L/h].

    >>> unit = Generator(rated_w=20_000.0, fuel="diesel", stock_l=50.0, charger_w=3000.0)
    >>> round(fuel_l_per_h(unit, 20_000.0), 3)
    6.603
    """
    idle, slope = fuel_line(generator)
    return idle + slope * power_w / 1000


def derate_frac(*, elevation_m: float, air_c: float) -> float:
    """Part of the rating left at a height and an air temperature; never above 1 nor below LEAST_LEFT_FRAC."""
    return max(LEAST_LEFT_FRAC, 1.0 - _height_frac(elevation_m) - _heat_frac(air_c))


def _height_frac(elevation_m: float) -> float:
    return HEIGHT_FRAC_PER_M * max(0.0, elevation_m - HEIGHT_FROM_M)


def _heat_frac(air_c: float) -> float:
    return HEAT_FRAC_PER_C * max(0.0, air_c - HEAT_FROM_C)


def rate_generator(design: Design) -> GeneratorRating | None:
    """The design's generator at its site, on the warmest of the outage's days; none where there is none."""
    generator = design.charging.generator
    if generator is None:
        return None
    warmest_c = max(day.air_temp_c for day in design.outage.days)
    part = derate_frac(elevation_m=design.site.elevation_m, air_c=warmest_c)
    idle, slope = fuel_line(generator)
    surge_w = SURGE_RATIO * generator.rated_w if generator.surge_w is None else generator.surge_w
    return GeneratorRating(
        warmest_c=warmest_c,
        height_frac=_height_frac(design.site.elevation_m),
        heat_frac=_heat_frac(warmest_c),
        derate_frac=part,
        rated_w=generator.rated_w * part,
        surge_w=max(surge_w, generator.rated_w) * part,
        fuel_idle_l_per_h=idle,
        fuel_l_per_kwh=slope,
    )


class GeneratorKind(SourceKind):
    """A generator's charger. While the grid is up or the generator runs, its charger works beside the other sources."""

    key, label, name = "generator", "Generator", "a charger"

    def most_current_a(self, design: Design, volts: BankVolts) -> float:
        generator = design.charging.generator
        return generator.charger_w / volts.charging_v if generator else 0.0

    def set_down(self, charging: Charging, *, limit_a: float, charging_v: float) -> tuple[Setting, ...]:
        limit_w = whole_watts(limit_a, charging_v)
        if charging.generator is None or charging.generator.charger_w <= limit_w:
            return ()
        return (Setting(path="charging.generator.charger_w", value=limit_w),)


GENERATOR = GeneratorKind()
