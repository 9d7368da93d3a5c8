"""The cautions at the foot of each page: those that apply to this design and to whoever reads that paper."""

from __future__ import annotations

from collections.abc import Iterator

from hearthkeep.core.practice import distance_short
from hearthkeep.core.transfer import CORDS
from hearthkeep.papers.audiences import Audience
from hearthkeep.papers.household import cautions as household_cautions
from hearthkeep.papers.source import PaperSource

#: Direct current from here on holds an arc that an opened connector draws [V]. Common practice, no source.
ARCS_FROM_V = 50.0


def cautions_of(source: PaperSource, audience: Audience) -> str:
    """What stands at the foot of every page of a paper."""
    return " ".join(_SAID[audience](source))


def _is_wired(source: PaperSource) -> bool:
    return source.design.transfer.arrangement not in (None, *CORDS)


def _licensed(source: PaperSource) -> str:
    if _is_wired(source):
        return (
            "A plan, not a permit. Anything wired to a house is work for a licensed electrician; the adopted code, the makers' data "
            "sheets and the inspector decide."
        )
    return "A plan. The makers' data sheets and the local code decide; nothing of a house's wiring is to be joined to this unit."


def _building(source: PaperSource) -> Iterator[str]:
    """For those who work on it."""
    design = source.design
    yield f"A short of the bank drives {source.assessment.wiring.short_a:,.0f} A: insulated tools, no rings or watches."
    most_v = max((row.most_v for row in source.wiring.runs if row.is_dc), default=0.0)
    if design.charging.arrays:
        yield "Panels are live whenever lit."
    if most_v >= ARCS_FROM_V:
        yield f"Direct current of up to {most_v:.0f} V arcs: no connector is opened under load."
    if design.bank.chemistry.is_vented:
        yield "Its cells give off hydrogen: ventilation, no flame, goggles and gloves."
    yield from _fumes(source)


def _fumes(source: PaperSource) -> Iterator[str]:
    if source.design.charging.generator is not None:
        far = distance_short(source.design, 6.0)
        yield f"The generator runs outdoors only, {far} from doors and windows; carbon-monoxide alarms indoors."


def _electrician(source: PaperSource) -> Iterator[str]:
    yield _licensed(source)
    yield from _building(source)


def _shop(source: PaperSource) -> Iterator[str]:
    yield "Check each part against its maker's data sheet before it is bought."
    yield _licensed(source)


def _wall(source: PaperSource) -> Iterator[str]:
    yield "Put up by whoever commissions the work. A label that no longer fits what is there is a danger: print it anew."
    yield from _building(source)


def _family(source: PaperSource) -> Iterator[str]:
    yield from household_cautions(source.design)


def _client(source: PaperSource) -> Iterator[str]:
    yield "Worked out by a model from the loads and the weather named here; another storm goes otherwise."
    yield "Equipment that keeps someone alive needs its supplier's and the utility's own plan."


def _record(source: PaperSource) -> Iterator[str]:
    yield "A record of what was measured, not an approval: the adopted code, the makers' data sheets and the inspector decide."
    yield from _building(source)


def _owner(source: PaperSource) -> Iterator[str]:
    yield "The meter goes between plug and socket. Never open a panel or a device to measure."


_SAID = {
    Audience.ELECTRICIAN: _electrician,
    Audience.SHOP: _shop,
    Audience.WALL: _wall,
    Audience.FAMILY: _family,
    Audience.CLIENT: _client,
    Audience.OWNER: _owner,
    Audience.RECORD: _record,
}
