"""The bank from all sides: sharing, life, rest, refill, heater, the sheet from need to bank, comparisons."""

import math
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from hearthkeep.core.assess import assess
from hearthkeep.core.bank import cycles_at, evening_of, hours_to_full, left_after, rate, rest_state, shares, sharing_of
from hearthkeep.core.design import Chemistry, CyclePoint, TakeOff
from hearthkeep.core.sizing import compare_chemistries, conductor_for
from tests.runner.profile import examples
from tests.support.designs import ROOT, array, birchrow, changed, load, simple


def by_meshes(strings: int, string_mohm: float, link_mohm: float, takeoff: TakeOff) -> list[float]:
    """The same network by mesh currents: unknown string currents, equal voltage around each loop.

    Around the loop of two neighbouring strings: R i_k - R i_(k+1) plus the drop of the links between them is nothing. The
    positive link between k and k+1 carries what the strings beyond it give, as the negative one does, on the side away
    from its take-off.
    """
    matrix, right = np.zeros((strings, strings)), np.zeros(strings)
    for k in range(strings - 1):
        matrix[k, k], matrix[k, k + 1] = string_mohm, -string_mohm
        # Positive lead at the first string: the link carries the strings after it.
        matrix[k, k + 1 :] -= link_mohm
        if takeoff is TakeOff.ONE_END:
            matrix[k, k + 1 :] -= link_mohm
        else:
            matrix[k, : k + 1] += link_mohm
    matrix[-1], right[-1] = 1.0, 1.0
    return list(np.linalg.solve(matrix, right))


class SharingOfStrings(unittest.TestCase):
    @examples(80)
    @given(
        st.integers(2, 16),
        st.floats(0.5, 60),
        st.floats(0.01, 5),
        st.sampled_from([TakeOff.ONE_END, TakeOff.OPPOSITE_ENDS]),
    )
    def test_nodes_and_meshes_agree(self, strings, string_mohm, link_mohm, takeoff):
        found = shares(strings=strings, string_mohm=string_mohm, link_mohm=link_mohm, takeoff=takeoff)
        for one, other in zip(found, by_meshes(strings, string_mohm, link_mohm, takeoff), strict=True):
            self.assertAlmostEqual(one, other, places=9)
        self.assertAlmostEqual(sum(found), 1)

    def test_two_strings_by_hand(self):
        # 10 and 10 + 2 x 1 mOhm in parallel: 12 / 22 and 10 / 22.
        found = shares(strings=2, string_mohm=10.0, link_mohm=1.0, takeoff=TakeOff.ONE_END)
        self.assertAlmostEqual(found[0], 12 / 22)

    def test_one_end_falls_steadily_opposite_ends_are_symmetric_and_flatter(self):
        one = shares(strings=5, string_mohm=8.0, link_mohm=0.5, takeoff=TakeOff.ONE_END)
        two = shares(strings=5, string_mohm=8.0, link_mohm=0.5, takeoff=TakeOff.OPPOSITE_ENDS)
        self.assertEqual(list(one), sorted(one, reverse=True))
        np.testing.assert_allclose(two, two[::-1])
        self.assertLess(max(two), max(one))

    def test_the_bank_s_limit_is_that_of_the_hardest_worked_string(self):
        even = rate(simple(bank={"parallel": 4, "takeoff": "equal_leads"}).bank)
        one_end = simple(bank={"parallel": 4, "takeoff": "one_end", "link_mohm": 1.0})
        worst = assess(one_end).arrangement.sharing.worst_ratio
        self.assertGreater(worst, 1.2)
        self.assertAlmostEqual(rate(one_end.bank).discharge_limit_a, even.discharge_limit_a / worst)


