"""The Design document, version 9: everything the designer decides, as one value."""

from __future__ import annotations

from collections import Counter
from enum import StrEnum
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from hearthkeep.core.design.bank import Bank
from hearthkeep.core.design.charging import Charging
from hearthkeep.core.design.fields import DesignPart, Name
from hearthkeep.core.design.growth import MOST_STAGES, GrowthStage
from hearthkeep.core.design.inverter import Inverter
from hearthkeep.core.design.loads import Load
from hearthkeep.core.design.opinions import Opinions
from hearthkeep.core.design.papers import Papers
from hearthkeep.core.design.record import OutageRecord
from hearthkeep.core.design.site import Outage, Site
from hearthkeep.core.design.transfer import Transfer, placed_wrongly
from hearthkeep.core.design.wiring import Wiring

SCHEMA_VERSION = 11
MAX_LOADS = 400


class Kind(StrEnum):
    """What is being designed."""

    HOME = "home"
    PORTABLE = "portable"


class Practice(StrEnum):
    """Whose tables and units the project follows."""

    NORTH_AMERICAN = "north_american"
    METRIC_230 = "metric_230"


class Policy(DesignPart):
    """How the house behaves during the outage."""

    #: State of charge below which Ease is dropped.
    ease_level_frac: Annotated[float, Field(strict=True, ge=0, le=1)] = 0.35
    #: State of charge below which Keep is dropped, so that the rest is kept for Life; empty means the bank's floor, and nothing
    #: below that counts.
    keep_level_frac: Annotated[float, Field(strict=True, ge=0, le=1)] | None = None
    #: How far above its level a dropped tier returns, as a part of full.
    return_margin_frac: Annotated[float, Field(strict=True, ge=0.01, le=0.5)] = 0.1


class Simulation(DesignPart):
    """How finely the outage is simulated."""

    time_step_min: Literal[5, 15, 30, 60] = 15


class Design(DesignPart):
    """A whole design. Frozen: a change makes a new one."""

    schema_version: Literal[11] = 11
    name: Name
    kind: Kind
    practice: Practice
    site: Site
    outage: Outage
    loads: Annotated[tuple[Load, ...], Field(max_length=MAX_LOADS)] = ()
    bank: Bank
    inverter: Inverter
    charging: Charging = Charging()
    transfer: Transfer = Transfer()
    wiring: Wiring = Wiring()
    policy: Policy = Policy()
    simulation: Simulation = Simulation()
    record: OutageRecord = OutageRecord()
    opinions: Opinions = Opinions()
    growth: Annotated[tuple[GrowthStage, ...], Field(max_length=MOST_STAGES)] = ()
    papers: Papers = Papers()

    @model_validator(mode="after")
    def _ids_are_unique(self) -> Self:
        controllers = self.charging.controllers
        # What comes later joins what is there: its ids are its own as well.
        later = [controller for stage in self.growth for controller in stage.controllers]
        for what, ids in (
            ("growth", [stage.id for stage in self.growth]),
            ("loads", [load.id for load in self.loads + tuple(load for stage in self.growth for load in stage.loads)]),
            ("charging.controllers", [controller.id for controller in (*controllers, *later)]),
            (
                "charging: arrays",
                [array.id for array in self.charging.arrays]
                + [array.id for controller in later for array in controller.arrays],
            ),
        ):
            twice = [key for key, count in Counter(ids).items() if count > 1]
            if twice:
                raise ValueError(f"{what}: each id must stand once (repeated: {', '.join(sorted(twice)[:5])})")
        return self

    @model_validator(mode="after")
    def _circuits_have_their_place(self) -> Self:
        wrong = placed_wrongly(self.transfer, legs=self.site.legs)
        if wrong:
            raise ValueError(wrong)
        return self
