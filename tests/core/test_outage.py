"""The rules of the outage model, each with a case worked by hand. The bank is 1 kWh at 10 V without losses."""

import unittest
from typing import ClassVar

from hearthkeep.core.assess import assess
from tests.support.designs import array, load, simple

NIGHT = {"start": "2026-12-21T18:00:00", "duration_h": 12.0}


def outage(*loads, **parts):
    return assess(simple(*loads, **parts)).outage


def events(found, *kinds):
    return [(event.kind.value, event.tier, round(event.time_h, 4)) for event in found.events if event.kind in kinds]


class HoursCarried(unittest.TestCase):
    def test_a_steady_load_empties_the_bank_on_time(self):
        # 1000 Wh / 60 W = 16.667 h, inside a step.
        found = outage(load("a", 60))
        self.assertAlmostEqual(found.hours_carried_h, 1000 / 60, places=6)
        self.assertFalse(found.carried_to_the_end)
        self.assertAlmostEqual(found.per_tier["keep"].unserved_h, 24 - 1000 / 60, places=6)
        self.assertAlmostEqual(found.per_tier["keep"].unserved_wh, 60 * 24 - 1000, places=4)

    def test_dark_begins_only_when_something_asks(self):
        # The morning load empties the bank exactly; the next asks at 20:00.
        found = outage(load("a", 500, hours=[[2, 4]]), load("b", 10, hours=[[20, 21]]))
        self.assertAlmostEqual(found.hours_carried_h, 20.0)

    def test_ease_and_spare_do_not_count(self):
        found = outage(load("a", 10), load("b", 200, tier="ease"), load("c", 200, tier="spare"))
        self.assertTrue(found.carried_to_the_end)

    def test_idle_losses_and_efficiencies_add_up(self):
        # eta_m = 1000 / (1000/0.9 - 20) ; input = 20 + 50/eta_m ; x 1.02 wiring ; / 0.95 discharge.
        found = outage(
            load("a", 50),
            inverter={"rated_w": 1000.0, "surge_w": 2000.0, "efficiency_frac": 0.9, "idle_w": 20.0},
            wiring={"loss_frac": 0.02},
            bank={"discharge_efficiency_frac": 0.95},
        )
        marginal = 1000 / (1000 / 0.9 - 20)
        self.assertAlmostEqual(found.hours_carried_h, 1000 * 0.95 / ((20 + 50 / marginal) * 1.02), places=6)

    def test_the_inverter_idles_while_an_ac_load_is_owned_but_off(self):
        idle = {"rated_w": 1000.0, "surge_w": 2000.0, "efficiency_frac": 0.9, "idle_w": 20.0}
        found = outage(load("dc", 30, supply="dc"), load("ac", 100, hours=[[23, 24]]), inverter=idle)
        self.assertAlmostEqual(found.hours_carried_h, 1000 / 50, places=6)
        without = outage(load("dc", 30, supply="dc"), inverter=idle)
        self.assertTrue(without.carried_to_the_end)

    def test_idle_alone_stops_at_the_cut_off(self):
        found = outage(
            load("ac", 100, hours=[[23, 24]]),
            inverter={"rated_w": 1000.0, "surge_w": 2000.0, "efficiency_frac": 0.8, "idle_w": 50.0},
            bank={"cutoff_soc_frac": 0.1},
        )
        self.assertEqual(events(found, "cut_off"), [("cut_off", None, 18.0)])
        self.assertAlmostEqual(found.hours_carried_h, 23.0)
        self.assertAlmostEqual(found.min_soc_frac, 0.1)


