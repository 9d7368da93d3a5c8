"""Sizing sums: the two ledgers agree, and nothing is lost between them."""

import unittest

from hearthkeep.core.assess import assess
from tests.support.designs import birchrow, changed, load, simple


class DailyLedger(unittest.TestCase):
    def test_the_lines_sum_to_what_is_drawn_in_both_units(self):
        bank = assess(birchrow()).bank
        *parts, drawn = bank.daily_ledger
        self.assertAlmostEqual(sum(line.wh for line in parts), drawn.wh)
        self.assertAlmostEqual(sum(line.ah for line in parts), drawn.ah)
        self.assertEqual(drawn.wh, bank.daily_drawn_wh)
        for line in bank.daily_ledger:
            self.assertAlmostEqual(line.ah * bank.nominal_v, line.wh)

    def test_a_case_by_hand(self):
        # 50 W AC and 10 W DC all day at 10 V; 1 kW unit, 90 % rated, 20 W idle; 2 % wiring; 95 % discharge.
        found = assess(
            simple(
                load("ac", 50),
                load("dc", 10, supply="dc"),
                load("spare", 500, tier="spare"),
                inverter={"rated_w": 1000.0, "surge_w": 2000.0, "efficiency_frac": 0.9, "idle_w": 20.0},
                wiring={"loss_frac": 0.02},
                bank={"discharge_efficiency_frac": 0.95},
            )
        ).bank
        lines = {line.key: line.wh for line in found.daily_ledger}
        self.assertEqual((lines["keep"], lines["idle"]), (1440, 480))
        self.assertAlmostEqual(lines["conversion"], 1200 * ((1000 / 0.9 - 20) / 1000 - 1))
        at_bus = (1200 + 240 + 480 + lines["conversion"]) * 1.02
        self.assertAlmostEqual(lines["drawn"], at_bus / 0.95)
        self.assertAlmostEqual(found.autonomy_h, 1000 / lines["drawn"] * 24)

    def test_without_an_inverter_nothing_idles_or_converts(self):
        found = assess(simple(load("dc", 10, supply="dc"))).bank
        self.assertEqual({line.key: line.wh for line in found.daily_ledger if line.wh}, {"keep": 240, "drawn": 240})

    def test_each_row_in_amp_hours_carries_its_own_conversion(self):
        unit = {"rated_w": 1000.0, "surge_w": 2000.0, "efficiency_frac": 0.8}
        found = assess(
            simple(
                load("ac", 50),
                load("dc", 50, supply="dc"),
                load("usb", 50, supply="dc_converted", converter_efficiency_frac=0.75),
                inverter=unit,
            )
        ).bank
        self.assertAlmostEqual(found.row_ah["ac"], 120 / 0.8)
        self.assertAlmostEqual(found.row_ah["dc"], 120)
        self.assertAlmostEqual(found.row_ah["usb"], 120 / 0.75)
        lines = {line.key: line.wh for line in found.daily_ledger}
        self.assertAlmostEqual(lines["converters"], 1200 / 0.75 - 1200)
        self.assertAlmostEqual(lines["drawn"], 10 * sum(found.row_ah.values()))

    def test_a_linked_load_counts_in_the_tier_it_lives_in_in_both_units(self):
        found = assess(simple(load("boiler", 10, link="heat"), load("pump", 20, tier="ease", link="heat")))
        self.assertEqual((found.loads.daily_by_tier_wh["keep"], found.bank.tier_ah["keep"]), (720, 72))
        self.assertEqual((found.bank.tier_ah["ease"], found.bank.all_ah), (0, 72))


class TheSheetAndTheOutage(unittest.TestCase):
    """What the sums say of a bank is what the outage then shows."""

    def test_autonomy_knows_peukert(self):
        # 100 Ah rated over 20 h, k = 1.2, at 500 W or ten times the rated current: 20 / 10^1.2 = 1.2619 h.
        design = simple(load("a", 500, supply="dc"), bank={"chemistry": "agm", "peukert_exponent": 1.2})
        found = assess(design)
        self.assertAlmostEqual(found.bank.autonomy_h, 20 / 10**1.2, places=6)
        self.assertAlmostEqual(found.outage.hours_carried_h, found.bank.autonomy_h, places=6)
        lines = {line.key: line.wh for line in found.bank.daily_ledger}
        self.assertAlmostEqual(sum(wh for key, wh in lines.items() if key != "drawn"), lines["drawn"])
        self.assertGreater(lines["rate"], 0)

    def test_the_cut_off_limits_the_depth_on_the_sheet_as_in_the_outage(self):
        # A depth of 90 % with everything cut off at 40 % is a depth of 60 %: the bank that the sheet asks for lasts its time.
        need = {"autonomy_h": 24.0, "growth_frac": 0.0, "end_of_life_frac": 1.0, "dark_day": False}
        design = simple(load("a", 100), bank={"depth_frac": 0.9, "cutoff_soc_frac": 0.4, "need": need})
        sheet = assess(design).arrangement.need
        self.assertEqual(next(line.value for line in sheet.lines if line.key == "depth"), 0.6)
        self.assertAlmostEqual(sheet.nominal_wh, 2400 / 0.6)
        enough = changed(design, bank={"parallel": sheet.strings_needed}, outage={"duration_h": 48.0})
        self.assertGreaterEqual(assess(enough).outage.hours_carried_h, 24.0)

    def test_house_loads_are_told_even_where_nothing_is_lost(self):
        figures = assess(simple(load("a", 50))).figures
        terms = {term.name: term.value for term in figures["bank.ledger.conversion"].terms}
        self.assertEqual((terms["AC loads"], terms["marginal efficiency"]), (1200, 1))
