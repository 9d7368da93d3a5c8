"""The grid back for a while: it carries the house and its charger the bank, worked by hand; spans; storms of the past without it."""

import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.errors import InputError
from hearthkeep.core.outage import prepare, usual_storms
from hearthkeep.core.trials import live, reliability, trial_year
from tests.core.second_model import live_through
from tests.support.designs import array, birchrow, changed, load, moved, simple

CHARGER = {"grid_charger": {"output_w": 200.0, "efficiency_frac": 1.0}}


def lamp(supply="ac", back=((5, 9),), charging=None, **outage):
    """100 W from 1 kWh without losses: 10 h, a day of outage."""
    return simple(
        load("lamp", 100.0, supply=supply),
        outage={"grid_back": [list(span) for span in back], **outage},
        simulation={"time_step_min": 60},
        charging=charging or {},
    )


class ByHand(unittest.TestCase):
    def carried(self, design):
        outage = assess(design).outage
        self.assertAlmostEqual(outage.hours_carried_h, live_through(design, slice_s=10.0).hours_carried_h, places=2)
        self.assertAlmostEqual(outage.ledger_wh.difference, 0.0, places=6)
        return outage

    def test_without_a_charger_the_bank_rests(self):
        outage = self.carried(lamp())
        self.assertAlmostEqual(outage.hours_carried_h, 14.0)
        self.assertEqual((outage.ledger_wh.grid, outage.ledger_wh.served), (0.0, 1000.0))
        self.assertEqual((outage.series.grid_h, outage.grid_back_h), (((5.0, 9.0),), 4.0))
        # What the grid serves is not asked of the bank.
        self.assertEqual(outage.per_tier["keep"].unserved_h, 10.0)

    def test_its_charger_fills_what_is_missing_and_no_more(self):
        outage = self.carried(lamp(charging=CHARGER))
        self.assertAlmostEqual(outage.hours_carried_h, 19.0)
        self.assertAlmostEqual(outage.ledger_wh.grid, 500.0)
        self.assertAlmostEqual(outage.ledger_wh.spilled, 0.0)

    def test_direct_current_loads_stay_on_the_bank(self):
        # 500 Wh at hour 5, then 100 W more than they take: 900 Wh at hour 9, and 9 h from there.
        outage = self.carried(lamp(supply="dc", charging=CHARGER))
        self.assertAlmostEqual(outage.hours_carried_h, 18.0)
        self.assertAlmostEqual(outage.ledger_wh.grid, 800.0)

    def test_sun_comes_before_the_charger(self):
        field = simple(
            load("lamp", 100.0),
            arrays=(array("field", 5000.0),),
            outage={"grid_back": [[10, 14]]},
            charging=CHARGER,
            bank={"start_soc_frac": 1.0},
        )
        outage = self.carried(field)
        self.assertTrue(outage.carried_to_the_end)
        # The bank is full by then: nothing of the charger is drawn, and the sun is spilled.
        self.assertAlmostEqual(outage.ledger_wh.grid, 0.0, delta=20.0)
        self.assertGreater(outage.ledger_wh.spilled, 5000.0)

    def test_the_generator_rests_and_dropped_loads_are_lit(self):
        generator = {
            "rated_w": 2000.0,
            "charger_w": 500.0,
            "stock_l": 20.0,
            "start_soc_frac": 0.9,
            "stop_soc_frac": 1.0,
        }
        design = lamp(back=((12, 24),), charging={"generator": {**generator, "min_run_h": 0.0}})
        outage = assess(design).outage
        self.assertTrue(all(event.time_h <= 12.0 for event in outage.events if event.kind == "generator_on"))
        dark = assess(lamp(back=((12, 16),))).outage
        # Dark from hour 10 to 12, lit by the grid, and dark again.
        self.assertAlmostEqual(dark.hours_carried_h, 10.0)
        self.assertAlmostEqual(dark.per_tier["keep"].unserved_h, 10.0)

    def test_from_every_hour_of_the_year(self):
        design = lamp(charging=CHARGER)
        carried_h = live(trial_year(design, 24.0), [24.0])[24.0].carried_h
        self.assertEqual(set(carried_h.round(9)), {19.0})


class Spans(unittest.TestCase):
    def test_they_are_sorted_and_merged(self):
        design = lamp(back=((9, 12), (2, 4), (4, 5)))
        self.assertEqual(design.outage.grid_back, ((2, 5), (9, 12)))

    def test_what_is_none_is_refused_with_its_range(self):
        for span, words in (([4, 4], "from < to within 0 to 720 h"), ([0, 721], "0 to 720"), ([-1, 3], "0 to 720")):
            with self.subTest(span), self.assertRaisesRegex(InputError, words):
                lamp(back=(span,))

    def test_a_start_between_hours_counts_from_itself(self):
        outage = assess(lamp(start="2026-06-21T00:20:00", charging=CHARGER)).outage
        self.assertAlmostEqual(outage.hours_carried_h, 19.0, delta=0.7)

    def test_beyond_the_end_they_say_nothing(self):
        self.assertEqual(assess(lamp(back=((30, 40),))).outage.hours_carried_h, 10.0)


class Elsewhere(unittest.TestCase):
    def test_past_outages_are_lived_without_it(self):
        record = {"outages": [{"start": "2025-12-14T18:00:00", "length_h": 30.0}], "years": 2}
        plain = changed(birchrow(), record=record)
        with_grid = moved(plain, {"outage.grid_back": [[1, 20]]})
        self.assertEqual(reliability(with_grid).outages, reliability(plain).outages)

    def test_rolling_cuts_are_two_hours_in_six(self):
        storm = next(storm for storm in usual_storms(44.0, 2026) if storm.key == "rolling")
        fields = storm.model_dump(include={"start", "duration_h", "warning_h", "days", "grid_back"})
        prepared = prepare(changed(birchrow(), outage=fields))
        out_h = float(prepared.scene.clock.length_h[~prepared.scene.on_grid].sum())
        self.assertEqual(out_h, storm.duration_h / 3)
        self.assertFalse(prepared.scene.on_grid[0])


if __name__ == "__main__":
    unittest.main()
