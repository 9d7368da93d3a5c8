"""Which suspects belong to which gate."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from hearthkeep.core.building.bank_suspects import bank_suspects, block_suspects
from hearthkeep.core.building.gate import Gate
from hearthkeep.core.building.house_suspects import (
    charge_suspects,
    dead_suspects,
    full_suspects,
    ground_suspects,
    inverter_suspects,
    precharge_suspects,
    setting_suspects,
    transfer_suspects,
)
from hearthkeep.core.building.sun_suspects import string_suspects, sun_suspects
from hearthkeep.core.building.suspect import Suspect
from hearthkeep.core.building.suspect_ranges import Asks
from hearthkeep.core.building.windows import Expected

_BY_GATE: dict[str, Callable[[Expected, Asks], Iterator[Suspect]]] = {
    "dead": dead_suspects,
    "blocks": block_suspects,
    "polarity": bank_suspects,
    "controllers": bank_suspects,
    "strings": string_suspects,
    "sun": sun_suspects,
    "settings": setting_suspects,
    "inverter": inverter_suspects,
    "precharge": precharge_suspects,
    "grounds": ground_suspects,
    "transfer": transfer_suspects,
    "grid_charge": charge_suspects,
    "others": charge_suspects,
    "generator": charge_suspects,
    "first_full": full_suspects,
}


def suspects_of(expected: Expected, gate: Gate) -> tuple[Suspect, ...]:
    """What may lie behind the readings of a gate."""
    asks = {ask.key: ask for ask in gate.asks}
    makers = dict.fromkeys(_BY_GATE[key] for key in gate.parts or (gate.key,) if key in _BY_GATE)
    return tuple(suspect for make in makers for suspect in make(expected, asks))
