"""What a line leaves unsaid, filled by habit and said: in which hours a load runs, and what a motor of some horsepower draws."""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise

from hearthkeep.core.published import motor_current_rows

#: Words of loads that have their own time of day: those that begin at night, at breakfast, and those of the middle of the day;
#: everything else ends at bedtime. Our assumptions.
_NIGHT_WORDS = ("cpap", "bipap", "oxygen", "nebul", "baby", "night")
_BREAKFAST_WORDS = ("coffee", "kettle", "toaster")
_MIDDAY_WORDS = ("wash", "laundry", "dryer", "dishwash", "vacuum", "tool", "saw", "pump", "charger")
_NIGHT_H, _BREAKFAST_H, _NOON_H, _BEDTIME_H = 22, 7, 13, 22
#: Volts at which the published full-load currents are taken, the real part of the apparent power, and a start over the running
#: watts as charts have it. The last two are common practice, no source.
MOTOR_V, MOTOR_POWER_FACTOR, MOTOR_START_MULTIPLE = 115.0, 0.77, 3.0


@dataclass(frozen=True, kw_only=True, slots=True)
class MotorGuess:
    """What a motor of some horsepower usually takes [W]."""

    running_w: float
    start_w: float


def usual_hours(name: str, hours_h: float) -> tuple[tuple[int, int], ...]:
    """Whole hours of the day in which a load of that name usually runs for so many hours, as [from, to) pairs.

    >>> usual_hours("laptop", 4.0), usual_hours("kettle", 0.5), usual_hours("CPAP", 8.0)
    (((18, 22),), ((7, 8),), ((0, 6), (22, 24)))
    """
    count, key = min(24, max(1, math.ceil(hours_h - 1e-9))), name.casefold()
    if count == 24:
        return ((0, 24),)
    if any(word in key for word in _NIGHT_WORDS):
        begins = _NIGHT_H
    elif any(word in key for word in _BREAKFAST_WORDS):
        begins = _BREAKFAST_H
    elif any(word in key for word in _MIDDAY_WORDS):
        begins = max(0, _NOON_H - (count + 1) // 2)
    else:
        begins = (_BEDTIME_H - count) % 24
    ends = begins + count
    return ((begins, ends),) if ends <= 24 else ((0, ends - 24), (begins, 24))


def motor_guess(horsepower_hp: float) -> MotorGuess:
    """Running and starting watts of a single-phase motor: full-load amps at 115 V x power factor, and three times that.

    Currents of NEC Table 430.248 (from memory), straight between its rows and in proportion beyond them. A guess until measured.
    """
    rows = motor_current_rows()
    for low, high in pairwise(rows):
        if low.horsepower_hp <= horsepower_hp <= high.horsepower_hp:
            part = (horsepower_hp - low.horsepower_hp) / (high.horsepower_hp - low.horsepower_hp)
            amps = low.current_115_a + part * (high.current_115_a - low.current_115_a)
            break
    else:
        nearest = rows[0] if horsepower_hp < rows[0].horsepower_hp else rows[-1]
        amps = nearest.current_115_a * horsepower_hp / nearest.horsepower_hp
    running_w = round(amps * MOTOR_V * MOTOR_POWER_FACTOR)
    return MotorGuess(running_w=running_w, start_w=running_w * MOTOR_START_MULTIPLE)
