"""Everything compiled, run once with the demo designs. Apart from them, since it loads the whole core."""

from __future__ import annotations

from hearthkeep.core.assess import assess
from hearthkeep.core.logbook import Log
from hearthkeep.core.trials import live, trial_year
from hearthkeep.core.watch import watch_view
from hearthkeep.demo import demo_designs


def warm_up(*, trials: bool = True) -> None:
    """
    Run everything compiled once: the first time compiles it, which takes a minute and is kept beside the sources.

    :param trials: the year of starts as well, whose sun takes a while to be worked out.
    """
    designs = demo_designs()
    for design in designs:
        assess(design)
        watch_view(design, (), Log(traces={}), design.outage.start)
    if trials:
        live(trial_year(designs[-1], 24.0), [24.0])
