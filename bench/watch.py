"""Watch and Drill in the core: `python -m bench.watch`. Aims: what Watch says under 300 ms, a step of a drill under 100 ms, the faults of
a hundred devices under a second."""

from __future__ import annotations

import statistics
import time
from collections.abc import Callable
from dataclasses import replace
from datetime import datetime, timedelta

import numpy as np

from hearthkeep.core.design import Design, read_design
from hearthkeep.core.drill import DrillDecision, drawn_scenario, drill_account, drill_stand
from hearthkeep.core.drill.play import DecisionKind
from hearthkeep.core.logbook import Log, Quantity, Trace, WatchEntry, WatchWhat, Written
from hearthkeep.core.watch import named, watch_view
from tests.support.designs import ROOT, load
from tests.support.watched import Watched

NOW, BEGUN = datetime(2026, 1, 14, 20), datetime(2026, 1, 13, 17)
RUNS, LOADS, DECISIONS = 20, 60, 20
#: Rounds of asking in a quarter of an hour.
QUARTER = 60


def crowded() -> Design:
    """The demo home with two roofs and a generator, and so many loads."""
    home = read_design((ROOT / "examples" / "birchrow-16.json").read_bytes())
    values = home.model_dump(mode="json")
    values["loads"] = [
        load(f"load {number}", 4.0 + number % 9, tier=("life", "keep", "ease", "spare")[number % 4])
        for number in range(LOADS)
    ]
    return read_design(values)


def minute_log() -> Log:
    """Three days of readings a minute of eight series."""
    at_s = (BEGUN - datetime(1970, 1, 1)).total_seconds() + np.arange(0, (NOW - BEGUN).total_seconds(), 60.0)
    dice = np.random.default_rng(1)
    flat = {Quantity.CHARGE: 70.0, Quantity.INVERTER_W: 250.0, Quantity.SUN_W: 10.0, Quantity.BANK_V: 52.0,
            Quantity.BANK_A: -5.0, Quantity.BANK_C: 8.0}  # fmt: skip
    traces = {
        (key, ""): Trace(at_s=at_s, values=value + dice.normal(0, 0.01, at_s.size)) for key, value in flat.items()
    }
    for part in ("inverter", "controller"):
        traces[Quantity.BANK_V, part] = traces[Quantity.BANK_V, ""]
    return Log(traces=traces)


def median_ms(work: Callable[[], object]) -> float:
    """Median time of some runs, the first one not counted [ms]."""
    work()
    times = []
    for _ in range(RUNS):
        begun = time.perf_counter()
        work()
        times.append(1000 * (time.perf_counter() - begun))
    return statistics.median(times)


def main() -> None:
    design, log = crowded(), minute_log()
    written = [
        Written(at=BEGUN, entry=WatchEntry(what=WatchWhat.BEGAN)),
        Written(at=BEGUN, entry=WatchEntry(what=WatchWhat.HELP, moment=BEGUN + timedelta(hours=96))),
    ]
    print(
        f"what Watch says, {LOADS} loads, 8 series a minute   {median_ms(lambda: watch_view(design, written, log, NOW)):7.1f} ms"
    )
    scenario = drawn_scenario(design, 7)
    ease = [each.id for each in design.loads if each.tier.value == "ease"]
    decisions = [
        DrillDecision(at_h=1.0 + 3 * number, kind=DecisionKind.LEAVE_OFF, loads=(ease[number % len(ease)],))
        for number in range(DECISIONS)
    ]
    print(
        f"a step of a drill, {DECISIONS} decisions                 {median_ms(lambda: drill_stand(design, scenario, decisions, 40.0)):7.1f} ms"
    )
    print(
        f"its account                                     {median_ms(lambda: drill_account(design, scenario, decisions)):7.1f} ms"
    )
    watched = Watched(read_design((ROOT / "examples" / "birchrow-16.json").read_bytes()), BEGUN)
    for _ in range(QUARTER):
        watched.step()
    tracks = watched.tracks()
    many = tuple(replace(track, key=f"{track.key}{number}") for number in range(25) for track in tracks)
    for devices in (tracks, many):
        print(
            f"faults of {len(devices):3d} devices, a quarter of an hour      "
            f"{median_ms(lambda devices=devices: named(watched.house.design, devices, watched.now_s)):7.1f} ms"
        )


if __name__ == "__main__":
    main()
