"""Watch: the outage itself, from the warning to the day after."""

from hearthkeep.core.watch.view import WATCHED, WATCHED_DAYS, WatchView, watch_view

__all__ = ["WATCHED", "WATCHED_DAYS", "WatchView", "watch_view"]