class DropRules(unittest.TestCase):
    def test_tiers_drop_at_their_levels(self):
        found = outage(
            load("life", 20, tier="life"),
            load("keep", 30),
            load("ease", 50, tier="ease"),
            bank={"depth_frac": 0.8, "cutoff_soc_frac": 0.1},
            outage={"duration_h": 48.0},
        )
        # 100 W to 35 % in 6.5 h; 50 W to 20 % in 3 h; 20 W to 10 % in 5 h.
        self.assertEqual(
            events(found, "dropped"), [("dropped", "ease", 6.5), ("dropped", "keep", 9.5), ("dropped", "life", 14.5)]
        )
        self.assertAlmostEqual(found.hours_carried_h, 9.5)

    def test_ease_never_drops_below_the_floor(self):
        found = outage(load("ease", 100, tier="ease"), bank={"depth_frac": 0.4})
        self.assertEqual(events(found, "dropped"), [("dropped", "ease", 4.0)])

    def test_a_dropped_tier_returns_ten_points_above_its_level_and_not_on_sun_alone(self):
        # Falls to the 50 % floor in the evening; the next noon's sun exceeds the load long before 60 % is reached.
        found = outage(
            load("a", 50),
            arrays=(array("p", 400),),
            bank={"depth_frac": 0.5},
            outage={"start": "2026-06-21T19:00:00", "duration_h": 40.0},
        )
        dropped, returned = events(found, "dropped")[0], events(found, "returned")[0]
        self.assertAlmostEqual(dropped[2], 10.0, delta=0.8)
        stored_at_return = next(
            stored
            for time, stored in zip(found.series.time_h, found.series.stored_wh, strict=True)
            if time >= returned[2]
        )
        self.assertGreaterEqual(stored_at_return, 600)
        sun_when_up = [
            sun for time, sun in zip(found.series.time_h, found.series.sun_w, strict=False) if time < returned[2]
        ]
        self.assertGreater(max(sun_when_up), 60)

    def test_it_returns_at_the_moment_its_level_is_met_inside_a_step(self):
        # Kept at the floor of 20 %: 160 W lift 1 kWh by ten points in 37.5 min, and 100 W draw them down again in an hour.
        found = outage(
            load("a", 260),
            bank={"start_soc_frac": 0.2, "depth_frac": 0.8},
            charging={"bench_charger": {"output_w": 160.0, "plugged_hours": [[0, 24]]}},
            simulation={"time_step_min": 60},
            outage={"duration_h": 4.0},
        )
        self.assertEqual(
            events(found, "dropped", "returned"),
            [
                ("dropped", "keep", 0.0),
                ("returned", "keep", 0.625),
                ("dropped", "keep", 1.625),
                ("returned", "keep", 2.25),
                ("dropped", "keep", 3.25),
                ("returned", "keep", 3.875),
            ],
        )

    def test_at_its_level_a_tier_that_the_sun_carries_stays(self):
        found = outage(
            load("a", 50, hours=[[11, 13]]), arrays=(array("p", 400),), bank={"start_soc_frac": 0.0},
            outage={"start": "2026-06-21T11:00:00", "duration_h": 2.0},
        )  # fmt: skip
        self.assertTrue(found.carried_to_the_end)

    def test_no_tier_is_served_while_a_higher_one_is_dropped(self):
        found = outage(
            load("keep", 100, hours=[[0, 1]]), load("ease", 10, tier="ease", supply="dc"),
            bank={"start_soc_frac": 0.5, "depth_frac": 0.5}, policy={"ease_level_frac": 0.5},
        )  # fmt: skip
        self.assertEqual(found.per_tier["ease"].served_wh, 0)

    def test_linked_loads_drop_together(self):
        found = outage(load("a", 100, link="x"), load("b", 100, tier="ease", link="x"), outage={"duration_h": 10.0})
        self.assertEqual(found.per_tier["keep"].served_wh, 1000)
        self.assertEqual(found.hours_carried_h, 5.0)


