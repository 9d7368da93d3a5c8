"""What the processes do for Watch and Drill: from the log to what is said now, and a storm lived on a design."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from datetime import date, datetime, timedelta
from functools import lru_cache

from hearthkeep.core.design import Design
from hearthkeep.core.drill import DrillAccount, DrillDecision, DrillStand, Scenario, drill_account, drill_stand
from hearthkeep.core.logbook import HOUR_S, Log, Quantity, Trace
from hearthkeep.core.watch import USE_DAYS, WATCHED, DeviceFault, WatchView, watch_view, watched_since
from hearthkeep.papers import FamilyCard, family_card, gather
from hearthkeep.store import Readings
from hearthkeep.workers.log_tasks import LogLine, local_of, log_of, written_of
from hearthkeep.workers.tasks import store_engine, stored_year_of
from hearthkeep.workers.writer import Writer

_CARD = Writer(FamilyCard)
_VIEW = Writer(WatchView)
_STAND = Writer(DrillStand)
_ACCOUNT = Writer(DrillAccount)


def watched(
    design: Design,
    installation_id: uuid.UUID | None,
    lines: Sequence[LogLine],
    now: datetime,
    faults: tuple[DeviceFault, ...] = (),
) -> bytes:
    """Everything that Watch says at a moment; of no installation nothing was read and nothing written."""
    written, local = written_of(design, lines), local_of(now, design)
    log, use_by_hour = Log(traces={}), None
    if installation_id is not None:
        log = log_of(design, installation_id, of=WATCHED, from_moment=watched_since(design, written, local))
        use_by_hour = _use_by_hour(
            installation_id, design.site.utc_offset_h, now.replace(minute=0, second=0, microsecond=0)
        )
    return _VIEW.dump_json(watch_view(design, written, log, local, stored_year_of(design), faults, use_by_hour))


@lru_cache(maxsize=64)
def _use_by_hour(installation_id: uuid.UUID, utc_offset_h: float, hour: datetime) -> Trace:
    """What the inverter gave in each hour of the last weeks, gathered once an hour."""
    at_s, watts = Readings(store_engine()).hour_means(
        installation_id,
        Quantity.INVERTER_W.value,
        "",
        since=hour - timedelta(days=USE_DAYS),
        shift_s=utc_offset_h * HOUR_S,
    )
    return Trace(at_s=at_s, values=watts)


def drilled(design: Design, scenario: Scenario, decisions: Sequence[DrillDecision], at_h: float) -> bytes:
    """A drill at a moment."""
    return _STAND.dump_json(drill_stand(design, scenario, decisions, at_h, stored_year_of(design)))


def drill_accounted(design: Design, scenario: Scenario, decisions: Sequence[DrillDecision]) -> bytes:
    """The account of a drill."""
    return _ACCOUNT.dump_json(drill_account(design, scenario, decisions, stored_year_of(design)))


def carded(design: Design, revision: int) -> bytes:
    """The family's card of a design as it is kept."""
    source = gather(design, stored_year_of(design), printed_on=date.today(), revision=revision)
    return _CARD.dump_json(family_card(source))
