"""Everything compiled, run once with a demo design. Apart from them, since it loads the whole core."""

from __future__ import annotations

from pathlib import Path

from hearthkeep.core import outage
from hearthkeep.core.assess import assess
from hearthkeep.core.logbook import Log
from hearthkeep.core.trials import live, trial_year
from hearthkeep.core.watch import watch_view
from hearthkeep.demo import demo_designs


def is_compiled() -> bool:
    """Whether anything compiled is kept; what belongs to other sources is taken away when they change."""
    return any(Path(outage.__file__).parent.rglob("*.nbc"))


def warm_up(*, trials: bool = True) -> None:
    """
    Run everything compiled once: the first time compiles it, which takes half a minute and is kept beside the sources.

    :param trials: the year of starts as well, whose sun takes a while to be worked out.
    """
    # One house goes through all that is compiled; the others would only be worked out before anybody asks.
    design = demo_designs()[-1]
    assess(design)
    watch_view(design, (), Log(traces={}), design.outage.start)
    if trials:
        live(trial_year(design, 24.0), [24.0])
