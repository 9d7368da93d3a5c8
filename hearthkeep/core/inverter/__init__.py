"""Inverter: losses, and which loads fit it together."""

from hearthkeep.core.inverter.fit import Fit, Overload, fit_hours, fit_table
from hearthkeep.core.inverter.losses import input_w, low_battery_current_a, marginal_efficiency

__all__ = ["Fit", "Overload", "fit_hours", "fit_table", "input_w", "low_battery_current_a", "marginal_efficiency"]
