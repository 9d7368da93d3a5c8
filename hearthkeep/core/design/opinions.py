"""Opinions: the habits with which each rule of thumb is worked out; empty fields take what the habit usually says."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated

from pydantic import Field

from hearthkeep.core.design.fields import DesignPart, Identifier
from hearthkeep.core.design.hours import HourSpans

SunHours = Annotated[float, Field(strict=True, ge=0.1, le=16)]
Days = Annotated[float, Field(strict=True, ge=0.1, le=60)]
Depth = Annotated[float, Field(strict=True, ge=0.05, le=1)]
Margin = Annotated[float, Field(strict=True, ge=0, le=3)]


class MpptHabit(StrEnum):
    """How "a converting controller gives 30 % more" is put into a sum."""

    #: The controller does not convert, or nothing is counted for it.
    NONE = "none"
    #: The panel's watts are divided by 1.3.
    DIVIDED = "divided"
    #: The panel's watts are multiplied by 0.7.
    TIMES = "times"


class OvernightHabits(DesignPart):
    """Overnight watt-hours."""

    #: Hours of the night, as [from, to) pairs.
    night_hours: HourSpans = ((0, 7), (19, 24))
    sun_hours_h: SunHours = 5.0


class LedgerHabits(DesignPart):
    """The amp-hour ledger."""

    #: Useful hours of sun a day [h].
    sun_hours_h: SunHours = 7.0
    #: Panel volts to each 12 V of bank [V].
    panel_v: Annotated[float, Field(strict=True, ge=12, le=60)] = 18.0
    #: For trees and cloud.
    safety_frac: Margin = 0.3
    #: Empty follows the controllers: divided where one converts.
    mppt: MpptHabit | None = None
    #: Empty is 0.85 for lead-acid and 1 for LFP.
    charge_efficiency_frac: Annotated[float, Field(strict=True, ge=0.3, le=1)] | None = None
    dark_days: Days = 3.0
    #: Loads that do not run on dark days; empty follows the audit.
    left_out: Annotated[tuple[Identifier, ...], Field(max_length=400)] | None = None
    #: Empty is 0.5 for lead-acid and 0.8 for LFP.
    depth_frac: Depth | None = None
    #: Sizes that the inverter goes up by; 1 is the next one sold.
    sizes_up: Annotated[int, Field(strict=True, ge=1, le=4)] = 2


class DepthHabits(DesignPart):
    """The depth formula."""

    #: Empty is 0.5 for lead-acid and 0.8 for LFP.
    depth_frac: Depth | None = None
    growth_frac: Margin = 0.0
    #: Of the quick sum for the array, which the formula itself does not give.
    sun_hours_h: SunHours = 5.0


class BufferHabits(DesignPart):
    """Days of buffer."""

    #: Days that the bank holds, by the careful and by the sparing.
    most_days: Days = 3.0
    least_days: Days = 2.0
    #: The small array refills the bank in so many days.
    refill_days: Days = 7.0
    sun_hours_h: SunHours = 5.0
    #: The generator's charger fills the empty bank in so many hours [h].
    generator_h: Annotated[float, Field(strict=True, ge=1, le=72)] = 10.0


class RatioHabits(DesignPart):
    """Ratios."""

    #: Over the running watts.
    headroom_frac: Margin = 0.2
    #: To each 100 Ah of a 12 V bank [W].
    inverter_w_per_100_ah: Annotated[float, Field(strict=True, ge=50, le=10_000)] = 1000.0
    panel_w_per_100_ah: Annotated[float, Field(strict=True, ge=0, le=2_000)] = 200.0


class WorksheetHabits(DesignPart):
    """The full worksheet."""

    autonomy_days: Days = 3.0
    #: Greatest depth, at the end of the autonomy; empty is the bank's own.
    depth_frac: Depth | None = None
    #: Depth of a usual day; empty is 0.25 for lead-acid and the greatest depth for LFP.
    daily_depth_frac: Depth | None = None
    end_of_life_frac: Annotated[float, Field(strict=True, ge=0.3, le=1)] = 0.8
    design_margin_frac: Margin = 0.1
    #: Of the array's energy: dust, wire, charge efficiency; empty is 0.2 for lead-acid and 0.1 for LFP.
    system_loss_frac: Annotated[float, Field(strict=True, ge=0, le=0.7)] | None = None
    array_to_load_ratio: Annotated[float, Field(strict=True, ge=0.5, le=5)] = 1.3
    #: Peak sun hours a day of the design month; empty takes the month of the weather year that asks for most array.
    sun_hours_h: SunHours | None = None
    #: Of the inverter over the running watts.
    headroom_frac: Margin = 0.25


class Opinions(DesignPart):
    """The habits of all six methods."""

    overnight: OvernightHabits = OvernightHabits()
    ledger: LedgerHabits = LedgerHabits()
    depth: DepthHabits = DepthHabits()
    buffer: BufferHabits = BufferHabits()
    ratios: RatioHabits = RatioHabits()
    worksheet: WorksheetHabits = WorksheetHabits()
