"""Drawdown and capacity test: what the house really draws, and what the bank really holds."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from pydantic import Field

from hearthkeep.core.bank import capacity_factor, rate
from hearthkeep.core.building.correction import (
    Correction,
    corrected,
    loosely_known,
    scaled_loads,
    standing_load,
)
from hearthkeep.core.design import Celsius, Change, Design, DesignPart, Fraction
from hearthkeep.core.errors import FieldProblem, InputError
from hearthkeep.core.figure import COMMON_PRACTICE, Figure, Term
from hearthkeep.core.inverter import house_watts
from hearthkeep.core.outage import prepare, usual_audit
from hearthkeep.core.sizing import bank_sums
from hearthkeep.core.sources import WeatherYear

#: A charge read off a monitor, as a part of full; the same from rest volts is far worse. Common practice, no source.
SOC_DOUBT_FRAC = 0.01
#: A shunt's count of Ah, and what the temperature's factor is worth. Common practice, no source.
SHUNT_FRAC, TEMPERATURE_FRAC = 0.01, 0.2
#: Less than this drawn says nothing.
LEAST_DRAWN_FRAC = 0.02


class Drawdown(DesignPart):
    """A drawdown test: sun and chargers off, the house on the bank."""

    start_soc_frac: Fraction
    end_soc_frac: Fraction
    hours_h: Annotated[float, Field(strict=True, gt=0, le=2_000)]
    #: How far each of the two readings of charge may be off.
    soc_doubt_frac: Annotated[float, Field(strict=True, ge=0, le=0.2)] = SOC_DOUBT_FRAC


class CapacityRun(DesignPart):
    """A capacity test: from full to the cut-off through the shunt."""

    #: Counted out of the bank [Ah], in so many hours.
    ah: Annotated[float, Field(strict=True, gt=0, le=200_000)]
    hours_h: Annotated[float, Field(strict=True, gt=0, le=500)]
    #: Of the cells [°C].
    temp_c: Celsius
    #: Charge left at the cut-off; 0 where the bank's board or the maker's last volts ended it.
    end_soc_frac: Annotated[float, Field(strict=True, ge=0, le=0.9)] = 0.0


@dataclass(frozen=True, kw_only=True, slots=True)
class DrawdownResult:
    """What a drawdown test says."""

    mean_w: float
    doubt_w: float
    #: By the audit, on a usual day, conversion and wiring included [W].
    audit_w: float
    #: At the measured draw: from full to the floor, and from where the test ended [days].
    days_from_full: float
    days_left: float
    sentence: str
    corrections: tuple[Correction, ...]
    figure: Figure


@dataclass(frozen=True, kw_only=True, slots=True)
class CapacityResult:
    """What a capacity test says."""

    #: As if new and at 25 °C, and against the rating [Ah].
    rated_ah: float
    counted_ah: float
    left_frac: float
    doubt_frac: float
    sentence: str
    corrections: tuple[Correction, ...]
    figure: Figure


def daily_drawn_w(design: Design, year: WeatherYear | None = None) -> float:
    """What the audit takes from the bank on a usual day, on the average [W]."""
    prepared = prepare(design, year)
    audit = usual_audit(prepared.design)
    house = house_watts(audit.rows, prepared.design.inverter, prepared.limits)
    return bank_sums(prepared.design, prepared.rating, audit.sums, house).daily_drawn_wh / 24.0


def drawdown(design: Design, test: Drawdown, year: WeatherYear | None = None) -> DrawdownResult:
    """True average draw from charge and time; raises InputError where too little was drawn to say anything.

    W = (start − end) × capacity ÷ hours. 30 h that use 10 % of 4.8 kWh are 16 W, and 12 days from full. Common practice.
    """
    drawn = test.start_soc_frac - test.end_soc_frac
    if drawn < LEAST_DRAWN_FRAC:
        raise InputError(
            (FieldProblem(field="end_soc_frac", value=f"{test.end_soc_frac:g}",
                          accepted=f"must lie at least {LEAST_DRAWN_FRAC:g} below start_soc_frac, {test.start_soc_frac:g}"),)
        )  # fmt: skip
    rating = rate(design.bank)
    mean_w = drawn * rating.capacity_wh / test.hours_h
    doubt_w = mean_w * (2**0.5 * 1.96 * test.soc_doubt_frac) / drawn
    audit_w = daily_drawn_w(design, year)
    figure = Figure(
        label="True average draw", value=mean_w, unit="W", formula="(start − end) × capacity ÷ hours",
        terms=(
            Term(name="charge used", value=100 * drawn, unit="%"),
            Term(name="capacity at its temperature", value=rating.capacity_wh, unit="Wh"),
            Term(name="hours", value=test.hours_h, unit="h"),
            Term(name="by the audit", value=audit_w, unit="W"),
            Term(name="doubt, 95 of 100", value=doubt_w, unit="W"),
        ), basis=f"Arithmetic of power and energy; the doubt of a charge reading is {COMMON_PRACTICE.lower()}",
    )  # fmt: skip
    days = rating.usable_wh / (24 * mean_w)
    left = max(test.end_soc_frac - rating.floor_soc_frac, 0.0) * rating.capacity_wh / (24 * mean_w)
    return DrawdownResult(
        mean_w=mean_w,
        doubt_w=doubt_w,
        audit_w=audit_w,
        days_from_full=days,
        days_left=left,
        sentence=_said(mean_w, doubt_w, audit_w),
        corrections=draw_corrections(design, year, mean_w=mean_w, doubt_w=doubt_w, audit_w=audit_w, figure=figure),
        figure=figure,
    )


def _said(mean_w: float, doubt_w: float, audit_w: float) -> str:
    apart = mean_w - audit_w
    if abs(apart) <= doubt_w:
        return f"{mean_w:.0f} W, as the audit says within the doubt of {doubt_w:.0f} W."
    return f"{mean_w:.0f} W where the audit says {audit_w:.0f} W: {abs(apart):.0f} W {'more' if apart > 0 else 'less'}."


def draw_corrections(
    design: Design, year: WeatherYear | None, *, mean_w: float, doubt_w: float, audit_w: float, figure: Figure
) -> tuple[Correction, ...]:
    """The two ways in which the audit can be made to draw as was measured: its loose rows scaled, or a standing draw added."""
    offered: list[Correction] = []
    loose = loosely_known(design)
    ids = {load.id for load in loose}
    if loose and audit_w > 0:
        without = design.model_copy(update={"loads": tuple(load for load in design.loads if load.id not in ids)})
        of_loose_w = audit_w - daily_drawn_w(without, year)
        factor = 1.0 + (mean_w - audit_w) / of_loose_w if of_loose_w > 0 else 0.0
        if factor > 0.02:
            _offer(
                offered, design, year, key="loads_scaled",
                title=f"Rows that nobody has measured: each × {factor:.2f}", changes=scaled_loads(design, factor, ids),
                before=audit_w, after=mean_w, doubt=doubt_w, figure=figure,
            )  # fmt: skip
    if mean_w - audit_w > doubt_w:
        extra = mean_w - audit_w
        _offer(
            offered, design, year, key="load_found", title=f"A standing draw of {extra:.0f} W that no row knows",
            changes=standing_load(design, extra, "Draw found by measuring"), before=audit_w, after=mean_w, doubt=doubt_w, figure=figure,
        )  # fmt: skip
    return tuple(offered)


def _offer(
    offered: list[Correction], design: Design, year: WeatherYear | None, *, key: str, title: str, changes: tuple[Change, ...],
    before: float, after: float, doubt: float, figure: Figure,
) -> None:  # fmt: skip
    """A correction in watts, where the document can hold it."""
    if not changes:
        return
    try:
        found = corrected(
            design,
            year,
            key=key,
            title=title,
            changes=changes,
            before=before,
            after=after,
            doubt=doubt,
            unit="W",
            figure=figure,
        )
    except InputError:
        # A row would leave its range: that way is not offered.
        return
    offered.append(found)


def capacity_test(design: Design, test: CapacityRun, year: WeatherYear | None = None) -> CapacityResult:
    """Capacity left, from the Ah counted to the cut-off, brought to 25 °C and to the rating's own hours.

    left = Ah ÷ (1 − charge left) ÷ temperature factor × (I ÷ I of the rating)^(k − 1) ÷ rated Ah. Source: IEEE 450 and 1188 in
    our own words (from memory) for lead-acid; Peukert's law above the rated current; common practice for lithium.
    """
    bank = design.bank
    rating = rate(bank)
    factor = capacity_factor(bank.chemistry, test.temp_c)
    over = max(test.ah / test.hours_h / rating.rated_current_a, 1.0) ** (rating.peukert_exponent - 1.0)
    whole_ah = test.ah / (1.0 - test.end_soc_frac) / factor * over
    left = whole_ah / bank.rated_ah
    # The count, and a part of what the correction for temperature took.
    doubt = (
        1.96
        * left
        * ((SHUNT_FRAC**2 + (TEMPERATURE_FRAC * (1.0 - factor)) ** 2 + (0.01 if rating.tapers else 0.005) ** 2) ** 0.5)
    )
    kept = min(max(left, 0.3), 1.0)
    figure = Figure(
        label="Capacity left", value=100 * left, unit="%",
        formula="Ah ÷ (1 − charge left) ÷ temperature factor × (I ÷ rated I)^(k − 1) ÷ rated Ah",
        terms=(
            Term(name="counted", value=test.ah, unit="Ah"),
            Term(name="charge left", value=100 * test.end_soc_frac, unit="%"),
            Term(name="temperature factor", value=factor, unit=""),
            Term(name="Peukert's", value=over, unit=""),
            Term(name="rated", value=bank.rated_ah, unit="Ah"),
            Term(name="doubt, 95 of 100", value=100 * doubt, unit="%"),
        ), basis="IEEE 450 and 1188 in our own words (from memory); common practice for lithium",
    )  # fmt: skip
    return CapacityResult(
        rated_ah=bank.rated_ah,
        counted_ah=whole_ah,
        left_frac=left,
        doubt_frac=doubt,
        sentence=_capacity_said(left, doubt),
        corrections=(
            corrected(
                design, year, key="capacity", title="Capacity left after ageing",
                changes=(Change(path="bank.ageing_frac", value=round(kept, 4)),), before=100 * bank.ageing_frac, after=100 * kept,
                doubt=100 * doubt, unit="%", figure=figure,
            ),
        ),
        figure=figure,
    )  # fmt: skip


def _capacity_said(left: float, doubt: float) -> str:
    per_cent = f"{100 * left:.0f} % of the rating, give or take {100 * doubt:.0f}"
    if left > 1.1:
        return f"{per_cent}: more than it can be. The count, the rated Ah or the start is wrong."
    if left < 0.8:
        return f"{per_cent}: at the end of its life by the usual measure. Plan its replacement."
    return f"{per_cent}."
