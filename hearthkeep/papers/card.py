"""The family's card for a telephone: what stays on, what stays off, how long, three steps, whom to call. The sheet in fewer words."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.papers import household_words as words
from hearthkeep.papers.audiences import Audience
from hearthkeep.papers.household import Household, household_of
from hearthkeep.papers.languages import Speech, speeches_of
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
class CardText:
    """The card in one language."""

    #: As a page names it, and its own name.
    language: str
    language_name: str
    title: str
    how_long: str
    stays_on: tuple[CardGroup, ...]
    off_title: str
    stays_off: tuple[str, ...]
    anything_else: str
    steps: tuple[str, ...]
    cautions: tuple[str, ...]
    call_title: str
    nobody_named: str
    kept: str
    nothing_answers: str
    #: That it was translated by machine; empty where it was not.
    machine_made: str


@dataclass(frozen=True, kw_only=True, slots=True)
class FamilyCard:
    """The family's card, in the words that stand on it: in English, and beside it in the household's language."""

    design_name: str
    revision: int
    texts: tuple[CardText, ...]
    contacts: tuple[CardContact, ...]
    house_note: str


def family_card(source: PaperSource) -> FamilyCard:
    """The card of a design as it is saved."""
    design, told = source.design, household_of(source)
    return FamilyCard(
        design_name=design.name,
        revision=source.revision or 0,
        texts=tuple(_text(told, speech) for speech in speeches_of(design, Audience.FAMILY)),
        contacts=tuple(
            CardContact(role=each.role, name=each.name or "", reach=each.reach or "") for each in design.papers.contacts
        ),
        house_note=design.papers.house_note,
    )


def _text(told: Household, speech: Speech) -> CardText:
    say = speech.say
    return CardText(
        language=speech.tag,
        language_name=speech.name,
        title=say(told.title),
        how_long=say(told.how_long),
        stays_on=tuple(
            CardGroup(title=say(each.title), meaning=say(each.meaning), names=tuple(map(say, each.names)))
            for each in told.stays_on
        ),
        off_title=say(words.STAYS_OFF),
        stays_off=tuple(map(say, told.stays_off)),
        anything_else=say(told.anything_else),
        steps=tuple(speech.joined(step) for step in told.steps),
        cautions=tuple(map(say, told.cautions)),
        call_title=say(words.WHOM_TO_CALL),
        nobody_named=say(words.NOBODY_NAMED),
        kept=say(words.KEPT),
        nothing_answers=say(words.NOTHING_ANSWERS),
        machine_made=say(words.MACHINE_MADE) if speech.is_machine_made else "",
    )
