"""Growth: the stages in which a design is meant to grow, each by what it adds to the ones before it."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from hearthkeep.core.design.arrays import Controller
from hearthkeep.core.design.bank import Addition
from hearthkeep.core.design.fields import DesignPart, Identifier, Name, Watts
from hearthkeep.core.design.generator import Generator
from hearthkeep.core.design.inverter import MOST_UNITS
from hearthkeep.core.design.loads import Load

#: Stages ahead, and loads and controllers that one of them may add.
MOST_STAGES, MOST_STAGE_LOADS, MOST_STAGE_CONTROLLERS = 6, 40, 4


class PanelsAdded(DesignPart):
    """More panels on an array that is there already."""

    array_id: Identifier
    stc_w: Watts


class GrowthStage(DesignPart):
    """One stage ahead. What it does not name stays as it is."""

    id: Identifier
    title: Name
    #: From the first stage, which is the design itself [a].
    in_years: Annotated[float, Field(strict=True, ge=0, le=30)] = 1.0
    #: Units beside the bank; how much newer they are follows from the stage.
    battery: Addition | None = None
    panels: Annotated[tuple[PanelsAdded, ...], Field(max_length=24)] = ()
    #: New controllers with their arrays.
    controllers: Annotated[tuple[Controller, ...], Field(max_length=MOST_STAGE_CONTROLLERS)] = ()
    #: Inverters like the one that is there.
    inverter_units: Annotated[int, Field(strict=True, ge=0, le=MOST_UNITS - 1)] = 0
    #: A generator, in the place of one that may be there.
    generator: Generator | None = None
    loads: Annotated[tuple[Load, ...], Field(max_length=MOST_STAGE_LOADS)] = ()