class LifeAndRest(unittest.TestCase):
    POINTS = (CyclePoint(depth_frac=0.5, cycles=1000), CyclePoint(depth_frac=1.0, cycles=250))

    def test_cycles_are_straight_on_log_log_paper(self):
        self.assertAlmostEqual(cycles_at(self.POINTS, 0.5), 1000)
        self.assertAlmostEqual(cycles_at(self.POINTS, 2**-0.5), 500)
        self.assertAlmostEqual(cycles_at(self.POINTS, 0.25), 4000)

    def test_use_or_the_calendar_whichever_comes_first(self):
        bank = {"unit": {"name": "u", "cycle_points": [{"depth_frac": 1.0, "cycles": 300.0}], "calendar_years": 8.0}}
        busy = assess(simple(bank={**bank, "need": {"cycles_per_year": 100.0}})).arrangement.life
        idle = assess(simple(bank={**bank, "need": {"cycles_per_year": 10.0}})).arrangement.life
        self.assertEqual((busy.years, busy.by_calendar, idle.years, idle.by_calendar), (3.0, False, 8.0, True))

    def test_eleven_months_in_a_cupboard(self):
        self.assertAlmostEqual(left_after(11, 0.03), 0.97**11)

    def test_refill_agrees_with_the_outage_model(self):
        # 1 kWh lead-acid from its floor at 20 % by 100 W: what the grid's return takes in the simulation.
        design = simple(
            load("a", 100, hours=[[0, 8]]),
            bank={"chemistry": "agm", "depth_frac": 0.8, "peukert_exponent": 1.0, "unit_max_charge_a": 10.0},
            outage={"duration_h": 8.0},
            charging={"grid_charger": {"output_w": 500.0}},
        )
        found = assess(design)
        self.assertAlmostEqual(found.outage.end_soc_frac, 0.2)
        self.assertAlmostEqual(found.arrangement.life.recharge_h, found.outage.hours_back_to_full_h, places=3)

    def test_a_charger_below_the_falling_limit_meets_it_late(self):
        rating = rate(simple(bank={"chemistry": "agm", "depth_frac": 0.5, "unit_max_charge_a": 20.0}).bank)
        slow = hours_to_full(rating, charger_w=20.0, from_frac=rating.floor_soc_frac)
        # 200 W limit; at 20 W the falling limit is met at 0.8 + 0.9 x 0.2 / 0.95.
        meets = 0.8 + 0.9 / 4.75
        tail = math.log(0.1 / 0.05) / (4.75 * 200 / 1000)
        self.assertAlmostEqual(slow, 1000 * (meets - 0.5) / 20 + tail)
        self.assertIsNone(hours_to_full(rating, charger_w=0.0, from_frac=0.5))

    def test_rest_voltage_scales_with_the_bank(self):
        bank = simple(bank={"chemistry": "flooded", "unit_v": 12.0, "series": 4, "cutoff_soc_frac": 0.2}).bank
        self.assertAlmostEqual(rest_state(bank, 4 * 12.10).soc_frac, 0.5)
        self.assertEqual(rest_state(bank, 60.0).soc_frac, 1.0)
        soc = [rest_state(bank, volts / 10).soc_frac for volts in range(440, 520)]
        self.assertEqual(soc, sorted(soc))


class Heater(unittest.TestCase):
    def test_it_warms_the_cells_and_draws_on_the_bank_as_life(self):
        cold = {"temp_c": -10.0, "heater": {"power_w": 40.0, "loss_w_per_c": 2.0, "target_c": 5.0}}
        found = assess(simple(load("a", 10), bank=cold))
        # 15 degrees at 2 W each: 30 W all day.
        self.assertEqual((found.arrangement.heater_w, found.arrangement.temp_c), (30.0, 5.0))
        self.assertEqual(found.loads.daily_by_tier_wh["life"], 720)
        weak = assess(simple(load("a", 10), bank={**cold, "heater": {**cold["heater"], "power_w": 10.0}})).arrangement
        self.assertEqual((weak.heater_w, weak.temp_c), (10.0, -5.0))

    def test_it_is_nobody_s_medical_equipment_and_no_load_of_the_audit(self):
        cold = {"temp_c": -20.0, "heater": {"power_w": 1000.0, "loss_w_per_c": 40.0, "target_c": 5.0}}
        codes = [finding.code for finding in assess(simple(load("a", 10), bank=cold)).findings]
        self.assertFalse({"LIFE_EQUIPMENT", "HEAT_FROM_BATTERY"} & set(codes))

    def test_where_it_is_warm_it_rests(self):
        found = assess(simple(load("a", 10), bank={"temp_c": 20.0, "heater": {"power_w": 40.0}}))
        self.assertEqual((found.arrangement.heater_w, found.loads.daily_wh), (0.0, 240))


