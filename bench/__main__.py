"""Measure the core and the browser and print medians beside what is promised."""

from __future__ import annotations

import argparse
import gzip
import json
import re
import statistics
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from bench.papers import papers
from hearthkeep.core.alternatives import lived_hours_h, variant_column, worth_of
from hearthkeep.core.assess import assess
from hearthkeep.core.bank import rate
from hearthkeep.core.design import Design, read_design
from hearthkeep.core.growth import growth_of
from hearthkeep.core.opinions import KitName, kit_design, opinions_of
from hearthkeep.core.outage import prepare
from hearthkeep.core.sources import clear_sky, made_up_year, skies_of_year, sky_at, year_plane_of_array
from hearthkeep.core.transfer import balance
from hearthkeep.core.whatif import advise
from hearthkeep.core.wiring import cables_of, wiring_sheet
from hearthkeep.core.yearly import sun_year
from hearthkeep.exchange import panel_now, read_schedule, read_weather, schedule_rows
from tests.support.designs import ROOT, birchrow, changed, load
from tests.support.live import Application, chromium
from tests.support.weather import epw_lines, joined

RUNS = 20


def median_ms(action: Callable[[], object], runs: int = RUNS) -> float:
    """Median time of an action [ms], after one run that does not count."""
    action()
    times = []
    for _ in range(runs):
        begun = time.perf_counter()
        action()
        times.append((time.perf_counter() - begun) * 1000)
    return statistics.median(times)


def crowded(count: int) -> Design:
    """The demo home with this many loads."""
    rows = birchrow().model_dump(mode="json")["loads"]
    return changed(
        birchrow(),
        loads=[
            {**rows[n % len(rows)], "id": f"l{n}", "running_w": 2.0, "start_w": None, "known": None}
            for n in range(count)
        ],
    )


def kernel() -> list[tuple[str, float, str]]:
    """The compiled outage alone: recorded, and with four numbers kept; an outage of three days and of a year."""
    design = birchrow()
    year = changed(design, outage={"duration_h": 720.0})
    found = []
    for name, prepared in (("the demo's outage", prepare(design)), ("an outage of 30 days", prepare(year))):
        found.append((f"{name}, recorded [us]", 1000 * median_ms(prepared.run, 200), ""))
        found.append((f"{name}, four numbers [us]", 1000 * median_ms(prepared.outcome, 200), ""))
    return found


def core() -> list[tuple[str, float, str]]:
    """The assessment alone."""
    text = (ROOT / "examples" / "birchrow-14.json").read_bytes()
    design, sixty, two_hundred = birchrow(), crowded(60), crowded(200)
    return [
        ("assess the demo", median_ms(lambda: assess(design)), "< 20 ms"),
        ("read the demo document", median_ms(lambda: read_design(text)), ""),
        ("assess 60 loads", median_ms(lambda: assess(sixty)), ""),
        ("assess 200 loads", median_ms(lambda: assess(two_hundred), 5), ""),
        *transfer(),
        *wiring(),
        *weather(),
        *variants(),
    ]


def paneled(count: int) -> Design:
    """The demo home behind a critical panel with this many circuits, all backed up, its loads spread over them."""
    circuits = [
        {"id": f"q{slot}", "slot": slot, "name": f"Circuit {slot}", "breaker_a": 20.0, "backed_up": True}
        for slot in range(1, count + 1)
    ]
    loads = crowded(2 * count).model_dump(mode="json")["loads"]
    for number, row in enumerate(loads):
        row |= {"circuit": f"q{number % count + 1}", "running_w": 2.0 + 1.37 * number}
    main = {"slots": max(24, count + count % 2)}
    return changed(
        birchrow(), loads=loads, transfer={"arrangement": "critical_panel", "circuits": circuits, "main": main}
    )


def transfer() -> list[tuple[str, float, str]]:
    """Legs balanced, arrangements compared, a schedule read."""
    design, panel = paneled(24), paneled(40)
    rows = schedule_rows(panel)
    return [
        ("balance 24 circuits exactly", median_ms(lambda: balance(design)), "< 200 ms"),
        ("balance 40 circuits", median_ms(lambda: balance(panel)), ""),
        ("eight arrangements compared", median_ms(lambda: advise(birchrow()), 5), ""),
        ("read a schedule of 40 circuits", median_ms(lambda: read_schedule(rows, panel_now(panel))), ""),
        ("assess 80 loads on 40 circuits", median_ms(lambda: assess(panel)), ""),
    ]


