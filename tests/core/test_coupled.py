"""A grid-tied array beside the battery inverter: lives only while it is led, never gives more than is taken, closes the books."""

import json
import unittest

from hypothesis import given
from hypothesis import strategies as st

from hearthkeep.core.assess import assess
from hearthkeep.core.design import Design
from tests.core.made_transfers import metric_flat
from tests.runner.profile import examples
from tests.strategies import coupled, rough_designs
from tests.support.designs import array, load, moved, simple
from tests.support.lived import books, lived


@st.composite
def coupled_designs(draw):
    values = coupled(draw, draw(rough_designs()).model_dump(mode="json"))
    values["charging"]["grid_tied"]["on_backup_panel"] = True
    return Design.model_validate_json(json.dumps(values))


def bench(*loads, watts=2000.0, bank=None, **unit):
    """One kilowatt-hour without losses and a tied array, from midnight on a June day."""
    return simple(
        *(loads or (load("a", 100.0),)),
        bank={"start_soc_frac": 1.0, **(bank or {})},
        transfer={"arrangement": "ac_coupled"},
        charging={"grid_tied": {"rated_w": 5000.0, "efficiency_frac": 1.0, "arrays": [array("t", watts)], **unit}},
    )


class Rules(unittest.TestCase):
    def test_nothing_at_night(self):
        outage = lived(moved(bench(), {"outage.duration_h": 3.0}))
        self.assertEqual((outage.coupled.offered_wh, outage.ledger_wh.bank_drawn), (0.0, 300.0))

    def test_by_day_the_load_is_carried_by_the_array_and_the_bank_filled(self):
        outage = lived(bench())
        self.assertTrue(outage.carried_to_the_end)
        self.assertGreater(outage.coupled.to_loads_wh, 1000)
        self.assertGreater(outage.coupled.to_bank_wh, 400)

    def test_a_full_bank_takes_nothing(self):
        design = moved(bench(), {"outage.start": "2026-06-21T10:00:00", "outage.duration_h": 4.0})
        outage = lived(design)
        self.assertAlmostEqual(outage.coupled.to_loads_wh, 400.0, places=6)
        self.assertEqual(outage.coupled.to_bank_wh, 0.0)
        self.assertEqual(outage.end_soc_frac, 1.0)

    def test_a_cold_lithium_bank_takes_nothing_either_but_the_loads_run(self):
        design = moved(bench(bank={"start_soc_frac": 0.5}), {"bank.temp_c": -5.0, "outage.start": "2026-06-21T10:00:00",
                                                             "outage.duration_h": 4.0})  # fmt: skip
        outage = lived(design)
        self.assertEqual((outage.coupled.to_bank_wh, outage.end_soc_frac), (0.0, 0.5))
        self.assertAlmostEqual(outage.coupled.to_loads_wh, 400.0, places=6)

    def test_an_empty_bank_leaves_it_dark_in_the_brightest_sun(self):
        design = bench(load("a", 100.0, tier="life"), bank={"start_soc_frac": 0.2, "cutoff_soc_frac": 0.1})
        outage = lived(design)
        self.assertAlmostEqual(outage.hours_carried_h, 1.0, places=6)
        self.assertEqual(outage.coupled.to_loads_wh, 0.0)
        self.assertAlmostEqual(outage.end_soc_frac, 0.1, places=9)
        # A few panels straight at the bank bring it back.
        values = design.model_dump(mode="json")
        values["charging"]["controllers"] = [{"id": "c", "name": "c", "kind": "mppt", "output_a": 50.0,
                                              "arrays": [array("dc", 200.0)]}]  # fmt: skip
        revived = lived(Design.model_validate_json(json.dumps(values)))
        self.assertGreater(revived.coupled.to_loads_wh, 500)

    def test_off_at_night_it_is_off(self):
        outage = lived(moved(bench(), {"inverter.off_hours": [[9, 15]]}))
        led = lived(bench())
        self.assertLess(outage.coupled.to_loads_wh, led.coupled.to_loads_wh - 500)

    def test_on_the_main_panel_or_in_another_arrangement_it_is_dark(self):
        for fields in ({"charging.grid_tied.on_backup_panel": False}, {"transfer.arrangement": "critical_panel"},
                       {"transfer.arrangement": None}):  # fmt: skip
            with self.subTest(fields):
                outage = lived(moved(bench(), fields))
                self.assertIsNone(outage.coupled)
                self.assertEqual(outage.ledger_wh.sun, 0.0)

    def test_blocks_give_whole_parts_and_come_back_below_their_level(self):
        fields = {"outage.start": "2026-06-21T11:00:00", "outage.duration_h": 3.0}
        smooth = lived(moved(bench(load("a", 700.0)), fields))
        parts = lived(moved(bench(load("a", 700.0), throttle="blocks", blocks=4, back_soc_frac=0.8), fields))
        self.assertAlmostEqual(smooth.coupled.to_loads_wh, 2100.0, places=6)
        self.assertEqual(smooth.min_soc_frac, 1.0)
        # One part of about 400 W runs, the bank gives the rest until it stands at 80 %.
        kinds = [event.kind.value for event in parts.events]
        self.assertEqual(kinds[:2], ["switched_over", "array_cut"])
        self.assertIn("array_back", kinds)
        self.assertAlmostEqual(parts.min_soc_frac, 0.8, places=6)

    def test_charging_counts_it_where_it_lives_on_and_not_where_it_is_dark(self):
        bright = moved(metric_flat(), {"charging.controllers": [], "outage.start": "2026-06-21T08:00:00"})
        found, dark = assess(bright), assess(moved(bright, {"charging.grid_tied.on_backup_panel": False}))
        self.assertEqual((found.charging.stc_w, dark.charging.stc_w), (1200.0, 0.0))
        self.assertAlmostEqual(sum(found.charging.daily_wh), found.outage.coupled.offered_wh, places=6)
        self.assertTrue(0.0 < found.charging.spilled_frac < 1.0)
        codes = {finding.code for finding in found.findings}
        self.assertNotIn("NO_SOURCE", codes)
        self.assertIn("NO_SOURCE", {finding.code for finding in dark.findings})

    def test_a_price_of_the_array_and_its_energy_are_told(self):
        found = assess(metric_flat())
        self.assertIn("roof", found.prices.without_array)
        self.assertIsNotNone(found.outage.coupled)


