"""What is printed: for the electrician, the shop, the wall, the family, the client and the owner, from one assessment."""

from hearthkeep.papers.audiences import AUDIENCES, Audience, AudienceInfo
from hearthkeep.papers.card import CardContact, CardGroup, FamilyCard, family_card
from hearthkeep.papers.pages import joined, page_image, page_sizes, page_texts
from hearthkeep.papers.press import Paper, PrintingMissingError, print_paper
from hearthkeep.papers.source import BuiltRecord, Considered, PaperSource, gather

__all__ = [
    "AUDIENCES",
    "Audience",
    "AudienceInfo",
    "BuiltRecord",
    "CardContact",
    "CardGroup",
    "Considered",
    "FamilyCard",
    "Paper",
    "PaperSource",
    "PrintingMissingError",
    "family_card",
    "gather",
    "joined",
    "page_image",
    "page_sizes",
    "page_texts",
    "print_paper",
]