def branched(count: int) -> Design:
    """The demo home with this many loads on direct current, each with its branch."""
    loads = [{**load(f"lamp {number}", 2.0 + number % 9, supply="dc")} for number in range(count)]
    return changed(birchrow(), loads=loads)


def wiring() -> list[tuple[str, float, str]]:
    """Runs sized within an assessment, and everything the Wiring page shows."""
    demo, sixty = birchrow(), branched(55)
    return [
        ("assess 55 branches", median_ms(lambda: assess(sixty)), ""),
        ("what the cables lose, demo", median_ms(lambda: cables_of(demo, rate(demo.bank))), ""),
        ("the Wiring page, demo", median_ms(lambda: wiring_sheet(demo)), ""),
        ("the Wiring page, 55 branches", median_ms(lambda: wiring_sheet(sixty)), ""),
    ]


def weather() -> list[tuple[str, float, str]]:
    """A weather year on three arrays: worked out anew, kept, and behind an assessment."""
    design = read_design((ROOT / "examples" / "birchrow-16.json").read_bytes())
    under_year = changed(design, outage={"sky_from": "year"})
    text = joined(epw_lines())

    def anew() -> None:
        for kept in (clear_sky, sky_at, made_up_year, skies_of_year, year_plane_of_array):
            kept.cache_clear()
        sun_year(design)

    return [
        ("weather year, three arrays, anew", median_ms(anew, 5), "< 1500 ms"),
        ("weather year, three arrays, kept", median_ms(lambda: sun_year(design)), ""),
        ("assess under a weather year", median_ms(lambda: assess(under_year)), ""),
        ("read an EPW file", median_ms(lambda: read_weather(text, "made up"), 3), ""),
    ]


def variants() -> list[tuple[str, float, str]]:
    """Rules of thumb with their kits lived; six alternatives of forty loads side by side; stages ahead."""
    demo, forty = birchrow(), crowded(40)
    kits = [kit_design(forty, kit) for kit in KitName if kit not in (KitName.DESIGNED, KitName.MODEL)][:5]
    values = demo.model_dump(mode="json")
    unit = {key: values["bank"][key] for key in ("chemistry", "unit_v", "unit_ah")}
    ahead = [{"id": f"s{year}", "title": "s", "in_years": year, "battery": {**unit, "parallel": 1}} for year in (1, 2)]
    staged = changed(demo, growth=ahead)
    hours_h = lived_hours_h(lambda design: None)
    return [
        ("opinions of the demo", median_ms(lambda: opinions_of(demo), 5), ""),
        (
            "six alternatives of 40 loads, in one process",
            median_ms(lambda: [variant_column(design) for design in (forty, *kits)], 5),
            "< 1,000 ms",
        ),
        ("what their differences are worth", median_ms(lambda: [worth_of(forty, kit, hours_h) for kit in kits], 5), ""),
        ("two stages ahead of the demo", median_ms(lambda: growth_of(staged), 5), ""),
    ]


