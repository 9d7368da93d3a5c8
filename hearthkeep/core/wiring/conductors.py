"""Copper conductors of either practice: what they carry where they lie, and what they resist."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache, lru_cache
from itertools import pairwise

from hearthkeep.core.conductor_sizes import in_tables
from hearthkeep.core.design import Practice
from hearthkeep.core.published import (
    copper_ampacity_rows,
    free_air_ampacities,
    iec_ambient_factors,
    iec_grouping_factors,
    iec_resistance_rows,
    metric_copper_amps,
    nec_ambient_rows,
    nec_bundling_rows,
    nec_device_ratings,
    nec_resistance_rows,
    small_conductor_limits,
    vehicle_ampacities,
    vehicle_bundling_rows,
    vehicle_device_frac,
)

#: Copper's resistance grows by this part of its value at 20 °C for each degree: IEC 60228, annex (from memory).
COPPER_PER_C = 0.00393
#: Temperature at which a conductor's drop is counted [°C]: that of NEC Chapter 9 Table 8, and that of PVC at its limit.
HOT_C = {Practice.NORTH_AMERICAN: 75.0, Practice.METRIC_230: 70.0}
#: What insulation a size is first looked for with, and what the terminals are taken for where nothing is said [°C].
#: In North American practice terminals of direct-current equipment are marked 75 °C as a rule (common practice); those of
#: house panels count at 60 °C up to 100 A (NEC 110.14(C), from memory).
USUAL_INSULATION_C = {Practice.NORTH_AMERICAN: 90, Practice.METRIC_230: 70}
#: What a lead thinner than 18 AWG carries [A]. Common practice, no source.
THIN_LEAD_A = 6.0
#: Insulation of leads in vehicles and boats [°C].
VEHICLE_C = 105
#: The next standard rating above an ampacity may protect it up to this [A]: NEC 240.4(B) (from memory).
NEXT_SIZE_UP_TO_A = 800.0
#: The thinnest conductor that is proposed for circuits of buildings [mm²]; what is thinner is judged where it is entered.
THINNEST_MM2 = {Practice.NORTH_AMERICAN: 2.0, Practice.METRIC_230: 1.5}
PARALLEL_UP_TO = 4
#: Thinnest conductor that is taken side by side with another. NEC 310.10(G) allows it from 1/0 on (from memory); ours are larger,
#: since every parallel pair is a place for unequal currents.
PARALLEL_FROM_MM2 = {Practice.NORTH_AMERICAN: 107.0, Practice.METRIC_230: 95.0}


@dataclass(frozen=True, kw_only=True, slots=True)
class Conductor:
    """One size, or several of it side by side in each pole."""

    size: str
    per_pole: int
    #: Copper of one [mm²], and its resistance when hot [Ω/m].
    area_mm2: float
    ohm_per_m: float

    @property
    def pole_mm2(self) -> float:
        """Copper of the whole pole [mm²]."""
        return self.area_mm2 * self.per_pole

    @property
    def pole_ohm_per_m(self) -> float:
        """Resistance of the whole pole [Ω/m]."""
        return self.ohm_per_m / self.per_pole


@dataclass(frozen=True, kw_only=True, slots=True)
class Lying:
    """Where and how a run lies."""

    practice: Practice
    insulation_c: int
    terminal_c: int
    ambient_c: float
    #: Current-carrying conductors together, or circuits in metric practice.
    bundled: int
    #: Reference method of installation of metric practice; raceway, free_air or vehicle.
    method: str

    @property
    def is_vehicle(self) -> bool:
        """A lead of a cart, van or boat, by their own practice."""
        return self.method == "vehicle"


def resistance_at(ohm_at_20c: float, temp_c: float) -> float:
    """Copper's resistance at a temperature, from that at 20 °C.

    R = R20 (1 + 0.00393 (T - 20)). Source: IEC 60228 (from memory).

    >>> round(resistance_at(1.21, 70.0), 4)
    1.4478
    """
    return ohm_at_20c * (1.0 + COPPER_PER_C * (temp_c - 20.0))


@cache
def _by_size(practice: Practice) -> dict[str, Conductor]:
    if practice is Practice.NORTH_AMERICAN:
        carried = {row.size for row in copper_ampacity_rows()}
        return {
            row.size: Conductor(size=row.size, per_pole=1, area_mm2=row.area_mm2, ohm_per_m=row.ohm_per_km / 1000.0)
            for row in nec_resistance_rows()
            if row.size in carried
        }
    hot_c = HOT_C[practice]
    return {
        row.size: Conductor(
            size=row.size,
            per_pole=1,
            area_mm2=row.area_mm2,
            ohm_per_m=resistance_at(row.ohm_per_km, hot_c) / 1000.0,
        )
        for row in iec_resistance_rows()
    }


def conductor_of(practice: Practice, size: str, per_pole: int = 1) -> Conductor | None:
    """A size of the practice's tables; none for one that is not in them."""
    found = _by_size(practice).get(size)
    if found is None or per_pole == 1:
        return found
    return Conductor(size=size, per_pole=per_pole, area_mm2=found.area_mm2, ohm_per_m=found.ohm_per_m)


