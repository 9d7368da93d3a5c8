"""What an edit asks for: the strip's own answer first, then everything else, part by part.

A process keeps the last outage it simulated: when the rest of the same document is asked of it, it goes on from there.
"""

from __future__ import annotations

from dataclasses import dataclass, fields
from typing import Any, Final, get_type_hints

from hearthkeep.core.assess import Assessment, assess, assessment_of
from hearthkeep.core.design import Design, read_design
from hearthkeep.core.endurance import Endurance, Simulated, endurance_of, simulate
from hearthkeep.core.sources import WeatherYear
from hearthkeep.store import Checked
from hearthkeep.workers.tasks import stored_year_of
from hearthkeep.workers.writer import Writer

_ASSESSMENT = Writer(Assessment)
_ENDURANCE = Writer(Endurance)
_SHOWN = {known.name for known in fields(Endurance)}
#: Parts of an assessment beyond what the strip has shown already, with the type of each.
PARTS: Final[dict[str, Any]] = {name: kind for name, kind in get_type_hints(Assessment).items() if name not in _SHOWN}
_WRITERS = {name: Writer(kind) for name, kind in PARTS.items()}


@dataclass(frozen=True, slots=True)
class Assessed:
    """A document that was read, and its answer as JSON."""

    checked: Checked
    answer: bytes


@dataclass(frozen=True, slots=True)
class _Last:
    """The outage simulated last, and of what."""

    text: str
    #: The weather year it was simulated under: another may have been stored under the same key since.
    year: WeatherYear | None
    simulated: Simulated


_last: _Last | None = None


def assess_document(body: bytes) -> Assessed:
    """Assess a document."""
    document = read_design(body)
    # Written at once: validating our own values again would cost more than computing them.
    return Assessed(Checked.of(document), _ASSESSMENT.dump_json(assess(document, stored_year_of(document))))


def endurance(body: bytes) -> Assessed:
    """What the strip shows of a document."""
    document = read_design(body)
    checked = Checked.of(document)
    return Assessed(checked, _ENDURANCE.dump_json(endurance_of(_simulated(checked.text, document))))


def parts(text: str) -> dict[str, bytes]:
    """The rest of the assessment of a document whose strip has been shown, part by part."""
    found = assessment_of(_simulated(text, read_design(text.encode())))
    return {name: adapter.dump_json(getattr(found, name)) for name, adapter in _WRITERS.items()}


def _simulated(text: str, document: Design) -> Simulated:
    """The document's outage, taken over where it was the last one here."""
    global _last
    year = stored_year_of(document)
    if _last is None or _last.text != text or _last.year is not year:
        _last = _Last(text, year, simulate(document, year))
    return _last.simulated
