"""The design as it grows: hours, price and checks at each stage, what must be large from the start, what will not mix."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.alternatives import LaidStrip, OpenCheck, variant_column
from hearthkeep.core.assess import assess
from hearthkeep.core.checks import MIXED_CODES, TOO_MANY_CODES, Finding, Severity
from hearthkeep.core.design import Design
from hearthkeep.core.figure import Figure
from hearthkeep.core.growth.grown import grown, joined
from hearthkeep.core.growth.large import LargeNow, large_now
from hearthkeep.core.loads import daily_wh
from hearthkeep.core.sizing import units_price
from hearthkeep.core.sources import WeatherYear

#: What the first stage, the design itself, is called.
NOW = "Now"


@dataclass(frozen=True, kw_only=True, slots=True)
class StageColumn:
    """One stage, with all before it."""

    #: Empty for the design as it stands now.
    stage_id: str
    title: str
    in_years: float
    hours_carried_h: float
    duration_h: float
    is_asked: bool
    #: Of all units so far, and of what this stage adds, in the project's own currency.
    price: float
    added_price: float
    bank_wh: float
    array_w: float
    inverter_w: float
    generator_w: float
    load_count: int
    daily_wh: float
    stops: int
    mends: int
    #: Checks that this stage brings and the one before had not.
    new_checks: tuple[OpenCheck, ...]
    strip: LaidStrip
    #: How they come about: hours, price.
    figures: dict[str, Figure]


@dataclass(frozen=True, kw_only=True, slots=True)
class NotMixed:
    """Something that a later stage cannot add to what is there."""

    stage: str
    title: str
    message: str


@dataclass(frozen=True, kw_only=True, slots=True)
class GrowthReport:
    """The stages, and what follows from the last for the first."""

    stages: tuple[StageColumn, ...]
    large_now: tuple[LargeNow, ...]
    not_mixed: tuple[NotMixed, ...]


def growth_of(design: Design, year: WeatherYear | None = None) -> GrowthReport:
    """Assess the design now and after each stage, the stages in the order of their years."""
    now = design.model_copy(update={"growth": ()})
    designs, columns, not_mixed = [now], [_column("", NOW, 0.0, now, None, year)], []
    known = _told(assess(now, year).findings)
    for stage in sorted(design.growth, key=lambda entry: entry.in_years):
        after = grown(designs[-1], stage)
        findings = assess(after, year).findings
        whole = joined(after, frozenset(finding.code for finding in findings))
        if whole is not after:
            findings = assess(whole, year).findings
        told = _told(findings)
        fresh = tuple(finding for key, finding in told.items() if key not in known)
        not_mixed += [
            NotMixed(stage=stage.title, title=finding.title, message=finding.message)
            for finding in fresh
            if finding.code in MIXED_CODES | TOO_MANY_CODES
        ]
        columns.append(_column(stage.id, stage.title, stage.in_years, whole, designs[-1], year, fresh))
        known = told
        # What will not mix is left out of what the next stage adds to.
        designs.append(whole.model_copy(update={"bank": whole.bank.model_copy(update={"addition": None})}))
    titles = [NOW, *(stage.title for stage in sorted(design.growth, key=lambda entry: entry.in_years))]
    return GrowthReport(
        stages=tuple(columns),
        large_now=large_now(designs, titles, None if year is None else float(year.air_c.min())),
        not_mixed=tuple(not_mixed),
    )


def _told(findings: tuple[Finding, ...]) -> dict[tuple[str, str], Finding]:
    """What asks for something, by code and title."""
    return {
        (finding.code, finding.title): finding
        for finding in findings
        if finding.severity in (Severity.STOP, Severity.MEND)
    }


def _column(
    stage_id: str,
    title: str,
    in_years: float,
    design: Design,
    before: Design | None,
    year: WeatherYear | None,
    fresh: tuple[Finding, ...] = (),
) -> StageColumn:
    column = variant_column(design, year)
    charging = design.charging
    return StageColumn(
        stage_id=stage_id,
        title=title,
        in_years=in_years,
        hours_carried_h=column.hours_carried_h,
        duration_h=column.duration_h,
        is_asked=column.is_asked,
        price=column.price.total,
        added_price=column.price.total - (units_price(before).total if before else 0.0),
        bank_wh=design.bank.rated_wh,
        array_w=charging.stc_w,
        inverter_w=design.inverter.together.rated_w,
        generator_w=charging.generator.rated_w if charging.generator else 0.0,
        load_count=len(design.loads),
        daily_wh=sum(daily_wh(load) for load in design.loads),
        stops=column.stops,
        mends=column.mends,
        new_checks=tuple(
            OpenCheck(severity=finding.severity, step=finding.step, title=finding.title) for finding in fresh
        ),
        strip=column.strip,
        figures={key: column.figures[key] for key in ("hours", "price")},
    )
