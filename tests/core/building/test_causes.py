"""Six faults simulated in readings by a model of the test's own: the true cause is among the first two named."""

import math
import random
import unittest

from hearthkeep.core.building.judge import judge
from hearthkeep.core.building.suspect import LEAST_SHARE, MOST_TOLD
from hearthkeep.core.design import read_design
from tests.core.building.moments import PANEL, gate_of, many_strings, noon
from tests.support.designs import CART, birchrow, moved

SEEDS = 60
#: Sun on the planes and air of the simulated moment; the meter is told neither.
AIR_C = 18.0


class Site:
    """What a meter would show of healthy parts, by formulas of this file and dice."""

    def __init__(self, seed):
        self.dice = random.Random(seed)

    def meter(self, value, frac=0.005):
        return value * (1 + self.dice.gauss(0, frac))

    def string_v(self, panels, sun_w_m2):
        """Open volts of panels in series: each loses with heat and with the logarithm of the sun."""
        cells_c = AIR_C + 25.0 * sun_w_m2 / 800.0 + self.dice.uniform(-3, 3)
        one = (
            PANEL["voc_v"]
            * (1 + PANEL["voc_temp_coeff_per_c"] * (cells_c - 25.0))
            * (1 + 0.047 * math.log(sun_w_m2 / 1000.0))
        )
        return self.meter(one * panels * self.dice.uniform(0.99, 1.01))


