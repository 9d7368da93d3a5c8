"""A year of starts: how long it takes, how that grows, and the same loop in C beside it."""

from __future__ import annotations

import ctypes
import json
import resource
import shutil
import statistics
import subprocess
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np

from hearthkeep.core.design import Design
from hearthkeep.core.outage import OUTCOME_NUMBERS, Plant, Timeline, outcomes_of
from hearthkeep.core.trials import Part, TrialYear, all_starts, live, parts_of, trial_year
from tests.support.designs import birchrow, changed

SOURCE = Path(__file__).with_name("plain_loop.c")
RUNS = 5
HOURS_H = 72.0


class _Plant(ctypes.Structure):
    """As in the C source."""

    _fields_ = (
        *((name, ctypes.c_double) for name in ("capacity_wh", "limit_w", "efficiency", "knee_wh", "a_w", "b_per_h")),
        ("tiny_wh", ctypes.c_double),
        ("start_wh", ctypes.c_double),
        ("drop_wh", ctypes.c_double * 3),
        ("return_wh", ctypes.c_double * 3),
        *((name, ctypes.c_double) for name in ("discharge_efficiency", "peukert_exponent", "rated_power_w")),
        ("tapers", ctypes.c_int64),
    )


def _median_s(action: Callable[[], object]) -> float:
    action()
    times = []
    for _ in range(RUNS):
        begun = time.perf_counter()
        action()
        times.append(time.perf_counter() - begun)
    return statistics.median(times)


def twelve_loads() -> Design:
    """The demo home with a twelfth load: no generator, one array, 15-minute steps."""
    rows = birchrow().model_dump(mode="json")["loads"]
    return changed(birchrow(), loads=[*rows, {**rows[-1], "id": "twelfth", "name": "Twelfth", "running_w": 3.0}])


def compiled_c(folder: Path) -> Callable[[Timeline, Part], np.ndarray]:
    """The loop in C at -O3, with the same arrays."""
    library = folder / "plain_loop.so"
    if shutil.which("cc") is None:
        raise SystemExit("no C compiler `cc`: install gcc to measure the model against the same loop in C")
    subprocess.run(["cc", "-O3", "-shared", "-fPIC", "-o", str(library), str(SOURCE), "-lm"], check=True)
    function = ctypes.CDLL(str(library)).plain_outcomes

    def run(timeline: Timeline, part: Part) -> np.ndarray:
        starts, draws = part.starts, part.draws
        found = np.empty((starts.first.shape[0], OUTCOME_NUMBERS))
        arrays = (
            starts.first,
            starts.clock,
            starts.length_h,
            starts.day_row,
            timeline.hour,
            timeline.sun_w[0],
            draws.table,
            draws.asked_w,
        )
        kept = [np.ascontiguousarray(array) for array in arrays]
        counts = (*starts.first.shape, starts.length_h.shape[1], starts.day_row.shape[1], draws.asked_w.shape[0])
        function(
            *(ctypes.c_int64(count) for count in (*counts, timeline.steps_a_day)),
            *(array.ctypes.data_as(ctypes.c_void_p) for array in kept),
            ctypes.byref(_in_c(part.plant)),
            found.ctypes.data_as(ctypes.c_void_p),
        )
        return found

    return run


def _in_c(plant: Plant) -> _Plant:
    takes = plant.acceptance
    return _Plant(
        **{
            name: getattr(takes, name) for name in ("capacity_wh", "limit_w", "efficiency", "knee_wh", "a_w", "b_per_h")
        },
        tiny_wh=takes.tiny_wh,
        start_wh=plant.start_wh,
        drop_wh=plant.drop_wh,
        return_wh=plant.return_wh,
        discharge_efficiency=plant.discharge_efficiency,
        peukert_exponent=plant.peukert_exponent,
        rated_power_w=plant.rated_power_w,
        tapers=int(takes.tapers),
    )


def beside_c(year: TrialYear) -> list[tuple[str, float, str]]:
    """One thread each, the same parts: the compiled model against C, and how far the answers lie apart."""
    timeline, parts = year.timeline(), list(parts_of(year, HOURS_H, all_starts(year.first_day.year)))
    with tempfile.TemporaryDirectory() as folder:
        in_c = compiled_c(Path(folder))

        def ours() -> list[np.ndarray]:
            return [outcomes_of(timeline, part.starts, part.draws, part.plant) for part in parts]

        def theirs() -> list[np.ndarray]:
            return [in_c(timeline, part) for part in parts]

        apart = max(float(np.abs(one - other).max()) for one, other in zip(ours(), theirs(), strict=True))
        ours_s, theirs_s = _median_s(ours), _median_s(theirs)
    return [
        ("the year in the model, one thread [ms]", 1000 * ours_s, ""),
        ("the same loop in C at -O3 [ms]", 1000 * theirs_s, ""),
        ("the model over C", ours_s / theirs_s, "< 1.5"),
        ("largest difference of an answer, times 1e9", 1e9 * apart, "< 1"),
    ]


def trials() -> list[tuple[str, float, str]]:
    """Every hour of a weather year as a start, in milliseconds, ratios and megabytes."""
    design = twelve_loads()
    year = trial_year(design, 240.0)
    found = [("8,760 starts, 72 h, 12 loads [ms]", 1000 * _median_s(lambda: live(year, [HOURS_H])), "< 500 ms")]
    every = all_starts(year.first_day.year)
    for starts, length_h in ((every[::2], 36.0), (every, 72.0), (every, 144.0)):
        spent_s = _median_s(lambda starts=starts, length_h=length_h: live(year, [length_h], starts, threads=1))
        steps = starts.shape[0] * length_h * year.steps_a_day / 24
        found.append((f"{starts.shape[0]:,} starts, {length_h:g} h, one thread [ns a step]", 1e9 * spent_s / steps, ""))
    peak_mb = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    return [*found, ("memory of the process so far [MB]", peak_mb, "< 300 MB"), *beside_c(year)]


if __name__ == "__main__":
    print(json.dumps(trials()))