class NeedToBank(unittest.TestCase):
    def test_the_sheet_by_hand(self):
        # 50 W all day, 1 kW unit of 90 % idling at 20 W, 2 % cable: 1,200 + 480 + 1,200 x 0.09111 = 1,789.3; x 1.02.
        found = assess(
            simple(
                load("a", 50),
                load("b", 500, tier="ease"),
                inverter={"rated_w": 1000.0, "surge_w": 3000.0, "efficiency_frac": 0.9, "idle_w": 20.0},
                wiring={"loss_frac": 0.02},
                bank={
                    "discharge_efficiency_frac": 0.95,
                    "depth_frac": 0.8,
                    "need": {"autonomy_h": 36.0, "growth_frac": 0.25, "end_of_life_frac": 0.8},
                },
            )
        ).arrangement.need
        day = (1200 + 480 + 1200 * ((1000 / 0.9 - 20) / 1000 - 1)) * 1.02
        stored = day * 1.5 * 1.25 / 0.95
        lines = {line.key: line.value for line in found.lines}
        self.assertAlmostEqual(lines["day"], day)
        self.assertAlmostEqual(lines["stored"], stored)
        self.assertAlmostEqual(lines["nominal"], stored / (0.8 * 0.8))
        self.assertAlmostEqual(lines["nominal_ah"], lines["nominal"] / 10)
        self.assertEqual((found.binding, found.strings_needed), ("energy", math.ceil(lines["nominal"] / 1000)))

    def test_birchrow_by_hand_agrees_to_the_last_figure(self):
        text = (ROOT / "docs" / "birchrow-sheet.md").read_text()
        table = [
            line.strip("| ").split(" | ") for line in text.splitlines() if line.startswith("| ") and "--" not in line
        ]
        need = assess(birchrow()).arrangement.need
        found = {line.key: f"{line.value:.3f}" for line in need.lines} | {"strings": str(need.strings_needed)}
        self.assertEqual(dict(table[1:]), found)

    def test_current_can_bind_instead_of_energy(self):
        # 720 W at the low cut-off of 8 V, 90 A of 30 A a string: three if they share evenly, more where the first carries more than its part.
        bank = {"unit_max_discharge_a": 30.0, "link_mohm": 0.1}
        for takeoff, strings in (("equal_leads", 3), ("opposite_ends", 4)):
            design = simple(load("a", 720, duty_frac=0.01), bank={**bank, "takeoff": takeoff})
            found = assess(design).arrangement.need
            self.assertEqual((found.binding, found.strings_needed), ("discharge", strings))

    def test_a_dark_day_audit_leaves_out_what_is_dropped_then(self):
        design = simple(load("a", 50), load("cooker", 1000, hours=[[18, 19]], dark_day="drop"))
        dark = assess(design).arrangement.need
        usual = assess(changed(design, bank={"need": {"dark_day": False}})).arrangement.need
        self.assertAlmostEqual(usual.lines[0].value - dark.lines[0].value, 1000)

    def test_the_same_need_in_each_chemistry(self):
        rows = compare_chemistries(simple(bank={"need": {"end_of_life_frac": 1.0}}), terminal_wh=1000.0)
        lfp = next(row for row in rows if row.chemistry is Chemistry.LFP and row.depth_frac == 0.8)
        agm = next(row for row in rows if row.chemistry is Chemistry.AGM and row.depth_frac == 0.5)
        self.assertAlmostEqual(lfp.nominal_wh, 1000 / 0.98 / 0.8)
        self.assertAlmostEqual(agm.nominal_wh, 2000)
        self.assertGreater(agm.mass_kg, 3 * lfp.mass_kg)
        # Deeper costs cycles and saves blocks.
        depths = [row for row in rows if row.chemistry is Chemistry.LFP]
        self.assertEqual([row.cycles for row in depths], sorted((row.cycles for row in depths), reverse=True))

    def test_a_row_of_the_comparison_by_hand(self):
        bank = {
            "chemistry": "agm", "depth_frac": 0.5, "cutoff_soc_frac": 0.1,
            "need": {"end_of_life_frac": 0.8, "cycles_per_year": 140.0},
        }  # fmt: skip
        rows = compare_chemistries(simple(bank=bank), terminal_wh=1000.0)
        row = next(row for row in rows if row.is_chosen)
        self.assertEqual((row.chemistry, row.depth_frac), (Chemistry.AGM, 0.5))
        # 1,000 Wh ÷ 0.5 ÷ 0.8 are 2,500 Wh, which three blocks of 1,200 Wh hold.
        self.assertAlmostEqual(row.nominal_wh, 2500)
        self.assertEqual(row.blocks, 3)
        self.assertAlmostEqual(row.usable_wh, 1800)
        self.assertAlmostEqual(row.mass_kg, 3600 / 34)
        self.assertAlmostEqual(row.floor_m2, 3600 / 85 / 1000 / 0.5)
        self.assertAlmostEqual(row.price, 3.6 * 240)
        # 700 cycles at half depth are five years of 140, before the calendar's seven.
        self.assertAlmostEqual(row.years, 5)
        self.assertFalse(row.by_calendar)
        self.assertAlmostEqual(row.price_per_kwh_given, 864 / (0.9 * 1.8 * 700))

    def test_the_limits_of_the_units_side_by_side_add_up(self):
        side_by_side = {
            "unit_max_charge_a": 20.0,
            "unit_max_discharge_a": 50.0,
            "parallel": 3,
            "takeoff": "equal_leads",
        }
        rating = rate(simple(bank=side_by_side).bank)
        self.assertAlmostEqual(rating.charge_limit_w, 3 * 20 * 10)
        self.assertAlmostEqual(rating.discharge_limit_w, 3 * 50 * 10)
        # Taken from one end the first carries more than its third, and the bank stops where that one does.
        uneven = rate(simple(bank={**side_by_side, "takeoff": "one_end", "link_mohm": 1.0}).bank)
        share = max(sharing_of(simple(bank={**side_by_side, "takeoff": "one_end", "link_mohm": 1.0}).bank).share_frac)
        self.assertAlmostEqual(uneven.charge_limit_w, 20 * 10 / share)
        self.assertLess(uneven.charge_limit_w, 600)

    def test_a_higher_voltage_halves_the_current(self):
        found = assess(simple(load("a", 2000), bank={"unit_v": 12.8})).arrangement.voltages
        self.assertAlmostEqual(found[0].peak_a / found[1].peak_a, 2)
        self.assertEqual([row.verdict for row in found], ["possible", "easy", "easy"])
        self.assertTrue(found[0].is_chosen)
        self.assertEqual(conductor_for(80.0), "3")


