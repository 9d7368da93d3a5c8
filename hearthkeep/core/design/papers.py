"""Papers: what stands on the printed papers and nowhere else in the design."""

from __future__ import annotations

from enum import StrEnum
from typing import Annotated

from pydantic import Field, StringConstraints

from hearthkeep.core.design.fields import DesignPart, Name, Note

#: People and services named on the papers.
MOST_CONTACTS = 12
#: A telephone number or an address to be called, as one writes it.
Reach = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80, pattern=r"^[^\x00-\x1f\x7f]+$")
]


class HouseholdLanguage(StrEnum):
    """Languages that the household's sheet, card and switching steps are written in beside English."""

    ES = "es"
    FR = "fr"
    DE = "de"
    PT = "pt"
    PL = "pl"
    UK = "uk"
    ZH_HANS = "zh_Hans"


class HelpContact(DesignPart):
    """Somebody to be called."""

    #: What for: outage line of the utility, electrician, neighbour with a key.
    role: Name
    name: Name | None = None
    reach: Reach | None = None


class Papers(DesignPart):
    """Names on the papers, whom to call, and what else the people in the house should know."""

    prepared_for: Name | None = None
    prepared_by: Name | None = None
    contacts: Annotated[tuple[HelpContact, ...], Field(max_length=MOST_CONTACTS)] = ()
    #: Printed on the family's sheet: where the panel is, where the torch hangs.
    house_note: Note = ""
    #: Printed beside the English sheet; none for English alone.
    household_language: HouseholdLanguage | None = None
