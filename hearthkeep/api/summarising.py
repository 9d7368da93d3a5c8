"""Summaries of designs being found: each once, however often the list is asked for meanwhile."""

from __future__ import annotations

import asyncio
import os
from collections.abc import Callable, Coroutine
from typing import Any

from hearthkeep.core.errors import HearthKeepError
from hearthkeep.store import DesignLine, Summary

#: A summary, or why there is none.
Found = tuple[Summary | None, str]


class Summarising:
    """What is under way, by design, revision and weather year. Used from the event loop only."""

    def __init__(self) -> None:
        self._under_way: dict[tuple[object, ...], asyncio.Task[Found]] = {}
        #: A long list leaves a process free for edits.
        self._places = asyncio.Semaphore(max(1, (os.cpu_count() or 1) - 1))

    def of(self, line: DesignLine, find: Callable[[DesignLine], Coroutine[Any, Any, Found]]) -> asyncio.Task[Found]:
        """The search for a line's summary; begun, unless it is under way."""
        key = (line.id, line.revision, line.weather_year)
        task = self._under_way.get(key)
        if task is None:
            task = self._under_way[key] = asyncio.create_task(self._or_why_not(find, line))
            task.add_done_callback(lambda _: self._under_way.pop(key, None))
        return task

    async def _or_why_not(self, find: Callable[[DesignLine], Coroutine[Any, Any, Found]], line: DesignLine) -> Found:
        """A design that cannot be assessed is a line of the list all the same."""
        try:
            async with self._places:
                return await find(line)
        except HearthKeepError as error:
            return None, str(error)
