"""Published tables of conductors and conduits: resistance, current-carrying capacity, corrections, grounding, fill."""

from __future__ import annotations

from functools import cache
from typing import NamedTuple

from hearthkeep.core.published.tables import table_of


class ResistanceRow(NamedTuple):
    """A copper conductor: its size, area [mm²] and resistance [Ω/km] at the table's temperature."""

    size: str
    area_mm2: float
    ohm_per_km: float


@cache
def nec_resistance_rows() -> tuple[ResistanceRow, ...]:
    """Stranded uncoated copper at 75 °C, direct current, thinnest first.

    Source: NEC Chapter 9, Table 8, 2023 (values from memory).
    """
    return tuple(
        ResistanceRow(row["size"], float(row["area_mm2"]), float(row["stranded_ohm_per_km"]))
        for row in table_of("nec_ch9_table_8_copper")["rows"]
    )


@cache
def iec_resistance_rows() -> tuple[ResistanceRow, ...]:
    """Flexible plain copper (class 5) at 20 °C, the largest that is allowed, thinnest first.

    Source: IEC 60228, Table 3, 2004 (values from memory).
    """
    return tuple(
        ResistanceRow(f"{row['mm2']:g}", float(row["mm2"]), float(row["class5_plain"]))
        for row in table_of("iec_60228_copper")["rows"]
    )


class AmbientRow(NamedTuple):
    """Factors on ampacity up to an ambient temperature [°C], by insulation; none where the insulation bears no more."""

    up_to_c: float
    at_60_factor: float | None
    at_75_factor: float | None
    at_90_factor: float | None


@cache
def nec_ambient_rows() -> tuple[AmbientRow, ...]:
    """Correction for ambient temperature, coldest first.

    Source: NEC Table 310.15(B)(1)(1), 2023 (values from memory).
    """
    return tuple(
        AmbientRow(float(row["c_hi"]), row["c60"], row["c75"], row["c90"])
        for row in table_of("nec_310_15_corrections")["ambient_rows"]
    )


@cache
def nec_bundling_rows() -> tuple[tuple[int, float], ...]:
    """Adjustment for more than three current-carrying conductors together: (from how many on, factor), fewest first.

    Source: NEC Table 310.15(C)(1), 2023 (values from memory).
    """
    return tuple((int(row["n_lo"]), row["pct"] / 100) for row in table_of("nec_310_15_corrections")["adjustment_c1"])


@cache
def nec_grounding_rows() -> tuple[tuple[float, str], ...]:
    """Copper equipment grounding conductors: (largest overcurrent device [A], size), smallest first.

    Source: NEC Table 250.122, 2023 (values from memory).
    """
    return tuple((float(row["ocpd_a"]), row["cu"]) for row in table_of("nec_250_grounding")["egc_rows"])


@cache
def metric_copper_amps(method: str = "B2") -> dict[str, float]:
    """Current-carrying capacity of copper by size [mm²]: PVC at 70 °C, two loaded conductors [A].

    `method` is a reference method of installation; B2 is a cable in conduit on a wall, E one in free air.

    Source: IEC 60364-5-52, Tables B.52.2 and B.52.10, 2009 (values from memory).
    """
    table = table_of("iec_60364_5_52_copper")
    thin = {size: float(amps) for size, amps in table["thin_flexible_a"].items()}
    return thin | {f"{row['mm2']:g}": float(row[method.lower()]) for row in table["rows"]}


@cache
def iec_ambient_factors(insulation_c: int, *, in_ground: bool = False) -> tuple[tuple[float, float], ...]:
    """Factors by the temperature around [°C], coldest first; `insulation_c` is 70 (PVC) or 90 (XLPE).

    Source: IEC 60364-5-52, Tables B.52.14 in air and B.52.15 in the ground, 2009 (values from memory).
    """
    key = f"ambient_{'ground_' if in_ground else ''}{ {70: 'pvc_70c', 90: 'xlpe_90c'}[insulation_c] }"
    return tuple((float(temp), factor) for temp, factor in table_of("iec_60364_5_52_copper")[key].items())


@cache
def iec_grouping_factors() -> tuple[tuple[int, float], ...]:
    """Factors for circuits bunched together: (number of circuits, factor), fewest first.

    Source: IEC 60364-5-52, Table B.52.17, row 1, 2009 (values from memory).
    """
    return tuple((int(n), factor) for n, factor in table_of("iec_60364_5_52_copper")["grouping_bunched"].items())


@cache
def free_air_ampacities() -> dict[str, dict[int, float]]:
    """Single insulated copper conductors in free air by size, at the 60, 75 and 90 °C columns [A], at 30 °C.

    Source: NEC Table 310.17, 2023 (values from memory).
    """
    return {
        row["size"]: {column: float(row[f"c{column}"]) for column in (60, 75, 90)}
        for row in table_of("nec_310_17_free_air")["rows"]
    }


@cache
def vehicle_ampacities() -> dict[str, float]:
    """Fine-strand leads of 105 °C insulation in vehicles and boats, outside engine spaces, not bundled, by size [A].

    Source: ABYC E-11, single conductors (values from memory).
    """
    return {row["size"]: float(row["a"]) for row in table_of("vehicle_105c")["rows"]}


@cache
def vehicle_bundling_rows() -> tuple[tuple[int, float], ...]:
    """Factors for leads of vehicles and boats that are bundled: (from how many on, factor), fewest first.

    Source: ABYC E-11 (values from memory).
    """
    return tuple((int(least), factor) for least, factor in table_of("vehicle_105c")["bundled"].items())


def vehicle_device_frac() -> float:
    """Most that a device may be of a lead's ampacity where the next one made below it would be less than that.

    Source: ABYC E-11 (value from memory).
    """
    return float(table_of("vehicle_105c")["device_frac"])


SQUARE_MM_AN_IN2 = 645.16


@cache
def conduit_areas_mm2(kind: str) -> dict[str, float]:
    """Inside area of conduits by trade size [mm²]; `kind` is emt or pvc (schedule 40).

    Source: NEC Chapter 9, Table 4 (values from memory).
    """
    key = {"emt": "emt_area_in2", "pvc": "pvc_sch40_area_in2"}[kind]
    return {size: area * SQUARE_MM_AN_IN2 for size, area in table_of("nec_ch9_conduit")[key].items()}


@cache
def insulated_areas_mm2() -> dict[str, float]:
    """Area of one THHN or THWN-2 conductor with its insulation, by size [mm²].

    Source: NEC Chapter 9, Table 5 (values from memory).
    """
    areas = table_of("nec_ch9_conduit")["thhn_thwn2_area_in2"]
    return {size: area * SQUARE_MM_AN_IN2 for size, area in areas.items()}


def conduit_fill_limit(conductors: int) -> float:
    """Part of a conduit's area that so many conductors may fill.

    Source: NEC Chapter 9, Table 1 (values from memory).

    >>> conduit_fill_limit(1), conduit_fill_limit(2), conduit_fill_limit(5)
    (0.53, 0.31, 0.4)
    """
    limits = table_of("nec_ch9_conduit")["fill_frac"]
    return float(limits.get(str(conductors), limits["3_or_more"]))
