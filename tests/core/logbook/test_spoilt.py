"""Logs that are spoilt in twelve manners: what is said holds all the same, or is refused with its reason."""

import unittest
from dataclasses import replace

import numpy as np

from hearthkeep.core.logbook.calibrate import calibrate
from hearthkeep.core.logbook.log import DAY_S, Log, Trace
from hearthkeep.core.logbook.quantities import Quantity
from hearthkeep.core.logbook.slips import without_slips
from tests.core.logbook.made_log import STEP_S, Truth, made_log
from tests.core.logbook.test_calibrate import DESIGN, STC_W, TRUTH
from tests.runner.profile import amount

SEEDS = amount(20, 200)
#: Of a hundred; of few seeds one more may be outside by chance.
LEAST_FRAC, CHANCE = 0.95, amount(1, 0)
HOUSE = (Quantity.INVERTER_W, Quantity.LOAD_W)


def changed(log, quantities, change, *, days=None, seed=0):
    """Some quantities by another value, on some days or on all."""
    traces = dict(log.traces)
    for (quantity, part), trace in log.traces.items():
        if quantity not in quantities:
            continue
        number = np.floor(trace.at_s / DAY_S).astype(int)
        picked = np.ones(number.size, dtype=bool)
        if days is not None:
            own = np.unique(number)[2:-2]
            picked = np.isin(number, np.random.default_rng(seed).choice(own, days, replace=False))
        traces[quantity, part] = Trace(at_s=trace.at_s, values=np.where(picked, change(trace.values), trace.values))
    return Log(traces=traces)


