"""The family's card for a telephone: what stays on, what stays off, how long, three steps, whom to call. The sheet in fewer words."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.papers.household import household_of
from hearthkeep.papers.source import PaperSource


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
    design, told = source.design, household_of(source)
    return FamilyCard(
        design_name=design.name,
        revision=source.revision or 0,
        title=told.title,
        how_long=told.how_long,
        stays_on=tuple(CardGroup(title=each.title, meaning=each.meaning, names=each.names) for each in told.stays_on),
        stays_off=told.stays_off,
        steps=tuple(" ".join(step) for step in told.steps),
        cautions=told.cautions,
        contacts=tuple(
            CardContact(role=each.role, name=each.name or "", reach=each.reach or "") for each in design.papers.contacts
        ),
        house_note=design.papers.house_note,
    )
