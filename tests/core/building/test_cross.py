"""Cross-reading: who is off, who drifts, and what the watts between two displays are."""

import random
import unittest
from datetime import datetime, timedelta

from hearthkeep.core.building.cross import InstrumentVerdict, Round, Shown, band_of, cross_read
from hearthkeep.core.building.unexplained import WattPair, unexplained
from hearthkeep.core.inverter import input_w
from tests.support.designs import birchrow

START = datetime(2026, 3, 1, 9)


def rounds(*values, days=1.0):
    return [Round(at=START + timedelta(days=days * at), values=each) for at, each in enumerate(values)]


def verdicts(found):
    return {each.instrument: each.verdict for each in found.instruments}


class Agreement(unittest.TestCase):
    def test_the_band_grows_with_the_system(self):
        self.assertAlmostEqual(band_of(Shown.VOLTS, 0.0, 12.0), 0.15)
        self.assertAlmostEqual(band_of(Shown.VOLTS, 0.0, 51.2), 0.64)
        self.assertAlmostEqual(band_of(Shown.AMPS, -100.0, 12.0), 3.0)
        self.assertAlmostEqual(band_of(Shown.AMPS, 2.0, 12.0), 0.3)

    def test_three_that_agree(self):
        found = cross_read(Shown.VOLTS, rounds({"meter": 13.21, "monitor": 13.18, "controller": 13.3}), nominal_v=12.0)
        self.assertEqual(set(verdicts(found).values()), {InstrumentVerdict.AGREES})
        self.assertAlmostEqual(found.apart, 0.12)

    def test_one_of_three_or_four_is_named(self):
        for others in ({"monitor": 13.18}, {"monitor": 13.18, "inverter": 13.25}):
            found = cross_read(Shown.VOLTS, rounds({"meter": 13.21, **others, "controller": 13.62}), nominal_v=12.0)
            self.assertEqual(
                [name for name, verdict in verdicts(found).items() if verdict is InstrumentVerdict.OFF], ["controller"]
            )
            self.assertIn("controller shows +0.4", found.sentence)

    def test_two_that_differ_need_a_third(self):
        found = cross_read(Shown.VOLTS, rounds({"monitor": 13.2, "controller": 13.6}), nominal_v=12.0)
        self.assertEqual(set(verdicts(found).values()), {InstrumentVerdict.UNDECIDED})
        self.assertIn("third", found.sentence)

    def test_three_that_all_differ_are_undecided(self):
        found = cross_read(Shown.VOLTS, rounds({"a": 12.0, "b": 13.0, "c": 14.0}), nominal_v=12.0)
        self.assertIn(InstrumentVerdict.UNDECIDED, set(verdicts(found).values()))
        self.assertNotEqual(verdicts(found)["a"], InstrumentVerdict.AGREES)

    def test_less_than_two_are_nothing_to_compare(self):
        self.assertIsNone(cross_read(Shown.VOLTS, rounds({"meter": 13.2}), nominal_v=12.0))
        self.assertIsNone(cross_read(Shown.VOLTS, [], nominal_v=12.0))


class Drift(unittest.TestCase):
    def drifting(self, per_day, seed, wild=0):
        dice = random.Random(seed)
        made = []
        for day in range(30):
            true = 13.0 + dice.uniform(-0.5, 0.5)
            made.append({
                "meter": true + dice.gauss(0, 0.02), "monitor": true + dice.gauss(0, 0.02) + 0.03,
                "controller": true + dice.gauss(0, 0.02) + per_day * (day - 29) + 0.05,
            })  # fmt: skip
        for at in dice.sample(range(28), wild):
            made[at]["controller"] += dice.choice([-5, 5])
        return cross_read(Shown.VOLTS, rounds(*made), nominal_v=12.0)

    def test_a_drift_is_found_with_its_size_even_with_wild_readings(self):
        for seed in range(20):
            found = self.drifting(-0.008, seed, wild=6)
            own = next(each for each in found.instruments if each.instrument == "controller")
            self.assertEqual(own.verdict, InstrumentVerdict.DRIFTS)
            self.assertTrue(own.drift_low <= own.drift_per_day <= own.drift_high)
            self.assertAlmostEqual(own.drift_per_day, -0.008, delta=0.002)
            self.assertEqual(verdicts(found)["meter"], InstrumentVerdict.AGREES)

    def test_none_is_told_where_there_is_none(self):
        told = sum(InstrumentVerdict.DRIFTS in verdicts(self.drifting(0.0, seed)).values() for seed in range(40))
        self.assertEqual(told, 0)


class UnexplainedWatts(unittest.TestCase):
    def pairs(self, *, phantom_w=0.0, worse=0.0, seed=1):
        unit, dice = birchrow().inverter.together, random.Random(seed)
        return [
            WattPair(monitor_w=input_w(unit, out) + phantom_w + worse * out + dice.gauss(0, 1.5), output_w=out)
            for out in (0.0, 200.0, 500.0, 900.0, 1500.0)
        ]

    def test_idle_and_conversion_explain_a_healthy_system(self):
        found = unexplained(self.pairs(), birchrow().inverter.together)
        self.assertTrue(all(each.is_explained for each in found.parts))
        self.assertIn("nothing is left over", found.sentence)

    def test_a_phantom_is_named_with_its_watts(self):
        found = unexplained(self.pairs(phantom_w=38.0), birchrow().inverter.together)
        self.assertAlmostEqual(found.standing_w, 38.0, delta=4.0)
        self.assertLess(abs(found.growing_frac), 0.01)
        self.assertIn("day and night", found.sentence)

    def test_worse_conversion_is_told_from_a_phantom(self):
        found = unexplained(self.pairs(worse=0.08), birchrow().inverter.together)
        self.assertAlmostEqual(found.growing_frac, 0.08, delta=0.01)
        self.assertLess(abs(found.standing_w), 5.0)
        self.assertIn("each watt given costs", found.sentence.lower())

    def test_parts_sum_to_the_monitor(self):
        for each in unexplained(self.pairs(phantom_w=20.0), birchrow().inverter.together).parts:
            total = each.output_w + each.idle_w + each.conversion_w + each.direct_w + each.phantom_w
            self.assertAlmostEqual(total, each.monitor_w, places=9)

    def test_off_there_is_no_idle_draw(self):
        found = unexplained([WattPair(monitor_w=6.0, output_w=0.0, inverter_on=False)], birchrow().inverter.together)
        self.assertEqual((found.parts[0].idle_w, found.parts[0].phantom_w), (0.0, 6.0))
