"""What of a round is kept in the log: the installation's own readings, each device's beside them, and the doubted apart."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

import numpy as np

from hearthkeep.core.logbook import DOUBTED, Quantity
from hearthkeep.core.watch import DeviceFault, InstrumentKind
from hearthkeep.polling.talk import Talk, is_doubted
from hearthkeep.store import NewSeries

#: Quantities of the whole installation that several devices make together, and those that one device says for all.
TOGETHER = {
    Quantity.SUN_W: InstrumentKind.CONTROLLER,
    Quantity.INVERTER_W: InstrumentKind.INVERTER,
    Quantity.GENERATOR_W: InstrumentKind.GENERATOR,
}
ONE_FOR_ALL = frozenset({Quantity.BANK_V, Quantity.BANK_A, Quantity.CHARGE, Quantity.BANK_C, Quantity.AH_FROM_FULL})


def readings_of(
    talks: Sequence[Talk], faults: tuple[DeviceFault, ...], at: datetime, now_s: float, within_s: float
) -> list[NewSeries]:
    """
    The readings of a moment.

    :param at: the moment, UTC.
    :param now_s: the same in seconds of local standard time [s].
    :param within_s: what was said longer ago is none of now [s].
    """
    said = [(talk, talk.fresh(now_s, within_s)) for talk in talks]
    found: dict[tuple[Quantity, str], float] = {}
    main = next((talk for talk in talks if talk.source.kind is InstrumentKind.MONITOR), None)
    for talk, values in said:
        for quantity, value in values.items():
            if is_doubted(quantity, talk.source.key, faults):
                found[quantity, talk.source.name + DOUBTED] = value
            elif quantity in ONE_FOR_ALL and talk is main:
                found[quantity, ""] = value
            elif quantity not in TOGETHER or sum(other.source.kind is talk.source.kind for other in talks) > 1:
                found[quantity, talk.source.name] = value
    for quantity, kind in TOGETHER.items():
        own = [(talk, values) for talk, values in said if talk.source.kind is kind]
        if own and all(
            quantity in values and not is_doubted(quantity, talk.source.key, faults) for talk, values in own
        ):
            found[quantity, ""] = sum(values[quantity] for _, values in own)
    if found.get((Quantity.GENERATOR_W, ""), 0.0) > 0:
        into_w = _charged_w(said)
        if into_w is not None:
            found[Quantity.GENERATOR_W, ""] = into_w
    at_us = np.array([round(at.timestamp() * 1e6)], dtype=np.int64)
    return [
        NewSeries(quantity=quantity.value, part=part, at_us=at_us, values=np.array([value]))
        for (quantity, part), value in found.items()
    ]


def _charged_w(said: Sequence[tuple[Talk, dict[Quantity, float]]]) -> float | None:
    """What inverter/chargers lead into the bank [W], which is what the log means by a generator; none where none says so."""
    own = [
        values[Quantity.DEVICE_A] * values[Quantity.BANK_V]
        for talk, values in said
        if talk.source.kind is InstrumentKind.INVERTER and {Quantity.DEVICE_A, Quantity.BANK_V} <= values.keys()
    ]
    charged_w = sum(own)
    return charged_w if own and charged_w > 0 else None
