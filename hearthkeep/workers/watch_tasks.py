"""What the processes do for Watch: from the log to what is said now."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from datetime import datetime

from pydantic import TypeAdapter

from hearthkeep.core.design import Design
from hearthkeep.core.logbook import Log
from hearthkeep.core.watch import WATCHED, WATCHED_DAYS, WatchView, watch_view
from hearthkeep.workers.log_tasks import LogLine, local_of, log_of, written_of
from hearthkeep.workers.tasks import stored_year_of

_VIEW = TypeAdapter(WatchView)


def watched(design: Design, installation_id: uuid.UUID | None, lines: Sequence[LogLine], now: datetime) -> bytes:
    """Everything that Watch says at a moment; of no installation nothing was read and nothing written."""
    log = Log(traces={}) if installation_id is None else log_of(design, installation_id, of=WATCHED, days=WATCHED_DAYS)
    found = watch_view(design, written_of(design, lines), log, local_of(now, design), stored_year_of(design))
    return _VIEW.dump_json(found)
