"""What is asked in pieces: kit searches, and trials of large designs. A short trial is answered at once."""

from __future__ import annotations

import base64
import json
import os
import zlib
from collections import Counter
from collections.abc import Callable, Sequence
from dataclasses import dataclass, fields
from enum import StrEnum
from functools import lru_cache
from time import process_time
from typing import Any

import numpy as np

from hearthkeep.core.design import Design, LibraryBattery, LibraryInverter, LibraryModule, read_design
from hearthkeep.core.errors import HearthKeepError
from hearthkeep.core.kits import (
    KitAnswer,
    KitPlan,
    KitRanges,
    KitReport,
    LeftOut,
    answer_of,
    kits_of,
    kitted_design,
    read_ranges,
    report_of,
    stops_of,
    usual_ranges,
)
from hearthkeep.core.prove import Proof, proof_of, prove
from hearthkeep.core.sources import WeatherYear
from hearthkeep.core.trials import (
    Failures,
    Lived,
    OneMoreOfEach,
    Outlook,
    Pieces,
    Reach,
    all_starts,
    failure_pieces,
    live,
    one_more_pieces,
    planned_length_h,
    trial_pieces,
    trial_year,
)
from hearthkeep.store import Checked, Unit, UnitKind
from hearthkeep.workers.tasks import stored_year_of
from hearthkeep.workers.writer import Writer

_PROOF = Writer(Proof)
_FAILURES = Writer(Failures)
_ONE_MORE = Writer(OneMoreOfEach)
_OUTLOOK = Writer(Outlook)
_KIT_ANSWER = Writer(KitAnswer)
_KIT_ANSWERS = Writer(tuple[KitAnswer, ...])
#: A trial that is expected to take longer is asked for as a job [s].
AT_ONCE_S = 3.0
#: It is expected by what so much of the year takes: outages that begin in its first month, which are a piece of it.
_PILOT_H = 744


class WeatherGoneError(HearthKeepError):
    """The weather year that was asked with is no longer stored."""

    code, title = "WEATHER_GONE", "The weather year is gone"
    fix = "Take the year in again on the Charging page, then ask once more."


def _year_asked_for(document: Design) -> WeatherYear | None:
    """The weather year a design names; a job must not go on with another than the one it began with."""
    found = stored_year_of(document)
    if found is None and document.site.weather_year is not None:
        raise WeatherGoneError(f"The weather year {document.site.weather_year} that the design names is not stored.")
    return found


# --- trials


class Trial(StrEnum):
    """What may be asked of a design's year, and the kind of job that answers it where that takes long."""

    YEAR = "trials"
    FAILURES = "failures"
    ONE_MORE = "one_more"


@dataclass(frozen=True, slots=True)
class LongTrial:
    """A trial that takes too long to be waited for: it is to be asked as a job."""

    #: About how long [s], and in how many pieces.
    takes_s: float
    pieces: int


def _pieces_of(trial: Trial, design: Design, given: WeatherYear | None, reach: Reach) -> Pieces[Any, Any]:
    if trial is Trial.YEAR:
        return trial_pieces(design, given, reach=reach)
    return failure_pieces(design, given) if trial is Trial.FAILURES else one_more_pieces(design, given)


def tried(body: bytes, trial: Trial, reach: Reach, wait: bool) -> bytes | LongTrial:
    """The trial's answer as JSON, or, unless it is to be waited for, how long that would take where it is long."""
    design = read_design(body)
    given = stored_year_of(design)
    pieces = _pieces_of(trial, design, given, reach)
    if not wait:
        takes_s = _expected_s(design, given, pieces.years)
        if takes_s > AT_ONCE_S:
            return LongTrial(takes_s=takes_s, pieces=pieces.count)
    if trial is Trial.YEAR:
        # In one go it shares its months among all cores.
        return _PROOF.dump_json(prove(design, given, reach=reach))
    return _written(trial, design, pieces.at_once())


def _expected_s(design: Design, given: WeatherYear | None, years: float) -> float:
    """About how long so many years of starts take on this machine, by a month of them, whatever else it is doing [s]."""
    length_h = planned_length_h(design)
    year = trial_year(design, length_h, given)
    starts = all_starts(year.first_day.year)
    began_s = process_time()
    live(year, [length_h], starts[:_PILOT_H])
    took_s = process_time() - began_s
    return years * took_s * float(starts.shape[0]) / _PILOT_H / len(os.sched_getaffinity(0))


def _written(trial: Trial, design: Design, whole: Any) -> bytes:
    if trial is Trial.YEAR:
        return _PROOF.dump_json(proof_of(design, whole))
    return (_FAILURES if trial is Trial.FAILURES else _ONE_MORE).dump_json(whole)


