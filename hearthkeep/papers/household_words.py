"""Words around the household's sentences: titles of the sheet, its head and foot, and the card's own."""

from __future__ import annotations

from hearthkeep.core.words import Sentence, counted_sentence, sentence

FOR_THE_FAMILY = sentence("For the family")
FOR_THE_WALL = sentence("For the wall")
SWITCHING = sentence("Switching")
STAYS_ON = sentence("Stays on")
DO_NOT = sentence("Do not plug in or switch on")
GENERATOR = sentence("Generator")
WHOM_TO_CALL = sentence("Whom to call")
#: Before what must be seen before the next step.
SEE = sentence("See:")
MACHINE_MADE = sentence("Translated by machine; no speaker has checked it yet. The English sheet decides.")
#: On the card.
STAYS_OFF = sentence("Stays off")
NOBODY_NAMED = sentence("Nobody is named yet.")
KEPT = sentence("Kept on this device.")
NOTHING_ANSWERS = sentence("Nothing answers: this is what stays on this device.")
#: Who is called, where nobody is named yet.
ROLES = (
    sentence("Emergency"),
    sentence("Outages and fallen lines"),
    sentence("Electrician"),
    sentence("Neighbour"),
)
#: How many names are left out of a list.
MORE = counted_sentence("{number} more", "{number} more", 2)


def printed_on(day: str) -> Sentence:
    """When a sheet was printed."""
    return sentence("printed {date}", date=day)


def revision_of(revision: int) -> Sentence:
    """Of which revision it is."""
    return sentence("Revision {revision}", revision=str(revision))


def page_of(page: str, pages: str) -> Sentence:
    """Which page of how many."""
    return sentence("Page {page} of {pages}", page=page, pages=pages)


def stops_stand_open(count: int) -> Sentence:
    """What the band says of Stops, without their titles, which are the designer's."""
    return counted_sentence(
        "{number} STOP STANDS OPEN. Do not build or use it before it is settled.",
        "{number} STOPS STAND OPEN. Do not build or use it before they are settled.",
        count,
    )
