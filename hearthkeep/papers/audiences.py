"""Whom the papers are for, and the sheets that each of them gets, in order."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum


class Audience(StrEnum):
    """Somebody who gets a paper."""

    ELECTRICIAN = "electrician"
    SHOP = "shop"
    WALL = "wall"
    FAMILY = "family"
    CLIENT = "client"
    OWNER = "owner"
    RECORD = "record"


@dataclass(frozen=True, kw_only=True, slots=True)
class AudienceInfo:
    """One paper in words."""

    audience: Audience
    title: str
    #: What it holds.
    meaning: str
    #: Templates of its sheets under `sheets/`, in order.
    sheets: tuple[str, ...]
    #: Its type is made smaller until it fits one page.
    is_one_sheet: bool = False


AUDIENCES: dict[Audience, AudienceInfo] = {
    info.audience: info
    for info in (
        AudienceInfo(
            audience=Audience.ELECTRICIAN,
            title="For the electrician",
            meaning="one-line, panel schedule, runs and devices, transfer and switching, placards, calculation sheets",
            sheets=("cover", "one_line", "panel", "runs", "transfer", "placard_list", "calculations"),
        ),
        AudienceInfo(
            audience=Audience.SHOP,
            title="For the shop",
            meaning="parts, cuts, lugs, fuses and prices",
            sheets=("parts", "cuts"),
        ),
        AudienceInfo(
            audience=Audience.WALL,
            title="For the wall",
            meaning="placards at size, circuit labels, the switching steps",
            sheets=("placards", "labels", "switching"),
        ),
        AudienceInfo(
            audience=Audience.FAMILY,
            title="For the family",
            meaning="one sheet in large type: what stays on, what stays off, how long, what to do, whom to call",
            sheets=("family",),
            is_one_sheet=True,
        ),
        AudienceInfo(
            audience=Audience.CLIENT,
            title="For the client",
            meaning="the proof: storm, hours, trials, alternatives, what would break it, price",
            sheets=("proof", "proof_year", "proof_breaks", "proof_price"),
        ),
        AudienceInfo(
            audience=Audience.OWNER,
            title="For the owner",
            meaning="the load audit, and a blank sheet to walk through the house with the meter",
            sheets=("audit", "walk_round"),
        ),
        AudienceInfo(
            audience=Audience.RECORD,
            title="Certificate of commissioning",
            meaning="every gate with its readings, who signed it and when, what was skipped; blank while nothing is signed",
            sheets=("certificate", "certificate_readings"),
        ),
    )
}
