"""What a new design starts from: two empty ones, and invented patterns that are whole designs; values to be changed, not advice."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from functools import cache
from pathlib import Path

from hearthkeep.core.design import Design, read_design

_HERE = Path(__file__).resolve().parent


class Start(StrEnum):
    """A starting point, by the name of its document in this folder."""

    HOME = "home"
    PORTABLE = "portable"
    ROOM = "room"
    BOX = "box"
    CART = "cart"
    VAN = "van"
    SIX_CIRCUITS = "six-circuits"
    RACK = "rack"
    WORKSHOP = "workshop"
    LARGE_230 = "large-230"
    TERRACE_FLAT = "terrace-flat"


@dataclass(frozen=True, kw_only=True, slots=True)
class StartingPoint:
    """One starting point in words."""

    start: Start
    title: str
    #: What it is for, and what it is made of.
    meaning: str
    #: Nothing to carry in it yet.
    is_empty: bool = False


STARTING_POINTS: tuple[StartingPoint, ...] = (
    StartingPoint(
        start=Start.HOME,
        title="Empty home",
        meaning="A modest 48 V bank and three dark winter days; no loads and no arrays.",
        is_empty=True,
    ),
    StartingPoint(
        start=Start.PORTABLE,
        title="Empty portable unit",
        meaning="A 12 V unit and one night; no loads and no arrays.",
        is_empty=True,
    ),
    StartingPoint(
        start=Start.ROOM,
        title="Lamp and fan for one room",
        meaning="All on 12 V: one panel at the window, a small switching controller, no inverter. A hot night and the day after.",
    ),
    StartingPoint(
        start=Start.BOX,
        title="Box with a handle",
        meaning="A carried 12 V unit with a folding panel, for breathing, network, light and telephones over a winter night.",
    ),
    StartingPoint(
        start=Start.CART,
        title="Cart",
        meaning="A wheeled 24 V unit with four folding panels, for refrigerator, network and light over two winter days.",
    ),
    StartingPoint(
        start=Start.VAN,
        title="Van or cabin at 12 V",
        meaning="Off the grid from spring to autumn: cool box, lamps and pump on 12 V, charged by roof and alternator; three grey days.",
    ),
    StartingPoint(
        start=Start.SIX_CIRCUITS,
        title="Home with a six-circuit switch",
        meaning="Two wall blocks and an inverter behind a manual switch: food, heat, sump and light over two dark days.",
    ),
    StartingPoint(
        start=Start.RACK,
        title="Home with a rack and an inverter/charger",
        meaning="Four modules, a critical panel that changes over by itself, a well pump at 240 V, a generator: an ice storm of three days.",
    ),
    StartingPoint(
        start=Start.WORKSHOP,
        title="Workshop with circuits moved",
        meaning="Lights, benches and network for good on an all-in-one with its own solar input; the grid only charges.",
    ),
    StartingPoint(
        start=Start.LARGE_230,
        title="Large home at 230 V, paired units",
        meaning="Six modules, two inverters so that one may fail, a diesel: refrigerators, heating, well and hob over three days.",
    ),
    StartingPoint(
        start=Start.TERRACE_FLAT,
        title="Terrace flat with a grid-tied array",
        meaning="A battery inverter beside an array that is there already, which it leads through the outage.",
    ),
)


@cache
def _document(start: Start) -> Design:
    return read_design((_HERE / f"{start.value}.json").read_bytes())


def starting_design(start: Start, name: str = "") -> Design:
    """A new design from a starting point, under its own name unless another is given; one that cannot stand is refused."""
    design = _document(start)
    return Design.model_validate(design.model_copy(update={"name": name}).model_dump()) if name else design
