"""The demo's storm, day by day: overcast, covered and clear days, and a generator that keeps its hours and its fuel."""

import unittest
from datetime import timedelta

from hearthkeep.core.assess import assess
from hearthkeep.core.bank import rate
from hearthkeep.core.design import read_design
from hearthkeep.core.outage import scene_of
from tests.support.designs import ROOT, changed


def neighbour():
    """Two roofs, a steep wall and a generator; the days are overcast, covered, overcast and clear."""
    return read_design((ROOT / "examples" / "birchrow-16.json").read_bytes())


class Skies(unittest.TestCase):
    def test_each_array_behaves_by_its_snow_on_each_day(self):
        design = neighbour()
        self.assertEqual([day.sky.value for day in design.outage.days], ["overcast", "covered", "overcast", "clear"])
        scene = scene_of(design, rate(design.bank))

        def of_day(array_id: str, day: int) -> float:
            return float(scene.poa_w_m2[array_id][scene.clock.day == day].sum())

        # Snow lies on the west roof, is cleared from the east one at nine, and slides off the wall.
        self.assertEqual(of_day("west-roof", 1), 0)
        self.assertTrue(0 < of_day("east-roof", 1) < of_day("east-roof", 2))
        self.assertAlmostEqual(of_day("south-wall", 1) / of_day("south-wall", 2), 1.0, delta=0.02)
        # Overcast is a quarter of the clear day; the last day ends at the outage's own hour, after sunset.
        for array_id in ("east-roof", "west-roof", "south-wall"):
            self.assertAlmostEqual(of_day(array_id, 2) / of_day(array_id, 3), 0.25, delta=0.02)

    def test_the_tree_takes_the_afternoon_of_the_west_roof(self):
        design = neighbour()
        scene = scene_of(design, rate(design.bank))
        charging = design.model_dump(mode="json")["charging"]
        charging["controllers"][0]["arrays"][1]["shade_frac"] = []
        bare = scene_of(changed(design, charging=charging), rate(design.bank))
        three = (scene.clock.day == 3) & (scene.clock.hour == 15)
        ten = (scene.clock.day == 3) & (scene.clock.hour == 10)
        self.assertAlmostEqual(scene.poa_w_m2["west-roof"][three].sum() / bare.poa_w_m2["west-roof"][three].sum(), 0.5)
        self.assertEqual(list(scene.poa_w_m2["west-roof"][ten]), list(bare.poa_w_m2["west-roof"][ten]))


class TheGenerator(unittest.TestCase):
    def runs(self, design):
        found = assess(design).outage
        on = [event.time_h for event in found.events if event.kind == "generator_on"]
        off = [(event.time_h, event.cause) for event in found.events if event.kind == "generator_off"]
        return found, on, off

    def test_it_runs_only_outside_its_quiet_hours(self):
        design = neighbour()
        found, on, _ = self.runs(design)
        self.assertGreaterEqual(len(on), 2)
        quiet = set(range(7)) | {22, 23}
        for step, power_w in enumerate(found.series.generator_w):
            middle = (found.series.time_h[step] + found.series.time_h[step + 1]) / 2
            hour = (design.outage.start + timedelta(hours=middle)).hour
            self.assertFalse(power_w > 0 and hour in quiet, (step, hour))

    def test_it_starts_at_its_charge_and_runs_its_hour_unless_it_has_to_be_quiet(self):
        design = neighbour()
        found, on, off = self.runs(design)
        generator, capacity = design.charging.generator, assess(design).bank.capacity_wh
        for began in on:
            edge = min(range(len(found.series.time_h)), key=lambda at: abs(found.series.time_h[at] - began))
            self.assertLess(found.series.stored_wh[edge] / capacity, generator.start_soc_frac + 0.03)
        for began, (ended, cause) in zip(on, off, strict=False):
            self.assertTrue(ended - began >= generator.min_run_h - 1e-6 or cause == "quiet_hours")

    def test_the_stock_is_never_overdrawn_and_the_ledger_of_fuel_is_the_line_of_fuel(self):
        design = neighbour()
        for stock_l in (0.5, 3.0, 19.0):
            charging = design.model_dump(mode="json")["charging"]
            charging["generator"] |= {"stock_l": stock_l, "fuel_idle_l_per_h": 0.3, "fuel_l_per_kwh": 0.45}
            found, _, off = self.runs(changed(design, charging=charging))
            burnt = 0.3 * found.generator_h + 0.45 * found.ledger_wh.generator / 1000
            self.assertAlmostEqual(found.fuel_l, burnt, places=6)
            self.assertLessEqual(found.fuel_l, stock_l + 1e-9)
            self.assertEqual("out_of_fuel" in [cause for _, cause in off], abs(found.fuel_l - stock_l) < 1e-6)

    def test_with_nobody_at_home_the_tank_is_all_there_is(self):
        design = neighbour()
        days = [{**day, "away": True} for day in design.model_dump(mode="json")["outage"]["days"]]
        found, _, _ = self.runs(changed(design, outage={"days": days}))
        self.assertLessEqual(found.fuel_l, design.charging.generator.tank_l + 1e-9)


class BeforeTheStorm(unittest.TestCase):
    def test_from_seventy_percent_it_is_full_in_two_of_eighteen_hours(self):
        # 30 % of 9,687 Wh over 1,500 W at 97 %: 2 h.
        fill = assess(neighbour()).charging.fill
        self.assertTrue(fill.is_full)
        self.assertAlmostEqual(fill.needed_h, 0.3 * assess(neighbour()).bank.capacity_wh / (1500 * 0.97))
        self.assertAlmostEqual(fill.needed_h, 2.0, delta=0.01)
