"""Take the pictures of docs/screenshots from the demo data: ./hearth exec python scripts/screenshots.py [NAME ...]"""

from __future__ import annotations

import base64
import json
import sys
import time
from datetime import date
from pathlib import Path

from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from hearthkeep.core.design import read_design
from hearthkeep.papers import Audience, gather, page_image, print_paper
from tests.support.built import MOMENT, build, keep_log
from tests.support.designs import ROOT
from tests.support.live import Application, chromium, resize

STEPS = ("storm", "loads", "bank")
TO_SECOND_ARRAY = (
    "const page = document.querySelector('.page'), array = document.querySelectorAll('.array')[1];"
    "page.scrollTop += array.getBoundingClientRect().top - page.getBoundingClientRect().top - 12"
)
#: Parts of the Charging page, taken from the demo home with two roofs and a generator.
CHARGING_PARTS = {"charging": "sun"}


def shoot(driver: webdriver.Chrome, target: Path) -> None:
    """Write what the window shows, once it has settled."""
    time.sleep(0.8)
    picture = driver.execute_cdp_cmd("Page.captureScreenshot", {"format": "png"})["data"]
    target.write_bytes(base64.b64decode(picture))


#: What is typed at the strings of a home whose east roof and south wall are exchanged.
EXCHANGED = {"east-roof": "104.6", "west-roof": "139.8", "south-wall": "139.9"}
#: A gate brought to the top of the page.
SHOW_GATE = """
const page = document.querySelector('.page'), gate = document.querySelector('[data-test=gate-strings]')
page.scrollTop += gate.getBoundingClientRect().top - page.getBoundingClientRect().top - 8
"""


def kept(driver: webdriver.Chrome, folder: Path, app: Application, design_id: str, names: list[str]) -> None:
    """Gates, one of them with a fault, instruments against each other, and a month of the log, at the desk and in the hand."""
    if names and not any(name.startswith(("build", "logbook", "phone")) for name in names):
        return
    place = build(app, design_id, until="strings")
    document = app.ask("GET", f"api/designs/{design_id}")["document"]
    keep_log(
        app,
        place,
        stc_w=sum(array["stc_w"] for each in document["charging"]["controllers"] for array in each["arrays"]),
    )
    moment = json.dumps({design_id: MOMENT})
    driver.get(f"{app.address}designs/{design_id}/build")
    driver.execute_script("localStorage.setItem('hearthkeep.moment', arguments[0])", moment)
    driver.execute_script(
        "localStorage.setItem('hearthkeep.who', 'Mo Harker'); localStorage.setItem('hearthkeep.instrument', 'Meter 7')"
    )
    driver.refresh()
    time.sleep(1.5)
    shoot(driver, folder / "build.png")
    for key, volts in EXCHANGED.items():
        read = f"read-strings.{key}.1_v"
        field = driver.find_element(By.CSS_SELECTOR, f"[data-test='{read}'] input, input[data-test='{read}']")
        field.send_keys(volts, Keys.ENTER)
        time.sleep(0.5)
    driver.find_element(By.TAG_NAME, "body").send_keys("s")
    time.sleep(0.5)
    driver.execute_script(SHOW_GATE)
    shoot(driver, folder / "build-gate.png")
    driver.get(f"{app.address}designs/{design_id}/build?part=cross")
    time.sleep(1.5)
    shoot(driver, folder / "build-cross.png")
    driver.get(f"{app.address}designs/{design_id}/logbook")
    time.sleep(2.5)
    shoot(driver, folder / "logbook.png")
    driver.find_element(By.TAG_NAME, "body").send_keys("s")
    resize(driver, 390, 844)
    driver.refresh()
    time.sleep(1.5)
    driver.find_element(By.CSS_SELECTOR, "[data-test=read-bank_v]").click()
    for key in ("5", "2", "point", "6"):
        driver.find_element(By.CSS_SELECTOR, f"[data-test=pad-{key}]").click()
    shoot(driver, folder / "phone-logbook.png")


def transfer(driver: webdriver.Chrome, folder: Path, app: Application, design_id: str, names: list[str]) -> None:
    """The panel with a circuit picked."""
    if names and "transfer" not in names:
        return
    driver.get(f"{app.address}designs/{design_id}/transfer?part=panel")
    time.sleep(1.2)
    driver.find_element(By.CSS_SELECTOR, "[data-test=slot-11]").click()
    shoot(driver, folder / "transfer.png")


def wiring(driver: webdriver.Chrome, folder: Path, app: Application, names: list[str]) -> None:
    """Runs of the home with two roofs and a generator."""
    roofs = next(found["id"] for found in app.ask("GET", "api/designs")["designs"] if "Terrace 16" in found["name"])
    if names and "wiring" not in names:
        return
    driver.get(f"{app.address}designs/{roofs}/wiring?part=runs")
    time.sleep(1.4)
    shoot(driver, folder / "wiring.png")


def trials(driver: webdriver.Chrome, folder: Path, app: Application, design_id: str, names: list[str]) -> None:
    """The map."""
    if names and "trials" not in names:
        return
    driver.get(f"{app.address}designs/{design_id}/trials?part=map")
    time.sleep(3.0)
    shoot(driver, folder / "trials.png")


