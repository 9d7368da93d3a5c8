"""
Every page, once, with as much on it as may be: in three windows and a hand nothing sticks out, nothing is cut off, and no theme has
a serious accessibility fault. The contrast of the palette's pairs is held in tests/web/test_units.py.
"""

import json
import time
import urllib.parse

from tests.support.built import build, keep_log, outage_on
from tests.support.designs import ROOT
from tests.support.live import BrowserTest, resize

#: In three lots, so that they can be looked at side by side.
SUPPLY = (
    "storm",
    "loads",
    "bank",
    *(f"bank?part={part}" for part in ("sheet", "arrangement", "chemistry", "place")),
    "inverter",
    "inverter?part=choice",
    "charging",
    *(f"charging?part={part}" for part in ("day", "year", "generator", "grid", "others", "stages")),
)
HOUSE = (
    "transfer",
    *(f"transfer?part={part}" for part in ("device", "panel", "order", "drill")),
    *(f"wiring?part={part}" for part in ("runs", "one-line", "faults", "lists")),
    "stages",
    *(f"build?part={part}" for part in ("gates", "cross", "tests")),
    *(f"logbook?part={part}" for part in ("log", "corrections", "upkeep", "outages", "take")),
    "watch",
    "drill",
    "papers",
)
PROOF = (
    *(f"trials?part={part}" for part in ("map", "curve", "worst", "failures", "more", "kits", "record")),
    *(f"opinions?part={part}" for part in ("methods", "have")),
    *(f"side-by-side?part={part}" for part in ("figures", "strips", "differences")),
)
#: What looks otherwise where there is no grid.
ALONE = ("storm", "transfer", *(f"transfer?part={part}" for part in ("device", "order", "drill")), "trials?part=year")
AXE = (ROOT / "web" / "node_modules" / "axe-core" / "axe.min.js").read_text()
#: Two roofs, known panels, shade, a generator and wind.
NEIGHBOUR = json.loads((ROOT / "examples" / "birchrow-16.json").read_text())
HILL_HOUSE = json.loads((ROOT / "examples" / "hill-house.json").read_text())
#: What may be a job takes so long on a busy machine [s].
LONG_S = 240.0
#: A page's parts come one after the other; until then some of them are not there.
SETTLED = {
    "papers": "[data-test=as-pdf]",
    "watch": "[data-test=watch-ahead] svg",
    "drill": "[data-test=drill-loads]",
    "build?part=gates": "[data-test=gate-handover]",
    "build?part=cross": "[data-test=cross-said]",
    "logbook?part=log": "[data-test=log-plot] svg",
    "logbook?part=corrections": "[data-test^=correction]",
    "logbook?part=upkeep": "[data-test=task-alarms]",
    "logbook?part=outages": "[data-test=outage-day]",
    "logbook?part=take": "[data-test=log-file]",
    "build?part=tests": "[data-test=load-step-1]",
    "charging?part=year": "[data-test=months]",
    "charging?part=others": "[data-test=habits]",
    "transfer": "[data-test=advice]",
    "wiring?part=runs": "[data-run]",
    "wiring?part=one-line": "[data-test=one-line-rows]",
    "wiring?part=faults": "[data-test=faults]",
    "wiring?part=lists": "[data-test=total]",
    "trials?part=year": "[data-test=off-grid-year] svg",
    "trials?part=map": "[data-test=carried-map] svg",
    "trials?part=curve": "[data-test=chart-plot] svg",
    "trials?part=worst": "[data-test=worst]",
    "trials?part=failures": "[data-test=failures] svg",
    "trials?part=more": "[data-test=one-more]",
    "trials?part=kits": "[data-test=left-out]",
    "trials?part=record": "[data-test=record-text]",
    "stages": "[data-test=add-stage]",
    "side-by-side?part=figures": "[data-test=columns] .bar",
    "side-by-side?part=strips": "[data-test=laid] svg",
    "side-by-side?part=differences": "[data-test=stairs] svg",
    "opinions?part=methods": "[data-test=said]",
    "opinions?part=have": "[data-test=have]",
}
#: Windows in which every page is looked at.
DESK, SMALL, WIDE, HAND = (1280, 800), (1024, 700), (1920, 1000), (390, 844)
#: The key of a theme leads to the other one.
OTHER = {"Day": "Night", "Night": "Day"}
LONG = "A very long name of a thing that somebody typed without thinking of the width of any column, 1/3 hp, left of the door"


