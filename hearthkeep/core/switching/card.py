"""The switching card of a design: over and back, everything off and on again, and what to do in danger."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.design import ArrangementKind, Design
from hearthkeep.core.switching.change_over import WORKERS, change_over_ways
from hearthkeep.core.switching.orders import LINE, danger_way, service_way, start_way
from hearthkeep.core.switching.ways import Switching, Way
from hearthkeep.core.transfer import CORDS, Fates, fates_of, live_on_generator
from hearthkeep.core.wiring import WiringPlan
from hearthkeep.core.words import Names, Sentence, sentence

_ALONE = sentence("There is no utility to call: who lives here knows this card, and where every disconnect is.")
_OUTSIDE = sentence(
    "A generator runs outdoors, 6 m (20 ft) from doors, windows and vents, with carbon-monoxide alarms indoors."
)


def switching_of(design: Design, plan: WiringPlan) -> Switching:
    """The switching card of a design as it was entered, with its wiring."""
    return Switching(
        ways=tuple(_ways(design, fates_of(design), plan)),
        throughout=tuple(_throughout(design)),
    )


def _ways(design: Design, fates: Fates, plan: WiringPlan) -> Iterator[Way]:
    yield from change_over_ways(design, fates, plan)
    yield danger_way(design, plan)
    yield service_way(design, plan)
    yield start_way(design, fates, plan)


def _throughout(design: Design) -> Iterator[Sentence]:
    kind = design.transfer.arrangement
    if design.site.off_grid or kind is ArrangementKind.OWN_PANEL:
        yield _ALONE
    elif kind in CORDS:
        yield LINE
    elif kind is not None:
        yield WORKERS
        yield LINE
    if design.charging.generator is not None:
        yield _OUTSIDE
    more = live_on_generator(design)
    if more is not None:
        names = tuple(dict.fromkeys(each.name for each in more.loads)) or tuple(_names_of(design, more))
        yield sentence("While the generator runs at the panel, these are live too: {names}.", names=Names(names, 6))


def _names_of(design: Design, fates: Fates) -> Iterator[str]:
    circuits = {circuit.id: circuit.name for circuit in design.transfer.circuits}
    yield from (circuits[each.id] for each in fates.circuits)