class Named(unittest.TestCase):
    def assert_named(self, key, design, gate_key, make, moment=None):
        """With every seed the cause whose key begins so is among the first two."""
        expected, gate = gate_of(design, gate_key, moment)
        for seed in range(SEEDS):
            readings = make(Site(seed), gate)
            judged = judge(expected, gate, readings)
            self.assertTrue(judged.outside, f"seed {seed}: nothing is outside")
            first = [cause.key for cause in judged.causes[:2]]
            self.assertTrue(any(each.startswith(key) for each in first), f"seed {seed}: {key} not among {first}")

    def strings(self, site, panels, sun_w_m2=880.0):
        """Open volts of the four strings of many_strings, by how many panels each shows."""
        keys = ("south.1", "south.2", "south.3", "wall.1")
        return {
            f"strings.{key}_v": site.string_v(count, sun_w_m2) if count else 0.02
            for key, count in zip(keys, panels, strict=True)
        }

    def test_healthy_strings_are_inside_their_windows(self):
        expected, gate = gate_of(many_strings(), "strings")
        for seed in range(SEEDS):
            judged = judge(expected, gate, self.strings(Site(seed), (4, 4, 4, 3)))
            self.assertEqual((judged.outside, judged.causes), ((), ()))

    def test_two_strings_swapped(self):
        self.assert_named(
            "swapped.south.3.wall.1", many_strings(), "strings", lambda site, _: self.strings(site, (4, 4, 3, 4))
        )

    def test_a_string_without_a_panel(self):
        self.assert_named(
            "short_of_one.south.2", many_strings(), "strings", lambda site, _: self.strings(site, (4, 3, 4, 3))
        )

    def test_a_blown_string_fuse_by_the_open_string(self):
        self.assert_named("open.south.1", many_strings(), "strings", lambda site, _: self.strings(site, (0, 4, 4, 3)))

    def test_a_blown_string_fuse_by_the_current_of_the_others(self):
        def readings(site, gate):
            window = {ask.key: ask.window for ask in gate.asks}
            # One of three strings gone, under a sun a little beside what hour and sky say.
            sun = site.dice.uniform(0.95, 1.05)
            roof, wall = window["sun.roof_a"].expected * sun * 2 / 3, window["sun.wall_a"].expected * sun
            return {
                "sun.roof.in_v": site.meter(118.0), "sun.roof_a": site.meter(roof), "sun.wall.in_v": site.meter(88.0),
                "sun.wall_a": site.meter(wall), "sun.monitor_a": site.meter(roof + wall),
            }  # fmt: skip

        self.assert_named("string_fuse.roof.1", many_strings(), "sun", readings, noon(sun_w_m2=880.0))

    def test_a_loose_lug_by_its_drop(self):
        def readings(site, gate):
            window = {ask.key: ask.window.expected for ask in gate.asks}
            amps = window["inverter.test_a"] * site.dice.uniform(0.96, 1.04)
            # A joint of some milliohms where there should be a tenth of one.
            joint_mohm = site.dice.uniform(4.0, 40.0)
            return {
                **{key: site.meter(value, 0.003) for key, value in window.items()},
                "inverter.test_a": amps,
                "inverter.drop.bank_mv": site.meter(window["inverter.drop.bank_mv"] + amps * joint_mohm),
            }

        self.assert_named("loose_lug.bank", birchrow(), "inverter", readings)

    def test_a_reversed_shunt_by_the_sign(self):
        def readings(site, gate):
            window = {ask.key: ask.window.expected for ask in gate.asks}
            return {**{key: site.meter(value, 0.003) for key, value in window.items()}, "inverter.test_a": -site.meter(window["inverter.test_a"], 0.03)}  # fmt: skip

        self.assert_named("reversed_shunt", birchrow(), "inverter", readings)

    def test_a_reversed_shunt_in_the_sun(self):
        def readings(site, gate):
            window = {ask.key: ask.window.expected for ask in gate.asks}
            sun = site.dice.uniform(0.93, 1.05)
            amps = {key: site.meter(value * sun) for key, value in window.items() if key.endswith("_a")}
            volts = {key: site.meter(value) for key, value in window.items() if key.endswith("_v")}
            return {**volts, **amps, "sun.monitor_a": -amps["sun.roof_a"] - amps["sun.wall_a"]}

        self.assert_named("reversed_shunt", many_strings(), "sun", readings)

    def test_the_wrong_battery_type_by_its_set_points(self):
        def readings(site, gate):
            # A charger for four 12 V blocks of flooded cells: 14.6 and 13.5 V, equalising at 15.5 V.
            return {
                "set.absorb_v": 4 * 14.6, "set.absorb_h": site.dice.choice([2.0, 3.0]), "set.float_v": 4 * site.dice.uniform(13.2, 13.4),
                "set.low_v": 44.0,
            }  # fmt: skip

        self.assert_named("wrong_type", birchrow(), "settings", readings)

    def test_a_cart_set_for_lithium(self):
        cart = read_design(CART.read_bytes())

        def readings(site, gate):
            return {"set.absorb_v": 14.2, "set.absorb_h": 2.0, "set.float_v": 13.4, "set.low_v": 10.8}

        self.assert_named("wrong_type.lfp", cart, "settings", readings)

    def test_exchanged_leads_by_the_sign(self):
        self.assert_named(
            "reversed_polarity", birchrow(), "polarity", lambda site, _: {"polarity.bank_v": -site.meter(52.4)}
        )

    def test_a_shorted_cell_among_the_blocks(self):
        cart = moved(
            read_design(CART.read_bytes()), {"bank.series": 2, "bank.parallel": 1, "inverter.low_cutoff_v": 21.6}
        )
        self.assert_named("dead_cell.block.1-2", cart, "blocks", lambda site, _: {
            "block.1-1_v": site.meter(12.45, 0.002), "block.1-2_v": site.meter(12.45 * 5 / 6, 0.002),
        })  # fmt: skip

    def test_a_creeping_controller_and_one_that_ended_early(self):
        self.assert_named(
            "creeping", birchrow(), "first_full", lambda site, _: {"first_full.v": site.dice.uniform(61.0, 72.0)}
        )
        self.assert_named(
            "ended_early", birchrow(), "first_full", lambda site, _: {"first_full.v": site.dice.uniform(53.0, 55.5)}
        )

    def test_back_feed_and_a_ghost_are_told_apart(self):
        self.assert_named(
            "back_feed",
            birchrow(),
            "transfer",
            lambda site, _: {"transfer.backfeed_v": site.meter(119.0), "transfer.outlet_v": 119.5},
        )
        self.assert_named(
            "ghost",
            birchrow(),
            "transfer",
            lambda site, _: {"transfer.backfeed_v": site.dice.uniform(15, 80), "transfer.outlet_v": 119.5},
        )

    def test_a_bus_that_should_be_dead_is_joined_to_the_bank(self):
        self.assert_named("main_closed", birchrow(), "dead", lambda site, _: {"dead.bus_v": site.meter(52.6)})
        self.assert_named(
            "capacitors", birchrow(), "dead", lambda site, _: {"dead.bus_v": site.dice.uniform(4.0, 30.0)}
        )

    def test_an_open_neutral_by_the_legs_apart_and_a_dead_leg_by_itself(self):
        split = moved(birchrow(), {"inverter.output": "120/240"})

        def legs(site, low, high):
            shift = site.dice.uniform(low, high)
            return {
                "transfer.backfeed_v": 0.0, "transfer.outlet_v": 120.0, "transfer.leg_a_v": site.meter(120.0 + shift, 0.003),
                "transfer.leg_b_v": site.meter(120.0 - shift, 0.003), "transfer.between_v": site.meter(240.0, 0.003),
            }  # fmt: skip

        self.assert_named("open_neutral", split, "transfer", lambda site, _: legs(site, 18.0, 70.0))
        self.assert_named("open_neutral", split, "transfer", lambda site, _: legs(site, -70.0, -18.0))
        self.assert_named("dead_leg.transfer.leg_b_v", split, "transfer", lambda site, _: {
            "transfer.backfeed_v": 0.0, "transfer.outlet_v": 120.0, "transfer.leg_a_v": site.meter(120.0),
            "transfer.leg_b_v": site.dice.uniform(0.0, 4.0), "transfer.between_v": site.dice.uniform(0.0, 122.0),
        })  # fmt: skip

    def test_an_inverter_of_a_240_v_house_set_to_230_v(self):
        split = moved(birchrow(), {"inverter.output": "120/240"})

        def readings(site, gate):
            window = {ask.key: site.meter(ask.window.expected, 0.002) for ask in gate.asks}
            return window | {
                "inverter.out_v": site.meter(230.0, 0.003), "inverter.leg_a_v": site.meter(115.0, 0.003),
                "inverter.leg_b_v": site.meter(115.0, 0.003),
            }  # fmt: skip

        self.assert_named("output_set.230", split, "inverter", readings)

    def test_a_second_array_s_strings_on_one_display(self):
        def readings(site, gate):
            window = {ask.key: ask.window for ask in gate.asks}
            found = {key: site.meter(each.expected) for key, each in window.items()}
            found["sun.roof_a"] = window["sun.roof_a"].high * site.dice.uniform(1.3, 1.9)
            found["sun.monitor_a"] = found["sun.roof_a"] + found["sun.wall_a"]
            return found

        self.assert_named("two_on_one.roof", many_strings(), "sun", readings)

    def test_a_sun_that_was_said_to_be_stronger_is_not_taken_for_a_fault_of_one_string(self):
        expected, gate = gate_of(many_strings(), "strings", noon(sun_w_m2=900.0))
        judged = judge(expected, gate, {**self.strings(Site(1), (4, 4, 4, 3), 90.0), **{f"strings.{key}_a": 1.2 for key in ("south.1", "south.2", "south.3", "wall.1")}})  # fmt: skip
        self.assertEqual(judged.causes[0].key, "less_sun")