class AnyDesign(unittest.TestCase):
    @examples(100)
    @given(coupled_designs())
    def test_books_close_and_it_gives_no_more_than_is_taken(self, design):
        outage = lived(design)
        open_wh, flowed_wh = books(outage)
        self.assertLessEqual(abs(open_wh), max(1e-9 * flowed_wh, 1e-6))
        sums = outage.coupled
        near = 1e-9 * flowed_wh + 1e-6
        self.assertGreaterEqual(sums.held_back_wh, -near)
        self.assertGreaterEqual(outage.ledger_wh.spilled, sums.held_back_wh - near)
        served_wh = sum(tier.served_wh for tier in outage.per_tier.values())
        self.assertLessEqual(sums.to_loads_wh, served_wh + near)
        # What was passed towards the bank is at most what the bank took and what direct loads and losses took.
        taken_wh = (
            -min(outage.ledger_wh.bank_drawn, 0.0) + outage.ledger_wh.charge_loss + outage.ledger_wh.inverter_loss
        )
        self.assertLessEqual(sums.to_bank_wh, taken_wh + served_wh + outage.ledger_wh.wiring_loss
                             + max(outage.ledger_wh.bank_drawn, 0.0) + near)  # fmt: skip


class Order(unittest.TestCase):
    def order(self, design):
        found = assess(design).transfer.order
        return {use.use.value: use.energy_wh for use in found.up}, found

    def test_a_clear_day_goes_where_the_order_says(self):
        design = moved(metric_flat(), {"outage.start": "2026-06-21T00:00:00", "charging.controllers": [],
                                       "charging.grid_charger.top_up_soc_frac": 0.5})  # fmt: skip
        loads_first, found = self.order(design)
        self.assertTrue(found.may_reorder)
        self.assertAlmostEqual(sum(loads_first.values()) + found.held_back_wh, found.offered_wh, places=6)
        bank_first, _ = self.order(moved(design, {"transfer.order": ["bank", "loads", "house", "export"]}))
        self.assertLess(bank_first["loads"], loads_first["loads"])
        # Room for half of it, by the charge efficiency.
        rating_wh = assess(design).bank.capacity_wh
        self.assertAlmostEqual(bank_first["bank"], 0.5 * rating_wh / 0.97, places=3)

    def test_without_export_the_rest_is_held_back(self):
        design = moved(metric_flat(), {"outage.start": "2026-06-21T00:00:00", "transfer.order": ["loads", "bank"]})
        _, found = self.order(design)
        self.assertGreater(found.held_back_wh, 0)

    def test_the_rest_of_the_house_is_what_stays_on_the_grid(self):
        design = moved(metric_flat(), {"outage.start": "2026-06-21T00:00:00", "transfer.circuits.1.backed_up": False})
        uses, _ = self.order(design)
        self.assertGreater(uses["house"], 0)
        self.assertEqual(self.order(metric_flat())[0]["house"], 0.0)


if __name__ == "__main__":
    unittest.main()
