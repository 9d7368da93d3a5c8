"""The list of events of a recorded run: each written down while there is room, all of them counted."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from hearthkeep.core.compiled import inner_seldom
from hearthkeep.core.outage.kernel import values
from hearthkeep.core.outage.kernel.values import BANK_TIERS, COUPLED, INVERTER, KEEP, LIFE, MAX_EVENTS, Floats, Ints


class Notes(NamedTuple):
    """The arrays that events go to; handed on only where something happened."""

    #: Time [h], kind, tier, cause; rows beyond those counted are not set.
    events: Floats
    #: By kind, and behind the kinds all of them.
    counts: Ints
    #: When each cause came first [h], -1 for never.
    cause_h: Floats


def no_notes() -> Notes:
    """Nothing noted yet."""
    return Notes(
        np.empty((MAX_EVENTS, 4)),
        np.zeros(values.EVENT_KINDS + 1, dtype=np.int64),
        np.zeros(values.EVENT_CAUSES) - 1.0,
    )


@inner_seldom
def note(notes: Notes, now_h: float, kind: int, tier: int, cause: int) -> None:
    """Count an event, by kind and behind the kinds in all, and write it down while there is room."""
    number = notes.counts[values.EVENT_KINDS]
    notes.counts[values.EVENT_KINDS] += 1
    if number < MAX_EVENTS:
        notes.events[number, 0] = now_h
        notes.events[number, 1] = kind
        notes.events[number, 2] = tier
        notes.events[number, 3] = cause
    notes.counts[kind] += 1
    if cause > 0 and notes.cause_h[cause] < 0.0:
        notes.cause_h[cause] = now_h


@inner_seldom
def note_switching(notes, now_h, turned, came_back, went_out):  # type: ignore[no-untyped-def]
    """Starts and stops of the generator, returns, and what went out, in that order."""
    if turned != 0:
        note(notes, now_h, values.GENERATOR_ON if turned < 0 else values.GENERATOR_OFF, -1, max(turned, 0))
    for bit in range(COUPLED + 1):
        if came_back & (1 << bit):
            kind = values.RETURNED
            if bit >= BANK_TIERS:
                kind = values.INVERTER_BACK if bit == INVERTER else values.ARRAY_BACK
            note(notes, now_h, kind, bit if bit < BANK_TIERS else -1, 0)
    while went_out > 0:
        bit = went_out % 8 - 1
        went_out //= 8
        kind = values.DROPPED
        if bit >= BANK_TIERS:
            kind = values.CUT_OFF if bit == INVERTER else values.ARRAY_CUT
        note(notes, now_h, kind, bit if bit < BANK_TIERS else -1, 0)


@inner_seldom
def note_service(notes, now_h, service, before):  # type: ignore[no-untyped-def]
    """An overload, once when it begins and once when it ends; Life or Keep going dark, and coming back on."""
    if service.blocked != before.overloaded:
        if service.blocked > 0:
            note(notes, now_h, values.OVERLOADED, service.blocked - 1, service.cause)
        else:
            note(notes, now_h, values.FITS_AGAIN, before.overloaded - 1, 0)
    if (service.dark_tier >= 0) != before.is_dark:
        kind = values.DARK if service.dark_tier >= 0 else values.BACK_ON
        note(notes, now_h, kind, LIFE if service.dark_tier == LIFE else KEEP, 0)
