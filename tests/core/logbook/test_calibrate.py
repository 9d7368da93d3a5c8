"""Calibration: known true values recovered within the stated doubt from readings with noise and gaps, and nothing said from too little."""

import unittest
from functools import cache

from hearthkeep.core.design import with_changes
from hearthkeep.core.logbook.calibrate import calibrate, fade_of, pieces_of
from hearthkeep.core.logbook.log import DAY_S, Log, Trace
from hearthkeep.core.logbook.quantities import Quantity
from tests.core.logbook.made_log import Truth, made_log
from tests.support.designs import birchrow, moved

SEEDS = 100
LEAST_WITHIN = 95


def house():
    """The demo home with loads of house current alone, nothing measured, and no power lost by temperature differently than said."""
    design = birchrow()
    values = design.model_dump(mode="json")
    loads = [{**row, "known": None} for row in values["loads"] if row["supply"] in ("ac", "ac240")]
    return moved(
        design, {"loads": loads, "bank.temp_c": 25.0, "bank.heater": None, "bank.discharge_efficiency_frac": 0.98}
    )


DESIGN = house()
STC_W = DESIGN.charging.stc_w
#: The design's own controller efficiency is left alone; the true yield counts it as the model does.
TRUTH = Truth()


@cache
def found(seed):
    return {each.key: each for each in calibrate(DESIGN, made_log(seed, TRUTH, stc_w=STC_W)).corrections}


class Recovered(unittest.TestCase):
    def assert_within(self, key, true):
        within = sum(abs(found(seed)[key].after - true) <= found(seed)[key].doubt for seed in range(SEEDS))
        self.assertGreaterEqual(within, LEAST_WITHIN, key)
        return found(0)[key]

    def test_daily_use_by_group(self):
        for part, mean_w in (("keep", TRUTH.keep_w), ("ease", TRUTH.ease_w)):
            one = self.assert_within(f"use.{part}", 24 * mean_w)
            self.assertLess(one.doubt, 0.1 * one.after)

    def test_capacity(self):
        one = self.assert_within("capacity", 100 * TRUTH.capacity_wh / DESIGN.bank.rated_wh)
        self.assertLess(one.doubt, 5.0)

    def test_charge_efficiency(self):
        one = self.assert_within("charge_efficiency", 100 * TRUTH.charge_eff)
        self.assertLess(one.doubt, 4.0)

    def test_idle_draw(self):
        one = self.assert_within("inverter_losses", TRUTH.idle_w)
        # Five per cent of it are the instruments' own.
        self.assertLess(one.doubt, 4.0)

    def test_yield(self):
        one = self.assert_within("yield", 100 * TRUTH.yield_frac)
        self.assertLess(one.doubt, 4.5)


class Applied(unittest.TestCase):
    def test_each_correction_can_be_put_into_the_design_and_is_confirmed_then(self):
        log = made_log(3, TRUTH, stc_w=STC_W)
        design = DESIGN
        for key in ("use.keep", "use.ease", "capacity", "charge_efficiency", "inverter_losses", "yield"):
            one = next(each for each in calibrate(design, log).corrections if each.key == key)
            self.assertFalse(one.is_confirmed, key)
            before = one.hours_before_h
            design = with_changes(design, one.changes)
            again = next(each for each in calibrate(design, log).corrections if each.key == key)
            self.assertTrue(again.is_confirmed, (key, again.before, again.after, again.doubt))
            self.assertAlmostEqual(again.hours_before_h, one.hours_after_h, places=6)
            self.assertGreaterEqual(before, 0.0)

    def test_a_fade_is_found_over_a_year(self):
        traces, start = {}, 0.0
        for quarter in range(6):
            truth = Truth(capacity_wh=9_000.0 - 120.0 * quarter)
            part = made_log(quarter, truth, stc_w=STC_W, days=60, gaps=False)
            for key, trace in part.traces.items():
                at, values = traces.get(key, ([], []))
                traces[key] = ([*at, *(trace.at_s + start)], [*values, *trace.values])
            start += 60 * DAY_S
        log = Log(traces={key: Trace(at_s=_array(at), values=_array(values)) for key, (at, values) in traces.items()})
        fade = fade_of(pieces_of(log), 0.98)
        self.assertAlmostEqual(fade.value, 120.0 * 365.25 / 60, delta=max(fade.doubt, 200.0))


def _array(values):
    import numpy as np

    return np.array(values)


class TooLittle(unittest.TestCase):
    def test_nothing_is_said_from_nothing_and_what_it_takes_is(self):
        answer = calibrate(DESIGN, Log(traces={}))
        self.assertEqual(answer.corrections, ())
        self.assertEqual(len(answer.missing), 4)

    def test_three_days_say_nothing_of_use_or_capacity(self):
        answer = calibrate(DESIGN, made_log(1, TRUTH, stc_w=STC_W, days=3))
        self.assertNotIn("capacity", {each.key for each in answer.corrections})
        self.assertNotIn("use.keep", {each.key for each in answer.corrections})
        self.assertTrue(any("whole days" in line for line in answer.missing))

    def test_a_group_that_the_design_does_not_know_is_said(self):
        log = made_log(1, TRUTH, stc_w=STC_W)
        traces = {**log.traces, (Quantity.LOAD_W, "sauna"): log.traces[Quantity.LOAD_W, "keep"]}
        self.assertTrue(any("sauna" in line for line in calibrate(DESIGN, Log(traces=traces)).missing))

    def test_readings_of_a_moment_or_two_do_no_harm(self):
        for count in (1, 2, 3):
            traces = {
                key: Trace(at_s=trace.at_s[:count], values=trace.values[:count])
                for key, trace in made_log(1, TRUTH, stc_w=STC_W).traces.items()
            }
            self.assertEqual(calibrate(DESIGN, Log(traces=traces)).corrections, ())

    def test_without_a_measured_sun_the_yield_is_said_with_a_wide_doubt(self):
        log = made_log(1, TRUTH, stc_w=STC_W)
        traces = {key: trace for key, trace in log.traces.items() if key[0] is not Quantity.SUN_W_M2}
        one = next(each for each in calibrate(DESIGN, Log(traces=traces)).corrections if each.key == "yield")
        self.assertGreater(one.doubt, 5.0)
        self.assertIn("assumption", one.figure.basis)
