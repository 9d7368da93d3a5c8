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


@dataclass(frozen=True, kw_only=True, slots=True)
class AudienceInfo:
    """One paper in words."""

    audience: Audience
    title: str
    #: What it holds.
    meaning: str
    #: Templates of its sheets under `sheets/`, in order.
    sheets: tuple[str, ...]
    #: At the foot of each of its pages.
    caution: str
    #: Its type is made smaller until it fits one page.
    is_one_sheet: bool = False


_LICENSED = (
    "A plan, not a permit. Anything wired to a house is work for a licensed electrician; the adopted code, the makers' data sheets "
    "and the inspector decide."
)
_LIVE = (
    "Batteries short with thousands of amperes and panels are live whenever lit: insulated tools, no rings or watches."
)

AUDIENCES: dict[Audience, AudienceInfo] = {
    info.audience: info
    for info in (
        AudienceInfo(
            audience=Audience.ELECTRICIAN,
            title="For the electrician",
            meaning="one-line, panel schedule, runs and devices, transfer and drill card, placards, calculation sheets",
            sheets=("cover", "one_line", "panel", "runs", "transfer", "placard_list", "calculations"),
            caution=f"{_LICENSED} {_LIVE}",
        ),
        AudienceInfo(
            audience=Audience.SHOP,
            title="For the shop",
            meaning="parts, cuts, lugs, fuses and prices",
            sheets=("parts", "cuts"),
            caution=f"Check each part against its maker's data sheet before it is bought. {_LICENSED}",
        ),
        AudienceInfo(
            audience=Audience.WALL,
            title="For the wall",
            meaning="placards at size, circuit labels, the switching steps",
            sheets=("placards", "labels", "drill"),
            caution="Put up by whoever commissions the work. A label that no longer fits what is there is a danger: print it anew.",
        ),
        AudienceInfo(
            audience=Audience.FAMILY,
            title="For the family",
            meaning="one sheet in large type: what stays on, what stays off, how long, what to do, whom to call",
            sheets=("family",),
            is_one_sheet=True,
            caution="A generator or anything that burns runs outdoors only, 6 m (20 ft) from doors and windows. Not a medical device.",
        ),
        AudienceInfo(
            audience=Audience.CLIENT,
            title="For the client",
            meaning="the proof: storm, hours, trials, alternatives, what would break it, price",
            sheets=("proof", "proof_year", "proof_breaks", "proof_price"),
            caution="Worked out by a model from the loads and the weather named here; another storm goes otherwise. "
            "Equipment that keeps someone alive needs its supplier's and the utility's own plan.",
        ),
        AudienceInfo(
            audience=Audience.OWNER,
            title="For the owner",
            meaning="the load audit, and a blank sheet to walk through the house with the meter",
            sheets=("audit", "walk_round"),
            caution="The meter goes between plug and socket. Never open a panel or a device to measure.",
        ),
    )
}
