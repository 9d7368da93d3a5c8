"""What the inverter takes from the direct-current side."""

from __future__ import annotations

from hearthkeep.core.design import Inverter


def marginal_efficiency(inverter: Inverter) -> float:
    """Efficiency of each further watt, so that idle draw plus it meets the rated point.

    eta_m = P_rated / (P_rated / eta_rated - P_idle). Source: our model of a constant and a proportional loss, fitted
    to the two figures a data sheet gives.
    """
    if inverter.rated_w == 0:
        return 1.0
    return inverter.rated_w / (inverter.rated_w / inverter.efficiency_frac - inverter.idle_w)


def input_w(inverter: Inverter, output_w: float) -> float:
    """Direct-current power taken to give `output_w` of house current, idle included [W].

    >>> unit = Inverter(rated_w=1000, surge_w=2000, idle_w=20, efficiency_frac=0.9, low_cutoff_v=10.5)
    >>> round(input_w(unit, 1000), 6) == round(1000 / 0.9, 6)
    True
    """
    return inverter.idle_w + output_w / marginal_efficiency(inverter)


def low_battery_current_a(inverter: Inverter, output_w: float) -> float:
    """Direct current at the lowest battery voltage under load, not the nominal one [A]."""
    return input_w(inverter, output_w) / inverter.low_cutoff_v
