"""What a design comes to: its planned outage, and the same length from every hour of the weather year."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.design import Design
from hearthkeep.core.outage import prepare
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.trials.lived import live
from hearthkeep.core.trials.year import planned_length_h, trial_year


@dataclass(frozen=True, kw_only=True, slots=True)
class Outlook:
    """Hours and shares of a design."""

    #: In the planned outage, until Life or Keep, and until Life, first goes unserved [h].
    carried_h: float
    life_carried_h: float
    #: For how long Life or Keep was dark in it, all together [h].
    dark_for_h: float
    #: Of the year's starts, carried through the planned length: Life and Keep, and Life alone.
    keep_frac: float
    life_frac: float


def outlook(design: Design, given: WeatherYear | None, *, threads: int | None = None) -> Outlook:
    """The outlook of a design; `given` is the weather year of its site, without it the made-up one is taken."""
    prepared, length_h = prepare(design, given), planned_length_h(design)
    planned = prepared.outcome()
    lived = live(trial_year(design, length_h, given), [length_h], threads=threads)[length_h]
    return Outlook(
        carried_h=prepared.carried_h(planned.dark_h),
        life_carried_h=prepared.carried_h(planned.life_dark_h),
        dark_for_h=planned.dark_for_h,
        keep_frac=float(lived.carries(length_h, life_only=False).mean()),
        life_frac=float(lived.carries(length_h, life_only=True).mean()),
    )
