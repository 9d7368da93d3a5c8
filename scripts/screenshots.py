"""Take the pictures of docs/screenshots from the demo data: ./hearth exec python scripts/screenshots.py [NAME ...]"""

from __future__ import annotations

import base64
import io
import json
import sys
import time
from pathlib import Path

from PIL import Image
from selenium import webdriver
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.support.built import MOMENT, build, keep_log, outage_on
from tests.support.designs import ROOT
from tests.support.live import Application, chromium, resize
from tests.support.standing_in import Standing

STEPS = ("storm", "loads", "bank")
TO_SECOND_ARRAY = (
    "const page = document.querySelector('.page'), array = document.querySelectorAll('.array')[1];"
    "page.scrollTop += array.getBoundingClientRect().top - page.getBoundingClientRect().top - 12"
)
#: Parts of the Charging page, taken from the demo home with two roofs and a generator.
CHARGING_PARTS = {"charging": "sun"}


def taken(driver: webdriver.Chrome) -> bytes:
    """What the window shows, once it has settled."""
    time.sleep(0.8)
    return base64.b64decode(driver.execute_cdp_cmd("Page.captureScreenshot", {"format": "png"})["data"])


def shoot(driver: webdriver.Chrome, target: Path) -> None:
    """Write what the window shows."""
    target.write_bytes(taken(driver))


def beside(pictures: list[bytes], target: Path, *, columns: int = 3) -> None:
    """Pictures of one height in one file, so many beside each other."""
    images = [Image.open(io.BytesIO(picture)).convert("RGB") for picture in pictures]
    rows = [images[first : first + columns] for first in range(0, len(images), columns)]
    gap = 24
    width = max(sum(image.width + gap for image in row) - gap for row in rows)
    sheet = Image.new("RGB", (width, sum(row[0].height + gap for row in rows) - gap), "white")
    top = 0
    for row in rows:
        left = 0
        for image in row:
            sheet.paste(image, (left, top))
            left += image.width + gap
        top += row[0].height + gap
    sheet.save(target, optimize=True)


#: What is typed at the strings of a home whose east roof and south wall are exchanged.
EXCHANGED = {"east-roof": "104.6", "west-roof": "139.8", "south-wall": "139.9"}
#: So long it takes until faults are named [s].
FAULTS_S = 130.0
#: The kits found, brought to the top of the page.
SHOW_KITS = """
const page = document.querySelector('.page'), found = document.querySelector('[data-test=kit-verdict]')
page.scrollTop += found.getBoundingClientRect().top - page.getBoundingClientRect().top - 60
"""
#: A gate brought to the top of the page.
SHOW_GATE = """
const page = document.querySelector('.page'), gate = document.querySelector('[data-test=gate-strings]')
page.scrollTop += gate.getBoundingClientRect().top - page.getBoundingClientRect().top - 8
"""


def kept(driver: webdriver.Chrome, folder: Path, app: Application, design_id: str, names: list[str]) -> None:
    """Gates, one of them with a fault, and a month of the log, at the desk and in the hand; an outage that is on, and a drill."""
    if names and not any(name.startswith(("build", "logbook", "phone", "watch", "drill")) for name in names):
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
    in_hand = [taken(driver)]
    outage(driver, folder, app, in_hand)


def in_theme(driver: webdriver.Chrome, night: bool) -> None:
    """Choose a theme; by night Watch asks for its own."""
    for key in driver.find_elements(By.CSS_SELECTOR, f'[aria-label="{"Night" if night else "Day"} theme"]'):
        key.click()
    time.sleep(0.6)


def outage(driver: webdriver.Chrome, folder: Path, app: Application, in_hand: list[bytes]) -> None:
    """Watch by day and by night, and in the hand beside the log and the family's card; a storm that is drilled on."""
    names = {found["name"]: found["id"] for found in app.ask("GET", "api/designs")["designs"]}
    home = next(key for name, key in names.items() if name.startswith("Birchrow 14"))
    roofs = next(key for name, key in names.items() if "Terrace 16" in name)
    document = app.ask("GET", f"api/designs/{home}")["document"]
    place = app.ask("POST", f"api/designs/{home}/installations", {"name": "Birchrow 14, cellar"})["id"]
    outage_on(app, place, offset_h=document["site"]["utc_offset_h"], since_h=19, help_in_h=41, charge=71.0)
    resize(driver, 1280, 800)
    driver.get(f"{app.address}designs/{home}/watch")
    time.sleep(2.5)
    in_theme(driver, night=False)
    shoot(driver, folder / "watch.png")
    in_theme(driver, night=True)
    by_night = [taken(driver), devices(driver, app, roofs)]
    beside(by_night, folder / "watch-night.png")
    driver.get(f"{app.address}designs/{home}/watch")
    resize(driver, 390, 844)
    driver.refresh()
    time.sleep(2.0)
    in_hand.append(taken(driver))
    driver.get(f"{app.address}designs/{home}/card")
    time.sleep(2.0)
    in_hand.append(taken(driver))
    beside(in_hand, folder / "phones.png")
    resize(driver, 1280, 800)
    driver.get(f"{app.address}designs/{roofs}/drill")
    time.sleep(1.0)
    in_theme(driver, night=False)
    seed = driver.find_element(By.CSS_SELECTOR, "[data-test=drill-seed] input, input[data-test=drill-seed]")
    seed.send_keys(Keys.CONTROL, "a")
    seed.send_keys("7", Keys.ENTER)
    for key in ("drill-begin", "pass-3", "all-ease-off", "pass-3", "pass-morning", "pass-morning", "start-generator",
                "pass-morning", "cross-read", "pass-morning"):  # fmt: skip
        driver.find_element(By.CSS_SELECTOR, f"[data-test={key}]").click()
        time.sleep(0.8)
    shoot(driver, folder / "drill.png")


