"""The policy worked by hand: a reserve for Life, how far above its level a tier returns, who starts the generator, who fetches."""

import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.errors import InputError
from hearthkeep.core.trials import live, trial_year
from tests.core.second_model import live_through
from tests.support.designs import load, simple

GENERATOR = {
    "rated_w": 2000.0, "charger_w": 500.0, "charger_efficiency_frac": 1.0, "stock_l": 50.0, "tank_l": 50.0,
    "start_soc_frac": 0.5, "stop_soc_frac": 0.9, "min_run_h": 0.0,
}  # fmt: skip


def house(**parts):
    """Life and Keep at 50 W each from 1 kWh without losses, a day without sun."""
    return simple(
        load("ward", 50.0, tier="life", supply="dc"),
        load("lamp", 50.0, supply="dc"),
        **{"simulation": {"time_step_min": 60}, **parts},
    )


class Levels(unittest.TestCase):
    def test_what_keep_leaves_is_lifes(self):
        outage = assess(house(policy={"keep_level_frac": 0.5})).outage
        self.assertAlmostEqual(outage.hours_carried_h, 5.0)
        # 500 Wh at 50 W.
        self.assertAlmostEqual(outage.per_tier["life"].unserved_h, 9.0)
        self.assertAlmostEqual(assess(house()).outage.hours_carried_h, 10.0)

    def test_below_the_floor_it_says_nothing(self):
        bank = {"depth_frac": 0.6}
        held = assess(house(policy={"keep_level_frac": 0.3}, bank=bank))
        self.assertEqual(held.levels, assess(house(bank=bank)).levels)
        self.assertEqual(held.levels.keep_frac, 0.4)

    def test_ease_is_never_kept_longer_than_keep(self):
        self.assertEqual(assess(house(policy={"keep_level_frac": 0.8, "ease_level_frac": 0.2})).levels.ease_frac, 0.8)

    def test_a_dropped_tier_returns_by_the_margin(self):
        # Keep goes at 5 h with 500 Wh, Life takes 50 more; from 6 h a charger gives 100 W, of which Life leaves half.
        for margin, back_h in ((0.1, 9.0), (0.2, 11.0), (0.35, 14.0)):
            design = house(
                policy={"keep_level_frac": 0.5, "return_margin_frac": margin},
                outage={"grid_back": [[6, 20]]},
                charging={"grid_charger": {"output_w": 100.0}},
            )
            events = assess(design).outage.events
            with self.subTest(margin):
                returned = [event.time_h for event in events if event.kind == "returned" and event.tier == "keep"]
                self.assertAlmostEqual(returned[0], back_h)

    def test_what_cannot_be_is_refused(self):
        for field, value in (("return_margin_frac", 0.0), ("return_margin_frac", 0.6), ("keep_level_frac", 1.1)):
            with self.subTest(field), self.assertRaises(InputError):
                house(policy={field: value})


class ByHand(unittest.TestCase):
    def design(self, away, **generator):
        days = [{"sky": "covered", "air_temp_c": 5.0, "away": gone} for gone in away]
        return house(
            outage={"start": "2026-01-15T12:00:00", "duration_h": 36.0, "days": days},
            charging={"generator": {**GENERATOR, **generator}},
        )

    def test_with_nobody_at_home_it_stays_off(self):
        home = assess(self.design((False, False), by_hand=True)).outage
        self.assertTrue(home.carried_to_the_end)
        self.assertEqual(home, assess(self.design((False, False))).outage)
        away = assess(self.design((True, True), by_hand=True)).outage
        self.assertEqual((away.generator_starts, away.fuel_l), (0, 0.0))
        self.assertAlmostEqual(away.hours_carried_h, 10.0)
        self.assertGreater(assess(self.design((True, True))).outage.generator_starts, 0)

    def test_left_running_it_is_stopped_as_people_go(self):
        # It starts at 17:00 and would charge into the next day, on which nobody is there.
        outage = assess(self.design((False, True), by_hand=True, charger_w=120.0)).outage
        stops = [event for event in outage.events if event.kind == "generator_off"]
        self.assertEqual([(event.time_h, event.cause) for event in stops], [(12.0, "nobody_there")])

    def test_from_another_start_as_on_the_strip(self):
        design = self.design((False, True), by_hand=True, charger_w=120.0)
        year = trial_year(design, 36.0)
        lived = live(year, [36.0])[36.0]
        noon = 14 * 24 + 12
        self.assertEqual(lived.start_h[noon], noon)
        planned = assess(design).outage
        self.assertEqual((lived.carried_h[noon], lived.fuel_l[noon]), (planned.hours_carried_h, planned.fuel_l))