class SpareOnSpill(unittest.TestCase):
    def test_spare_runs_only_on_what_would_be_spilled_and_only_whole(self):
        def served(watts):
            return (
                outage(load("s", watts, tier="spare", supply="dc"), arrays=(array("p", 500),))
                .per_tier["spare"]
                .served_wh
            )

        self.assertGreater(served(200), 200 * 3)
        self.assertEqual(served(600), 0)
        night = outage(load("s", 5, tier="spare"), arrays=(array("p", 500),), outage=NIGHT)
        self.assertEqual(night.per_tier["spare"].served_wh, 0)

    def test_a_bank_that_still_takes_everything_leaves_nothing(self):
        found = outage(
            load("s", 5, tier="spare"), arrays=(array("p", 100),),
            bank={"start_soc_frac": 0.0, "unit_ah": 1000.0},
        )  # fmt: skip
        self.assertEqual(found.per_tier["spare"].served_wh, 0)
        self.assertEqual(found.ledger_wh.spilled, 0)


class Overload(unittest.TestCase):
    def test_the_lowest_tier_goes_when_running_watts_exceed_the_rating(self):
        found = outage(
            load("keep", 600, duty_frac=0.01), load("ease", 500, tier="ease", duty_frac=0.01, hours=[[6, 9]]),
            inverter={"rated_w": 1000.0, "surge_w": 5000.0},
        )  # fmt: skip
        self.assertEqual(
            [(e.tier, e.cause, e.time_h) for e in found.events if e.kind == "overloaded"], [("ease", "rating", 6.0)]
        )
        self.assertEqual(found.per_tier["ease"].unserved_h, 3.0)
        self.assertTrue(found.carried_to_the_end)

    def test_a_start_above_the_surge_darkens_keep_when_nothing_lower_is_left(self):
        found = outage(
            load("pump", 300, start_w=2500.0, duty_frac=0.01, hours=[[5, 6]]), load("life", 50, tier="life", duty_frac=0.1),
            inverter={"rated_w": 1000.0, "surge_w": 2000.0},
        )  # fmt: skip
        self.assertEqual(found.hours_carried_h, 5.0)
        self.assertEqual(found.per_tier["life"].unserved_wh, 0)

    def test_the_banks_current_limit_does_the_same(self):
        found = outage(
            load("keep", 50, duty_frac=0.1), load("ease", 80, tier="ease", duty_frac=0.1, hours=[[6, 9]]),
            bank={"unit_max_discharge_a": 10.0},
        )  # fmt: skip
        self.assertEqual(
            [(e.tier, e.cause) for e in found.events if e.kind == "overloaded"], [("ease", "bank_current")]
        )

    def test_direct_current_loads_stay_when_the_inverter_is_overloaded(self):
        found = outage(
            load("ac", 900, duty_frac=0.01), load("dc", 5, supply="dc"), inverter={"rated_w": 500.0, "surge_w": 500.0}
        )
        self.assertEqual(found.hours_carried_h, 0.0)
        self.assertAlmostEqual(found.per_tier["keep"].served_wh, 5 * 24)

    def test_without_an_inverter_only_dc_is_served(self):
        found = outage(
            load("ac", 10, tier="ease"), load("dc", 5, supply="dc"),
            inverter={"rated_w": 0.0, "surge_w": 0.0, "idle_w": 0.0},
        )  # fmt: skip
        self.assertTrue(found.carried_to_the_end)
        self.assertEqual(found.per_tier["ease"].served_wh, 0)


