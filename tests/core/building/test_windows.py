"""Expected windows against values worked by hand from the published formulas, and against the outage's own model."""

import math
import unittest
from datetime import datetime

from hypothesis import given

from hearthkeep.core.building.gates import gates_of
from hearthkeep.core.building.windows import Expected
from hearthkeep.core.design import read_design
from hearthkeep.core.outage import prepare
from tests.core.building.moments import gate_of, many_strings, noon
from tests.core.test_invariants import quick
from tests.strategies import designs
from tests.support.designs import CART, birchrow, moved


class ByHand(unittest.TestCase):
    def window(self, design, gate_key, ask_key, **moment):
        _, gate = gate_of(design, gate_key, noon(**moment))
        return next(ask.window for ask in gate.asks if ask.key == ask_key)

    def test_rest_volts_of_sixteen_lithium_cells_at_six_tenths(self):
        # The trade's table of a 12 V block has 13.1 V at 60 % (reference table, common practice): four blocks are 52.4 V. Give or take
        # 15 points: 45 % by the table between 40 and 50 %, 75 % between 70 and 80 %; and 0.06 V a block for the meter.
        window = self.window(birchrow(), "polarity", "polarity.bank_v")
        self.assertAlmostEqual(window.expected, 52.4, places=6)
        self.assertLess(window.low, 52.4 - 4 * 0.06)
        self.assertGreater(window.high, 52.4 + 4 * 0.06)

    def test_open_volts_at_900_watts_and_18_degrees(self):
        # cells = 18 + (45 - 20) x 900 / 800 = 46.125 C; 37 V x (1 - 0.0027 x 21.125) = 34.890; x (1 + 0.047 ln 0.9) = 34.717; x 4 = 138.87 V.
        window = self.window(many_strings(), "strings", "strings.south.1_v", sun_w_m2=900.0)
        self.assertAlmostEqual(window.expected, 138.87, places=2)
        self.assertTrue(window.low < 0.98 * 138.87 < 138.87 < 1.02 * 138.87 < window.high)
        # Narrow enough to tell a panel less, 25 %, and a shorted bypass diode, 8 %.
        self.assertLess(window.high - window.low, 0.11 * 138.87)

    def test_short_circuit_current_grows_with_the_sun(self):
        self.assertAlmostEqual(
            self.window(many_strings(), "strings", "strings.south.1_a", sun_w_m2=500.0).expected, 13.8 / 2
        )

    def test_current_of_a_test_load(self):
        # The demo's inverter: 45 W idle, 3,000 W at its efficiency; 300 W of test load at 52.4 V behind some milliohms.
        design = birchrow()
        inverter = design.inverter
        taken_w = 45.0 + 300.0 * (inverter.rated_w / inverter.efficiency_frac - 45.0) / inverter.rated_w
        window = self.window(design, "inverter", "inverter.test_a", test_load_w=300.0)
        self.assertAlmostEqual(window.expected, taken_w / 52.4, delta=0.02)
        self.assertTrue(window.low < 0.93 * window.expected and window.high > 1.07 * window.expected)

    def test_drop_of_a_run_is_ohms_law(self):
        expected, gate = gate_of(birchrow(), "inverter", noon(test_load_w=1000.0))
        run = expected.plan.find("bank")
        amps = next(ask.window.expected for ask in gate.asks if ask.key == "inverter.test_a")
        drop = next(ask.window.expected for ask in gate.asks if ask.key == "inverter.drop.bank_mv")
        self.assertAlmostEqual(drop, 1000 * amps * run.loop_ohm, places=6)
        pole_ohm = run.length_m * run.conductor.pole_ohm_per_m
        self.assertAlmostEqual(run.loop_ohm, 2 * pole_ohm, places=9)

    def test_precharge_reads_the_bank_less_one_in_a_hundred(self):
        self.assertAlmostEqual(self.window(birchrow(), "precharge", "precharge.v").expected, 0.99 * 52.4, places=6)

    def test_a_charger_gives_its_watts_over_the_banks_volts(self):
        window = self.window(birchrow(), "grid_charge", "grid_charge.a")
        self.assertAlmostEqual(window.expected, 2000.0 / 52.4, places=6)
        self.assertAlmostEqual(window.high, 1.15 * 2000.0 / 52.4, places=6)

    def test_the_highest_volts_of_a_cold_lead_bank_carry_the_correction(self):
        cart = read_design(CART.read_bytes())
        # AGM 14.4 to 14.7 V, so 14.55 V at 25 C; 6 cells x -4 mV x (T - 25).
        expected = 14.55 + 6 * 0.004 * (25.0 - cart.bank.temp_c)
        self.assertAlmostEqual(self.window(cart, "first_full", "first_full.v").expected, expected, places=6)

    def test_a_full_bank_excuses_a_charger_and_an_unknown_charge_widens_the_rest_volts(self):
        self.assertEqual(self.window(birchrow(), "grid_charge", "grid_charge.a", soc_frac=0.97).low, 0.0)
        wide, narrow = (self.window(birchrow(), "polarity", "polarity.bank_v", soc_frac=soc) for soc in (None, 0.6))
        self.assertTrue(wide.low < narrow.low and wide.high > narrow.high)

    def test_at_night_a_string_may_show_nothing(self):
        window = self.window(many_strings(), "strings", "strings.south.1_v", at=datetime(2026, 6, 15, 23, 30))
        self.assertEqual(window.low, 0.0)
        _, gate = gate_of(many_strings(), "strings", noon(at=datetime(2026, 6, 15, 23, 30)))
        self.assertIn("come back in brighter light", gate.now)


class OwnModel(unittest.TestCase):
    def test_charging_current_is_the_outages_own_sun_at_the_same_moment(self):
        design = moved(many_strings(), {
            "outage.start": "2026-06-15T11:52:30", "outage.duration_h": 1.0, "outage.days": [{"sky": "clear", "air_temp_c": 18.0}],
            "outage.warning_h": 0.0, "outage.sky_from": "by_hand", "simulation.time_step_min": 15,
        })  # fmt: skip
        prepared = prepare(design)
        # The step that begins at noon less seven and a half minutes has its middle at noon.
        clock = prepared.scene.clock
        at = next(
            step
            for step in range(len(clock.length_h))
            if abs((clock.edges_h[step] + clock.edges_h[step + 1]) / 2 - 0.125) < 0.2
        )
        middle_h = (clock.edges_h[at] + clock.edges_h[at + 1]) / 2
        moment = noon(at=datetime(2026, 6, 15, 11, 52, 30).replace(second=30), air_c=18.0)
        _, gate = gate_of(design, "sun", moment)
        watts = sum(ask.window.expected for ask in gate.asks if ask.key in ("sun.roof_a", "sun.wall_a")) * 52.4
        # Both within the minutes between.
        self.assertLess(middle_h, 0.3)
        self.assertAlmostEqual(watts, float(prepared.scene.sun.passed_w[at]), delta=0.01 * watts)

    @quick
    @given(designs())
    def test_every_window_holds_what_it_expects_and_is_a_number(self, design):
        for gate in gates_of(Expected(design, noon())):
            for ask in gate.asks:
                self.assertTrue(all(math.isfinite(value) for value in ask.window), ask)
                self.assertTrue(ask.window.holds(ask.window.expected), ask)
                self.assertTrue(ask.figure.formula and ask.figure.basis)

    def test_keys_of_readings_are_their_own(self):
        for design in (birchrow(), many_strings(), read_design(CART.read_bytes())):
            keys = [ask.key for gate in gates_of(Expected(design, noon())) for ask in gate.asks]
            self.assertEqual(len(keys), len(set(keys)))
