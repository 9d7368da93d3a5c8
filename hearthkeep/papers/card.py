"""The family's card for a telephone: what stays on, what stays off, how long, three steps, whom to call. The sheet in fewer words."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.words import hours, percent
from hearthkeep.papers.rows import stays_off, stays_on
from hearthkeep.papers.source import PaperSource
from hearthkeep.papers.words import hour_spans

#: Never to be plugged in, on any supply of this size. Common practice, no source.
NEVER = ("heaters", "kettles", "hair dryers", "irons")
ALL_DAY = ((0, 24),)


@dataclass(frozen=True, kw_only=True, slots=True)
class CardGroup:
    """Things of one kind on the card, by name."""

    title: str
    meaning: str
    names: tuple[str, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class CardContact:
    """Somebody to be called."""

    role: str
    name: str
    reach: str


@dataclass(frozen=True, kw_only=True, slots=True)
class FamilyCard:
    """The family's card, in the words that stand on it."""

    design_name: str
    revision: int
    title: str
    how_long: str
    stays_on: tuple[CardGroup, ...]
    stays_off: tuple[str, ...]
    steps: tuple[str, ...]
    cautions: tuple[str, ...]
    contacts: tuple[CardContact, ...]
    house_note: str


def family_card(source: PaperSource) -> FamilyCard:
    """The card of a design as it is saved."""
    design, outage = source.design, source.assessment.outage
    spell = "dark spell" if design.site.off_grid else "storm"
    if not design.loads:
        how_long = "Nothing to be kept on has been entered yet."
    elif outage.carried_to_the_end:
        how_long = (
            f"What is always on, and what is on, lasts through the planned {spell} of {hours(outage.duration_h)}."
        )
    else:
        how_long = (
            f"What is always on, and what is on, lasts about {hours(outage.hours_carried_h)} of the planned "
            f"{hours(outage.duration_h)}. Save from the first hour."
        )
    return FamilyCard(
        design_name=design.name,
        revision=source.revision or 0,
        title="Living on what the house makes" if design.site.off_grid else "When the power goes out",
        how_long=how_long,
        stays_on=tuple(
            CardGroup(
                title=group.title,
                meaning=group.meaning,
                names=tuple(
                    load.name if load.hours == ALL_DAY else f"{load.name} ({hour_spans(load.hours)} h)"
                    for load in group.loads
                ),
            )
            for group in stays_on(source)
        ),
        stays_off=(*stays_off(source), *NEVER),
        steps=_steps(source),
        cautions=_cautions(source),
        contacts=tuple(
            CardContact(role=each.role, name=each.name or "", reach=each.reach or "") for each in design.papers.contacts
        ),
        house_note=design.papers.house_note,
    )


def _steps(source: PaperSource) -> tuple[str, ...]:
    """The three that matter: the supply, what draws on it, and what to look at."""
    design, levels, drill = source.design, source.assessment.levels, source.assessment.transfer.drill
    first = "Switch nothing over: the supply is there by itself."
    if drill is not None and drill.to_backup:
        rest = len(drill.to_backup) - 1
        first = drill.to_backup[0].do + (f" Then the other {rest} steps on the sheet by the switch." if rest else "")
    elif design.site.off_grid:
        first = "Look at the charge in the morning and in the evening, and write it down."
    second = "Turn off everything that is not on this card."
    generator = design.charging.generator
    if generator is not None and generator.by_hand:
        third = (
            f"At {percent(generator.start_soc_frac)} start the generator, outdoors, and stop it at "
            f"{percent(generator.stop_soc_frac)}."
        )
    else:
        third = f"Below {percent(levels.ease_frac)} turn off what is on only while there is plenty; below "
        third += f"{percent(levels.keep_frac)} everything but what is always on."
    return first, second, third


def _cautions(source: PaperSource) -> tuple[str, ...]:
    found = []
    if not source.design.site.off_grid:
        found.append(
            "Never a cord from this supply into an outlet of the house: it can kill somebody working on the line."
        )
    if source.design.charging.generator is not None:
        found.append("A generator outdoors only, well away from doors and windows: its exhaust kills.")
    found.append("Not a medical device: whoever depends on a machine needs the supplier's and the utility's own plan.")
    return tuple(found)
