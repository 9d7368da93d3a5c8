"""What the papers are printed from: a design with its assessment, and what a sheet asks for besides, worked out once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import date, datetime, time
from functools import cached_property

from hearthkeep.core.alternatives import VariantColumn, variant_column
from hearthkeep.core.assess import Assessment, assess
from hearthkeep.core.building import BuildSheet, Moment, Signed, build_sheet
from hearthkeep.core.checks import Finding, Severity
from hearthkeep.core.design import Design, Practice
from hearthkeep.core.prove import Proof, prove
from hearthkeep.core.sizing import UnitsPrice, units_price
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.trials import Failures, single_failures
from hearthkeep.core.wiring import WiringSheet, wiring_sheet


@dataclass(frozen=True, kw_only=True)
class Considered:
    """An alternative that was looked at beside the design."""

    label: str
    design: Design
    year: WeatherYear | None = None

    @cached_property
    def column(self) -> VariantColumn:
        """What it comes to."""
        return variant_column(self.design, self.year)


@dataclass(frozen=True, kw_only=True, slots=True)
class BuiltRecord:
    """What is kept of one installation of the design."""

    name: str
    gates: tuple[Signed, ...]


@dataclass(frozen=True, kw_only=True)
class PaperSource:
    """A design with everything that its papers say."""

    design: Design
    year: WeatherYear | None
    assessment: Assessment
    printed_on: date
    #: None for a file that no revision of a stored design stands behind.
    revision: int | None = None
    considered: tuple[Considered, ...] = field(default=())
    #: The installation that is certified; none leaves the certificate blank.
    built: BuiltRecord | None = None

    @property
    def is_us(self) -> bool:
        """North American practice: Letter, feet, degrees Fahrenheit."""
        return self.design.practice is Practice.NORTH_AMERICAN

    @property
    def stops(self) -> tuple[Finding, ...]:
        """What can hurt someone and stands open."""
        return self.of(Severity.STOP)

    def of(self, severity: Severity) -> tuple[Finding, ...]:
        """The findings of one weight."""
        return tuple(finding for finding in self.assessment.findings if finding.severity == severity)

    @cached_property
    def wiring(self) -> WiringSheet:
        """Every run, the one-line and the lists."""
        year_low_c = None if self.year is None else float(self.year.air_c.min())
        return wiring_sheet(self.design, year_low_c=year_low_c)

    @cached_property
    def proof(self) -> Proof:
        """The outage from every hour of the year."""
        return prove(self.design, self.year)

    @cached_property
    def failures(self) -> Failures:
        """The planned outage with one thing wrong."""
        return single_failures(self.design, self.year)

    @cached_property
    def build(self) -> BuildSheet:
        """The gates with what is signed of them, each as it was in the moment of its readings."""
        moment = Moment(at=datetime.combine(self.printed_on, time(12)), soc_frac=None)
        return build_sheet(self.design, moment, year=self.year, entries=self.built.gates if self.built else ())

    @cached_property
    def price(self) -> UnitsPrice:
        """The units and what they cost."""
        return units_price(self.design)

    @cached_property
    def column(self) -> VariantColumn:
        """The design as it stands among its alternatives."""
        return variant_column(self.design, self.year)


def gather(
    design: Design,
    year: WeatherYear | None = None,
    *,
    printed_on: date,
    revision: int | None = None,
    considered: Sequence[Considered] = (),
    built: BuiltRecord | None = None,
) -> PaperSource:
    """Assess a design for its papers; `year` is its weather year, `considered` its alternatives, `built` what is built of it."""
    return PaperSource(
        design=design,
        year=year,
        assessment=assess(design, year),
        printed_on=printed_on,
        revision=revision,
        considered=tuple(considered),
        built=built,
    )