def grown(driver: webdriver.Chrome, folder: Path, app: Application, design_id: str, names: list[str]) -> None:
    """The rules of thumb; two of their kits laid beside the design, by night; the stages in which it grows."""
    document = app.ask("GET", f"api/designs/{design_id}")["document"]
    bank, roof = document["bank"], document["charging"]["controllers"][0]["arrays"][0]
    unit = {key: bank[key] for key in ("chemistry", "unit_v", "unit_ah")}
    ahead = [
        {"id": "next", "title": "Next year", "in_years": 1, "battery": {**unit, "parallel": 2}},
        {
            "id": "some",
            "title": "Some day",
            "in_years": 3,
            "panels": [{"array_id": roof["id"], "stc_w": roof["stc_w"] / 2}],
            "inverter_units": 1,
        },
    ]
    alone = app.ask("POST", "api/designs/import", {**document, "growth": ahead})
    for kit, label in (
        ("ledger", "Amp-hour%20ledger"),
        ("depth", "Depth%20formula"),
        ("worksheet", "Full%20worksheet"),
    ):
        kitted = app.ask("POST", f"api/opinions/design?kit={kit}", document)
        app.ask("POST", f"api/designs/{alone['id']}/alternatives/of-document?label={label}", kitted)
    for name in ("opinions", "side-by-side", "stages"):
        if names and name not in names:
            continue
        driver.get(f"{app.address}designs/{alone['id']}/{name}")
        time.sleep(8.0 if name == "opinions" else 4.0)
        if name == "opinions":
            driver.find_element(By.CSS_SELECTOR, "[data-test=method-depth]").click()
        if name == "side-by-side":
            driver.find_element(By.CSS_SELECTOR, '[aria-label="Night theme"]').click()
        shoot(driver, folder / f"{name}.png")
        if name == "side-by-side":
            driver.find_element(By.CSS_SELECTOR, '[aria-label="Day theme"]').click()


#: Sheets that are shown as printed: of which paper, and which page of it.
SHEETS = {"paper-family": ("family", 1)}


def papers(driver: webdriver.Chrome, folder: Path, app: Application, design_id: str, names: list[str]) -> None:
    """The page with its papers, and a sheet as it is printed."""
    if not names or "papers" in names:
        driver.get(f"{app.address}designs/{design_id}/papers")
        until = time.monotonic() + 60
        while not driver.find_elements(By.CSS_SELECTOR, "[data-test=as-pdf]") and time.monotonic() < until:
            time.sleep(0.3)
        time.sleep(2.0)
        shoot(driver, folder / "papers.png")
    source = gather(
        read_design((ROOT / "examples" / "birchrow-16.json").read_bytes()), printed_on=date(2026, 11, 28), revision=1
    )
    for name, (audience, number) in SHEETS.items():
        if not names or name in names:
            (folder / f"{name}.png").write_bytes(page_image(print_paper(source, Audience(audience)).pdf, number, 1100))


#: The data folder of this run is of no interest, and differs each time.
HIDE_PLACE = """
for (const place of document.querySelectorAll('[data-test=backup-note] .path'))
  place.textContent = place.textContent.replace(/.*(?=\\/backups)/, '/home/you/hearth-keep/.hearth')
"""


def main(names: list[str]) -> None:
    """All pictures, or those named."""
    folder = ROOT / "docs" / "screenshots"
    folder.mkdir(parents=True, exist_ok=True)
    app = Application()
    app.start()
    driver = chromium()
    try:
        driver.get(app.address)
        time.sleep(1.0)
        design_id = app.ask("GET", "api/designs")["designs"][0]["id"]
        pages = {"designs": app.address} | {step: f"{app.address}designs/{design_id}/{step}" for step in STEPS}
        for name, address in pages.items():
            if not names or name in names:
                driver.get(address)
                time.sleep(1.0)
                driver.execute_script(HIDE_PLACE)
                shoot(driver, folder / f"{name}.png")
        if not names or "new" in names:
            driver.get(app.address)
            time.sleep(1.0)
            driver.find_element(By.CSS_SELECTOR, "[data-test=new-pattern]").click()
            time.sleep(2.0)
            shoot(driver, folder / "new.png")
        neighbour = next(
            found["id"] for found in app.ask("GET", "api/designs")["designs"] if "Terrace 16" in found["name"]
        )
        for name, part in CHARGING_PARTS.items():
            if not names or name in names:
                driver.get(f"{app.address}designs/{neighbour}/charging?part={part}")
                if part == "sun":
                    time.sleep(0.8)
                    driver.find_elements(By.CSS_SELECTOR, "details summary")[1].click()
                    driver.execute_script(TO_SECOND_ARRAY)
                shoot(driver, folder / f"{name}.png")
        transfer(driver, folder, app, design_id, names)
        wiring(driver, folder, app, names)
        trials(driver, folder, app, design_id, names)
        grown(driver, folder, app, design_id, names)
        papers(driver, folder, app, design_id, names)
        kept(driver, folder, app, neighbour, names)
    finally:
        driver.quit()
        app.remove()


if __name__ == "__main__":
    main(sys.argv[1:])