def thinned(log, seed):
    """Half of the days are not there."""
    dice = np.random.default_rng(seed)
    first = next(iter(log.traces.values()))
    days = np.unique(np.floor(first.at_s / DAY_S))
    kept = dice.choice(days, days.size // 2, replace=False)
    return Log(
        traces={
            key: Trace(at_s=trace.at_s[own], values=trace.values[own])
            for key, trace in log.traces.items()
            for own in [np.isin(np.floor(trace.at_s / DAY_S), kept)]
        }
    )


def with_tails(log, seed):
    """One reading in a hundred is anything up to twice itself."""
    dice = np.random.default_rng(seed)

    def spoil(values):
        return np.where(dice.random(values.size) < 0.01, values * dice.uniform(0.0, 2.0, values.size), values)

    return changed(log, (*HOUSE, Quantity.SUN_W), spoil)


PLAIN = TRUTH
KINDS = {
    "plain": (PLAIN, lambda log, seed: log),
    "each day a little like the one before": (replace(PLAIN, likeness=0.5), lambda log, seed: log),
    "each day much like the one before": (replace(PLAIN, likeness=0.75), lambda log, seed: log),
    "more at weekends": (replace(PLAIN, at_weekends=1.4), lambda log, seed: log),
    "three days of sun in kW": (PLAIN, lambda log, seed: changed(log, (Quantity.SUN_W,), lambda v: v / 1e3, days=3, seed=seed)),
    "three days of use in kW": (PLAIN, lambda log, seed: changed(log, HOUSE, lambda v: v / 1e3, days=3, seed=seed)),
    "three days in mA": (PLAIN, lambda log, seed: changed(log, (Quantity.BANK_A,), lambda v: v * 1e3, days=3, seed=seed)),
    "a shunt 3 % high": (PLAIN, lambda log, seed: changed(log, (Quantity.BANK_A,), lambda v: v * 1.03)),
    "a shunt 3 % low": (PLAIN, lambda log, seed: changed(log, (Quantity.BANK_A,), lambda v: v * 0.97)),
    "three days of charge as a part of one": (
        PLAIN, lambda log, seed: changed(log, (Quantity.CHARGE,), lambda v: v / 100, days=3, seed=seed),
    ),
    "readings that are anything": (PLAIN, with_tails),
    "half of the days are not there": (PLAIN, thinned),
}  # fmt: skip
#: By key of a correction what is true.
TRUE = {
    "use.keep": 24 * PLAIN.keep_w,
    "use.ease": 24 * PLAIN.ease_w,
    "capacity": 100 * PLAIN.capacity_wh / DESIGN.bank.rated_wh,
    "charge_efficiency": 100 * PLAIN.charge_eff,
    "inverter_losses": PLAIN.idle_w,
    "yield": 100 * PLAIN.yield_frac,
}


class Spoilt(unittest.TestCase):
    def test_what_is_said_holds_or_is_refused(self):
        self.assertEqual(len(KINDS), 12)
        for kind, (truth, spoil) in KINDS.items():
            within, said = dict.fromkeys(TRUE, 0), dict.fromkeys(TRUE, 0)
            for seed in range(SEEDS):
                answer = calibrate(DESIGN, spoil(made_log(seed, truth, stc_w=STC_W), seed))
                found = {each.key: each for each in answer.corrections}
                for key, true in TRUE.items():
                    if key in found:
                        said[key] += 1
                        within[key] += abs(found[key].after - true) <= found[key].doubt
                    else:
                        self.assertNotEqual(answer.missing, ())
            for key in TRUE:
                with self.subTest(kind=kind, of=key):
                    self.assertGreaterEqual(within[key] + CHANCE, LEAST_FRAC * said[key], (within[key], said[key]))

    def test_most_is_still_said(self):
        for kind, (truth, spoil) in KINDS.items():
            with self.subTest(kind):
                found = {each.key for each in calibrate(DESIGN, spoil(made_log(1, truth, stc_w=STC_W), 1)).corrections}
                self.assertGreaterEqual(len(found), 4)


class Slips(unittest.TestCase):
    def test_they_are_named_with_factor_and_days(self):
        log = changed(made_log(5, TRUTH, stc_w=STC_W), (Quantity.SUN_W,), lambda values: values / 1e3, days=3)
        cleaned, slips = without_slips(log)
        self.assertEqual([(each.quantity, each.factor, each.days) for each in slips], [(Quantity.SUN_W, 1e-3, 3)])
        self.assertIn("1,000 times too small on 3 days", slips[0].words)
        lost = log.traces[Quantity.SUN_W, ""].at_s.size - cleaned.traces[Quantity.SUN_W, ""].at_s.size
        self.assertAlmostEqual(lost * STEP_S / DAY_S, 3.0, delta=0.4)
        self.assertIn(slips[0].words, calibrate(DESIGN, log).missing)

    def test_a_house_that_stands_empty_and_snow_on_the_panels_are_none(self):
        for factor in (0.05, 0.02, 8.0):
            log = changed(
                made_log(5, TRUTH, stc_w=STC_W), (*HOUSE, Quantity.SUN_W), lambda v, by=factor: v * by, days=4
            )
            self.assertEqual(without_slips(log)[1], ())

    def test_a_generator_that_mostly_rests_is_none(self):
        log = made_log(5, TRUTH, stc_w=STC_W)
        sun = log.traces[Quantity.SUN_W, ""]
        rests = Trace(at_s=sun.at_s, values=np.full(sun.at_s.size, 0.5))
        for quantity in (Quantity.GENERATOR_W, Quantity.GRID_W):
            ran = changed(Log(traces={(quantity, ""): rests}), (quantity,), lambda values: values * 1e3, days=3)
            self.assertEqual(without_slips(ran)[1], ())

    def test_a_log_that_is_small_throughout_is_left_as_it_is(self):
        log = changed(made_log(5, TRUTH, stc_w=STC_W), (Quantity.SUN_W,), lambda values: values / 1e3)
        self.assertEqual(without_slips(log), (log, ()))

    def test_plain_logs_are_silent(self):
        for seed in range(8):
            self.assertEqual(without_slips(made_log(seed, Truth(), stc_w=STC_W))[1], ())
