"""Names of quantities end with a unit, and each unit stands in the glossary."""

import dataclasses
import importlib
import pkgutil
import re
import typing
import unittest
from pathlib import Path

import hearthkeep.core

GLOSSARY = (Path(__file__).parents[2] / "docs" / "GLOSSARY.md").read_text(encoding="utf-8")
#: Numbers that have no unit, by the end of their name.
PLAIN_ENDS = ("factor", "factors", "exponent", "ratio", "efficiency", "loss", "losses", "density", "part")
#: Numbers whose unit their neighbours give (a term of a working, a column of a table), counts, money, and pure numbers.
PLAIN_NAMES = {
    *(
        "value",
        "values",
        "prior",
        "right",
        "have",
        "amount",
        "each_amount",
        "asked",
        "per_string",
        "table",
        "watts",
        "events",
        "by_kind",
    ),
    *(
        "price",
        "over_price",
        "added_price",
        "assumed_price",
        "assumed",
        "total",
        "quantity",
        "cycles",
        "cycles_per_year",
        "saifi_per_year",
        "maifi_per_year",
        "multiple",
        "scale",
        "airmass",
        "effective_strings",
    ),
    # Places in a picture.
    *("x", "y"),
}
#: Values whose fields all have the unit of the name they are kept under, as in `ledger_wh.sun`, or of what was read.
PLAIN_OWNERS = (
    "Ledger",
    "Tiers",
    "Window",
    "Never",
    "Line",
    "Round",
    "InstrumentReading",
    "Estimate",
    "Joint",
    "YieldFound",
    "Trace",
    "Side",
)
NUMBERS = re.compile(r"\b(float|Floats)\b")


def listed_suffixes() -> set[str]:
    table = GLOSSARY.split("## Units at the end of a name")[1]
    return {
        name
        for row in table.splitlines()
        if row.startswith("| `")
        for name in re.findall(r"`_(\w+)`", row.split("|")[1])
    }


def number_fields() -> typing.Iterator[tuple[str, str]]:
    """Every field of the core's values that holds a decimal number: where, and its name."""
    for found in pkgutil.walk_packages(hearthkeep.core.__path__, "hearthkeep.core."):
        module = importlib.import_module(found.name)
        for owner in vars(module).values():
            if not isinstance(owner, type) or owner.__module__ != found.name or owner.__name__ in PLAIN_OWNERS:
                continue
            if dataclasses.is_dataclass(owner):
                fields = {field.name: str(field.type) for field in dataclasses.fields(owner)}
            else:
                fields = {name: str(kind) for name, kind in getattr(owner, "__annotations__", {}).items()}
            if "unit" in fields:
                # It says of what unit its numbers are.
                continue
            for name, kind in fields.items():
                if NUMBERS.search(kind) and not name.startswith("_"):
                    yield f"{found.name}.{owner.__name__}", name


class Names(unittest.TestCase):
    def test_each_quantity_ends_with_a_listed_unit(self):
        suffixes, seen, wrong = listed_suffixes(), set(), []
        for owner, name in number_fields():
            end = next(
                (
                    suffix
                    for suffix in sorted(suffixes, key=len, reverse=True)
                    if re.search(rf"(^|_){suffix}(_|$)", name)
                ),
                None,
            )
            if end is not None:
                seen.add(end)
            elif name not in PLAIN_NAMES and not name.endswith(PLAIN_ENDS):
                wrong.append(f"{owner}.{name}")
        self.assertEqual(wrong, [])
        self.assertGreater(len(seen), 20)

    def test_terms_are_in_order(self):
        rows = GLOSSARY.split("| --- | --- |")[1].split("## Units")[0]
        terms = [row.split("|")[1].strip().casefold() for row in rows.splitlines() if row.startswith("| ")]
        self.assertEqual(terms, sorted(terms))
        self.assertGreater(len(terms), 40)