@lru_cache(maxsize=4)
def _trial_of(body: bytes, asked: bytes) -> tuple[Trial, Design, Pieces[Any, Any]]:
    """A trial that is answered in pieces: kept, since each is asked for alone."""
    question, design = json.loads(asked), read_design(body)
    trial = Trial(question["trial"])
    return trial, design, _pieces_of(trial, design, _year_asked_for(design), Reach(question["reach"]))


def pieces_of_trial(body: bytes, asked: bytes) -> int:
    """How many pieces a trial has."""
    return _trial_of(body, asked)[2].count


def piece_answered(body: bytes, asked: bytes, number: int) -> bytes:
    """One piece of a trial, on one thread: others are worked out beside it."""
    trial, _, pieces = _trial_of(body, asked)
    piece = pieces.answer(number, 1)
    return json.dumps(_packed(piece)).encode() if trial is Trial.YEAR else _OUTLOOK.dump_json(piece)


def trial_reported(body: bytes, asked: bytes, answers: Sequence[dict[str, Any]]) -> bytes:
    """The answer of a whole trial, from those of its pieces in their order."""
    trial, design, pieces = _trial_of(body, asked)
    read: Callable[[dict[str, Any]], Any] = _unpacked if trial is Trial.YEAR else _OUTLOOK.adapter.validate_python
    return _written(trial, design, pieces.whole([read(answer) for answer in answers]))


def _packed(piece: Lived) -> dict[str, Any]:
    """Arrays as they are, to the last bit, in as little room as may be."""
    return {
        field.name: _text_of(value) if isinstance(value := getattr(piece, field.name), np.ndarray) else value
        for field in fields(Lived)
    }


def _text_of(array: np.ndarray[Any, Any]) -> dict[str, str]:
    return {"of": str(array.dtype), "bytes": base64.b64encode(zlib.compress(array.tobytes())).decode()}


def _unpacked(answer: dict[str, Any]) -> Lived:
    def value_of(packed: Any) -> Any:
        if not isinstance(packed, dict):
            return packed
        return np.frombuffer(zlib.decompress(base64.b64decode(packed["bytes"])), dtype=packed["of"])

    values: dict[str, Any] = {name: value_of(packed) for name, packed in answer.items()}
    return Lived(**values)


# --- kit searches


@dataclass(frozen=True, slots=True)
class KitsPlanned:
    """How many kits a search has, what is left out and why, and what was assumed."""

    kits: int
    left_out: tuple[LeftOut, ...]
    assumed: tuple[str, ...]


@lru_cache(maxsize=4)
def _search_of(body: bytes, asked: bytes) -> tuple[Design, KitRanges, KitPlan]:
    """A design, what is asked, and the kits of it: kept, since a search asks for each kit alone."""
    design, ranges = read_design(body), read_ranges(asked)
    year = _year_asked_for(design)
    return design, ranges, kits_of(design, ranges, year_low_c=None if year is None else float(year.air_c.min()))


@lru_cache(maxsize=4)
def _stops_of(body: bytes) -> Counter[str]:
    design = read_design(body)
    return stops_of(design, _year_asked_for(design))


def kits_usual(body: bytes, library: dict[UnitKind, tuple[Unit, ...]]) -> KitRanges:
    """The ranges a first search begins with."""
    return usual_ranges(
        read_design(body),
        [unit for unit in library[UnitKind.BATTERY] if isinstance(unit, LibraryBattery)],
        [unit for unit in library[UnitKind.INVERTER] if isinstance(unit, LibraryInverter)],
        [unit for unit in library[UnitKind.MODULE] if isinstance(unit, LibraryModule)],
    )


def kits_planned(body: bytes, asked: bytes) -> KitsPlanned:
    """How many kits a search has, and what is left out of it."""
    _, _, plan = _search_of(body, asked)
    return KitsPlanned(kits=len(plan.kits), left_out=plan.left_out, assumed=plan.assumed)


def kit_answered(body: bytes, asked: bytes, number: int) -> bytes:
    """One kit of a search lived through."""
    design, ranges, plan = _search_of(body, asked)
    answer = answer_of(plan.kits[number], design, ranges.target, _stops_of(body), _year_asked_for(design))
    return _KIT_ANSWER.dump_json(answer)


def kits_reported(asked: bytes, answers: list[dict[str, Any]]) -> KitReport:
    """The kits found so far, rated."""
    target = read_ranges(asked).target
    return report_of(_KIT_ANSWERS.adapter.validate_python(answers), target)


def kit_made(body: bytes, asked: bytes, number: int) -> Checked:
    """The design with one kit of a search."""
    design, _, plan = _search_of(body, asked)
    return Checked.of(kitted_design(plan.kits[number], design))
