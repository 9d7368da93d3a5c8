"""Air that lead-acid cells need, so that hydrogen stays below what burns."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.bank.cells import cells_of
from hearthkeep.core.design import Bank, Chemistry
from hearthkeep.core.published import gas_rows

#: v x q x s of IEC 62485-2 clause 7.2, rounded as the standard rounds it [m³/Ah].
DILUTION = 0.05
#: Area of each opening for a natural air flow [cm²·h/m³].
OPENING_CM2_PER_M3H = 28.0
#: Nominal volts of a lead-acid cell.
CELL_V = 2.0


@dataclass(frozen=True, kw_only=True, slots=True)
class Ventilation:
    """What IEC 62485-2 asks for at float and at boost charge."""

    cells: int
    #: Rated capacity of one string, taken for C10 [Ah].
    capacity_ah: float
    float_m3_per_h: float
    boost_m3_per_h: float
    #: Area of each of inlet and outlet for a natural flow [cm2].
    float_opening_cm2: float
    boost_opening_cm2: float
    #: No sparks or glow within this distance of a vent, at boost charge [mm].
    spark_distance_mm: float


def air_flow_m3_per_h(*, cells: int, gas_ma_per_ah: float, capacity_ah: float) -> float:
    """Air flow that keeps hydrogen below 4 %: Q = 0.05 n I_gas C_rt 1e-3 [m³/h].

    Source: IEC 62485-2 clause 7.2 (from memory).

    >>> air_flow_m3_per_h(cells=24, gas_ma_per_ah=20, capacity_ah=200)
    4.8
    """
    return round(DILUTION * cells * gas_ma_per_ah * capacity_ah * 1e-3, 9)


def opening_cm2(air_m3_per_h: float) -> float:
    """Free area of each of inlet and outlet for a natural flow: A = 28 Q [cm2]. Source as above."""
    return OPENING_CM2_PER_M3H * air_m3_per_h


def spark_distance_mm(*, gas_ma_per_ah: float, capacity_ah: float) -> float:
    """Distance without sparks or glow: d = 28.8 cbrt(I_gas) cbrt(C_rt) [mm]. Source as above, medium confidence."""
    return float(28.8 * gas_ma_per_ah ** (1 / 3) * capacity_ah ** (1 / 3))


def ventilation_of(bank: Bank) -> Ventilation | None:
    """What the bank's place needs; none for chemistries that give off no gas in normal use."""
    if bank.chemistry is Chemistry.LFP:
        return None
    gas = gas_rows()["vented" if bank.chemistry.is_vented else "valve_regulated"]
    cells = cells_of(bank) * bank.parallel
    flow = {
        name: air_flow_m3_per_h(cells=cells, gas_ma_per_ah=current, capacity_ah=bank.unit_ah)
        for name, current in (("float", gas.float_ma_per_ah), ("boost", gas.boost_ma_per_ah))
    }
    return Ventilation(
        cells=cells,
        capacity_ah=bank.unit_ah,
        float_m3_per_h=flow["float"],
        boost_m3_per_h=flow["boost"],
        float_opening_cm2=opening_cm2(flow["float"]),
        boost_opening_cm2=opening_cm2(flow["boost"]),
        spark_distance_mm=spark_distance_mm(gas_ma_per_ah=gas.boost_ma_per_ah, capacity_ah=bank.unit_ah),
    )