class TheBank(unittest.TestCase):
    def test_peukert_above_the_rated_current(self):
        # Rated 100 Ah over 20 h: 5 A. A load of 100 W at 10 V is 10 A; the textbook gives 8.7055 h at k = 1.2.
        found = outage(load("a", 100, supply="dc"), bank={"chemistry": "agm", "peukert_exponent": 1.2})
        self.assertAlmostEqual(found.hours_carried_h, 8.705505632961241, places=6)
        below = outage(load("a", 50, supply="dc"), bank={"chemistry": "agm", "peukert_exponent": 1.2})
        self.assertAlmostEqual(below.hours_carried_h, 20.0, places=6)

    def test_lead_acid_takes_less_above_eighty_percent(self):
        def back(chemistry):
            return outage(
                load("a", 500, hours=[[0, 1]]),
                bank={"chemistry": chemistry, "unit_max_charge_a": 10.0},
                outage={"duration_h": 1.0},
                charging={"grid_charger": {"output_w": 5000.0}},
            ).hours_back_to_full_h

        # LFP: 500 Wh at 100 W. AGM: Peukert first; then the taper, 300 Wh at 100 W plus an exponential rest.
        self.assertAlmostEqual(back("lfp"), 5.0, places=4)
        self.assertGreater(back("agm"), 5.0 + 3.0)

    def test_taper_follows_its_own_law(self):
        # From 80 % at limit P: dE/dt = P (1 - 0.95 (s - 0.8)/0.2), so t = C 0.2/(0.95 P) ln(1/0.05).
        import math

        found = outage(
            bank={"chemistry": "agm", "unit_max_charge_a": 10.0, "start_soc_frac": 0.8},
            outage={"duration_h": 0.25},
            charging={"grid_charger": {"output_w": 5000.0}},
        )
        self.assertAlmostEqual(found.hours_back_to_full_h, 1000 * 0.2 / (0.95 * 100) * math.log(20), places=4)

    def test_below_freezing_lfp_takes_no_charge_and_the_sun_is_spilled(self):
        found = outage(load("a", 10), arrays=(array("p", 400),), bank={"temp_c": -1.0, "start_soc_frac": 0.5})
        self.assertLess(found.end_soc_frac, 0.5)
        self.assertGreater(found.ledger_wh.spilled, 500)
        at_zero = outage(load("a", 10), arrays=(array("p", 400),), bank={"temp_c": 0.0, "start_soc_frac": 0.5})
        self.assertGreater(at_zero.end_soc_frac, 0.9)

    def test_below_minus_twenty_lfp_gives_nothing(self):
        self.assertEqual(outage(load("a", 10), bank={"temp_c": -21.0}).hours_carried_h, 0.0)

    def test_ageing_and_cold_shrink_the_capacity(self):
        found = assess(simple(load("a", 10), bank={"ageing_frac": 0.8, "temp_c": 0.0}))
        self.assertAlmostEqual(found.bank.capacity_wh, 1000 * 0.8 * 0.93)

    def test_back_to_full_is_unknown_without_any_source(self):
        self.assertIsNone(outage(load("a", 10), charging={"grid_charger": {"output_w": 0.0}}).hours_back_to_full_h)


class TheClock(unittest.TestCase):
    def test_hours_of_the_day_are_local_and_a_crooked_start_is_cut_at_clock_steps(self):
        found = outage(
            load("a", 60, hours=[[18, 19]]),
            outage={"start": "2026-03-01T17:50:00", "duration_h": 2.0},
            simulation={"time_step_min": 30},
        )
        self.assertEqual([round(time, 4) for time in found.series.time_h], [0, 0.1667, 0.6667, 1.1667, 1.6667, 2.0])
        self.assertEqual(found.series.served_w, (0.0, 60.0, 60.0, 0.0, 0.0))

    def test_the_sky_follows_calendar_days_and_the_last_goes_on(self):
        found = assess(
            simple(
                arrays=(array("p", 100),),
                sky=("covered", "clear"),
                outage={"start": "2026-06-20T12:00:00", "duration_h": 60.0},
            )
        ).charging.daily_wh
        self.assertEqual(found[0], 0)
        self.assertGreater(found[1], 400)
        self.assertAlmostEqual(found[1], found[2], delta=0.01 * found[1])

    def test_an_offset_moves_the_sun(self):
        def noon(offset):
            series = assess(
                simple(arrays=(array("p", 100),), site={"utc_offset_h": offset, "longitude_deg": 0.0})
            ).outage.series
            return series.time_h[max(range(96), key=lambda step: series.sun_w[step])]

        self.assertAlmostEqual(noon(2.0) - noon(0.0), 2.0, delta=0.26)


