"""What a log can hold of an installation: each quantity with its unit, its range, and the names that other logs give it."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class Quantity(StrEnum):
    """A quantity that is read again and again."""

    BANK_V = "bank_v"
    #: Into the bank counts as plus.
    BANK_A = "bank_a"
    CHARGE = "charge"
    AH_FROM_FULL = "ah_from_full"
    DAYS_SINCE_FULL = "days_since_full"
    DAYS_SINCE_EQUALISE = "days_since_equalise"
    CUMULATIVE_AH = "cumulative_ah"
    HIGHEST_V = "highest_v"
    LOWEST_V = "lowest_v"
    #: Of a controller into the bank.
    SUN_W = "sun_w"
    SUN_V = "sun_v"
    #: Given to the house, altogether.
    INVERTER_W = "inverter_w"
    #: Of one group of loads, named by the part.
    LOAD_W = "load_w"
    GRID_W = "grid_w"
    GENERATOR_W = "generator_w"
    BANK_C = "bank_c"
    AIR_C = "air_c"
    SUN_W_M2 = "sun_w_m2"
    #: Of one device at the bank, named by the part: into the bank counts as plus.
    DEVICE_A = "device_a"
    #: Inside one device, named by the part.
    DEVICE_C = "device_c"


@dataclass(frozen=True, kw_only=True, slots=True)
class QuantityInfo:
    """A quantity in words, and the range beyond which a reading is no reading."""

    quantity: Quantity
    label: str
    #: As it is kept.
    unit: str
    low: float
    high: float
    #: Words of a column's name that stand for it, in lower case and without marks; a whole name or the words of one.
    names: tuple[str, ...]


def _info(quantity: Quantity, label: str, unit: str, low: float, high: float, *names: str) -> QuantityInfo:
    return QuantityInfo(quantity=quantity, label=label, unit=unit, low=low, high=high, names=names)


QUANTITIES: dict[Quantity, QuantityInfo] = {
    info.quantity: info
    for info in (
        _info(Quantity.BANK_V, "Volts of the bank", "V", 0, 1_000, "battery voltage", "bank voltage", "battery v", "bank v", "volts", "voltage",
              "batt v", "vbat", "v"),
        _info(Quantity.BANK_A, "Amps, into the bank plus", "A", -5_000, 5_000, "battery current", "bank current", "battery a", "bank a", "amps",
              "current", "batt a", "ibat", "a"),
        _info(Quantity.CHARGE, "Charge", "%", 0, 100, "state of charge", "soc", "charge", "battery soc", "percent full", "full", "percent"),
        _info(Quantity.AH_FROM_FULL, "Ah from full", "Ah", -100_000, 0, "ah from full", "amp hours from full", "consumed ah", "consumed amphours"),
        _info(Quantity.DAYS_SINCE_FULL, "Days since full", "d", 0, 10_000, "days since full", "days since charged"),
        _info(Quantity.DAYS_SINCE_EQUALISE, "Days since equalise", "d", 0, 10_000, "days since equalise", "days since equalize"),
        _info(Quantity.CUMULATIVE_AH, "Ah drawn so far", "Ah", 0, 100_000_000, "cumulative ah", "total ah", "cumulative amp hours"),
        _info(Quantity.HIGHEST_V, "Highest volts", "V", 0, 1_000, "highest v", "max v", "maximum voltage", "highest volts", "max voltage"),
        _info(Quantity.LOWEST_V, "Lowest volts", "V", 0, 1_000, "lowest v", "min v", "minimum voltage", "lowest volts", "min voltage"),
        _info(Quantity.SUN_W, "Sun into the bank", "W", 0, 1_000_000, "solar power", "pv power", "solar w", "pv w", "sun w", "charge power",
              "solar watts", "pv watts"),
        _info(Quantity.SUN_V, "Volts of the array", "V", 0, 1_500, "pv voltage", "solar voltage", "array voltage", "pv v", "array v", "solar v"),
        _info(Quantity.INVERTER_W, "Given to the house", "W", 0, 1_000_000, "inverter power", "ac power", "ac output", "inverter w", "output power",
              "load power", "output w", "ac w", "house w"),
        _info(Quantity.LOAD_W, "One group of loads", "W", 0, 1_000_000, "load w"),
        _info(Quantity.GRID_W, "Charger from the grid", "W", 0, 1_000_000, "grid power", "grid w", "charger power", "charger w"),
        _info(Quantity.GENERATOR_W, "Generator into the bank", "W", 0, 1_000_000, "generator power", "generator w"),
        _info(Quantity.BANK_C, "Temperature of the bank", "°C", -60, 120, "battery temperature", "bank temperature", "battery temp", "bank c",
              "battery c", "bank temp"),
        _info(Quantity.AIR_C, "Air", "°C", -60, 70, "air temperature", "ambient temperature", "outdoor temperature", "air c", "ambient", "air temp"),
        _info(Quantity.SUN_W_M2, "Sun on the plane", "W/m²", 0, 2_000, "irradiance", "solar irradiance", "poa", "sun w m2", "solar radiation"),
        _info(Quantity.DEVICE_A, "Amps of one device at the bank", "A", -5_000, 5_000, "device a", "charger current", "inverter current"),
        _info(Quantity.DEVICE_C, "Temperature inside a device", "°C", -60, 200, "device c", "cabinet temperature", "inverter temperature",
              "heatsink temperature"),
    )
}  # fmt: skip
