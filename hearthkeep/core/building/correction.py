"""Corrections: what measuring found, offered as a change of the design with its price in hours; never applied unasked."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass

from hearthkeep.core.design import MAX_LOADS, Change, Design, Load, Quality, Tier, with_changes
from hearthkeep.core.figure import Figure
from hearthkeep.core.loads import quality_of
from hearthkeep.core.outage import prepare
from hearthkeep.core.sources import WeatherYear

#: A correction smaller than this part of what stands in the design is not worth a change.
LEAST_FRAC = 0.005
#: Most a load's watts and starts may be in the document [W].
MOST_LOAD_W = 50_000.0


@dataclass(frozen=True, kw_only=True, slots=True)
class Correction:
    """One change that measuring asks for."""

    key: str
    title: str
    changes: tuple[Change, ...]
    #: As the design has it, as it was measured, and the half-width in which the true value lies in 95 of 100.
    before: float
    after: float
    doubt: float
    unit: str
    #: Hours carried as the design stands, and with the change [h].
    hours_before_h: float
    hours_after_h: float
    #: The design's value lies inside the doubt: nothing has to be changed.
    is_confirmed: bool
    figure: Figure


def hours_carried_h(design: Design, year: WeatherYear | None) -> float:
    """Hours carried in the planned storm [h]."""
    prepared = prepare(design, year)
    return prepared.carried_h(prepared.outcome().dark_h)


def corrected(
    design: Design,
    year: WeatherYear | None,
    *,
    key: str,
    title: str,
    changes: Sequence[Change],
    before: float,
    after: float,
    doubt: float,
    unit: str,
    figure: Figure,
) -> Correction:
    """A correction with its price; raises InputError where a value lies outside what the document takes."""
    return Correction(
        key=key,
        title=title,
        changes=tuple(changes),
        before=before,
        after=after,
        doubt=doubt,
        unit=unit,
        hours_before_h=hours_carried_h(design, year),
        hours_after_h=hours_carried_h(with_changes(design, changes), year),
        is_confirmed=abs(after - before) <= max(doubt, LEAST_FRAC * abs(before)),
        figure=figure,
    )


def scaled_loads(design: Design, factor: float, ids: Collection[str]) -> tuple[Change, ...]:
    """Changes by which some loads take so many times what they took; how well each is known stays as it was.

    Their share of running time grows as far as it can, then their watts.
    """
    changes: list[Change] = []
    for at, load in enumerate(design.loads):
        if load.id not in ids:
            continue
        duty = load.duty_frac * factor
        path = f"loads.{at}"
        if duty <= 1.0:
            changes.append(Change(path=f"{path}.duty_frac", value=round(duty, 6)))
        else:
            running_w = min(load.running_w * duty, MOST_LOAD_W)
            changes += [
                Change(path=f"{path}.duty_frac", value=1.0),
                Change(path=f"{path}.running_w", value=round(running_w, 3)),
            ]
            if load.start_w is not None and load.start_w < running_w:
                changes.append(Change(path=f"{path}.start_w", value=round(running_w, 3)))
        if load.standby_w > 0:
            changes.append(Change(path=f"{path}.standby_w", value=round(min(load.standby_w * factor, MOST_LOAD_W), 3)))
        if load.known is not None:
            changes.append(Change(path=f"{path}.known", value={"kind": "typed", "quality": quality_of(load).value}))
    return tuple(changes)


def loosely_known(design: Design) -> tuple[Load, ...]:
    """Loads whose watts nobody has measured, those that never draw on the bank left out."""
    return tuple(
        load for load in design.loads if quality_of(load) is not Quality.MEASURED and load.tier is not Tier.SPARE
    )


def standing_load(design: Design, power_w: float, name: str) -> tuple[Change, ...]:
    """Changes that add a load that stands day and night, seen but not known; none where there is no room for it."""
    if len(design.loads) >= MAX_LOADS:
        return ()
    taken = {load.id for load in design.loads}
    number = next(each for each in range(1, MAX_LOADS + 2) if f"found-{each}" not in taken)
    values: dict[str, str | float] = {
        "id": f"found-{number}", "name": name, "tier": Tier.KEEP.value, "running_w": round(power_w, 1), "supply": "dc",
    }  # fmt: skip
    return (Change(path=f"loads.{len(design.loads)}", value=values),)
