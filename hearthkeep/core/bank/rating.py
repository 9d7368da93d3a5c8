"""The bank as the outage meets it: capacity, limits and losses, with every empty field filled."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank.cells import BankVolts, charging_v
from hearthkeep.core.bank.chemistry import TYPICAL
from hearthkeep.core.bank.sharing import sharing_of
from hearthkeep.core.bank.temperature import capacity_factor
from hearthkeep.core.design import Bank

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True, slots=True)
class BankRating:
    """What the bank can hold, take and give during the outage."""

    nominal_v: float
    #: While a strong source charges it [V].
    charging_v: float
    rated_wh: float
    #: Temperature of the cells, the heater counted [°C].
    temp_c: float
    #: Part of the rated capacity to be had at the bank's temperature.
    temperature_frac: float
    #: Rated energy x temperature x ageing [Wh].
    capacity_wh: float
    floor_soc_frac: float
    cutoff_soc_frac: float
    #: Energy between full and the design floor [Wh].
    usable_wh: float
    charge_limit_a: float
    discharge_limit_a: float
    #: What a single string may take and give; side by side the one with the largest share sets the bank's limits [A].
    string_charge_a: float
    string_discharge_a: float
    #: What a single string and the bank by its shares give for a few seconds [A]; none where no board opens.
    string_short_a: float | None
    short_discharge_a: float | None
    #: The same at the bank's terminals at nominal volts; 0 when too cold [W].
    charge_limit_w: float
    discharge_limit_w: float
    charge_efficiency_frac: float
    discharge_efficiency_frac: float
    peukert_exponent: float
    #: Current of the rating, capacity / rated hours [A].
    rated_current_a: float
    #: Lead-acid takes less and less current above 80 % charge.
    tapers: bool

    @property
    def depth_frac(self) -> float:
        """The depth the bank is really used to: from full to the floor, which the cut-off may lift."""
        return 1.0 - self.floor_soc_frac

    def rate_factor(self, power_w: Floats) -> Floats:
        """What Peukert's law adds to a power drawn; 1 at or below the rated current and for LFP."""
        over = np.maximum(power_w / (self.rated_current_a * self.nominal_v), 1.0)
        factor: Floats = over ** (self.peukert_exponent - 1.0)
        return factor

    @property
    def volts(self) -> BankVolts:
        """Nominal volts and those while it is charged."""
        return BankVolts(self.nominal_v, self.charging_v)


@lru_cache(maxsize=64)
def rate(bank: Bank) -> BankRating:
    """Fill empty fields from the chemistry and work out capacity and limits."""
    typical = TYPICAL[bank.chemistry]
    temp_c = warmed_c(bank)
    temperature_frac = capacity_factor(bank.chemistry, temp_c)
    sharing = sharing_of(bank)
    # The string that carries the most meets its limit first, and with it the bank.
    carried = bank.parallel / sharing.worst_ratio
    capacity_wh = bank.rated_wh * temperature_frac * bank.ageing_frac
    string_charge_a = _or(bank.unit_max_charge_a, typical.charge_limit_per_h * bank.unit_ah)
    string_discharge_a = _or(bank.unit_max_discharge_a, typical.discharge_limit_per_h * bank.unit_ah)
    charge_a, discharge_a = string_charge_a * carried, string_discharge_a * carried
    # Below freezing an LFP protection board opens its charge path: at exactly 0 °C charging is still allowed.
    sheet = bank.unit
    charge_min_c = _or(sheet.charge_min_c if sheet else None, typical.charge_min_c)
    discharge_min_c = _or(sheet.discharge_min_c if sheet else None, typical.discharge_min_c)
    charge_w = charge_a * bank.nominal_v if temp_c >= charge_min_c else 0.0
    discharge_w = discharge_a * bank.nominal_v if temp_c >= discharge_min_c else 0.0
    short_a = sheet.short_discharge_a if sheet else None
    if short_a is None and typical.short_discharge_ratio is not None:
        short_a = typical.short_discharge_ratio * string_discharge_a
    floor = max(1.0 - bank.depth_frac, bank.cutoff_soc_frac)
    return BankRating(
        nominal_v=bank.nominal_v,
        charging_v=charging_v(bank),
        rated_wh=bank.rated_wh,
        temp_c=temp_c,
        temperature_frac=temperature_frac,
        capacity_wh=capacity_wh,
        floor_soc_frac=floor,
        cutoff_soc_frac=bank.cutoff_soc_frac,
        usable_wh=capacity_wh * (1.0 - floor),
        charge_limit_a=charge_a,
        discharge_limit_a=discharge_a,
        string_charge_a=string_charge_a,
        string_discharge_a=string_discharge_a,
        string_short_a=short_a,
        short_discharge_a=None if short_a is None else short_a * carried,
        charge_limit_w=charge_w,
        discharge_limit_w=discharge_w,
        charge_efficiency_frac=_or(bank.charge_efficiency_frac, typical.charge_efficiency_frac),
        discharge_efficiency_frac=_or(bank.discharge_efficiency_frac, typical.discharge_efficiency_frac),
        peukert_exponent=_or(bank.peukert_exponent, typical.peukert_exponent) if typical.is_lead_acid else 1.0,
        rated_current_a=bank.rated_ah / bank.rated_hours_h,
        tapers=typical.is_lead_acid,
    )


def warmed_c(bank: Bank) -> float:
    """Temperature of the cells: the heater lifts it towards its target as far as its power goes [°C]."""
    heater = bank.heater
    if heater is None or bank.temp_c >= heater.target_c:
        return bank.temp_c
    return min(heater.target_c, bank.temp_c + heater.power_w / heater.loss_w_per_c)


def heater_w(bank: Bank) -> float:
    """Average power the heater draws at the temperature of the bank's place [W]."""
    heater = bank.heater
    if heater is None or bank.temp_c >= heater.target_c:
        return 0.0
    return min(heater.power_w, (heater.target_c - bank.temp_c) * heater.loss_w_per_c)


def _or(value: float | None, typical: float) -> float:
    return typical if value is None else value


def peukert_hours(*, capacity_ah: float, rated_hours_h: float, exponent: float, current_a: float) -> float:
    """Hours until empty at a steady current: t = H (C / (I H))^k [h]. Not valid below the rated current.

    Source: W. Peukert, 1897 (ETZ); common textbook form.

    >>> round(peukert_hours(capacity_ah=100, rated_hours_h=20, exponent=1.2, current_a=10), 4)
    8.7055
    """
    return float(rated_hours_h * (capacity_ah / (current_a * rated_hours_h)) ** exponent)
