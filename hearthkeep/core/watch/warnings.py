"""Warnings of the weather service: which of them hold at a moment, once updates and cancellations are counted."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

#: A warning that names no end holds for so long [h]; one dated further ahead than this has a wrong clock [h].
HOLDS_H, AHEAD_H = 72.0, 24.0
UPDATE, CANCEL = "Update", "Cancel"


@dataclass(frozen=True, kw_only=True, slots=True)
class WeatherAlert:
    """One message of a warning service, after CAP 1.2; moments carry their offset from UTC."""

    identifier: str
    sender: str
    sent: datetime
    #: Actual, Exercise, System, Test or Draft.
    status: str
    #: Alert, Update, Cancel, Ack or Error.
    message_type: str
    #: Identifiers of the messages that it takes the place of.
    references: tuple[str, ...] = ()
    event: str = ""
    urgency: str = ""
    severity: str = ""
    certainty: str = ""
    onset: datetime | None = None
    expires: datetime | None = None
    headline: str = ""
    description: str = ""
    instruction: str = ""
    areas: tuple[str, ...] = ()
    #: It carries a signature by the key that this installation knows.
    is_signed: bool = False

    @property
    def is_exercise(self) -> bool:
        """It is no warning of a real storm."""
        return self.status != "Actual"


def standing(alerts: Sequence[WeatherAlert], now: datetime) -> tuple[WeatherAlert, ...]:
    """
    The warnings that hold at a moment, the newest first.

    What is not signed takes the place of nothing that is. A message dated from the future is left out: its clock is wrong.
    """
    newest = {alert.identifier: alert for alert in sorted(alerts, key=lambda each: (each.is_signed, each.sent))}
    replaced = {
        reference
        for alert in newest.values()
        if alert.message_type in (UPDATE, CANCEL)
        for reference in alert.references
        if reference in newest and (alert.is_signed or not newest[reference].is_signed)
    }
    held = [
        alert
        for alert in newest.values()
        if alert.identifier not in replaced
        and alert.message_type in ("Alert", UPDATE)
        and alert.status in ("Actual", "Exercise", "Test")
        and alert.sent <= now + timedelta(hours=AHEAD_H)
        and now < (alert.sent + timedelta(hours=HOLDS_H) if alert.expires is None else alert.expires)
    ]
    return tuple(sorted(held, key=lambda each: each.sent, reverse=True))