class Controllers(unittest.TestCase):
    def sun(self, **controller):
        return assess(simple(arrays=(array("p", 1000, vmp_v=18.0, losses_frac=0.0),), controller=controller))

    def test_clipping_is_spilled_and_counted(self):
        found = self.sun(output_a=20.0)
        self.assertAlmostEqual(max(found.outage.series.sun_w), max(self.sun().outage.series.sun_w))
        self.assertGreater(found.charging.clipped_wh, 1000)
        self.assertGreaterEqual(found.outage.ledger_wh.spilled, found.charging.clipped_wh - 1e-6)

    def test_a_switching_controller_pins_the_panel_to_the_bank(self):
        pwm, mppt = self.sun(kind="pwm"), self.sun(kind="mppt")
        # Current x 10 V instead of x 18 V, and hot cells cost it no current.
        self.assertAlmostEqual(pwm.charging.offered_wh / mppt.charging.offered_wh, 10 / 18, delta=0.08)

    def test_panels_below_the_banks_voltage_give_nothing(self):
        found = assess(simple(arrays=(array("p", 1000, vmp_v=9.0),)))
        self.assertEqual(found.charging.offered_wh, 0)
        self.assertIn("ARRAY_VOLTAGE_LOW", [finding.code for finding in found.findings])


class Prices(unittest.TestCase):
    def test_without_a_load_is_the_same_as_deleting_it(self):
        found = assess(simple(load("a", 60), load("b", 40)))
        self.assertAlmostEqual(found.prices.without_load["b"].gain_h, 1000 / 60 - 10, places=6)

    def test_one_unit_more_and_less(self):
        found = assess(simple(load("a", 100), bank={"parallel": 2}, outage={"duration_h": 48.0}))
        self.assertAlmostEqual(found.prices.one_unit_more.gain_h, 10.0, places=6)
        self.assertAlmostEqual(found.prices.one_unit_less.gain_h, -10.0, places=6)

    def test_once_carried_the_lowest_charge_tells_them_apart(self):
        price = assess(simple(load("a", 10), load("b", 20))).prices.without_load["b"]
        self.assertEqual(price.gain_h, 0)
        self.assertAlmostEqual(price.lowest_soc_gain_frac, 0.48)


class WhoStandsBack(unittest.TestCase):
    """Only what asks and cannot be served is dropped; what stands back behind it returns with it."""

    def test_a_lower_tier_that_never_asked_is_served_as_soon_as_the_higher_one_is(self):
        # Keep reaches its floor of 20 % at 3:00 and goes. From 8 on 160 W fill the bank: Keep returns at 30 %, at 8:37:30.
        # Ease, whose own level is 35 %, asks first at 10:00, at 52 %: nothing keeps it out.
        found = outage(
            load("keep", 100, hours=[[0, 6]]),
            load("ease", 20, tier="ease", hours=[[10, 12]]),
            bank={"start_soc_frac": 0.5, "depth_frac": 0.8},
            charging={"bench_charger": {"output_w": 160.0, "plugged_hours": [[8, 12]]}},
            outage={"duration_h": 14.0},
        )
        self.assertEqual(events(found, "dropped", "returned"), [("dropped", "keep", 3.0), ("returned", "keep", 8.625)])
        self.assertEqual(found.per_tier["ease"].unserved_wh, 0)

    def test_it_stands_back_meanwhile(self):
        # Keep is out from 1:00 on, Ease asks in the second hour: not dropped, not served.
        found = outage(
            load("keep", 100), load("ease", 10, tier="ease", hours=[[2, 3]]),
            bank={"start_soc_frac": 0.5, "depth_frac": 0.6}, policy={"ease_level_frac": 0.0}, outage={"duration_h": 4.0},
        )  # fmt: skip
        self.assertEqual(events(found, "dropped"), [("dropped", "keep", 1.0)])
        self.assertEqual(found.per_tier["ease"].unserved_wh, 10)

    def test_a_tier_of_its_own_level_is_dropped_for_itself(self):
        found = outage(
            load("keep", 100), load("ease", 100, tier="ease"), bank={"depth_frac": 0.8}, outage={"duration_h": 8.0}
        )
        self.assertEqual(events(found, "dropped"), [("dropped", "ease", 3.25), ("dropped", "keep", 4.75)])


