"""What arrays give through their controller into the bank."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hearthkeep.core.bank import BankVolts
from hearthkeep.core.design import Array, Controller, ControllerKind, GridTied

Floats = NDArray[np.float64]

#: Controller efficiencies where the design names none. Common practice, no source.
TYPICAL_CONTROLLER_FRAC = {ControllerKind.MPPT: 0.97, ControllerKind.PWM: 1.0, ControllerKind.PANEL_FED: 1.0}
#: Panels made for a 12 V bank give about 18 V at full power. Common practice, no source.
TYPICAL_VMP_RATIO = 1.5


@dataclass(frozen=True, kw_only=True, slots=True)
class SunPower:
    """Sun at the direct-current bus, step by step [W]."""

    #: After the controllers' efficiency, before their current limit.
    offered_w: Floats
    #: What the current limits let through.
    passed_w: Floats

    @property
    def clipped_w(self) -> Floats:
        """Beyond the controllers' output, spilled [W]."""
        return self.offered_w - self.passed_w


def array_vmp_v(array: Array, nominal_v: float) -> float:
    """Voltage at maximum power, or the usual ratio to the bank where the design names none [V]."""
    if array.module is not None:
        return array.module.vmp_v * array.series
    return TYPICAL_VMP_RATIO * nominal_v if array.vmp_v is None else array.vmp_v


def mppt_w(array: Array, *, poa_w_m2: Floats, air_c: Floats, volts: BankVolts) -> Floats:
    """Array power through a converting controller, before its efficiency [W].

    P = P_stc x POA / 1000 x (1 + gamma (T_cell - 25)) x derate, T_cell = air + (NOCT - 20) POA / 800.
    """
    cell_c = air_c + (array.noct_c - 20.0) * poa_w_m2 / 800.0
    heat = np.maximum(1.0 + array.power_temp_coeff_per_c * (cell_c - 25.0), 0.0)
    power: Floats = array.stc_w * poa_w_m2 / 1000.0 * heat * (1.0 - array.losses_frac)
    return power


def pwm_w(array: Array, *, poa_w_m2: Floats, air_c: Floats, volts: BankVolts) -> Floats:
    """Array power through a switching controller: the panel's current at the volts of a bank that is charged [W]."""
    current_a = array.stc_w / array_vmp_v(array, volts.nominal_v) * poa_w_m2 / 1000.0 * (1.0 - array.losses_frac)
    power: Floats = current_a * volts.charging_v
    return power


MODELS: dict[ControllerKind, Callable[..., Floats]] = {ControllerKind.MPPT: mppt_w, ControllerKind.PWM: pwm_w}


def panel_fed_w(controllers: tuple[Controller, ...], poa_by_array: dict[str, Floats], *, air_c: Floats) -> Floats:
    """Power of the arrays that feed loads straight, as far as those take it [W], (n,)."""
    power = np.zeros_like(air_c)
    for controller in controllers:
        if controller.kind is ControllerKind.PANEL_FED:
            for array in controller.arrays:
                power = power + mppt_w(array, poa_w_m2=poa_by_array[array.id], air_c=air_c, volts=BankVolts(0.0, 0.0))
    return power


def grid_tied_power(unit: GridTied | None, poa_by_array: dict[str, Floats], *, air_c: Floats) -> SunPower:
    """Power of a grid-tied array at its inverter's alternating-current terminals, held to its rating [W]."""
    offered = np.zeros_like(air_c)
    if unit is None:
        return SunPower(offered_w=offered, passed_w=offered)
    for array in unit.arrays:
        poa = poa_by_array[array.id]
        offered = offered + mppt_w(array, poa_w_m2=poa, air_c=air_c, volts=BankVolts(0.0, 0.0))
    offered = offered * unit.efficiency_frac
    return SunPower(offered_w=offered, passed_w=np.minimum(offered, unit.rated_w))


def reaches_bank(array: Array, nominal_v: float) -> bool:
    """Whether the array's voltage lies above the bank's, without which nothing flows."""
    return array_vmp_v(array, nominal_v) > nominal_v


def controller_power(
    controller: Controller, *, poa_by_array: tuple[Floats, ...], air_c: Floats, volts: BankVolts
) -> SunPower:
    """Sum a controller's arrays and hold them to its output current at the volts of a bank that is charged."""
    offered = np.zeros_like(air_c)
    for array, poa in zip(controller.arrays, poa_by_array, strict=True):
        if reaches_bank(array, volts.nominal_v):
            offered = offered + MODELS[controller.kind](array, poa_w_m2=poa, air_c=air_c, volts=volts)
    efficiency = controller.efficiency_frac
    offered = offered * (TYPICAL_CONTROLLER_FRAC[controller.kind] if efficiency is None else efficiency)
    return SunPower(offered_w=offered, passed_w=np.minimum(offered, controller.output_a * volts.charging_v))
