"""The number and text types of the Design document: each carries its unit's limits.

Numbers are strict (a string or a boolean is never taken for one) and finite. The limits refuse nonsense early; they
are not advice, which is the business of the checks.
"""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, TypeVar

from pydantic import AfterValidator, AwareDatetime, BaseModel, ConfigDict, Field, StringConstraints, field_validator

#: No number stands nearer to 0 than this, save 0 itself: sums divide by them, and beyond this they run over.
SMALLEST = 1e-9


class DesignPart(BaseModel):
    """A frozen part of the Design document: unknown fields, NaN, infinities and traces of a number are refused."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    @field_validator("*", mode="after")
    @classmethod
    def _no_traces(cls, value: object) -> object:
        # Called for every field of every part: the usual kinds are told apart without a loop.
        kind = value.__class__
        if (
            -SMALLEST < value < SMALLEST and value != 0.0  # type: ignore[operator]
            if kind is float
            else kind is tuple and any(number.__class__ is float and 0 < abs(number) < SMALLEST for number in value)  # type: ignore[attr-defined]
        ):
            raise ValueError(f"must not be nearer to 0 than {SMALLEST:.9f}")
        return value


#: Texts on one line, possibly empty or not, and on several: control characters are in none of them.
ONE_LINE, SOME_LINE = r"^[^\x00-\x1f\x7f]*$", r"^[^\x00-\x1f\x7f]+$"
SEVERAL_LINES = r"^[^\x00-\x08\x0b\x0c\x0e-\x1f\x7f]*$"
#: Longest name [characters].
LONGEST_NAME = 200
#: A short name a person reads; control characters are refused so that it prints on one line.
Name = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=LONGEST_NAME, pattern=SOME_LINE)
]
#: Free text a person reads, possibly empty.
Note = Annotated[str, StringConstraints(max_length=2000, pattern=SEVERAL_LINES)]
#: A line a person writes, possibly empty; control characters are refused so that it prints on one line.
Line = Annotated[str, StringConstraints(max_length=LONGEST_NAME, pattern=ONE_LINE)]
#: Longest key [characters].
LONGEST_ID = 40
#: A key that stays the same while its row is edited.
Identifier = Annotated[str, StringConstraints(pattern=rf"^[A-Za-z0-9][A-Za-z0-9_-]{{0,{LONGEST_ID - 1}}}$")]

Day = TypeVar("Day", bound=date)
#: Years in which anything is written down or looked at; a clock that was set back stands in the first.
FIRST_YEAR, LAST_YEAR = 1970, 2100


def _on_calendar(moment: Day) -> Day:
    if not FIRST_YEAR <= moment.year <= LAST_YEAR:
        raise ValueError(f"must lie in the years {FIRST_YEAR} to {LAST_YEAR}")
    return moment


#: A moment with its offset, such that every zone's calendar has it.
AwareMoment = Annotated[AwareDatetime, AfterValidator(_on_calendar)]
#: A moment with or without an offset, and a calendar day, within the same years.
AnyMoment = Annotated[datetime, AfterValidator(_on_calendar)]


CalendarDay = Annotated[date, AfterValidator(_on_calendar)]

#: Power of one load [W].
LoadWatts = Annotated[float, Field(strict=True, ge=0, le=50_000)]
#: Power of one load while its motor starts [W].
StartWatts = Annotated[float, Field(strict=True, ge=0, le=300_000)]
#: Power of a source or converter [W].
Watts = Annotated[float, Field(strict=True, ge=0, le=1_000_000)]
#: A part of a whole, 0 to 1.
Fraction = Annotated[float, Field(strict=True, ge=0, le=1)]
#: An efficiency that cannot be so poor as to be a heater, 0.3 to 1.
Efficiency = Annotated[float, Field(strict=True, ge=0.3, le=1)]
#: Temperature [°C].
Celsius = Annotated[float, Field(strict=True, ge=-60, le=70)]
#: Direct voltage [V].
DcVolts = Annotated[float, Field(strict=True, ge=0.1, le=1_000)]
#: Nominal voltage of one battery unit, a single cell at the least [V].
UnitVolts = Annotated[float, Field(strict=True, ge=1, le=1_000)]
#: Rated capacity of one battery unit [Ah].
UnitAmpHours = Annotated[float, Field(strict=True, ge=0.1, le=10_000)]
#: Current [A].
Amps = Annotated[float, Field(strict=True, ge=0, le=5_000)]
