"""Set points of the chargers: absorb, float, equalise, the over-voltage limit, and what the cold does to them."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.bank import CELLS, cells_of
from hearthkeep.core.design import Design

#: Set points are given for 25 °C; the correction goes no further than these temperatures [°C]. Common practice, no source.
BASE_C, COLDEST_C, WARMEST_C = 25.0, 0.0, 50.0


@dataclass(frozen=True, kw_only=True, slots=True)
class StagePoints:
    """What the chargers are set to, for the whole bank."""

    cells: int
    #: As entered or usual, at 25 °C [V], and with the correction for the bank's temperature.
    absorb_v: float
    absorb_at_temp_v: float
    absorb_h: float
    float_v: float
    float_at_temp_v: float
    #: None where the chemistry must not be equalised and nothing is entered.
    equalise_v: float | None
    equalise_every_days: int | None
    #: What disconnects the chargers, as entered [V]; none where nothing does.
    over_voltage_v: float | None
    compensation_mv_per_c: float
    temp_c: float
    #: What the chemistry usually asks for at 25 °C [V].
    usual_absorb_low_v: float
    usual_absorb_high_v: float
    usual_float_v: float
    usual_over_voltage_v: float


def compensated_v(volts_v: float, *, cells: int, compensation_mv_per_c: float, temp_c: float) -> float:
    """A set point at the bank's temperature: V25 + cells x coefficient x (T - 25) [V].

    >>> compensated_v(14.4, cells=6, compensation_mv_per_c=-4.0, temp_c=5.0)
    14.88
    """
    held_c = min(max(temp_c, COLDEST_C), WARMEST_C)
    return volts_v + cells * compensation_mv_per_c / 1000.0 * (held_c - BASE_C)


def stage_points(design: Design, *, temp_c: float) -> StagePoints:
    """Set points of a design at the temperature of its cells."""
    bank, entered = design.bank, design.charging.stages
    usual, cells = CELLS[bank.chemistry], cells_of(bank)
    middle_v = (usual.absorb_low_v + usual.absorb_high_v) / 2
    absorb_v = cells * middle_v if entered.absorb_v is None else entered.absorb_v
    float_v = cells * usual.float_v if entered.float_v is None else entered.float_v
    equalise_v = entered.equalise_v
    if entered.never_equalised:
        equalise_v = None
    elif equalise_v is None and usual.equalise_v is not None:
        equalise_v = cells * usual.equalise_v
    slope = entered.compensation_mv_per_c
    slope = usual.compensation_mv_per_c if slope is None else slope

    def at_temp(volts_v: float) -> float:
        return compensated_v(volts_v, cells=cells, compensation_mv_per_c=slope, temp_c=temp_c)

    return StagePoints(
        cells=cells,
        absorb_v=absorb_v,
        absorb_at_temp_v=at_temp(absorb_v),
        absorb_h=usual.absorb_h if entered.absorb_h is None else entered.absorb_h,
        float_v=float_v,
        float_at_temp_v=at_temp(float_v),
        equalise_v=equalise_v,
        equalise_every_days=usual.equalise_every_days
        if entered.equalise_every_days is None
        else entered.equalise_every_days,
        over_voltage_v=entered.over_voltage_v,
        compensation_mv_per_c=slope,
        temp_c=temp_c,
        usual_absorb_low_v=cells * usual.absorb_from_v,
        usual_absorb_high_v=cells * usual.absorb_to_v,
        usual_float_v=cells * usual.float_v,
        usual_over_voltage_v=cells * usual.over_voltage_v,
    )
