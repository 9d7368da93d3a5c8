"""A drill's storm: the design's own outage, and the surprises in it, drawn from a seed and written out so that a file tells all."""

from __future__ import annotations

import random
from enum import StrEnum
from typing import Annotated, Literal

from pydantic import Field

from hearthkeep.core.design import LONGEST_OUTAGE_H, Design, DesignPart, Name, Sky

#: Surprises of one drill.
MOST_SURPRISES = 12
#: A guest's fan heater, its low setting [W]. Common practice, no source.
GUEST_W = 800.0
#: A gauge that reads too much by so many points. Our assumption.
GAUGE_OFF_POINTS = 12.0
#: Longest drill [h].
LONGEST_DRILL_H = 168
_Hour = Annotated[int, Field(strict=True, ge=0, le=LONGEST_OUTAGE_H)]


class SurpriseKind(StrEnum):
    """What may come otherwise than planned."""

    #: The generator will not start from one hour to another.
    GENERATOR_FAILS = "generator_fails"
    #: A guest plugs in a heater.
    GUEST = "guest"
    #: A day that was not foretold so lies under snow.
    SNOW = "snow"
    #: The grid is back for some hours, and gone again.
    FLICKER = "flicker"
    #: A day's sky is another than foretold.
    OTHER_SKY = "other_sky"
    #: The gauge of the bank reads too much from an hour on.
    GAUGE = "gauge"


class Surprise(DesignPart):
    """One surprise."""

    kind: SurpriseKind
    #: From and to, hours from the start of the outage; a day is named by its number, 0 for that of the start.
    from_h: _Hour = 0
    to_h: _Hour = LONGEST_OUTAGE_H
    day: Annotated[int, Field(strict=True, ge=0, le=31)] = 0
    sky: Sky | None = None
    #: Watts of what is plugged in [W], or points by which a gauge is off.
    amount: Annotated[float, Field(strict=True, ge=0, le=5_000)] = 0.0


class Scenario(DesignPart):
    """A storm to be drilled on; the design it is lived on is not part of it."""

    format: Literal["hearth-keep-drill"] = "hearth-keep-drill"
    version: Literal[1] = 1
    title: Name = "A storm with surprises"
    seed: Annotated[int, Field(strict=True, ge=0, le=999_999)] = 1
    duration_h: Annotated[int, Field(strict=True, ge=1, le=LONGEST_DRILL_H)] = 72
    surprises: Annotated[tuple[Surprise, ...], Field(max_length=MOST_SURPRISES)] = ()


def drawn_scenario(design: Design, seed: int) -> Scenario:
    """Draw a storm from a seed: two to four surprises that can befall this design. The same seed draws the same ones."""
    dice = random.Random(seed)
    duration_h = int(min(max(design.outage.duration_h, 24), LONGEST_DRILL_H))
    days = duration_h // 24 + 1
    open_kinds = [SurpriseKind.GUEST, SurpriseKind.FLICKER, SurpriseKind.GAUGE]
    if design.charging.generator is not None:
        open_kinds.append(SurpriseKind.GENERATOR_FAILS)
    if design.charging.arrays:
        open_kinds += [SurpriseKind.SNOW, SurpriseKind.OTHER_SKY]
    chosen = dice.sample(open_kinds, min(dice.randint(2, 4), len(open_kinds)))
    surprises = sorted(
        (_drawn(design, kind, dice, duration_h, days) for kind in chosen), key=lambda each: each.kind.value
    )
    return Scenario(title=f"Storm {seed}", seed=seed, duration_h=duration_h, surprises=tuple(surprises))


def _drawn(design: Design, kind: SurpriseKind, dice: random.Random, duration_h: int, days: int) -> Surprise:
    from_h = dice.randint(duration_h // 8, duration_h // 2)
    if kind is SurpriseKind.GENERATOR_FAILS:
        return Surprise(kind=kind, from_h=0, to_h=dice.randint(duration_h // 4, 3 * duration_h // 4))
    if kind is SurpriseKind.GUEST:
        return Surprise(kind=kind, from_h=from_h, to_h=duration_h, amount=GUEST_W)
    if kind is SurpriseKind.FLICKER:
        return Surprise(kind=kind, from_h=from_h, to_h=from_h + dice.randint(1, 3))
    if kind is SurpriseKind.GAUGE:
        return Surprise(kind=kind, from_h=from_h, amount=GAUGE_OFF_POINTS)
    planned = design.outage.days
    told = [planned[min(number, len(planned) - 1)].sky for number in range(days)]
    day = dice.randint(1, max(days - 1, 1))
    if kind is SurpriseKind.SNOW:
        return Surprise(kind=kind, day=day, sky=Sky.COVERED)
    others = [sky for sky in (Sky.CLEAR, Sky.BROKEN, Sky.OVERCAST) if day >= days or sky is not told[day]]
    return Surprise(kind=kind, day=day, sky=dice.choice(others))