def conductor_set(practice: Practice, size: str, per_pole: int = 1) -> Conductor | None:
    """A conductor that somebody set, by its size with its unit; none where the practice's tables have nothing as thin."""
    name = in_tables(size, practice)
    return None if name is None else conductor_of(practice, name, per_pole)


@cache
def ladder(practice: Practice, *, is_vehicle: bool = False) -> tuple[Conductor, ...]:
    """The conductors a run is chosen from, thinnest first; each next one has more copper and carries more."""
    least_mm2 = 0.0 if is_vehicle else THINNEST_MM2[practice]
    singles = [each for each in _by_size(practice).values() if each.area_mm2 >= least_mm2]
    several = [
        Conductor(size=entry.size, per_pole=count, area_mm2=entry.area_mm2, ohm_per_m=entry.ohm_per_m)
        for count in range(2, PARALLEL_UP_TO + 1)
        for entry in singles
        if entry.area_mm2 >= PARALLEL_FROM_MM2[practice]
    ]
    found: list[Conductor] = []
    most_a = 0.0
    for entry in sorted(singles + several, key=lambda each: (each.pole_mm2, each.per_pole)):
        carries_a = _column_a(entry.size, practice, 75, "B1") * entry.per_pole
        if carries_a > most_a:
            found.append(entry)
            most_a = carries_a
    return tuple(found)


@cache
def _columns() -> dict[str, dict[int, float]]:
    return {
        row.size: {60: row.ampacity_60_a, 75: row.ampacity_75_a, 90: row.ampacity_90_a}
        for row in copper_ampacity_rows()
    }


def _column_a(size: str, practice: Practice, temp_c: int, method: str) -> float:
    """Ampacity of the table's column, without any correction [A].

    A conductor of metric practice is counted as PVC at 70 °C whatever its insulation, which errs to the safe side.
    """
    if practice is Practice.METRIC_230:
        return metric_copper_amps(method)[size]
    columns = free_air_ampacities().get(size) if method == "free_air" else None
    columns = columns or _columns()[size]
    return columns[max((column for column in columns if column <= temp_c), default=60)]


def ambient_factor(practice: Practice, insulation_c: int, ambient_c: float, method: str = "") -> float:
    """Factor on ampacity for the temperature around the run; 0 where the insulation bears no more.

    Source: NEC Table 310.15(B)(1)(1); IEC 60364-5-52 Tables B.52.14 and, buried, B.52.15, straight between their rows and above them
    0; leads of vehicles by the equation of NEC 310.15(B)(1), sqrt((105 - T) / 75), above 30 °C (from memory).

    >>> ambient_factor(Practice.NORTH_AMERICAN, 90, 40.0), ambient_factor(Practice.METRIC_230, 70, 40.0)
    (0.91, 0.87)
    """
    if method == "vehicle":
        hotter: float = (max(VEHICLE_C - ambient_c, 0.0) / (VEHICLE_C - 30.0)) ** 0.5
        return min(1.0, hotter)
    if practice is Practice.NORTH_AMERICAN:
        for row in nec_ambient_rows():
            if ambient_c <= row.up_to_c:
                factor = {60: row.at_60_factor, 75: row.at_75_factor, 90: row.at_90_factor}
                return factor[max((column for column in factor if column <= insulation_c), default=60)] or 0.0
        return 0.0
    rows = iec_ambient_factors(90 if insulation_c >= 90 else 70, in_ground=method == "D1")
    if ambient_c <= rows[0][0]:
        return rows[0][1]
    for (low_c, low), (high_c, high) in pairwise(rows):
        if ambient_c <= high_c:
            return low + (high - low) * (ambient_c - low_c) / (high_c - low_c)
    return 0.0


