"""What differs between two designs, part by part, and one of them with some parts of the other."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum

from hearthkeep.core.alternatives.facts import said_of
from hearthkeep.core.design import Design, Load
from hearthkeep.core.words import shortened

#: Loads that differ are told one by one up to so many, and together beyond.
MOST_LOADS = 3
_LOAD = "load:"


class PartKey(StrEnum):
    """The parts in which designs are compared and swapped."""

    LOADS = "loads"
    BANK = "bank"
    INVERTER = "inverter"
    SUN = "sun"
    GENERATOR = "generator"
    OTHER_SOURCES = "other_sources"
    TRANSFER = "transfer"
    WIRING = "wiring"
    POLICY = "policy"
    STORM = "storm"
    #: Practice, kind and how finely the outage is simulated.
    SETTINGS = "settings"


TITLES = {
    PartKey.LOADS: "Loads",
    PartKey.BANK: "Bank",
    PartKey.INVERTER: "Inverter",
    PartKey.SUN: "Array and controllers",
    PartKey.GENERATOR: "Generator",
    PartKey.OTHER_SOURCES: "Other sources",
    PartKey.TRANSFER: "Transfer",
    PartKey.WIRING: "Wiring",
    PartKey.POLICY: "Policy",
    PartKey.STORM: "Storm and site",
    PartKey.SETTINGS: "Settings",
}
#: Fields of the design that a part stands for; those of charging are taken apart.
_FIELDS = {
    PartKey.LOADS: ("loads",),
    PartKey.BANK: ("bank",),
    PartKey.INVERTER: ("inverter",),
    PartKey.TRANSFER: ("transfer",),
    PartKey.WIRING: ("wiring",),
    PartKey.POLICY: ("policy",),
    PartKey.STORM: ("site", "outage"),
    PartKey.SETTINGS: ("practice", "kind", "simulation"),
}
_CHARGING = {
    PartKey.SUN: ("controllers",),
    PartKey.GENERATOR: ("generator",),
    PartKey.OTHER_SOURCES: (
        "grid_charger",
        "grid_tied",
        "alternator",
        "wind",
        "bench_charger",
        "one_source",
        "stages",
        "quick_safety_frac",
    ),
}


@dataclass(frozen=True, kw_only=True, slots=True)
class Difference:
    """One thing in which a design differs from another."""

    #: A part's key, or `load:` and the load's id.
    key: str
    title: str
    #: How it is in the one and in the other.
    base: str
    other: str


def differences_of(base: Design, other: Design) -> tuple[Difference, ...]:
    """What differs, in an order that does not depend on which of the two is which; names, records and opinions left out."""
    found = []
    for part in PartKey:
        if not _differs(base, other, part):
            continue
        loads = _loads_that_differ(base, other) if part is PartKey.LOADS else []
        if loads and len(loads) <= MOST_LOADS:
            found += [_load_difference(base, other, load_id) for load_id in loads]
        else:
            found.append(
                Difference(
                    key=part.value, title=TITLES[part], base=said_of(base, part.value), other=said_of(other, part.value)
                )
            )
    return tuple(found)


def with_differences(base: Design, other: Design, keys: Iterable[str]) -> Design:
    """The one design with what the other has in these differences."""
    taken = set(keys)
    ids = {key.removeprefix(_LOAD) for key in taken if key.startswith(_LOAD)}
    design = base
    for part in PartKey:
        if part.value in taken:
            design = with_part(design, other, part)
    if ids:
        design = design.model_copy(update={"loads": _mixed(base.loads, other.loads, ids)})
    return design


def with_part(design: Design, other: Design, part: PartKey) -> Design:
    """A design with a whole part of another; nothing is validated, which is for what is saved."""
    if part in _CHARGING:
        charging = design.charging.model_copy(
            update={field: getattr(other.charging, field) for field in _CHARGING[part]}
        )
        return design.model_copy(update={"charging": charging})
    return design.model_copy(update={field: getattr(other, field) for field in _FIELDS[part]})


def _differs(base: Design, other: Design, part: PartKey) -> bool:
    if part in _CHARGING:
        return any(getattr(base.charging, field) != getattr(other.charging, field) for field in _CHARGING[part])
    if part is PartKey.LOADS:
        # The order of loads is of no account.
        return bool(_loads_that_differ(base, other))
    return any(getattr(base, field) != getattr(other, field) for field in _FIELDS[part])


def _loads_that_differ(base: Design, other: Design) -> list[str]:
    one, two = _by_id(base.loads), _by_id(other.loads)
    return sorted(load_id for load_id in one.keys() | two.keys() if one.get(load_id) != two.get(load_id))


def _by_id(loads: tuple[Load, ...]) -> dict[str, Load]:
    return {load.id: load for load in loads}


def _mixed(base: tuple[Load, ...], other: tuple[Load, ...], ids: set[str]) -> tuple[Load, ...]:
    theirs = _by_id(other)
    kept = [theirs.get(load.id) if load.id in ids else load for load in base]
    known = {load.id for load in base}
    return tuple(load for load in kept if load is not None) + tuple(
        load for load in other if load.id in ids and load.id not in known
    )


def _load_difference(base: Design, other: Design, load_id: str) -> Difference:
    one, two = _by_id(base.loads).get(load_id), _by_id(other.loads).get(load_id)
    either = one or two
    assert either is not None, "a load that differs is in one of them"
    return Difference(
        key=f"{_LOAD}{load_id}",
        title=shortened(either.name),
        base=said_of_load(one),
        other=said_of_load(two),
    )


def said_of_load(load: Load | None) -> str:
    """A load in a few words."""
    if load is None:
        return "not there"
    hours = sum(load.on_by_hour)
    many = f"{load.quantity} × " if load.quantity > 1 else ""
    part = "" if load.duty_frac == 1 else f", {round(100 * load.duty_frac)} % of the time"
    return f"{load.tier.value.title()}, {many}{load.running_w:g} W, {hours} h{part}"
