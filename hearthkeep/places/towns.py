"""Towns of 5,000 people and more by name, region and country, found without a network.

The index is made at set-up by scripts/make_towns.py from GeoNames data (CC BY 4.0). Without it nothing is found, and a place is
entered by hand.
"""

from __future__ import annotations

import gzip
import unicodedata
from dataclasses import dataclass
from functools import lru_cache
from pathlib import Path

INDEX = Path(__file__).resolve().parent / "towns.tsv.gz"
#: Towns that one search gives out.
MOST_FOUND = 8


@dataclass(frozen=True, kw_only=True, slots=True)
class Town:
    """One town."""

    name: str
    #: State of the United States; empty elsewhere.
    region: str
    country: str
    country_code: str
    latitude_deg: float
    longitude_deg: float
    #: Of standard time, without summer time [h].
    utc_offset_h: float
    people: int


@dataclass(frozen=True, slots=True)
class Entry:
    """A town as it is sought."""

    town: Town
    #: Folded: its name and after it all its other names, and where it lies.
    names: tuple[str, ...]
    where: tuple[str, ...]


def folded(text: str) -> str:
    """Text as it is compared: small letters without marks, words parted by one blank.

    >>> folded("Saint-Étienne,  Loire")
    'saint etienne loire'
    """
    plain = "".join(char for char in unicodedata.normalize("NFKD", text) if not unicodedata.combining(char))
    return " ".join("".join(char if char.isalnum() else " " for char in plain.casefold()).split())


def read_towns(index: Path = INDEX) -> tuple[Entry, ...]:
    """The towns of an index, the largest first; none where there is no index.

    A line holds name, region, country, its two letters, latitude and longitude [°], standard time [h], people, where it lies and
    how it is called, both folded.
    """
    return tuple(_entry(line) for line in _lines_of(index))


def _lines_of(index: Path) -> tuple[str, ...]:
    if not index.exists():
        return ()
    with gzip.open(index, "rt", encoding="utf-8") as file:
        return tuple(file.read().splitlines())


@lru_cache(maxsize=1)
def _lines() -> tuple[str, ...]:
    """Kept as text: a search reads the few lines it finds."""
    return _lines_of(INDEX)


def _entry(line: str) -> Entry:
    name, region, country, code, latitude, longitude, offset, people, where, names = line.split("\t")
    town = Town(
        name=name,
        region=region,
        country=country,
        country_code=code,
        latitude_deg=float(latitude),
        longitude_deg=float(longitude),
        utc_offset_h=float(offset),
        people=int(people),
    )
    return Entry(town, tuple(names.split("|")), tuple(where.split("|")))


def find_towns(words: str, most: int = MOST_FOUND) -> tuple[Town, ...]:
    """Towns whose name begins so, best first: called exactly so, before those that are so among other names, before a beginning, a
    later word, and the beginning of another name; of like ones the largest. What follows a comma is where it lies: `springfield,
    illinois` or `paris, fr`.
    """
    name, _, rest = words.partition(",")
    sought, where = folded(name), folded(rest)
    if not sought:
        return ()
    found: tuple[list[Town], ...] = ([], [], [], [], [])
    for line in _lines():
        if sought not in line:
            continue
        entry = _entry(line)
        rank = _rank(entry, sought)
        if rank is not None and (not where or any(part.startswith(where) for part in entry.where)):
            found[rank].append(entry.town)
    return tuple(town for rank in found for town in rank)[:most]


def _rank(entry: Entry, sought: str) -> int | None:
    own = entry.names[0]
    if own == sought:
        return 0
    if sought in entry.names:
        return 1
    if own.startswith(sought):
        return 2
    if f" {sought}" in own:
        return 3
    return 4 if any(name.startswith(sought) for name in entry.names) else None