def bundling_factor(practice: Practice, bundled: int, method: str = "") -> float:
    """Factor on ampacity for what else lies with the run.

    Source: NEC Table 310.15(C)(1), from four current-carrying conductors on; IEC 60364-5-52 Table B.52.17 row 1, by circuits,
    between its rows that of the next larger one (from memory).

    >>> bundling_factor(Practice.NORTH_AMERICAN, 6), bundling_factor(Practice.METRIC_230, 2)
    (0.8, 0.8)
    """
    if method == "vehicle":
        return next((factor for least, factor in reversed(vehicle_bundling_rows()) if bundled >= least), 1.0)
    if practice is Practice.NORTH_AMERICAN:
        return next((factor for least, factor in reversed(nec_bundling_rows()) if bundled >= least), 1.0)
    rows = iec_grouping_factors()
    return next((factor for count, factor in rows if bundled <= count), rows[-1][1])


@lru_cache(maxsize=8192)
def ampacity_a(conductor: Conductor, lying: Lying) -> float:
    """What a pole may carry where it lies [A]: its insulation's column corrected, and never more than its terminals bear.

    Leads of vehicles end in ring terminals on studs, which bear what they do.

    Source: NEC Tables 310.16 and 310.17 with 310.15 and 110.14(C); IEC 60364-5-52; ABYC E-11 (from memory).
    """
    factor = ambient_factor(lying.practice, lying.insulation_c, lying.ambient_c, lying.method) * bundling_factor(
        lying.practice, lying.bundled, lying.method
    )
    if lying.is_vehicle:
        return _vehicle_a(conductor) * factor * conductor.per_pole
    own_a = _column_a(conductor.size, lying.practice, lying.insulation_c, lying.method) * factor
    if lying.practice is Practice.METRIC_230:
        return own_a * conductor.per_pole
    # Terminals are read in the table of raceways, however the run lies.
    return min(own_a, _column_a(conductor.size, lying.practice, lying.terminal_c, "raceway")) * conductor.per_pole


def _vehicle_a(conductor: Conductor) -> float:
    """By the table of vehicles and boats [A]; an area counts as the thicker of its sizes that it is as thick as."""
    amps = vehicle_ampacities()
    areas = {row.size: row.area_mm2 for row in nec_resistance_rows()}
    return max(
        (carries_a for size, carries_a in amps.items() if areas[size] <= conductor.area_mm2), default=THIN_LEAD_A
    )


@lru_cache(maxsize=8192)
def largest_device_a(conductor: Conductor, lying: Lying) -> float:
    """The largest overcurrent device that protects a pole [A]: its ampacity, and for thin copper the code's own limit.

    The next larger standard rating, which codes allow in places, is not made use of where something is proposed.
    Source: NEC 240.4(D); IEC 60364-4-43 (433.1) (from memory).
    """
    carries_a = ampacity_a(conductor, lying)
    if lying.is_vehicle or lying.practice is Practice.METRIC_230:
        return carries_a
    limit_a = small_conductor_limits().get(conductor.size)
    return carries_a if limit_a is None else min(carries_a, limit_a * conductor.per_pole)


@lru_cache(maxsize=8192)
def next_size_device_a(conductor: Conductor, lying: Lying) -> float:
    """The largest device that may stand before a pole where the next standard rating above its ampacity is allowed [A].

    Source: NEC 240.4(B), up to 800 A, thin copper by 240.4(D) all the same; ABYC E-11, up to 150 % of the ampacity; none in metric
    practice, IEC 60364-4-43 (433.1) (from memory).
    """
    least_a = largest_device_a(conductor, lying)
    if lying.practice is Practice.METRIC_230 and not lying.is_vehicle:
        return least_a
    if not lying.is_vehicle and conductor.size in small_conductor_limits():
        return least_a
    rating_a = next((rating for rating in nec_device_ratings() if rating >= least_a - 1e-9), least_a)
    most_a = vehicle_device_frac() * least_a if lying.is_vehicle else NEXT_SIZE_UP_TO_A
    return rating_a if rating_a <= most_a + 1e-9 else least_a


def drop_v(conductor: Conductor, *, length_m: float, current_a: float) -> float:
    """Volts lost there and back along a run of direct or single-phase current: 2 L I R [V]. Source: Ohm's law.

    Reactance is left out, which matters from about 120 mm² of alternating current on.
    """
    return 2.0 * length_m * current_a * conductor.pole_ohm_per_m
