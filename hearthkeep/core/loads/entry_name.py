"""The name in an entry line, and the small words beside it: about 850 W, 9 W each, 6 lamps, fridge 2."""

from __future__ import annotations

import difflib

from hearthkeep.core.design import Tier
from hearthkeep.core.loads.entry_reading import LineReading
from hearthkeep.core.loads.entry_text import is_left_over, quantity_at

#: Words that come close to the name of a tier and are none.
_NO_TIERS = frozenset([
    "lift", "left", "lite", "wife", "live", "like", "line", "lime", "keen", "kelp", "jeep", "deep", "seep", "beep", "peek",
    "east", "easy", "base", "case", "vase", "lease", "tease", "cease", "spade", "share", "spark", "spa", "space", "spear",
    "square", "scare",
])  # fmt: skip
_ABOUT = frozenset(["~", "about", "approx", "approx.", "roughly", "circa", "ca", "ca."])
_HOW_OFTEN = frozenset(["once", "twice", "thrice"])


def read_small_word(words: list[str], at: int, reading: LineReading) -> int:
    """Words that say something of the quantity beside them: about 850 W, for 4 h, x 2, 9 W each. How many were used."""
    key = words[at].lower()
    following = quantity_at(words, at + 1) if at + 1 < len(words) else None
    if key == "x" and following is not None and not following.unit and is_whole(words[at + 1]):
        reading.values["quantity"] = int(words[at + 1][:7])
        return 2
    if key in _ABOUT and following is not None and following.unit:
        reading.is_guess = True
        return 1
    is_read = (
        (key == "x" and bool(reading.parts))
        or (key == "for" and following is not None and following.unit in ("h", "min"))
        or (key in ("each", "ea", "apiece") and at > 0)
    )
    return 1 if is_read else 0


def is_whole(word: str) -> bool:
    return word.isascii() and word.isdigit()


#: Units of a size that belongs to a name: a 40 inch television, a 20 gallon heater.
_SIZES = frozenset([
    "in", "inch", "inches", "cm", "mm", "m", "ft", "foot", "feet", "l", "liter", "liters", "litre", "litres", "gal", "gallon",
    "gallons", "cu", "cubic", "qt", "lb", "kg", "way",
])  # fmt: skip


def read_name(words: list[str], at: int, reading: LineReading) -> None:
    """A word of the name, unless it looks like a quantity, or like a tier misspelt at the end of the line."""
    word, following = words[at], words[at + 1] if at + 1 < len(words) else ""
    if (is_whole(word) and following.lower() in ("-", "to") and words[at + 2 : at + 3]) or (
        is_left_over(word) and "-" in word[1:]
    ):
        reading.wrong("line", word, "begins a range that is not understood; write one number, or hours as 18 to 22")
        return
    if is_left_over(word) or (at > 0 and word.lower() in _HOW_OFTEN):
        reading.wrong("line", word, "is not understood; take it out or write it another way")
        return
    if is_whole(word) and is_whole(following) and at + 2 < len(words):
        reading.wrong("line", f"{word} {following}", "may be one number or two: write it without the space")
        return
    if at > 0 and at == len(words) - 1 and word.isalpha() and word.lower() not in _NO_TIERS:
        near = difflib.get_close_matches(word.lower(), [tier.value for tier in Tier], n=1, cutoff=0.75)
        if near:
            reading.wrong("tier", word, f"is no tier; did you mean {near[0]}?")
            return
    reading.name.append(word)


def may_count(word: str, following: str) -> bool:
    """Whether a bare number at the head of a line counts the things named behind it: 6 lamps."""
    is_count = is_whole(word) and len(word) <= 2 and int(word) > 0
    return is_count and following.isalpha() and following.lower() not in _SIZES


def may_be_grouped(words: list[str], at: int) -> bool:
    """Whether a bare number and the next make thousands with a space: 1 400 W."""
    if not (is_whole(words[at]) and len(words[at]) <= 3) or at + 1 >= len(words):
        return False
    following = quantity_at(words, at + 1)
    return following is not None and following.unit in ("W", "VA", "Wh") and len(following.number) == 3
