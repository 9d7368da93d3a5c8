"""Every combination of arrangement, grid, grid input, relay, generator, panel and cords: what any sheet says exists, exists."""

import html
import itertools
import re
import unittest
from datetime import date

from hearthkeep.core.assess import assess
from hearthkeep.core.building import Moment, build_sheet
from hearthkeep.core.design import ArrangementKind, Bypass, Interlock, Practice, SourceBond
from hearthkeep.core.transfer import CORDS
from hearthkeep.core.upkeep import upkeep_of
from hearthkeep.papers import Audience, family_card, gather
from hearthkeep.papers.press import html_of
from tests.runner.profile import some
from tests.support.designs import array, birchrow, moved

DAY = date(2026, 11, 28)
#: Sheets that stand in other people's hands; the client's proof runs a year and names nothing of the arrangement.
SHEETS = (Audience.ELECTRICIAN, Audience.SHOP, Audience.WALL, Audience.FAMILY, Audience.RECORD)
GENERATOR = {"rated_w": 5000.0, "charger_w": 1000.0, "stock_l": 20.0, "tank_l": 15.0}
TIED = {"rated_w": 2000.0, "arrays": [array("roof", 2000.0)]}
K = ArrangementKind


def made(kind, off_grid, grid_input, bond, has_generator, has_panel, has_sun, metric):
    """A house of these, put together from the demo's loads and circuits."""
    base = birchrow()
    fields = {
        "site.off_grid": off_grid,
        "transfer.arrangement": None if kind is None else kind.value,
        "inverter.build": "inverter_charger" if grid_input else "separate",
        "charging.grid_charger.output_w": 1000.0 if grid_input else 0.0,
        "transfer.grounding.source_bond": bond.value,
        "charging.generator": GENERATOR if has_generator else None,
    }
    if has_panel:
        # The demo says in its own words why a circuit waits.
        fields |= {f"transfer.circuits.{at}.why": None for at in range(len(base.transfer.circuits))}
    else:
        fields["transfer.circuits"] = []
        fields["loads"] = [{**row.model_dump(mode="json"), "circuit": None} for row in base.loads]
    if kind is K.AC_COUPLED:
        fields["charging.grid_tied"] = TIED
    if not has_sun:
        fields["charging.controllers"] = []
    if metric:
        fields["practice"] = Practice.METRIC_230.value
    return moved(base, fields)


def combinations():
    """All that the format allows and no check refuses: off the grid nothing changes over, and with it the panel is not on its own."""
    for kind, off, grid_input, bond, generator, panel, sun, metric in itertools.product(
        (None, *K),
        (False, True),
        (True, False),
        (SourceBond.FLOATING, SourceBond.RELAY),
        (False, True),
        (True, False),
        (True, False),
        (False, True),
    ):
        if kind is None or kind in CORDS or (kind is K.OWN_PANEL) is off:
            yield kind, off, grid_input, bond, generator, panel, sun, metric


def refused():
    """The rest."""
    for kind, off in itertools.product(K, (False, True)):
        if kind not in CORDS and (kind is K.OWN_PANEL) is not off:
            yield kind, off


def has_grid(design):
    return not design.site.off_grid


def kind_in(*kinds):
    return lambda design: design.transfer.arrangement in kinds


def has_sun(design):
    return any(each.arrays for each in design.charging.controllers) or design.charging.grid_tied is not None


#: What is said, and of which designs it is true. Of a text in capitals the same.
STATEMENTS = (
    (r"\b(?<!off )the grid\b(?! is there)", has_grid),
    (r"utility's", has_grid),
    (r"the street|on the line\b|back into the wall", has_grid),
    (r"generator", lambda design: design.charging.generator is not None),
    (r"exhaust|carbon monoxide kills", lambda design: design.charging.generator is not None),
    (r"\bsolar\b|\barrays?\b|\bpanels\b|the sun\b", has_sun),
    (r"its relay joins", lambda design: design.transfer.grounding.source_bond is SourceBond.RELAY and kind_in(*CORDS)(design)),
    (r"relay's current", lambda design: design.charging.grid_charger.output_w > 0 and kind_in(K.CRITICAL_PANEL, K.AC_COUPLED)(design)),
    (r"waits until the grid is steady", lambda design: has_grid(design) and kind_in(K.CRITICAL_PANEL, K.AC_COUPLED)(design)),
    (r"\binlet\b(?! to its breaker)", lambda design: design.charging.generator is not None or (design.transfer.device.by_inlet and kind_in(K.INLET, K.MANUAL_SWITCH)(design))),
    (r"interlock", lambda design: (design.transfer.device.interlock is Interlock.MECHANICAL and kind_in(K.INLET, K.MANUAL_SWITCH, K.AUTOMATIC)(design)) or design.transfer.device.bypass is Bypass.INTERLOCKED),
    (r"transfer switch", kind_in(K.MANUAL_SWITCH, K.AUTOMATIC)),
    (r"bypass", lambda design: design.transfer.device.bypass is not Bypass.NONE),
    (r"shows (emergency|normal)", kind_in(K.AUTOMATIC)),
    (r"branch breaker", kind_in(K.INLET, K.OWN_PANEL)),
    (r"rapid shutdown", lambda design: any(each.rapid_shutdown for one in design.charging.controllers for each in one.arrays)),
    (r"\bnec\b", lambda design: design.practice is Practice.NORTH_AMERICAN),
    (r"\bhydrogen\b|\bacid\b", lambda design: design.bank.chemistry.value != "lfp"),
    (r"switched over and back|switch over, as in", lambda design: has_grid(design) and design.transfer.arrangement is not None),
)  # fmt: skip


