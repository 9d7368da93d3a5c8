"""Take the pictures of docs/screenshots from the demo data: ./hearth exec python scripts/screenshots.py [NAME ...]"""

from __future__ import annotations

import base64
import sys
import time
from datetime import date
from pathlib import Path

from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from hearthkeep.core.design import read_design
from hearthkeep.papers import Audience, gather, page_image, print_paper
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


def phone(driver: webdriver.Chrome, folder: Path, address: str, names: list[str]) -> None:
    """The audit in the hand."""
    if names and "phone-loads" not in names:
        return
    resize(driver, 390, 844)
    driver.get(address)
    shoot(driver, folder / "phone-loads.png")


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


#: The picture from its first line on.
SHOW_PICTURE = """
const page = document.querySelector('.page'), line = document.querySelector('[data-test=kit-summary]')
page.scrollTop += line.getBoundingClientRect().top - page.getBoundingClientRect().top - 12
"""


def trials(driver: webdriver.Chrome, folder: Path, app: Application, design_id: str, names: list[str]) -> None:
    """The map, one thing wrong, and a kit search."""
    for name, part in (
        ("trials", "map"),
        ("trials-failures", "failures"),
        ("trials-kits", "kits"),
    ):
        if names and name not in names:
            continue
        driver.get(f"{app.address}designs/{design_id}/trials?part={part}")
        time.sleep(3.0)
        if part == "kits":
            driver.find_element(By.CSS_SELECTOR, "[data-test=search-kits]").click()
            time.sleep(3.0)
            while driver.find_elements(By.CSS_SELECTOR, "[data-test=cancel-search]"):
                time.sleep(0.5)
            driver.execute_script(SHOW_PICTURE)
        if part == "failures":
            driver.find_element(By.CSS_SELECTOR, "[data-test=failures]").send_keys(Keys.ARROW_DOWN, Keys.ARROW_DOWN)
        shoot(driver, folder / f"{name}.png")


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
SHEETS = {"paper-one-line": ("electrician", 2), "paper-family": ("family", 1), "paper-proof": ("client", 1)}


def papers(driver: webdriver.Chrome, folder: Path, app: Application, design_id: str, names: list[str]) -> None:
    """The page with its papers, and three sheets as they are printed."""
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
        phone(driver, folder, pages["loads"], names)
    finally:
        driver.quit()
        app.remove()


if __name__ == "__main__":
    main(sys.argv[1:])