class LookTest(BrowserTest):
    def settle(self, design_id, step):
        """Open a page with everything on it, its folded parts unfolded."""
        if step.startswith("side-by-side") and len(self.app.ask("GET", f"api/designs/{design_id}/alternatives")) == 1:
            document = self.app.ask("GET", f"api/designs/{design_id}")["document"]
            smaller = {**document, "bank": {**document["bank"], "parallel": 1}, "loads": document["loads"][:-5]}
            label = urllib.parse.quote(LONG[:60])
            self.app.ask("POST", f"api/designs/{design_id}/alternatives/of-document?label={label}", smaller)
        if step.startswith(("build", "logbook")) and not self.app.ask("GET", f"api/designs/{design_id}/installations"):
            # As long a name as the design's own.
            name = self.app.ask("GET", f"api/designs/{design_id}")["document"]["name"]
            keep_log(self.app, build(self.app, design_id, until="strings", name=name), stc_w=2400.0)
        if step == "watch":
            self.put_outage(design_id)
        self.open(design_id, step)
        if step == "drill" and self.maybe("[data-test=drill-begin]"):
            self.maybe("[data-test=drill-begin]").click()
        if step in SETTLED:
            self.until(lambda: self.maybe(SETTLED[step]), within_s=LONG_S)
        self.driver.execute_script("document.querySelectorAll('details').forEach((part) => (part.open = true))")

    def put_outage(self, design_id):
        document = self.app.ask("GET", f"api/designs/{design_id}")["document"]
        places = self.app.ask("GET", f"api/designs/{design_id}/installations")
        if places and self.app.ask("GET", f"api/installations/{places[0]['id']}/entries?kind=watch"):
            return
        name = {"name": document["name"]}
        place = places[0] if places else self.app.ask("POST", f"api/designs/{design_id}/installations", name)
        outage_on(
            self.app, place["id"], offset_h=document["site"]["utc_offset_h"], since_h=19, help_in_h=41, charge=71.0
        )

    def at(self, size):
        """The page in a window of another size, once it has followed."""
        resize(self.driver, *size)
        self.driver.execute_async_script(
            "const done = arguments[0]; requestAnimationFrame(() => requestAnimationFrame(() => requestAnimationFrame(done)))"
        )

    def stays(self, look, within_s=2.0):
        """What a look finds and goes on finding; what is drawn by the width of its place comes a moment later."""
        give_up = time.monotonic() + within_s
        while (found := look()) and time.monotonic() < give_up:
            time.sleep(0.1)
        return found

    def by(self, theme):
        """The page in a theme, at once."""
        self.driver.execute_script(
            "const still = new CSSStyleSheet(); still.replaceSync('* { transition: none !important }');"
            "document.adoptedStyleSheets = [still]"
        )
        key = self.maybe(f'[aria-label="{theme} theme"]')
        if key:
            key.click()
        self.the(f'[aria-label="{OTHER[theme]} theme"]')
        self.at(DESK)

    def faults(self, only=("wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "best-practice")):
        self.driver.execute_script(AXE)
        found = self.driver.execute_async_script(
            "const done = arguments[1]; axe.run(document, {runOnly: arguments[0]}).then((result) => done(result.violations))",
            list(only),
        )
        return [
            (fault["id"], fault["nodes"][0]["html"][:160], fault["nodes"][0].get("failureSummary", "")[:300])
            for fault in found
            if fault["impact"] in ("serious", "critical")
        ]

    def sideways(self):
        """Parts that stick out of the window or scroll sideways inside it."""
        return self.driver.execute_script(
            "return [...document.querySelectorAll('main, aside, nav, header, section, table')]"
            ".filter((part) => part.getBoundingClientRect().right > innerWidth + 1 || "
            "(part.scrollWidth > part.clientWidth + 1 && !['TABLE'].includes(part.tagName)))"
            ".map((part) => `${part.tagName}.${part.className} ${part.scrollWidth}/${part.clientWidth}`)"
        )

    def sideways_in_hand(self):
        """What makes the window, a pane or a dialog scroll sideways; a wide table has a place of its own to do so."""
        return self.driver.execute_script(
            "return [document.documentElement, ...document.querySelectorAll('main, aside, nav, header, section')]"
            ".filter((part) => part.getBoundingClientRect().right > innerWidth + 1 || "
            "part.scrollWidth > part.clientWidth + 1)"
            ".filter((part) => part.clientWidth > 1)"
            ".map((part) => `${part.tagName}.${part.className} ${part.scrollWidth}/${part.clientWidth}`)"
        )

    def cut(self):
        """Words and numbers that do not fit where they stand."""
        return self.driver.execute_script(
            "return [...document.querySelectorAll('main input, main .v-select__selection-text, main button:not(.v-btn), "
            "main .v-btn__content, main label, main th, main dt, main dd')]"
            # One pixel wide is what is heard and not seen; a list's own input lies hidden under its words.
            ".filter((part) => part.offsetParent && part.clientWidth > 1 && part.scrollWidth > part.clientWidth + 1 "
            "&& !(part.tagName === 'INPUT' && part.closest('.v-select')))"
            # A name of any length may be shortened.
            ".filter((part) => !(part.value || part.innerText).includes(arguments[0]))"
            ".map((part) => `${part.tagName} ${part.value || part.innerText} ${part.scrollWidth}/${part.clientWidth}`)",
            LONG[2:16],
        )

    def touching(self):
        """Framed fields whose words stand against the frame."""
        return self.driver.execute_script(
            "return [...document.querySelectorAll('.v-field--variant-outlined .v-field__input')]"
            ".filter((part) => part.offsetParent && parseFloat(getComputedStyle(part).paddingLeft) < 6)"
            ".map((part) => `${part.tagName} ${part.value || part.innerText}`)"
        )

    def crowded(self):
        """60 loads, and names as long as they may be."""
        loads = [
            {**self.birchrow["loads"][number % 11], "id": f"l{number}", "name": f"{number} {LONG}"[:120]}
            for number in range(60)
        ]
        days = self.birchrow["outage"]["days"]
        charging = json.loads(json.dumps(NEIGHBOUR["charging"]))
        for controller in charging["controllers"]:
            for array in controller["arrays"]:
                array["name"] = array["module"]["name"] = LONG
            controller["name"] = LONG
        transfer = json.loads(json.dumps(self.birchrow["transfer"]))
        for circuit in transfer["circuits"]:
            circuit["name"] = circuit["why"] = LONG[:120]
        array = {**charging["controllers"][0]["arrays"][0], "id": "tied"}
        charging["grid_tied"] = {"rated_w": 2000.0, "arrays": [array], "throttle": "blocks", "blocks": 3}
        return {
            "name": LONG,
            "growth": [
                {
                    "id": "next",
                    "title": LONG[:120],
                    "panels": [{"array_id": charging["controllers"][0]["arrays"][0]["id"], "stc_w": 900.0}],
                },
                {"id": "some", "title": LONG[:120], "in_years": 9.0, "loads": [{**loads[0], "id": "later"}]},
            ],
            "transfer": transfer,
            "loads": loads,
            "charging": charging,
            "outage": {**self.birchrow["outage"], "days": days},
            "site": {**self.birchrow["site"], "place": LONG},
        }


class PagesTest(LookTest):
    """Each page is opened once and looked at in every window and theme."""

    def setUp(self):
        self.addCleanup(resize, self.driver, *DESK)

    def look_at(self, page):
        self.by("Day")
        for size in (DESK, SMALL, WIDE):
            self.at(size)
            with self.subTest(page=page, size=size):
                found = self.stays(self.sideways), self.stays(self.cut), self.touching()
                self.assertEqual(found, ([], [], []))
        self.at(HAND)
        with self.subTest(page=page, size=HAND):
            self.assertEqual(self.stays(self.sideways_in_hand), [])
        # By day at the desk, by night in the hand.
        for theme, size in (("Day", DESK), ("Night", HAND)):
            self.by(theme)
            self.at(size)
            with self.subTest(page=page, theme=theme):
                self.assertEqual(self.faults(), [])
        self.by("Day")

    def look_at_all(self, design_id, pages):
        for page in pages:
            self.at(DESK)
            self.settle(design_id, page)
            self.look_at(page)


class SupplyPages(PagesTest):
    def test_from_the_storm_to_its_charging(self):
        self.look_at_all(self.fresh(**self.crowded()), SUPPLY)


class HousePages(PagesTest):
    def test_from_the_panel_to_the_papers(self):
        self.look_at_all(self.fresh(**self.crowded()), HOUSE)


class ProofPages(PagesTest):
    def test_trials_opinions_and_alternatives(self):
        self.look_at_all(self.fresh(**self.crowded()), PROOF)


class OtherPages(PagesTest):
    def test_off_the_grid(self):
        self.look_at_all(self.fresh(**HILL_HOUSE), ALONE)

    def test_the_list_of_designs(self):
        self.fresh(**self.crowded())
        self.driver.get(self.app.address)
        self.the("[data-test=designs]")
        self.look_at("designs")


class Accessibility(LookTest):
    def test_an_opened_row_and_an_explanation(self):
        self.fresh()
        self.named("More of Television").click()
        self.the("[data-test='explain-loads.daily_wh']").click()
        self.the("[data-test=explanation]")
        self.assertEqual(self.faults(), [])

    def test_the_library(self):
        self.fresh("bank")
        self.the("[data-test=open-library]").click()
        self.the("[data-test=library-total]")
        self.assertEqual(self.faults(), [])
