"""All six papers of a design of 40 loads and 60 runs, asked for at once as the page asks for them."""

from __future__ import annotations

import time

from hearthkeep.core.design import Design
from hearthkeep.papers import Audience
from tests.support.designs import birchrow, changed, load
from tests.support.live import Application

LOADS, CONTROLLERS = 40, 6


def crowded_wiring() -> Design:
    """The demo home with so many loads on branches of their own, and so many controllers with an array each."""
    loads = [
        load(f"Load {number} in room {number % 7}", 10.0 + number, tier=("life", "keep", "ease", "spare")[number % 4], supply="dc")
        for number in range(LOADS)
    ]  # fmt: skip
    controller = birchrow().model_dump(mode="json")["charging"]["controllers"][0]
    (array,) = controller["arrays"]
    controllers = [
        {**controller, "id": f"c{n}", "name": f"Controller {n}", "arrays": [{**array, "id": f"a{n}", "name": f"Array {n}", "stc_w": 400.0}]}
        for n in range(CONTROLLERS)
    ]  # fmt: skip
    return changed(birchrow(), loads=loads, charging={"controllers": controllers}, wiring={"runs": []})


def papers(app: Application) -> list[tuple[str, float, str]]:
    """From asking for all six until the last is there, once [ms]."""
    made = app.ask("POST", "api/designs/import", crowded_wiring().model_dump(mode="json"))
    begun = time.perf_counter()
    runs = [app.ask("POST", f"api/designs/{made['id']}/papers?audience={audience.value}", {}) for audience in Audience]
    while any(run["state"] in ("waiting", "fetching", "printing") for run in runs):
        time.sleep(0.1)
        runs = [app.ask("GET", f"api/papers/{run['id']}") for run in runs]
    took_ms = 1000 * (time.perf_counter() - begun)
    if any(run["state"] != "done" for run in runs):
        raise SystemExit(f"papers were not printed: {[run['fault'] for run in runs]}")
    pages = sum(len(run["pages"]) for run in runs)
    return [(f"six papers, 40 loads and 60 runs, {pages} pages", took_ms, "< 10000 ms")]
