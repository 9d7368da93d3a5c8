"""Conductors' sizes, which carry their own unit, as the tables of a practice name them."""

from __future__ import annotations

from functools import cache

from hearthkeep.core.design import Practice, wire_size
from hearthkeep.core.published import copper_ampacity_rows, iec_resistance_rows, nec_resistance_rows


def is_of(size: str, practice: Practice) -> bool:
    """Whether a size is counted in the unit of the practice."""
    return size.endswith("mm²") == (practice is Practice.METRIC_230)


def with_unit(table_size: str, practice: Practice) -> str:
    """A size of the practice's tables with its unit."""
    return wire_size(table_size, is_metric=practice is Practice.METRIC_230)


@cache
def in_tables(size: str, practice: Practice) -> str | None:
    """The name, without unit, that a practice's tables have for a conductor; none where they have nothing as thin.

    A size of the other practice counts as the next thinner one: no more copper is taken for granted than there is.

    >>> in_tables("2/0 AWG", Practice.NORTH_AMERICAN), in_tables("35 mm²", Practice.NORTH_AMERICAN), in_tables("2/0 AWG", Practice.METRIC_230)
    ('2/0', '2', '50')
    """
    number = size.rsplit(" ", 1)[0]
    if is_of(size, practice):
        return number
    area_mm2 = float(number) if size.endswith("mm²") else _gauges_mm2().get(number, 0.0)
    thinner = [(mm2, name) for name, mm2 in _areas_mm2(practice).items() if mm2 <= area_mm2]
    return max(thinner)[1] if thinner else None


@cache
def _gauges_mm2() -> dict[str, float]:
    return {row.size: row.area_mm2 for row in nec_resistance_rows()}


@cache
def _areas_mm2(practice: Practice) -> dict[str, float]:
    if practice is Practice.METRIC_230:
        return {row.size: row.area_mm2 for row in iec_resistance_rows()}
    carried = {row.size for row in copper_ampacity_rows()}
    return {name: mm2 for name, mm2 in _gauges_mm2().items() if name in carried}