class AnInverterThatIdlesAtTheCutOff(unittest.TestCase):
    IDLE: ClassVar = {"rated_w": 1000.0, "surge_w": 2000.0, "efficiency_frac": 0.8, "idle_w": 60.0}

    def test_it_goes_off_and_leaves_direct_current_alone(self):
        # At -1 °C a fifth of 922 Wh, which 60 W empty in 3 h 04, and no charging. From 8 the sun carries Life's lamp, as it would with no inverter in the house.
        parts = {"arrays": (array("p", 400),), "bank": {"start_soc_frac": 0.2, "temp_c": -1.0},
                 "outage": {"start": "2026-06-21T20:00:00", "duration_h": 22.0}}  # fmt: skip
        lamp = load("lamp", 20, tier="life", supply="dc", hours=[[8, 18]])
        found = outage(lamp, load("tv", 50, hours=[[19, 20]]), inverter=self.IDLE, **parts)
        self.assertEqual(events(found, "cut_off", "dropped"), [("cut_off", None, 3.0733)])
        self.assertEqual(found.per_tier["life"].unserved_wh, 0)
        self.assertTrue(found.carried_to_the_end)

    def test_it_comes_back_ten_points_above(self):
        # 100 W from 8 on lift 1 kWh from nothing by a tenth in an hour; then 60 W of idle and 40 W into the bank.
        found = outage(
            load("tv", 50, hours=[[19, 20]]), inverter=self.IDLE, bank={"start_soc_frac": 0.12},
            charging={"bench_charger": {"output_w": 100.0, "plugged_hours": [[8, 12]]}}, outage={"duration_h": 12.0},
        )  # fmt: skip
        self.assertEqual(
            events(found, "cut_off", "inverter_back"), [("cut_off", None, 2.0), ("inverter_back", None, 9.0)]
        )
        self.assertAlmostEqual(found.end_soc_frac, 0.1 + 3 * 0.04)

    def test_a_house_load_that_asks_while_it_is_off_is_dark_and_one_on_the_bank_is_not(self):
        found = outage(
            load("tv", 50, hours=[[5, 6]]), load("pump", 10, supply="dc", hours=[[4, 8]]), inverter=self.IDLE,
            bank={"start_soc_frac": 0.12, "cutoff_soc_frac": 0.0},
            charging={"bench_charger": {"output_w": 15.0, "plugged_hours": [[3, 12]]}}, outage={"duration_h": 10.0},
        )  # fmt: skip
        self.assertEqual(found.hours_carried_h, 5.0)
        self.assertEqual(found.per_tier["keep"].unserved_wh, 50)
        self.assertEqual(found.per_tier["keep"].served_wh, 40)


class NothingIsLost(unittest.TestCase):
    """A bank of seconds under a large load switches without end; every moment is counted all the same."""

    def thrashing(self):
        return outage(
            load("a", 300), bank={"unit_ah": 0.2, "start_soc_frac": 0.05, "depth_frac": 0.9},
            charging={"bench_charger": {"output_w": 250.0, "plugged_hours": [[0, 24]]}}, outage={"duration_h": 60.0},
        )  # fmt: skip

    def test_events_beyond_the_list_are_counted_and_said(self):
        found = self.thrashing()
        self.assertEqual(len(found.events), 2000)
        self.assertGreater(found.events_left_out, 1000)
        self.assertEqual(found.unsettled_h, 0.0)

    def test_the_whole_time_is_in_the_books(self):
        found = self.thrashing()
        ledger = found.ledger_wh
        self.assertAlmostEqual(ledger.other, 250 * 60)
        self.assertLess(abs(ledger.difference), 1e-6)
        keep = found.per_tier["keep"]
        self.assertAlmostEqual(keep.served_wh + keep.unserved_wh, 300 * 60, places=6)
