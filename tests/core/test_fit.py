"""Which tiers' AC loads fit together: rating, surge, the bank's limit and a generator, each with a case worked by hand."""

import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.bank import rate
from hearthkeep.core.inverter import NO_CABLES, Overload, house_watts, limits_of
from hearthkeep.core.inverter.fit import AC_TIERS, DC_TIERS, GENERATOR_TIERS, GENERATOR_WHY, WHY
from hearthkeep.core.loads import DayKind, rows_from
from tests.support.designs import load, simple

USUAL = DayKind(month=1)


def fitted(*loads, generator_w=0.0, generator_surge_w=0.0, wiring=0.0, **parts):
    """AC tiers that fit in each hour with all four tiers asking, and why not more."""
    design = simple(*loads, wiring={"loss_frac": wiring}, **parts)
    limits = limits_of(
        design.inverter,
        discharge_limit_w=rate(design.bank).discharge_limit_w,
        cables=NO_CABLES._replace(flat_frac=wiring),
        generator_w=generator_w,
        generator_surge_w=generator_surge_w,
    )
    return house_watts(rows_from(design.loads, (USUAL,)), design.inverter, limits)


def tiers(house, hour=12):
    return int(house.fits[hour, -1, AC_TIERS])


def why(house, hour=12):
    return Overload(int(house.fits[hour, -1, WHY]))


SMALL = {"rated_w": 500.0, "surge_w": 800.0, "efficiency_frac": 1.0}
LIMITED = {"unit_max_discharge_a": 50.0}


class Inverter(unittest.TestCase):
    def test_the_rating_counts_running_watts_from_life_down(self):
        for ease_w, fits, cause in ((200.0, 4, Overload.NONE), (201.0, 2, Overload.RATING)):
            with self.subTest(ease_w):
                house = fitted(
                    load("a", 100, tier="life"), load("b", 200), load("c", ease_w, tier="ease"), inverter=SMALL
                )
                self.assertEqual((tiers(house), why(house)), (fits, cause))

    def test_a_tier_that_does_not_fit_keeps_out_the_smaller_ones_below(self):
        house = fitted(load("a", 600), load("b", 10, tier="ease"), inverter=SMALL)
        self.assertEqual((tiers(house), why(house)), (1, Overload.RATING))

    def test_the_surge_counts_the_largest_rise_of_those_that_run(self):
        for start_w, fits, cause in ((600.0, 4, Overload.NONE), (601.0, 1, Overload.SURGE)):
            with self.subTest(start_w):
                # 200 W run beside the pump, whose start is its own watts and what it rises by.
                house = fitted(load("a", 200, tier="life"), load("pump", 100, start_w=start_w), inverter=SMALL)
                self.assertEqual((tiers(house), why(house)), (fits, cause))

    def test_only_the_hours_in_which_they_meet(self):
        house = fitted(load("a", 400, tier="life"), load("b", 200, hours=[[6, 9]]), inverter=SMALL)
        self.assertEqual([tiers(house, hour) for hour in (5, 6, 8, 9)], [4, 1, 1, 4])


class Bank(unittest.TestCase):
    def test_its_limit_counts_wiring_and_conversion(self):
        # 50 A at 10 V: 500 W. 80 % of efficiency without idle and 2 % of wiring leave 392 W for the house.
        inverter = {"rated_w": 2000.0, "surge_w": 4000.0, "efficiency_frac": 0.8}
        for house_w, fits, cause in ((392.0, 4, Overload.NONE), (392.2, 1, Overload.BANK_CURRENT)):
            with self.subTest(house_w):
                house = fitted(load("a", house_w), inverter=inverter, bank=LIMITED, wiring=0.02)
                self.assertEqual((tiers(house), why(house)), (fits, cause))

    def test_direct_current_and_idle_count_first(self):
        # 100 W on DC and 40 W of idle leave 360 W.
        inverter = {"rated_w": 2000.0, "surge_w": 4000.0, "efficiency_frac": 0.98, "idle_w": 40.0}
        marginal = 2000 / (2000 / 0.98 - 40)
        for house_w, fits in ((360 * marginal - 0.1, 4), (360 * marginal + 0.1, 1)):
            with self.subTest(house_w):
                house = fitted(
                    load("a", house_w), load("d", 100, tier="life", supply="dc"), inverter=inverter, bank=LIMITED
                )
                self.assertEqual(tiers(house), fits)

    def test_direct_current_of_a_lower_tier_keeps_no_higher_house_current_out(self):
        lamp, pump = load("lamp", 300, tier="life"), load("pump", 250, supply="dc")
        house = fitted(lamp, pump, bank=LIMITED)
        self.assertEqual((int(house.fits[12, -1, DC_TIERS]), tiers(house), why(house)), (1, 1, Overload.BANK_CURRENT))
        # Where the lamp does not fit the inverter at all, the pump has the bank for itself.
        alone = fitted(load("lamp", 1500, tier="life"), pump, inverter=SMALL, bank=LIMITED)
        self.assertEqual((int(alone.fits[12, -1, DC_TIERS]), tiers(alone), why(alone)), (4, 0, Overload.RATING))

    def test_direct_current_alone_can_be_too_much(self):
        house = fitted(load("a", 10, tier="life"), load("d", 501, supply="dc"), bank=LIMITED)
        self.assertEqual((int(house.fits[12, -1, DC_TIERS]), tiers(house), why(house)), (1, 1, Overload.BANK_CURRENT))


class Generator(unittest.TestCase):
    def carried(self, *loads, generator_w, generator_surge_w):
        house = fitted(*loads, generator_w=generator_w, generator_surge_w=generator_surge_w)
        return int(house.fits[12, -1, GENERATOR_TIERS]), Overload(int(house.fits[12, -1, GENERATOR_WHY]))

    def test_it_carries_within_its_rating_and_its_surge(self):
        loads = (load("a", 300, tier="life"), load("pump", 200, start_w=900.0), load("tv", 100, tier="ease"))
        for generator_w, surge_w, answer in (
            # 600 W run at once; the worst start is 600 + 700 W, and 500 + 700 W without the television.
            (600.0, 1300.0, (4, Overload.NONE)),
            (599.0, 1300.0, (2, Overload.RATING)),
            (600.0, 1299.0, (2, Overload.SURGE)),
            (600.0, 1199.0, (1, Overload.SURGE)),
            (299.0, 9000.0, (0, Overload.RATING)),
        ):
            with self.subTest(generator_w=generator_w, surge_w=surge_w):
                self.assertEqual(self.carried(*loads, generator_w=generator_w, generator_surge_w=surge_w), answer)

    def test_a_larger_generator_may_carry_what_the_inverter_drops(self):
        unit = {
            "rated_w": 1000.0, "stock_l": 50.0, "charger_w": 100.0, "start_soc_frac": 0.9, "stop_soc_frac": 1.0,
            "min_run_h": 24.0, "fuel_idle_l_per_h": 0.1, "fuel_l_per_kwh": 0.5,
        }  # fmt: skip
        found = assess(
            simple(
                load("a", 300, tier="life"), load("b", 400, tier="ease"), inverter=SMALL,
                charging={"generator": unit}, outage={"duration_h": 2.0},
            )
        ).outage  # fmt: skip
        # 300 W take the first tenth in 20 min; until then Ease is too much for the inverter.
        self.assertAlmostEqual(found.per_tier["ease"].unserved_h, 1 / 3)
        self.assertAlmostEqual(found.per_tier["ease"].served_wh, 400 * (2 - 1 / 3))
