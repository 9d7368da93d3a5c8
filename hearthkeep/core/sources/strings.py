"""Strings of panels: their voltage in the cold and in the heat, their currents, and whether they need fuses."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from hearthkeep.core.bank import BankVolts
from hearthkeep.core.design import Array, Controller, Design, ModuleSheet, Site
from hearthkeep.core.published import cold_voc_rows
from hearthkeep.core.sources.heat import STC_CELL_C, HotDay, hot_day, vmp_coeff_per_c

#: Where the site names no record: a weather year's coldest hour less a margin, since a typical year leaves the records out; the
#: coldest day of the outage less another; and a hot summer day [°C]. Our assumptions.
COLD_MARGIN_C, YEAR_MARGIN_C, HOT_AIR_C = 10.0, 5.0, 38.0
#: A winter's low by latitude and height where nothing else is known: so much at 25° and sea level, colder by each degree polewards
#: and each kilometre up, never below the coldest. Our assumption, for inland places; coasts are milder.
LOW_AT_25_C, LOW_PER_DEG_C, LOW_PER_KM_C, LOWEST_C = 6.0, 1.4, 6.0, -45.0
#: The same in words.
LOW_LAW = (
    f"{LOW_AT_25_C:g} °C at 25° of latitude, {LOW_PER_DEG_C:g} °C colder for each degree polewards and {LOW_PER_KM_C:g} °C for each "
    "kilometre up: our assumption, for inland places"
)
#: How much warmer than the air a panel on a roof gets in full sun [°C]. Common practice, no source.
CELL_RISE_C = 35.0
#: Sun above 1,000 W/m2, and continuous duty: NEC 690.8 in our own words, from memory.
SUN_FACTOR, CONTINUOUS_FACTOR = 1.25, 1.25
#: More strings than this side by side can drive a fault current through one of them: NEC 690.9 in our own words.
STRINGS_WITHOUT_FUSE = 2


class ColdFrom(StrEnum):
    """How the cold that the strings are judged by is known."""

    RECORD = "record"
    WEATHER_YEAR = "weather_year"
    #: Guessed from latitude and height, or colder still from the outage's own days.
    ESTIMATE = "estimate"


@dataclass(frozen=True, kw_only=True, slots=True)
class StringReport:
    """What an array of strings does at its extremes."""

    array_id: str
    #: Air of the coldest morning and cells of the hottest noon [°C].
    cold_c: float
    cold_from: ColdFrom
    hot_c: float
    #: Open circuit in the record cold, whole string [V], and the factor on the data sheet's figure.
    cold_voc_v: float
    cold_factor: float
    by_table: bool
    #: At maximum power on a hot day, whole string [V].
    hot_vmp_v: float
    #: A hot day against a bank held at its charging volts.
    hot_day: HotDay
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


def winter_low_c(site: Site) -> float:
    """A winter's low guessed from latitude and height alone [°C]; our assumption, see the constants above.

    >>> from hearthkeep.core.design import Site
    >>> winter_low_c(Site(place="x", latitude_deg=45.0, longitude_deg=0.0, utc_offset_h=0.0, service="120"))
    -22.0
    """
    low_c = LOW_AT_25_C - LOW_PER_DEG_C * (abs(site.latitude_deg) - 25.0) - LOW_PER_KM_C * site.elevation_m / 1000.0
    return max(round(low_c, 1), LOWEST_C)


def coldest(design: Design, year_low_c: float | None) -> tuple[float, ColdFrom]:
    """Air of the coldest morning the strings may meet [°C], and how it is known."""
    if design.site.record_low_c is not None:
        return design.site.record_low_c, ColdFrom.RECORD
    if year_low_c is not None:
        return year_low_c - YEAR_MARGIN_C, ColdFrom.WEATHER_YEAR
    # Panels stay on the roof all year: a July outage does not hide January.
    of_outage_c = min(day.air_temp_c for day in design.outage.days) - COLD_MARGIN_C
    return min(winter_low_c(design.site), of_outage_c), ColdFrom.ESTIMATE


def string_report(
    design: Design, controller: Controller, array: Array, *, volts: BankVolts, year_low_c: float | None = None
) -> StringReport | None:
    """Extremes of one array; none while its panel is not known.

    `year_low_c` is the coldest hour of the site's stored weather year [°C].
    """
    module = array.module
    if module is None:
        return None
    site, (cold_c, cold_from) = design.site, coldest(design, year_low_c)
    hot_air_c = HOT_AIR_C if site.record_high_c is None else site.record_high_c
    hot_c = hot_air_c + CELL_RISE_C
    factor, by_table = cold_voc_factor(module, cold_c)
    input_a = SUN_FACTOR * module.isc_a * array.strings
    needs = array.strings > STRINGS_WITHOUT_FUSE
    fuse_for = SUN_FACTOR * CONTINUOUS_FACTOR * module.isc_a
    return StringReport(
        array_id=array.id,
        cold_c=cold_c,
        cold_from=cold_from,
        hot_c=hot_c,
        cold_voc_v=module.voc_v * factor * array.series,
        cold_factor=factor,
        by_table=by_table,
        hot_vmp_v=module.vmp_v * (1 + vmp_coeff_per_c(array, module) * (hot_c - STC_CELL_C)) * array.series,
        hot_day=hot_day(site, array, kind=controller.kind, charging_v=volts.charging_v, air_c=hot_air_c),
        input_a=input_a,
        conductor_a=CONTINUOUS_FACTOR * input_a,
        needs_fuses=needs,
        fuse_a=next((fuse for fuse in FUSES_A if fuse >= fuse_for - 1e-9), None) if needs else None,
    )


def string_reports(design: Design, *, volts: BankVolts, year_low_c: float | None = None) -> tuple[StringReport, ...]:
    """All arrays whose panels are known."""
    found = (
        string_report(design, entry, array, volts=volts, year_low_c=year_low_c)
        for entry in design.charging.controllers
        for array in entry.arrays
    )
    return tuple(report for report in found if report is not None)