if __name__ == "__main__":
    unittest.main()


class Fetching(unittest.TestCase):
    """A pump of 1 kW on a generator that burns a litre a kilowatt-hour, from midnight for two days."""

    def design(self, *days, **generator):
        usual = {**GENERATOR, "stock_l": 10.0, "charger_w": 0.0, "fuel_idle_l_per_h": 0.0, "fuel_l_per_kwh": 1.0}
        return simple(
            load("pump", 1000.0),
            charging={"generator": {**usual, "start_soc_frac": 0.9, "stop_soc_frac": 1.0, **generator}},
            inverter={"rated_w": 3000.0, "surge_w": 3000.0},
            bank={"start_soc_frac": 0.0},
            outage={
                "start": "2026-01-10T00:00:00",
                "duration_h": 48.0,
                "days": [{"sky": "covered", "air_temp_c": 5.0, **day} for day in days],
            },
            simulation={"time_step_min": 60},
        )

    def test_the_stock_is_full_again_at_noon(self):
        # 10 h from the start, and 10 h from noon, on each day with fuel.
        for days, burnt_l, fetches in (
            (({}, {}), 10.0, 0),
            (({"fuel": True}, {}), 20.0, 1),
            (({"fuel": True},), 30.0, 2),
            (({}, {"fuel": True}), 20.0, 1),
            (({"fuel": True, "away": True}, {}), 20.0, 0),
        ):
            with self.subTest(days):
                design = self.design(*days, tank_l=10.0)
                outage = assess(design).outage
                if days[0].get("away"):
                    # Nobody fetches; the tank of the first day is filled on the second from nothing.
                    burnt_l = 10.0
                self.assertAlmostEqual(outage.fuel_l, burnt_l)
                self.assertEqual(outage.fuel_fetches, fetches)
                self.assertAlmostEqual(live_through(design, slice_s=10.0).fuel_l, burnt_l, places=2)
                self.assertEqual([event.kind for event in outage.events].count("fuel_fetched"), fetches)

    def test_fuel_that_is_fetched_in_time_is_asked_for_no_more(self):
        found = assess(self.design({"fuel": True}, stock_l=25.0))
        self.assertIsNone(found.outage.out_of_fuel_h)
        self.assertAlmostEqual(found.charging.fuel_asked_l, 48.0)
        self.assertNotIn("OUT_OF_FUEL", {finding.code for finding in found.findings})
        dry = assess(self.design({}, stock_l=25.0))
        self.assertAlmostEqual(dry.outage.out_of_fuel_h, 25.0)
        self.assertAlmostEqual(dry.charging.fuel_asked_l, 48.0)
        self.assertIn("OUT_OF_FUEL", {finding.code for finding in dry.findings})

    def test_an_alternator_wants_its_vehicle(self):
        def given_wh(*days):
            return assess(
                house(
                    charging={"alternator": {"current_a": 10.0, "driven_hours": [[8, 9]]}},
                    outage={"duration_h": 72.0, "days": [{"sky": "covered", "air_temp_c": 5.0, **day} for day in days]},
                )
            ).outage.ledger_wh.other

        each = given_wh({}) / 3
        self.assertGreater(each, 100.0)
        self.assertAlmostEqual(given_wh({}, {"car": False}, {}), 2 * each)
        self.assertAlmostEqual(given_wh({"car": False}), 0.0)