class SeveralInverters(unittest.TestCase):
    def test_two_of_half_the_size_are_one_of_the_whole(self):
        # Two pairs of leads are not one: a flat loss instead.
        one = changed(birchrow(), wiring={"loss_frac": 0.015})
        two = changed(one, inverter={"units": 2, "rated_w": 1500.0, "surge_w": 2000.0, "idle_w": 22.5})
        self.assertAlmostEqual(assess(two).outage.hours_carried_h, assess(one).outage.hours_carried_h)
        self.assertEqual(assess(one).one_failed.units_left, 0)
        self.assertEqual(assess(two).one_failed.units_left, 1)

    def test_with_one_failed_only_what_fits_the_other_runs(self):
        pair = {"units": 2, "rated_w": 500.0, "surge_w": 600.0}
        found = assess(simple(load("a", 300), load("b", 400, tier="ease"), inverter=pair)).one_failed
        self.assertEqual(found.tiers_carried, ("life", "keep"))

    def test_the_all_in_one_takes_its_own_sun_with_it_and_a_controller_of_its_own_stays(self):
        # A DC load of 60 W by night and day: 1 kWh lasts 16 h 40, and from noon the sun would carry it.
        parts = {"outage": {"start": "2026-06-21T00:00:00", "duration_h": 20.0}, "inverter": {"build": "all_in_one"}}
        radio, panels = load("radio", 60, supply="dc"), (array("p", 400),)
        own, built_in = (
            assess(simple(radio, arrays=panels, controller={"built_in": flag}, **parts)) for flag in (False, True)
        )
        self.assertEqual(own.one_failed.hours_carried_h, 20.0)
        self.assertAlmostEqual(built_in.one_failed.hours_carried_h, 1000 / 60)
        self.assertEqual(built_in.outage.hours_carried_h, 20.0)
        pair = {**parts, "inverter": {"build": "all_in_one", "units": 2}}
        half = assess(simple(radio, arrays=panels, controller={"built_in": True}, **pair))
        self.assertEqual(half.one_failed.hours_carried_h, 20.0)


