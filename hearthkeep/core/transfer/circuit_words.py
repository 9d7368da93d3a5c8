"""What people write of a circuit: slots, breaker, poles, wire, leg; read alike from a typed line and from a sheet's cell.

Each reader takes one piece of text and raises ValueError with what was expected.
"""

from __future__ import annotations

import re

from hearthkeep.core.design import MOST_SLOTS, Leg, wire_size

_SLOTS = re.compile(r"^#?\s?(\d{1,2})(?:\s?[-,/+&]\s?(\d{1,2}))?\.?$", re.ASCII)
_BREAKER = re.compile(r"^[bcdk]?\s?(\d{1,4}(?:\.\d)?)\s?(?:a|amps?|amperes?)?$", re.ASCII | re.IGNORECASE)
_POLES = {
    **dict.fromkeys(("1", "1p", "1 p", "1-pole", "1 pole", "single", "single pole", "single-pole", "sp"), 1),
    **dict.fromkeys(("2", "2p", "2 p", "2-pole", "2 pole", "double", "double pole", "double-pole", "dp"), 2),
}
_WIRE = re.compile(
    r"^(?:awg\s?|#\s?)?(\d{1,3}(?:\.\d{1,2})?|[1-4]/0)(?:/[234](?:\s?g)?)?\s?(awg|ga|gauge|mm²|mm2|sq\s?mm|kcmil)?$",
    re.ASCII | re.IGNORECASE,
)
#: Sizes that are made: AWG and kcmil, and mm².
AWG = ("14", "12", "10", "8", "6", "4", "3", "2", "1", "1/0", "2/0", "3/0", "4/0", "250", "300", "350", "400", "500")
SQUARE_MM = ("1", "1.5", "2.5", "4", "6", "10", "16", "25", "35", "50", "70", "95", "120")
_YES = ("yes", "y", "x", "1", "true", "backed up", "backup", "critical", "carried")
_NO = ("no", "n", "0", "false", "grid", "on grid", "on the grid", "kept on the grid")


def read_slots(text: str) -> tuple[int, ...]:
    """Slot of the breaker, or both of a two-pole one.

    >>> read_slots("14"), read_slots("14/16")
    ((14,), (14, 16))
    """
    found = _SLOTS.match(text.strip())
    slots = tuple(int(part) for part in found.groups() if part) if found else ()
    if not slots or not all(1 <= slot <= MOST_SLOTS for slot in slots):
        raise ValueError(f"a slot, 1 to {MOST_SLOTS}, or two of them as in 14,16")
    return tuple(sorted(slots))


def read_breaker_a(text: str) -> float:
    """Rating of a breaker [A]; a letter before it names its curve and is dropped.

    >>> read_breaker_a("20A"), read_breaker_a("B16")
    (20.0, 16.0)
    """
    found = _BREAKER.match(text.strip())
    amps = float(found[1]) if found else 0.0
    if not 0 < amps <= 1_000:
        raise ValueError("a breaker in amps, above 0 to 1,000")
    return amps


def read_poles(text: str) -> int:
    """One pole or two."""
    poles = _POLES.get(text.strip().casefold())
    if poles is None:
        raise ValueError("1 or 2 poles")
    return poles


def read_wire(text: str, *, metric: bool) -> str:
    """Size of a conductor, with its unit: AWG, or mm² in metric practice, where none is written; of a cable such as 12/2 its conductors.

    >>> read_wire("12 AWG", metric=False), read_wire("12/2", metric=False), read_wire("2.5 mm²", metric=False), read_wire("2.5", metric=True)
    ('12 AWG', '12 AWG', '2.5 mm²', '2.5 mm²')
    """
    typed = text.strip().replace(",", ".")
    found = _WIRE.match(typed)
    if found and found[2]:
        metric = found[2].casefold()[0] in "ms"
    elif found and typed.casefold().startswith("awg"):
        metric = False
    sizes = SQUARE_MM if metric else AWG
    size = found[1] if found else ""
    if size not in sizes and size.endswith(".0"):
        size = size[:-2]
    if size not in sizes:
        raise ValueError(f"a size in {'mm²' if metric else 'AWG'}: {', '.join(sizes)}")
    return wire_size(size, is_metric=metric)


def read_leg(text: str, legs: tuple[Leg, ...]) -> Leg:
    """A leg of the service; L1 and L2 are A and B."""
    word = text.strip().upper().removeprefix("LEG").strip()
    word = {"L1": "A", "L2": "B", "L": "A", "1": "A", "2": "B", "X": "A", "Y": "B"}.get(word, word)
    found = next((leg for leg in legs if leg.value == word), None)
    if found is None:
        raise ValueError(f"a leg of the service: {' or '.join(legs)}")
    return found


def read_backed_up(text: str) -> bool:
    """Backed up, or kept on the grid."""
    word = text.strip().casefold()
    if word in _YES:
        return True
    if word in _NO:
        return False
    raise ValueError("yes or no")
