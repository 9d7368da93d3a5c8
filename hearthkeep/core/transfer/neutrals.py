"""Shared neutrals of multiwire circuits: what they carry from one supply and from another, against their conductor."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.conductor_sizes import in_tables
from hearthkeep.core.design import Circuit, Design, Practice
from hearthkeep.core.published import copper_ampacity_rows, metric_copper_amps, small_conductor_limits
from hearthkeep.core.transfer.fates import Fate, Fates


@dataclass(frozen=True, kw_only=True, slots=True)
class SharedNeutral:
    """One neutral conductor and the two circuits on it."""

    first: str
    second: str
    #: Running amps of each circuit [A].
    first_a: float
    second_a: float
    #: What the neutral carries while the loads run [A]: the difference from a true 120/240 V supply, else the sum.
    carries_a: float
    #: Most that its breakers let through it [A]: the larger one, or both together.
    most_a: float
    #: What its conductor may carry [A]; none while its size is not known.
    allowed_a: float | None
    adds_up: bool


def ampacity_a(wire: str | None, design: Design) -> float | None:
    """What a branch circuit's copper conductor may carry [A]; none where its size is not known.

    NEC Table 310.16, 60 °C column, which terminals up to 100 A ask for, and the limits of 240.4(D); in metric practice IEC
    60364-5-52, Table B.52.2, method B2, in conduit on a wall (all from memory).
    """
    size = None if wire is None else in_tables(wire, design.practice)
    if size is None:
        return None
    if design.practice is Practice.METRIC_230:
        return metric_copper_amps().get(size)
    limit = small_conductor_limits().get(size)
    table = {row.size: row.ampacity_60_a for row in copper_ampacity_rows()}
    if size not in table:
        return None
    return table[size] if limit is None else min(table[size], limit)


def neutral_current_a(first_a: float, second_a: float, *, adds_up: bool) -> float:
    """Current in the neutral that two circuits share [A]: |I_A - I_B| across the legs of one supply, I_A + I_B on one line.

    Source: Kirchhoff's current law, loads taken at unity power factor.

    >>> neutral_current_a(12.0, 9.0, adds_up=False), neutral_current_a(12.0, 9.0, adds_up=True)
    (3.0, 21.0)
    """
    return first_a + second_a if adds_up else abs(first_a - second_a)


def shared_neutrals(design: Design, fates: Fates) -> tuple[SharedNeutral, ...]:
    """Every pair of carried circuits that share a neutral, as the backup supply feeds them."""
    by_id = {circuit.id: circuit for circuit in design.transfer.circuits}
    found = []
    for first, second in _pairs(design):
        one, other = fates.circuit(first), fates.circuit(second)
        if one is None or other is None or Fate.CARRIED not in (one.fate, other.fate):
            continue
        one_a = one.current_a if one.fate is Fate.CARRIED else 0.0
        other_a = other.current_a if other.fate is Fate.CARRIED else 0.0
        both = one.fate is other.fate is Fate.CARRIED
        adds_up = both and (not fates.supply.across or one.backup_legs == other.backup_legs)
        breakers = [by_id[first].breaker_a, by_id[second].breaker_a]
        sizes = [ampacity_a(by_id[key].wire, design) for key in (first, second)]
        known = [size for size in sizes if size is not None]
        found.append(
            SharedNeutral(
                first=first,
                second=second,
                first_a=one_a,
                second_a=other_a,
                carries_a=neutral_current_a(one_a, other_a, adds_up=adds_up),
                most_a=sum(breakers) if adds_up else max(breakers),
                allowed_a=min(known) if known else None,
                adds_up=adds_up,
            )
        )
    return tuple(found)


def _pairs(design: Design) -> list[tuple[str, str]]:
    """Ids of each two circuits that share a neutral, once."""
    circuits: tuple[Circuit, ...] = design.transfer.circuits
    ids = {circuit.id for circuit in circuits}
    found: list[tuple[str, str]] = []
    for circuit in circuits:
        mate = circuit.shares_neutral_with
        if mate in ids and mate is not None and (mate, circuit.id) not in found:
            found.append((circuit.id, mate))
    return found