def browser() -> list[tuple[str, float, str]]:
    """From an edit to the strip redrawn, by the page's own performance marks; and the first screen."""
    app = Application()
    app.start()
    driver = chromium()
    try:
        driver.get(app.address)
        first_ms = driver.execute_script("return performance.getEntriesByType('paint').at(-1)?.startTime ?? 0")
        # The list with the figures of every design, from a server that has just started and assesses for the first time.
        listed_ms = driver.execute_async_script(
            "const done = arguments[0];"
            "const look = () => document.querySelector('[data-test=designs]')"
            " ? done(performance.now()) : requestAnimationFrame(look); look()"
        )
        page = (ROOT / "web" / "dist" / "index.html").read_text()
        scripts = set(re.findall(r"assets/[^\"]+\.js", page))
        loaded = sum(len(gzip.compress((ROOT / "web" / "dist" / name).read_bytes())) for name in scripts)
        results = [
            ("first screen of a cold browser", float(first_ms), "< 1000 ms"),
            ("list of designs, server just started", float(listed_ms), ""),
        ]
        for name, path in (("demo", "bank"), ("60 loads", "loads"), ("200 loads", "loads")):
            document = birchrow() if name == "demo" else crowded(int(name.split()[0]))
            made = app.ask("POST", "api/designs/import", document.model_dump(mode="json"))
            promised = "< 150 ms" if name == "200 loads" else "< 100 ms"
            results += edits(f"{name}, {path}", edit_ms(driver, app, made["id"], path), promised)
        design = read_design((ROOT / "examples" / "birchrow-16.json").read_bytes())
        document = changed(design, outage={"sky_from": "year"}).model_dump(mode="json")
        made = app.ask("POST", "api/designs/import", document)
        results += edits("weather year, bank", edit_ms(driver, app, made["id"], "bank"), "< 100 ms")
        made = app.ask("POST", "api/designs/import", paneled(40).model_dump(mode="json"))
        results += edits("40 circuits, transfer", slot_ms(driver, app, made["id"]), "< 100 ms")
        made = app.ask("POST", "api/designs/import", branched(55).model_dump(mode="json"))
        results += edits("60 runs, wiring", run_ms(driver, app, made["id"]), "< 100 ms")
        results += papers(app)
        results += kit_search(driver, app)
        results.append(("5,000 units from CSV", units_ms(app), "< 5000 ms"))
        results.append(("library sought", median_ms(lambda: app.ask("GET", "api/library/battery?words=lot%2012")), ""))
        results.append(("5,000 designs, first page of the list", list_ms(driver, app), "< 1000 ms"))
        results.append(("JavaScript at start, gzipped [kB]", loaded / 1000, "< 350 kB"))
        return results
    finally:
        driver.quit()
        app.remove()


def kit_search(driver, app: Application) -> list[tuple[str, float, str]]:
    """A search of 1,000 kits over the weather year, asked as a person would and worked on by the server's own worker."""

    def units(kind: str, fits: Callable[[dict], bool], most: int) -> list[dict]:
        found = app.ask("GET", f"api/library/{kind}?words=&most=200")["units"]
        return [unit for unit in found if fits(unit)][:most]

    document = birchrow().model_dump(mode="json")
    made = app.ask("POST", "api/designs/import", document)
    ranges = {
        "target": {"hours_h": 72, "share_frac": 0.95},
        "batteries": {"units": units("battery", lambda unit: unit["unit_v"] == 51.2, 4), "most": 10},
        "inverters": {"units": units("inverter", lambda unit: unit["system_v"] == 51.2, 5)},
        "panels": {
            "array_id": "south-roof",
            "units": units("module", lambda unit: unit["stc_w"] > 300, 5),
            "least": 3,
            "most": 6,
        },
    }
    begun = time.perf_counter()
    search = app.ask("POST", f"api/designs/{made['id']}/kit-searches", ranges)
    time.sleep(6)
    meanwhile_ms, _ = edit_ms(driver, app, made["id"], "bank")
    while (now := app.ask("GET", f"api/kit-searches/{search['id']}/progress"))["is_live"]:
        time.sleep(0.2)
    took_s = time.perf_counter() - begun
    if now["fault"] or now["done"] != now["total"]:
        raise SystemExit(f"the kit search did not finish: {now}")
    return [
        (f"kit search, {now['total']:,} kits over a year [s]", took_s, "< 120 s a 1,000"),
        ("edit to strip while it runs, bank", meanwhile_ms, ""),
    ]


def list_ms(driver, app: Application) -> float:
    """Median time until the list's first page of fifty shows among five thousand designs [ms]."""
    for number in range(5_000):
        app.ask("POST", "api/designs", {"start": "home", "name": f"House {number}"})

    def look() -> None:
        driver.get(app.address)
        while len(driver.find_elements(By.CSS_SELECTOR, "[data-test=designs] tbody tr")) < 50:
            time.sleep(0.01)

    return median_ms(look, 5)


