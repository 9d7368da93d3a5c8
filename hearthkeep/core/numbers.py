"""Numbers as people type them: grouping and decimal marks distinguished by their form, and by the practice where that leaves two.

The one reader for the entry line and for sheets; the fields of the pages read by the same rules in `web/src/fields/numbers.ts`,
and both are held to the same table of cases, `tests/numbers.json`.
"""

from __future__ import annotations

import re
from enum import StrEnum

from hearthkeep.core.design import Practice

#: Longer than any number somebody types.
MOST_CHARACTERS = 40
_PLAIN = re.compile(r"^(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d{1,3})?$", re.ASCII)
_SPACED = re.compile(r"^\d{1,3}(?: \d{3})+(?:[.,]\d+)?$", re.ASCII)
_BY_COMMAS = re.compile(r"^[1-9]\d{0,2}(?:,\d{3})+(?:\.\d+)?$", re.ASCII)
_BY_POINTS = re.compile(r"^[1-9]\d{0,2}(?:\.\d{3})+(?:,\d+)?$", re.ASCII)
_DECIMAL_COMMA = re.compile(r"^\d*,\d+$", re.ASCII)
#: Signs and marks that are written in several ways; a space groups digits whichever space it is, and so does an apostrophe.
_SAME = str.maketrans({"−": "-", "\u00a0": " ", "\u202f": " ", "\u2009": " ", "'": " ", "’": " "})


class Commas(StrEnum):
    """What one comma before three digits means."""

    #: It groups thousands: 1,400 is one thousand four hundred.
    GROUP = "group"
    #: It is a decimal mark: 1,400 is one and four tenths.
    DECIMAL = "decimal"
    #: Both are written here, so that it is asked.
    UNSURE = "unsure"


class NumberError(ValueError):
    """What was expected in the place of a number."""


def commas_of(practice: Practice) -> Commas:
    """Commas group thousands in North America; where metric practice rules both habits are at home."""
    return Commas.GROUP if practice is Practice.NORTH_AMERICAN else Commas.UNSURE


def read_number(text: str, commas: Commas = Commas.GROUP) -> float:
    """A number typed by somebody. Raises NumberError where it is none, or could be two.

    A point alone is always a decimal mark, since the application writes it so.

    >>> read_number("1,400"), read_number("1.400,5"), read_number("1,5"), read_number("12 000")
    (1400.0, 1400.5, 1.5, 12000.0)
    >>> read_number("1,400", Commas.UNSURE)
    Traceback (most recent call last):
    ...
    hearthkeep.core.numbers.NumberError: may be 1400 or 1.4: write it without the comma
    """
    typed = text.translate(_SAME).strip()
    if len(typed) > MOST_CHARACTERS:
        raise NumberError("a number")
    sign = -1.0 if typed.startswith("-") else 1.0
    digits = typed[1:] if typed[:1] in ("-", "+") else typed
    if _PLAIN.match(digits):
        value = float(digits)
    elif _SPACED.match(digits):
        value = float(digits.replace(" ", "").replace(",", "."))
    elif _BY_COMMAS.match(digits):
        value = _grouped_by_commas(digits, commas)
    elif _BY_POINTS.match(digits):
        value = float(digits.replace(".", "").replace(",", "."))
    elif _DECIMAL_COMMA.match(digits):
        value = float(digits.replace(",", "."))
    else:
        raise NumberError("a number")
    # A power of ten may still pass all bounds.
    if value == float("inf"):
        raise NumberError("a number")
    return sign * value


def _grouped_by_commas(digits: str, commas: Commas) -> float:
    """Digits in groups of three after commas; one comma alone may be a decimal mark."""
    alone = digits.count(",") == 1 and "." not in digits
    as_decimal = digits.replace(",", ".")
    as_group = digits.replace(",", "")
    if alone and commas is Commas.UNSURE:
        raise NumberError(f"may be {as_group} or {float(as_decimal):g}: write it without the comma")
    return float(as_decimal if alone and commas is Commas.DECIMAL else as_group)
