"""Take the pictures of docs/screenshots from the demo data: ./hearth exec python scripts/screenshots.py [NAME ...]"""

from __future__ import annotations

import base64
import sys
import time
from pathlib import Path

from selenium import webdriver
from selenium.webdriver.common.by import By

from tests.support.designs import ROOT
from tests.support.live import Application, chromium

STEPS = ("storm", "loads", "bank", "inverter", "charging")


def shoot(driver: webdriver.Chrome, target: Path) -> None:
    """Write what the window shows, once it has settled."""
    time.sleep(0.8)
    picture = driver.execute_cdp_cmd("Page.captureScreenshot", {"format": "png"})["data"]
    target.write_bytes(base64.b64decode(picture))


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
        design_id = app.ask("GET", "api/designs")[0]["id"]
        pages = {"designs": app.address} | {step: f"{app.address}designs/{design_id}/{step}" for step in STEPS}
        for name, address in pages.items():
            if not names or name in names:
                driver.get(address)
                shoot(driver, folder / f"{name}.png")
        if not names or "loads-night" in names:
            driver.get(pages["loads"])
            time.sleep(0.8)
            driver.find_element(By.CSS_SELECTOR, '[aria-label="Night theme"]').click()
            shoot(driver, folder / "loads-night.png")
    finally:
        driver.quit()
        app.remove()


if __name__ == "__main__":
    main(sys.argv[1:])
