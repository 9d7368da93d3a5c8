"""Strings of panels: their voltage in the cold and in the heat, their currents, and whether they need fuses."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.design import Array, Design, ModuleSheet
from hearthkeep.core.published import cold_voc_rows

STC_CELL_C = 25.0
#: Where the site names no record: the coldest day of the outage less a margin, or under a weather year its coldest hour less
#: another, since a typical year leaves the records out; and a hot summer day [°C]. Our assumptions.
COLD_MARGIN_C, YEAR_MARGIN_C, HOT_AIR_C = 10.0, 5.0, 38.0
#: How much warmer than the air a panel on a roof gets in full sun [°C]. Common practice, no source.
CELL_RISE_C = 35.0
#: Typical loss of working voltage per degree where the panel's sheet names none for the open circuit. Common practice, no source.
TYPICAL_VMP_COEFF_PER_C = -0.004
#: Sun above 1,000 W/m2, and continuous duty: NEC 690.8 in our own words, from memory.
SUN_FACTOR, CONTINUOUS_FACTOR = 1.25, 1.25
#: More strings than this side by side can drive a fault current through one of them: NEC 690.9 in our own words.
STRINGS_WITHOUT_FUSE = 2


@dataclass(frozen=True, kw_only=True, slots=True)
class StringReport:
    """What an array of strings does at its extremes."""

    array_id: str
    cold_c: float
    hot_c: float
    #: Open circuit in the record cold, whole string [V], and the factor on the data sheet's figure.
    cold_voc_v: float
    cold_factor: float
    by_table: bool
    #: At maximum power on a hot day, whole string [V].
    hot_vmp_v: float
    #: Short-circuit current of all strings, with 125 % for strong sun [A].
    input_a: float
    #: What conductor and device of the whole array are sized for, 156 % of the short circuit [A].
    conductor_a: float
    needs_fuses: bool
    #: The next usual fuse for one string [A]; none where none is needed.
    fuse_a: float | None


#: Usual fuses of solar strings [A].
FUSES_A = (10.0, 12.0, 15.0, 20.0, 25.0, 30.0)


def cold_voc_factor(module: ModuleSheet, cold_c: float) -> tuple[float, bool]:
    """Factor on open-circuit voltage at a low temperature, and whether it is the published table's.

    By the module's own coefficient where it is known, else NEC Table 690.7(A) (from memory); colder than the table, its
    last factor goes on by its last slope, our assumption.
    """
    if module.voc_temp_coeff_per_c is not None:
        return 1.0 + module.voc_temp_coeff_per_c * (cold_c - STC_CELL_C), False
    return table_factor(cold_c), True


def vmp_coeff_per_c(array: Array, module: ModuleSheet) -> float:
    """Working voltage lost per degree, a negative number [1/°C].

    With heat the working current hardly changes, so the voltage falls about as the power does, and faster than the open
    circuit: the steeper of the two coefficients counts. Common practice, no source.
    """
    of_open = TYPICAL_VMP_COEFF_PER_C if module.voc_temp_coeff_per_c is None else module.voc_temp_coeff_per_c
    return min(of_open, array.power_temp_coeff_per_c)


def table_factor(cold_c: float) -> float:
    """NEC Table 690.7(A): the factor of the row that holds the temperature; 1 at 25 °C and above.

    >>> table_factor(-18.0), table_factor(25.0)
    (1.18, 1.0)
    """
    if cold_c >= STC_CELL_C:
        return 1.0
    rows = cold_voc_rows()
    for row in rows:
        # Rows are whole degrees: a temperature between two belongs to the colder.
        if cold_c >= row.down_to_c:
            return row.factor
    return round(rows[-1].factor + 0.004 * (rows[-1].down_to_c - cold_c), 4)


def _coldest_c(design: Design, year_low_c: float | None) -> float:
    """Air of the coldest morning the strings may meet [°C]."""
    if design.site.record_low_c is not None:
        return design.site.record_low_c
    if year_low_c is not None:
        return year_low_c - YEAR_MARGIN_C
    return min(day.air_temp_c for day in design.outage.days) - COLD_MARGIN_C


def string_report(design: Design, array: Array, *, year_low_c: float | None = None) -> StringReport | None:
    """Extremes of one array; none while its panel is not known.

    `year_low_c` is the coldest hour of the weather year where that rules the outage [°C].
    """
    module = array.module
    if module is None:
        return None
    site, cold_c = design.site, _coldest_c(design, year_low_c)
    hot_c = (HOT_AIR_C if site.record_high_c is None else site.record_high_c) + CELL_RISE_C
    factor, by_table = cold_voc_factor(module, cold_c)
    input_a = SUN_FACTOR * module.isc_a * array.strings
    needs = array.strings > STRINGS_WITHOUT_FUSE
    fuse_for = SUN_FACTOR * CONTINUOUS_FACTOR * module.isc_a
    return StringReport(
        array_id=array.id,
        cold_c=cold_c,
        hot_c=hot_c,
        cold_voc_v=module.voc_v * factor * array.series,
        cold_factor=factor,
        by_table=by_table,
        hot_vmp_v=module.vmp_v * (1 + vmp_coeff_per_c(array, module) * (hot_c - STC_CELL_C)) * array.series,
        input_a=input_a,
        conductor_a=CONTINUOUS_FACTOR * input_a,
        needs_fuses=needs,
        fuse_a=next((fuse for fuse in FUSES_A if fuse >= fuse_for - 1e-9), None) if needs else None,
    )


def string_reports(design: Design, *, year_low_c: float | None = None) -> tuple[StringReport, ...]:
    """All arrays whose panels are known."""
    found = (
        string_report(design, array, year_low_c=year_low_c)
        for entry in design.charging.controllers
        for array in entry.arrays
    )
    return tuple(report for report in found if report is not None)