class HowSharesEvenOut(unittest.TestCase):
    """Six strings joined from one end; the hardest-worked sinks first and the others take over."""

    def found(self, takeoff="one_end", current_a=30.0, **fields):
        bank = simple(bank={"parallel": 6, "link_mohm": 1.0, "unit_v": 12.8, "takeoff": takeoff, **fields}).bank
        return evening_of(bank, current_a=current_a, depth_frac=0.8)

    def test_the_first_minute_is_the_ladder_s_and_later_they_are_nearly_even(self):
        found = self.found()
        bank = simple(bank={"parallel": 6, "link_mohm": 1.0, "unit_v": 12.8, "takeoff": "one_end"}).bank
        self.assertAlmostEqual(found.first_ratio, sharing_of(bank).worst_ratio)
        self.assertLess(found.half_way_ratio, 1.05)
        self.assertTrue(1.05 < found.of_all_ratio < found.first_ratio)

    def test_a_faster_draw_leaves_less_time_to_even_out(self):
        ratios = [self.found(current_a=amps).of_all_ratio for amps in (10.0, 50.0, 250.0)]
        self.assertEqual(ratios, sorted(ratios))

    def test_equal_leads_and_a_single_string_have_nothing_to_even_out(self):
        self.assertIsNone(self.found("equal_leads"))
        self.assertIsNone(self.found(parallel=1))

    def test_the_finding_says_so(self):
        design = simple(load("a", 100), bank={"parallel": 6, "link_mohm": 1.0, "takeoff": "one_end"})
        message = next(entry.message for entry in assess(design).findings if entry.code == "UNEVEN_SHARING")
        self.assertIn("In the first minute", message)
        self.assertRegex(message, r"half way down")


class RestVoltsOfAnyName(unittest.TestCase):
    def test_twelve_volts_and_twelve_point_eight_are_the_same_four_cells(self):
        for names in ((12.0, 12.8), (24.0, 25.6), (48.0, 51.2)):
            states = []
            for unit_v in names:
                bank = simple(bank={"unit_v": unit_v}).bank
                states.append(rest_state(bank, 13.0 * round(unit_v / 12.8)).soc_frac)
            with self.subTest(names):
                self.assertAlmostEqual(states[0], states[1])
                self.assertAlmostEqual(states[0], 0.4)
