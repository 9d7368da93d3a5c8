"""The stand-in's feed of a utility: the outage, and when it is thought to end, revised as it goes."""

from __future__ import annotations

from datetime import datetime, timedelta

#: What is said of the end: from so many hours into the outage on, so many hours of it in all, each as a part of its length.
REVISED: tuple[tuple[float, float | None], ...] = ((0.0, None), (0.03, 0.35), (0.25, 0.7), (0.5, 1.15), (0.8, 1.0))
CUSTOMERS = 412


def feed_of(begun: datetime, hours_h: float, now: datetime) -> dict[str, object]:
    """
    The feed at a moment.

    :param begun: when the outage began, with its offset from UTC; it lasts so long [h].
    """
    part = (now - begun).total_seconds() / 3600.0 / hours_h
    if not 0.0 <= part <= 1.0:
        return {"format": "outages", "version": 1, "outages": []}
    at, of = [each for each in REVISED if each[0] <= part][-1]
    estimate = None if of is None else (begun + timedelta(hours=of * hours_h)).replace(second=0, microsecond=0)
    left = CUSTOMERS if part < 0.5 else round(CUSTOMERS * (1.0 - part) * 2.0) + 1
    outage = {
        "id": "birchrow-feeder-3",
        "area": "Birchrow, feeder 3",
        "began": begun.isoformat(timespec="seconds"),
        "estimated_restoration": None if estimate is None else estimate.isoformat(timespec="seconds"),
        "customers_out": left,
        "cause": "Ice on lines" if part > 0.03 else "Not known yet",
        "revised": (begun + timedelta(hours=at * hours_h)).isoformat(timespec="seconds"),
    }
    return {"format": "outages", "version": 1, "outages": [outage]}