class WhatIsTold(unittest.TestCase):
    def test_shares_fall_and_sum_to_no_more_than_the_whole_and_each_names_what_is_next(self):
        expected, gate = gate_of(many_strings(), "strings")
        judged = judge(expected, gate, {"strings.south.1_v": 61.0})
        shares = [cause.share_frac for cause in judged.causes]
        self.assertEqual(shares, sorted(shares, reverse=True))
        self.assertLessEqual(len(shares), MOST_TOLD)
        self.assertTrue(min(shares) >= LEAST_SHARE and sum(shares) <= 1 + 1e-9)
        self.assertTrue(all(cause.next.endswith(".") for cause in judged.causes))

    def test_a_reading_that_nothing_explains_is_said_to_be_something_else(self):
        expected, gate = gate_of(birchrow(), "inverter")
        readings = {ask.key: ask.window.expected for ask in gate.asks}
        judged = judge(expected, gate, {**readings, "inverter.hz": 91.0})
        self.assertEqual(judged.causes[0].key, "else")

    def test_inside_nothing_is_suspected_and_what_is_left_is_named(self):
        expected, gate = gate_of(birchrow(), "polarity")
        judged = judge(expected, gate, {})
        self.assertEqual((judged.open, judged.causes), (("polarity.bank_v",), ()))
        self.assertTrue(judge(expected, gate, {"polarity.bank_v": 52.4}).is_complete)
