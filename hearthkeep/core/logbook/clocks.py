"""When an entry was made, though the clock of the device that made it may be wrong."""

from __future__ import annotations

from datetime import datetime, timedelta

#: Differences up to here are the way through the network, and a clock's usual play [s]. Our assumption.
PLAY_S = 90.0
#: A stop-watch stands still while a phone sleeps; longer than this it was the clock that was moved [s]. Our assumption.
LONGEST_SLEEP_S = 30 * 86_400.0


def happened_at(told_at: datetime, *, sent_at: datetime, received_at: datetime, age_s: float | None) -> datetime:
    """
    When it happened, by the server's clock.

    :param told_at: by the device's clock, when the entry was made, or the moment typed.
    :param sent_at: by the same clock, when it was sent: how far it is off now is how far it was off then.
    :param age_s: so long before the sending by the device's stop-watch, which no setting of its clock moves: where the clock has gone
        backwards since, or on for months, it was moved, and the stop-watch is believed. None where it was started anew in between, or
        the moment was typed.

    >>> from datetime import UTC
    >>> wrong = datetime(2019, 1, 1, 0, 30, tzinfo=UTC)
    >>> happened_at(wrong, sent_at=wrong + timedelta(hours=2), received_at=datetime(2026, 3, 1, 12, tzinfo=UTC), age_s=None).hour
    10
    """
    off = received_at - sent_at
    by_clock = told_at if abs(off.total_seconds()) <= PLAY_S else told_at + off
    if age_s is None:
        return by_clock
    slept_s = (sent_at - told_at).total_seconds() - age_s
    return by_clock if -PLAY_S <= slept_s <= LONGEST_SLEEP_S else received_at - timedelta(seconds=age_s)