def devices(driver: webdriver.Chrome, app: Application, design_id: str) -> bytes:
    """Devices that are asked on Watch, two of them with a fault that is named."""
    place = app.ask("GET", f"api/designs/{design_id}/installations")[0]["id"]
    beside_it = app.ask("GET", "api/stand-ins")
    for device, fault in (("monitor", "reversed"), ("generator", "dropped")):
        app.ask("POST", "api/stand-ins/fault", {"device": device, "fault": fault, "on": True})
    app.ask("PUT", f"api/installations/{place}/sources", beside_it["sources"])
    time.sleep(FAULTS_S)
    driver.get(f"{app.address}designs/{design_id}/watch")
    time.sleep(3.0)
    in_theme(driver, night=True)
    driver.find_element(By.CSS_SELECTOR, "[data-test=stand-ins] summary").click()
    driver.execute_script("document.querySelector('[data-test=devices]').scrollIntoView({ block: 'end' })")
    time.sleep(0.5)
    return taken(driver)


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
    """The map, the curve, one thing wrong, and a kit search."""
    if names and "trials" not in names:
        return
    views = []
    for part in ("map", "curve", "failures", "kits"):
        driver.get(f"{app.address}designs/{design_id}/trials?part={part}")
        time.sleep(3.0)
        if part == "failures":
            driver.find_element(By.CSS_SELECTOR, "[data-test=failures]").send_keys(Keys.ARROW_DOWN, Keys.ARROW_DOWN)
        if part == "kits":
            driver.find_element(By.CSS_SELECTOR, "[data-test=search-kits]").click()
            time.sleep(3.0)
            while driver.find_elements(By.CSS_SELECTOR, "[data-test=cancel-search]"):
                time.sleep(0.5)
            driver.execute_script(SHOW_KITS)
        views.append(taken(driver))
    beside(views, folder / "trials.png", columns=2)


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
            views = []
            for part in ("strips", "differences", "figures"):
                driver.find_element(By.CSS_SELECTOR, f"[data-part={part}]").click()
                if part == "figures":
                    in_theme(driver, night=True)
                views.append(taken(driver))
            beside(views, folder / "side-by-side.png")
            in_theme(driver, night=False)
        else:
            shoot(driver, folder / f"{name}.png")


def papers(driver: webdriver.Chrome, folder: Path, app: Application, design_id: str, names: list[str]) -> None:
    """The page with its papers."""
    if not names or "papers" in names:
        driver.get(f"{app.address}designs/{design_id}/papers")
        until = time.monotonic() + 60
        while not driver.find_elements(By.CSS_SELECTOR, "[data-test=as-pdf]") and time.monotonic() < until:
            time.sleep(0.3)
        time.sleep(2.0)
        shoot(driver, folder / "papers.png")


#: The data folder of this run is of no interest, and differs each time.
HIDE_PLACE = """
for (const place of document.querySelectorAll('[data-test=backup-note] .path'))
  place.textContent = place.textContent.replace(/.*(?=\\/backups)/, '/home/you/hearth-keep/.hearth')
"""


def main(names: list[str]) -> None:
    """All pictures, or those named, with simulated devices beside the application."""
    with Standing("birchrow-16", since_h=5.0) as standing:
        pictures(names, Application(standing.base))


def pictures(names: list[str], app: Application) -> None:
    """All pictures of an application, or those named."""
    folder = ROOT / "docs" / "screenshots"
    folder.mkdir(parents=True, exist_ok=True)
    app.start()
    driver = chromium()
    try:
        driver.get(app.address)
        time.sleep(1.0)
        design_id = app.ask("GET", "api/designs")["designs"][0]["id"]
        if not names or "designs" in names:
            driver.execute_script(HIDE_PLACE)
            views = [taken(driver)]
            driver.find_element(By.CSS_SELECTOR, "[data-test=new-pattern]").click()
            time.sleep(3.0)
            beside([*views, taken(driver)], folder / "designs.png")
        for step in STEPS:
            if not names or step in names:
                driver.get(f"{app.address}designs/{design_id}/{step}")
                shoot(driver, folder / f"{step}.png")
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
