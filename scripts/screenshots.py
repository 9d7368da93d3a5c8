"""Take the pictures of docs/screenshots from the demo data: ./hearth exec python scripts/screenshots.py [NAME ...]"""

from __future__ import annotations

import base64
import sys
import time
from pathlib import Path

from selenium import webdriver
from selenium.webdriver.common.by import By

from tests.support.designs import ROOT
from tests.support.live import Application, chromium, resize

STEPS = ("storm", "loads", "bank", "inverter")
TO_SECOND_ARRAY = (
    "const page = document.querySelector('.page'), array = document.querySelectorAll('.array')[1];"
    "page.scrollTop += array.getBoundingClientRect().top - page.getBoundingClientRect().top - 12"
)
#: Parts of the Charging page, taken from the demo home with two roofs and a generator.
CHARGING_PARTS = {
    "charging": "sun",
    "charging-year": "year",
}


#: A sheet with decimal commas, a misspelt tier and a rate of watts, pasted into the entry line.
SHEET = "\n".join(
    (
        "Device\tW/h\tQty\tDuty %\tHours\tPriority\tSource",
        "Chest freezer\t92,5\t1\t33\tall day\tKeep\tmeter 0,75 kWh in 24 h at 95 W",
        "Router and fibre box\t15,5\t1\t100\tall day\tKeep\tspot 15,5 W step 0.5",
        "Porch lamp\t7\t2\t100\t17-23\tEas\tnameplate",
        "Radio\t6\t1\t100\t7-8, 18-21\tEase\tguess",
        "Workshop heater\tlots\t1\t100\t9-25\tSpare\t",
        "LED lamps\t8\t6\t100\t6-8, 16-22\tEase\tnameplate",
    )
)
PASTE = (
    "const data = new DataTransfer(); data.setData('text/plain', arguments[0]);"
    "document.querySelector('[data-test=entry]').dispatchEvent("
    "new ClipboardEvent('paste', {clipboardData: data, bubbles: true, cancelable: true}))"
)


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
    """The advisor, and the panel with a circuit picked."""
    for name, part in (("transfer", "arrangement"), ("transfer-panel", "panel")):
        if names and name not in names:
            continue
        driver.get(f"{app.address}designs/{design_id}/transfer?part={part}")
        time.sleep(1.2)
        if part == "panel":
            driver.find_element(By.CSS_SELECTOR, "[data-test=slot-11]").click()
        shoot(driver, folder / f"{name}.png")


def wiring(driver: webdriver.Chrome, folder: Path, app: Application, names: list[str]) -> None:
    """Runs, one-line and board of the home with two roofs and a generator."""
    roofs = next(found["id"] for found in app.ask("GET", "api/designs")["designs"] if "Terrace 16" in found["name"])
    for name, part in (
        ("wiring", "runs"),
        ("wiring-one-line", "one-line"),
        ("wiring-board", "board"),
    ):
        if names and name not in names:
            continue
        driver.get(f"{app.address}designs/{roofs}/wiring?part={part}")
        time.sleep(1.4)
        if part == "board":
            driver.find_element(By.CSS_SELECTOR, "[data-part=inverter-1]").click()
            driver.execute_script("document.querySelector('.page').scrollTo(0, 172)")
        shoot(driver, folder / f"{name}.png")


def trials(driver: webdriver.Chrome, folder: Path, app: Application, design_id: str, names: list[str]) -> None:
    """The map, and the worst starts with one of them on the strip."""
    for name, part in (("trials", "map"), ("trials-worst", "worst")):
        if names and name not in names:
            continue
        driver.get(f"{app.address}designs/{design_id}/trials?part={part}")
        time.sleep(2.0)
        if part == "worst":
            driver.find_elements(By.CSS_SELECTOR, ".acts button")[0].click()
        shoot(driver, folder / f"{name}.png")


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
        for part in ("sheet", "arrangement"):
            if not names or f"bank-{part}" in names:
                driver.get(f"{pages['bank']}?part={part}")
                shoot(driver, folder / f"bank-{part}.png")
        transfer(driver, folder, app, design_id, names)
        wiring(driver, folder, app, names)
        trials(driver, folder, app, design_id, names)
        if not names or "loads-sheet" in names:
            driver.get(pages["loads"])
            time.sleep(0.8)
            driver.execute_script(PASTE, SHEET)
            shoot(driver, folder / "loads-sheet.png")
        if not names or "loads-night" in names:
            driver.get(pages["loads"])
            time.sleep(0.8)
            driver.find_element(By.CSS_SELECTOR, '[aria-label="Night theme"]').click()
            shoot(driver, folder / "loads-night.png")
        phone(driver, folder, pages["loads"], names)
    finally:
        driver.quit()
        app.remove()


if __name__ == "__main__":
    main(sys.argv[1:])