def units_ms(app: Application) -> float:
    """Time to fill the library with five thousand units [ms]."""
    header = "library_id,name,chemistry,unit_v,unit_ah,unit_max_charge_a,cycle_points,price\n"
    rows = "".join(f"lot-{n},Lot block {n},lfp,12.8,{50 + n % 200},50,0.8:6000,{n}\n" for n in range(5000))
    begun = time.perf_counter()
    app.ask("POST", "api/library/battery/import", {"text": header + rows})
    return (time.perf_counter() - begun) * 1000


def edit_ms(driver, app: Application, design_id: str, path: str) -> tuple[float, float]:
    """Median of twenty edits of one number [ms]."""
    driver.get(f"{app.address}designs/{design_id}/{path}")
    time.sleep(2.5)
    selector = (
        '[data-path="bank.unit_ah"] input, input[data-path="bank.unit_ah"]'
        if path == "bank"
        else '[data-column="running"]'
    )
    field = driver.find_elements(By.CSS_SELECTOR, selector)[0]
    for number in range(RUNS + 1):
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(str(90 + number), Keys.TAB)
        # Longer than the save's delay, so that saving is part of what is measured.
        time.sleep(0.7)
    return edited_ms(driver, path)


def slot_ms(driver, app: Application, design_id: str) -> tuple[float, float]:
    """Median of twenty circuits taken off the backup supply and put back by key [ms]."""
    driver.get(f"{app.address}designs/{design_id}/transfer?part=panel")
    time.sleep(2.5)
    driver.find_element(By.CSS_SELECTOR, "[data-test=slot-1]").click()
    for _ in range(RUNS + 1):
        driver.switch_to.active_element.send_keys("b")
        time.sleep(0.7)
    return edited_ms(driver, "transfer")


def run_ms(driver, app: Application, design_id: str) -> tuple[float, float]:
    """Median of twenty edits of the length of the bank's leads [ms]."""
    driver.get(f"{app.address}designs/{design_id}/wiring?part=runs")
    time.sleep(2.5)
    driver.find_element(By.CSS_SELECTOR, "[data-run=bank]").click()
    time.sleep(0.5)
    field = driver.find_element(By.XPATH, "//label[normalize-space()='Length, one way']/..//input")
    for number in range(RUNS + 1):
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(str(4 + number), Keys.TAB)
        time.sleep(0.7)
    return edited_ms(driver, "wiring")


def edited_ms(driver, path: str) -> tuple[float, float]:
    """Median times from an edit to the strip redrawn and to the whole page, of the last edits on a page [ms]."""
    found = []
    for name in ("hk-edit-to-strip", "hk-edit-to-page"):
        times = driver.execute_script(
            "return performance.getEntriesByName(arguments[0]).map((entry) => entry.duration)", name
        )
        if len(times) < RUNS:
            raise SystemExit(f"only {len(times)} edits were measured on {path}")
        found.append(statistics.median(times[-RUNS:]))
    return found[0], found[1]


def edits(what: str, times_ms: tuple[float, float], promised: str) -> list[tuple[str, float, str]]:
    """The lines of an edit: to the strip, and to the whole page."""
    return [(f"edit to strip, {what}", times_ms[0], promised), (f"edit to page, {what}", times_ms[1], "")]


def year_of_starts() -> list[tuple[str, float, str]]:
    """The trials, in a process of their own whose memory is that of nothing else."""
    done = subprocess.run([sys.executable, "-m", "bench.trials"], check=True, capture_output=True, text=True)
    return [(name, value, promised) for name, value, promised in json.loads(done.stdout)]


def main() -> int:
    """Print one line a figure, and write them all by name where a file is given."""
    parser = argparse.ArgumentParser(prog="hearth bench", description="Measure speed in the core and the browser.")
    parser.add_argument("--json", type=Path, metavar="FILE", help="write every figure by name into this file as well")
    options = parser.parse_args()
    found = [*year_of_starts(), *kernel(), *core(), *browser()]
    for name, value, promised in found:
        print(f"{name:48} {value:9.2f}   {promised}")
    if options.json:
        options.json.write_text(json.dumps({name: value for name, value, _ in found}, indent=2) + "\n")
    return 0


if __name__ == "__main__":
    sys.exit(main())
