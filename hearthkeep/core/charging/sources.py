"""What else charges during an outage: a vehicle's alternator, a wind turbine, a plug-in bench charger."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank import BankVolts
from hearthkeep.core.charging.greatest import greatest_sun_w
from hearthkeep.core.design import Design, Wind, hours_in

Floats = NDArray[np.float64]
#: Winds of the integral over the year's winds: middles of this many slices of the range in which the turbine turns.
_SLICES = 2000


@dataclass(frozen=True, kw_only=True, slots=True)
class OtherPower:
    """The other sources at the direct-current bus, step by step [W], (n,)."""

    alternator_w: Floats
    wind_w: Floats
    bench_w: Floats

    @property
    def total_w(self) -> Floats:
        """All of them together [W], (n,)."""
        return self.alternator_w + self.wind_w + self.bench_w

    @property
    def strongest_w(self) -> Floats:
        """The strongest of them alone [W], (n,)."""
        return np.maximum(np.maximum(self.alternator_w, self.wind_w), self.bench_w)


def turbine_w(wind: Wind, speed_m_s: Floats) -> Floats:
    """Power in a steady wind, rotor to bus, before the regulator's efficiency [W]: cubic between cut-in and rated wind.

    P = P_r (v^3 - v_ci^3) / (v_r^3 - v_ci^3). Common practice where the maker gives no curve, no source.
    """
    rise = (speed_m_s**3 - wind.cut_in_m_s**3) / (wind.rated_m_s**3 - wind.cut_in_m_s**3)
    turns = (speed_m_s >= wind.cut_in_m_s) & (speed_m_s < wind.cut_out_m_s)
    power: Floats = np.where(turns, wind.rated_w * np.clip(rise, 0.0, 1.0), 0.0)
    return power


def rayleigh_density(speed_m_s: Floats, mean_m_s: float) -> Floats:
    """Probability density of a wind whose mean is known [s/m]: a Weibull distribution of shape 2.

    f(v) = (pi v / 2 m^2) exp(-pi v^2 / 4 m^2), as IEC 61400-12-1 assumes for the annual energy of a turbine (from memory).
    """
    part = np.pi * speed_m_s / (2.0 * mean_m_s**2)
    density: Floats = part * np.exp(-np.pi * speed_m_s**2 / (4.0 * mean_m_s**2))
    return density


@lru_cache(maxsize=512)
def mean_turbine_w(wind: Wind, mean_m_s: float) -> float:
    """Average power at the bus over winds of a mean speed [W]."""
    if mean_m_s <= 0:
        return 0.0
    width = (wind.cut_out_m_s - wind.cut_in_m_s) / _SLICES
    speeds: Floats = wind.cut_in_m_s + width * (np.arange(_SLICES, dtype=np.float64) + 0.5)
    energy: Floats = turbine_w(wind, speeds) * rayleigh_density(speeds, mean_m_s)
    return float(energy.sum() * width * wind.efficiency_frac)


def other_power(
    design: Design,
    *,
    hour: NDArray[np.int64],
    day_wind_m_s: Sequence[float | None],
    day: NDArray[np.int64],
    attended: NDArray[np.bool_],
    charging_v: float,
) -> OtherPower:
    """The other sources along a row of steps: hour of the day, calendar day with its wind, whether somebody is there.

    Driving and plugging in need somebody; the wind does not.
    """
    charging, nothing = design.charging, np.zeros(hour.shape[0])

    def in_hours(power_w: float, spans: tuple[tuple[int, int], ...]) -> Floats:
        running = np.array(hours_in(spans), dtype=bool)[hour] & attended
        return np.where(running, power_w, 0.0)

    alternator, bench, wind = charging.alternator, charging.bench_charger, charging.wind
    winds = nothing
    if wind is not None:
        means = (wind.mean_m_s if speed is None else speed for speed in day_wind_m_s)
        winds = np.array([mean_turbine_w(wind, speed) for speed in means])[day]
    return OtherPower(
        alternator_w=in_hours(alternator.current_a * charging_v, alternator.driven_hours) if alternator else nothing,
        wind_w=winds,
        bench_w=in_hours(bench.output_w, bench.plugged_hours) if bench else nothing,
    )


def source_currents_a(design: Design, volts: BankVolts) -> dict[str, float]:
    """Most current each source may give at the volts of a bank that is charged, by its name [A].

    The sun's is the greatest that a clear day brings, all arrays together; of generator and grid charger the larger counts.
    """
    charging = design.charging
    # While the grid is up or the generator runs, its charger works beside the others.
    chargers_w = max(charging.generator.charger_w if charging.generator else 0.0, charging.grid_charger.output_w)
    found_w = {
        "sun": greatest_sun_w(design.site, charging.controllers, volts),
        "a charger": chargers_w,
        "wind": charging.wind.rated_w * charging.wind.efficiency_frac if charging.wind else 0.0,
        "bench charger": charging.bench_charger.output_w if charging.bench_charger else 0.0,
    }
    found = {name: power_w / volts.charging_v for name, power_w in found_w.items()}
    found["alternator"] = charging.alternator.current_a if charging.alternator else 0.0
    return {name: amps for name, amps in found.items() if amps > 0}