def words_of(text):
    """The words of a page: markup, drawings and style left out, what a foot note of every design says as well, and calculations left out."""
    # What is missing or better otherwise is named by findings: it need not be there.
    text = re.sub(r'<style>.*?</style>|<svg.*?</svg>|<div class="(finding|band)">.*?</div>', " ", text, flags=re.DOTALL)
    # Formulas and their sources are those of every design.
    text = text.partition('id="calculations"')[0]
    return html.unescape(re.sub(r"<[^>]+>", " ", text))


def said_of(design):
    """Everything that is printed, signed or kept of a design, by where it stands."""
    source = gather(design, printed_on=DAY, revision=1)
    yield from ((sheet.value, words_of(html_of(source, sheet))) for sheet in SHEETS)
    card = family_card(source).texts[0]
    yield "card", " ".join([card.title, card.how_long, *card.steps, *card.cautions, *card.stays_off])
    yield "upkeep", " ".join(f"{each.title} {each.do}" for each in upkeep_of(design))
    gates = build_sheet(design, Moment(at=design.outage.start)).gates
    yield "gates", " ".join(" ".join([each.gate.title, each.gate.why, *each.gate.do]) for each in gates)


class TrueStatements(unittest.TestCase):
    def test_each_statement_is_true_of_its_design(self):
        for combination in some(combinations(), 23):
            design = made(*combination)
            for where, text in said_of(design):
                for pattern, holds in STATEMENTS:
                    if holds(design):
                        continue
                    found = re.search(pattern, text, re.IGNORECASE)
                    with self.subTest(where=where, pattern=pattern, of=[str(part) for part in combination]):
                        said = text[max(0, found.start() - 80) : found.end() + 60] if found else ""
                        self.assertIsNone(found, said)

    def test_what_does_not_go_together_is_a_finding(self):
        for kind, off in refused():
            design = made(kind, off, True, SourceBond.FLOATING, False, True, True, False)
            with self.subTest(kind=kind.value, off=off):
                codes = {finding.code for finding in assess(design).findings}
                self.assertTrue(codes & {"NO_GRID_TO_SWITCH", "GRID_LEFT_OUT"})

    def test_the_statements_are_made_where_they_hold(self):
        # Each pattern is met somewhere, so that none of them is dead.
        design = moved(
            made(K.CRITICAL_PANEL, False, True, SourceBond.FLOATING, True, True, True, False),
            {"charging.controllers.0.arrays.0": {**array("roof", 2000.0), "rapid_shutdown": True, "mounting": "building"},
             "transfer.device.bypass": "interlocked"},
        )  # fmt: skip
        others = [
            made(K.CORDS, False, True, SourceBond.RELAY, False, True, True, False),
            made(K.INLET, False, True, SourceBond.FLOATING, False, True, True, False),
            made(K.MANUAL_SWITCH, False, True, SourceBond.FLOATING, False, True, True, False),
            made(K.AUTOMATIC, False, True, SourceBond.FLOATING, False, True, True, False),
            moved(birchrow(), {"bank.chemistry": "flooded", "bank.unit_v": 12.0, "bank.series": 4}),
        ]
        text = " ".join(said for each in (design, *others) for _, said in said_of(each))
        for pattern, _ in STATEMENTS:
            with self.subTest(pattern):
                self.assertRegex(text, re.compile(pattern, re.IGNORECASE))


if __name__ == "__main__":
    unittest.main()
