"""Open formats out of stored values and in from foreign files, for the processes that work them out."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

from hearthkeep.core.assess import Assessment, assess
from hearthkeep.core.design import Design, LibraryBattery, LibraryInverter, LibraryModule, read_design
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.upkeep import upkeep_of
from hearthkeep.core.wiring import wiring_sheet
from hearthkeep.core.yearly import year_hours
from hearthkeep.engine import engine_version
from hearthkeep.exchange import (
    Alternative,
    Bundle,
    outage_rows,
    read_bundle,
    write_bundle,
    write_calendar,
    write_csv,
    write_live_workbook,
    year_rows,
)
from hearthkeep.store import Checked
from hearthkeep.workers.tasks import stored_year_of
from hearthkeep.workers.writer import Writer

_ASSESSMENT = Writer(Assessment)
Values = dict[str, Any]


@dataclass(frozen=True, slots=True)
class BundleRead:
    """A bundle as it came in, its designs read and found good."""

    design: Checked
    alternatives: tuple[tuple[str, Checked], ...]
    years: tuple[WeatherYear, ...]
    batteries: tuple[LibraryBattery, ...]
    inverters: tuple[LibraryInverter, ...]
    modules: tuple[LibraryModule, ...]
    results: bytes
    engine: str


def _results(design: Design) -> bytes:
    return _ASSESSMENT.dump_json(assess(design, stored_year_of(design)))


def bundled(
    values: Values,
    revision: int,
    others: Sequence[tuple[str, Values]],
    units: tuple[Sequence[LibraryBattery], Sequence[LibraryInverter], Sequence[LibraryModule]],
) -> bytes:
    """A design with its alternatives, weather years and library units as one archive."""
    design = read_design(values)
    alternatives = [Alternative(label=label, design=read_design(other)) for label, other in others]
    years = {
        year.key: year for one in (design, *(other.design for other in alternatives)) if (year := stored_year_of(one))
    }
    batteries, inverters, modules = units
    return write_bundle(
        Bundle(
            design=design,
            revision=revision,
            alternatives=tuple(alternatives),
            years=tuple(years.values()),
            batteries=tuple(batteries),
            inverters=tuple(inverters),
            modules=tuple(modules),
            results=_results(design),
            engine=engine_version(),
        )
    )


def bundle_of(content: bytes) -> BundleRead:
    """A bundle from a foreign file. Raises BundleError."""
    bundle = read_bundle(content)
    return BundleRead(
        design=Checked.of(bundle.design),
        alternatives=tuple((other.label, Checked.of(other.design)) for other in bundle.alternatives),
        years=bundle.years,
        batteries=bundle.batteries,
        inverters=bundle.inverters,
        modules=bundle.modules,
        results=bundle.results,
        engine=bundle.engine,
    )


def comes_to(text: str, results: bytes) -> bool:
    """Whether a design's assessment here is to the last bit what it was where it comes from."""
    return _results(read_design(text.encode())) == results


def workbook_of(values: Values) -> bytes:
    """Audit, sizing sheet and wiring sums with live formulas."""
    design = read_design(values)
    year = stored_year_of(design)
    wiring = wiring_sheet(design, year_low_c=None if year is None else float(year.air_c.min()))
    return write_live_workbook(design, assess(design, year), wiring)


def calendar_of(values: Values, key: str, begins: date) -> bytes:
    """Upkeep and tests from a day on."""
    design = read_design(values)
    return write_calendar(design.name, upkeep_of(design), key=key, begins=begins)


def outage_as_csv(values: Values) -> bytes:
    """The planned outage step by step."""
    design = read_design(values)
    return write_csv(outage_rows(assess(design, stored_year_of(design)).outage))


def year_as_csv(values: Values) -> bytes:
    """The year hour by hour on the design's arrays."""
    design = read_design(values)
    return write_csv(year_rows(year_hours(design, stored_year_of(design))))
