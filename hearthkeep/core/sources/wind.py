"""A wind turbine: a cubic curve between cut-in and rated wind, under winds spread about their mean."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from hearthkeep.core.bank import BankRating, BankVolts
from hearthkeep.core.design import Charging, Design
from hearthkeep.core.design.charging import Wind
from hearthkeep.core.figure import Figure, Term
from hearthkeep.core.practice import wind_speed
from hearthkeep.core.sources.kind import FieldUnit, Floats, PageField, SourceSteps, SteadySource

#: Winds of the integral over the year's winds: middles of this many slices of the range in which the turbine turns.
_SLICES = 2000
#: The page begins with a small turbine in a light wind [W], [m/s]. Our assumption.
START_W, START_MEAN_M_S = 400, 3.5


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


class WindKind(SteadySource):
    """A wind turbine."""

    key, label, name = "wind", "Wind turbine", "wind"
    question = "There is a wind turbine (winds about the mean by Rayleigh, cubic curve)"
    fields = (
        PageField(field="rated_w", label="Rated", unit=FieldUnit.WATTS),
        PageField(field="rated_m_s", label="in a wind of", unit=FieldUnit.SPEED),
        PageField(field="cut_in_m_s", label="Turns from", unit=FieldUnit.SPEED),
        PageField(field="cut_out_m_s", label="Stops at", unit=FieldUnit.SPEED),
        PageField(field="mean_m_s", label="Mean wind there", unit=FieldUnit.SPEED),
        PageField(field="efficiency_frac", label="Regulator", unit=FieldUnit.PERCENT),
        PageField(field="price", label="Price", unit=FieldUnit.MONEY),
    )

    def most_current_a(self, design: Design, volts: BankVolts) -> float:
        wind = design.charging.wind
        return wind.rated_w * wind.efficiency_frac / volts.charging_v if wind else 0.0

    def power_w(self, charging: Charging, steps: SourceSteps) -> Floats:
        wind = _there(charging)
        means = (wind.mean_m_s if speed is None else speed for speed in steps.day_wind_m_s)
        by_day: Floats = np.array([mean_turbine_w(wind, speed) for speed in means])
        return by_day[steps.day]

    def start(self, rating: BankRating) -> dict[str, object]:
        return Wind(rated_w=START_W, mean_m_s=START_MEAN_M_S).model_dump(mode="json")

    def figure(self, design: Design, rating: BankRating, *, given_wh: float, duration_h: float) -> Figure:
        wind = _there(design.charging)
        speed, unit = wind_speed(design, wind.mean_m_s)
        return Figure(
            label="Wind in this outage",
            value=given_wh,
            unit="Wh",
            formula="mean power over Rayleigh winds of each day's mean × hours",
            terms=(
                Term(name="mean wind", value=speed, unit=unit),
                Term(name="mean power in it", value=mean_turbine_w(wind, wind.mean_m_s), unit="W"),
                Term(name="rated", value=wind.rated_w, unit="W"),
                Term(name="outage", value=duration_h, unit="h"),
            ),
            basis="Rayleigh distribution as in IEC 61400-12-1, from memory; cubic curve, common practice",
        )


def _there(charging: Charging) -> Wind:
    if charging.wind is None:
        raise ValueError("the design has no wind turbine")
    return charging.wind


WIND = WindKind()
