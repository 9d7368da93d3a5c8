"""Designs that strain a paper: as many rows as it has to take, and names that no Latin font has letters for."""

from __future__ import annotations

from hearthkeep.core.design import LONGEST_NAME, Design, read_design
from tests.support.designs import birchrow, load

#: Chinese and Japanese, Arabic, Hebrew, emoji, one word without a place to break it, and what a spreadsheet would run.
SCRIPTS = (
    "冷蔵庫と冷凍庫、台所の奥" * 20,
    "ثلاجة المطبخ والمجمّد " * 20,
    "מקרר ומקפיא במטבח " * 20,
    "🔦🕯️❄️ lamp " * 30,
    "W" * 300,
    "=SUM(A1:A9)+cmd|' /C calc'!A0 " * 10,
)


def names(count: int) -> list[str]:
    """So many names as long as they may be, in every script."""
    return [f"{number} {SCRIPTS[number % len(SCRIPTS)]}"[:LONGEST_NAME].strip() for number in range(count)]


def strained(loads: int = 40, branches: int = 20) -> Design:
    """The demo home with so many loads, some on runs of their own, every name as long as it may be."""
    values = birchrow().model_dump(mode="json")
    tiers = ("life", "keep", "ease", "spare")
    values["name"] = SCRIPTS[0][:LONGEST_NAME]
    values["site"]["place"] = names(1)[0]
    values["loads"] = [
        {**load(f"l{number}", 20.0 + number, tier=tiers[number % 4], supply="dc" if number < branches else "ac"), "name": name}
        for number, name in enumerate(names(loads))
    ]  # fmt: skip
    for circuit, name in zip(values["transfer"]["circuits"], names(99), strict=False):
        circuit["name"] = name
    for controller in values["charging"]["controllers"]:
        for array in controller["arrays"]:
            array["name"] = names(2)[1]
    values["papers"] = {
        "prepared_for": names(3)[2],
        "prepared_by": names(4)[3],
        "contacts": [{"role": name, "name": name, "reach": "555-0100 " * 8} for name in names(12)],
        "house_note": "札" * 400,
    }
    return read_design(values)
