"""Read the published tables that ship with the package."""

from __future__ import annotations

import json
from functools import cache
from importlib import resources
from typing import Any, NamedTuple


class TemperatureRow(NamedTuple):
    """One row of the cell size correction table."""

    temp_c: float
    size_factor: float


@cache
def ieee_485_rows() -> tuple[TemperatureRow, ...]:
    """Cell size correction factors for temperature, coldest first.

    Source: IEEE Std 485, Table 1 (values from memory). Fahrenheit is the table's key, so °C is computed from it.
    """
    return tuple(
        TemperatureRow((row["f"] - 32) / 1.8, row["factor"]) for row in table_of("ieee_485_temperature")["rows"]
    )


class CodeLetterRow(NamedTuple):
    """Locked-rotor apparent power of one code letter [kVA/hp]; the last letter has no upper end."""

    letter: str
    low_kva_per_hp: float
    high_kva_per_hp: float | None


@cache
def code_letter_rows() -> dict[str, CodeLetterRow]:
    """Locked-rotor kVA per horsepower by code letter.

    Source: NEC Table 430.7(B), 2023 (values from memory).
    """
    rows = table_of("nec_430_motors")["rows"]
    return {row["letter"]: CodeLetterRow(row["letter"], row["lo"], row["hi"]) for row in rows}


class MotorCurrentRow(NamedTuple):
    """Full-load current of a single-phase motor at 115 V [A]."""

    horsepower_hp: float
    current_115_a: float


@cache
def motor_current_rows() -> tuple[MotorCurrentRow, ...]:
    """Full-load currents of single-phase motors, smallest first.

    Source: NEC Table 430.248, 2023 (values from memory).
    """
    table = table_of("nec_430_motors")["flc_430_248_single_phase_a"]
    rows = (MotorCurrentRow(_ratio(size), float(amps["115V"])) for size, amps in table.items())
    return tuple(sorted(rows))


def _ratio(text: str) -> float:
    top, _, bottom = text.partition("/")
    return float(top) / float(bottom or 1)


class GasRow(NamedTuple):
    """Gas-producing current of one kind of cell [mA/Ah], at float and at boost charge."""

    float_ma_per_ah: float
    boost_ma_per_ah: float


@cache
def gas_rows() -> dict[str, GasRow]:
    """I_gas by kind of cell: vented, valve-regulated.

    Source: IEC 62485-2, clause 7.2, Table 1 (values from memory).
    """
    rows = {row["type"]: row for row in table_of("iec_62485_2_ventilation")["rows"]}
    return {
        name: GasRow(rows[key]["igas_float"], rows[key]["igas_boost"])
        for name, key in (("vented", "lead_acid_vented_Sb_lt_3pct"), ("valve_regulated", "lead_acid_VRLA"))
    }


@cache
def rest_voltage_rows(kind: str) -> tuple[tuple[float, float], ...]:
    """Rest voltage of a 12 V block by state of charge, emptiest first: (part of full, V).

    Common practice, no source; values from memory. `kind` is flooded_12v, agm_12v or lfp_12v.
    """
    return tuple(sorted((float(soc) / 100, float(volts)) for soc, volts in table_of("rest_voltage")[kind].items()))


class AmpacityRow(NamedTuple):
    """Ampacity of a copper conductor at the 60, 75 and 90 °C columns [A]."""

    size: str
    ampacity_75_a: float
    ampacity_60_a: float
    ampacity_90_a: float


@cache
def copper_ampacity_rows() -> tuple[AmpacityRow, ...]:
    """Copper conductors, thinnest first, at 30 °C ambient.

    The table has 18 and 16 AWG at 90 °C alone; at the lower columns they count as the largest device that 240.4(D) allows them.

    Source: NEC Table 310.16, 2023 (values from memory).
    """
    rows, limits = table_of("nec_310_16_copper")["rows"], small_conductor_limits()
    return tuple(
        AmpacityRow(
            row["size"],
            limits[row["size"]] if row["c75"] is None else float(row["c75"]),
            limits[row["size"]] if row["c60"] is None else float(row["c60"]),
            float(row["c90"]),
        )
        for row in rows
    )


@cache
def small_conductor_limits() -> dict[str, float]:
    """Largest overcurrent device on thin copper conductors, by size [A].

    Source: NEC 240.4(D), 2023 (values from memory).
    """
    limits = table_of("nec_310_16_copper")["small_conductor_240_4_d_copper_max_ocpd_a"]
    return {size: float(amps) for size, amps in limits.items()}


class ColdVocRow(NamedTuple):
    """Factor on open-circuit voltage down to a temperature [°C]."""

    down_to_c: float
    factor: float


@cache
def cold_voc_rows() -> tuple[ColdVocRow, ...]:
    """Open-circuit voltage factors of crystalline silicon in the cold, warmest first.

    Source: NEC Table 690.7(A), 2017 to 2023 (values from memory).
    """
    return tuple(ColdVocRow(float(row["c_lo"]), row["factor"]) for row in table_of("nec_690_7_cold_voc")["rows"])


def table_of(name: str) -> dict[str, Any]:
    """A table as it stands in its file."""
    text = resources.files(__package__).joinpath(f"{name}.json").read_text(encoding="utf-8")
    table: dict[str, Any] = json.loads(text)
    return table
