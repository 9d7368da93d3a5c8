"""Published tables, carried as data files beside their source, edition and confidence."""

from hearthkeep.core.published.tables import (
    AmpacityRow,
    CodeLetterRow,
    ColdVocRow,
    GasRow,
    MotorCurrentRow,
    TemperatureRow,
    code_letter_rows,
    cold_voc_rows,
    copper_ampacity_rows,
    gas_rows,
    ieee_485_rows,
    metric_copper_amps,
    motor_current_rows,
    rest_voltage_rows,
    small_conductor_limits,
)

__all__ = [
    "AmpacityRow",
    "CodeLetterRow",
    "ColdVocRow",
    "GasRow",
    "MotorCurrentRow",
    "TemperatureRow",
    "code_letter_rows",
    "cold_voc_rows",
    "copper_ampacity_rows",
    "gas_rows",
    "ieee_485_rows",
    "metric_copper_amps",
    "motor_current_rows",
    "rest_voltage_rows",
    "small_conductor_limits",
]
