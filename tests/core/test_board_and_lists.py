"""The layout board, what is bought and cut, and what is checked before anything is closed."""

import unittest
from collections import Counter

from hearthkeep.core.assess import assess
from hearthkeep.core.bank import rate
from hearthkeep.core.design import DeviceKind, Practice, RunSet
from hearthkeep.core.wiring import torque_words, wiring_plan, wiring_sheet
from tests.core.as_built import cart, on_roof, two_units, without_bar
from tests.core.made import cabin, home
from tests.core.made_wiring import everything
from tests.support.designs import birchrow, moved


def placed(*places):
    """The home with parts put somewhere on its board: key, from the left, from below [mm]."""
    board = {"places": [{"part": part, "x_mm": float(x), "y_mm": float(y)} for part, x, y in places]}
    return moved(home(), {"wiring": {"board": board}})


class Board(unittest.TestCase):
    def part(self, design, key):
        return next(part for part in wiring_sheet(design).board if part.key == key)

    def test_lengths_go_from_middle_to_middle_across_and_down(self):
        design = placed(("bus", 0, 1000), ("inverter-1", 1000, 1400))
        bus, inverter = self.part(design, "bus"), self.part(design, "inverter-1")
        across = abs(bus.x_mm + bus.width_mm / 2 - inverter.x_mm - inverter.width_mm / 2)
        up = abs(bus.y_mm + bus.height_mm / 2 - inverter.y_mm - inverter.height_mm / 2)
        run = wiring_plan(design, rate(design.bank)).find("inverter-1")
        self.assertEqual((run.length_m, run.length_from), (round((across + up) / 1000 + 0.3, 2), "board"))
        further = wiring_plan(moved(design, {"wiring.board.places.1.x_mm": 1500.0}), rate(design.bank)).find(
            "inverter-1"
        )
        self.assertAlmostEqual(further.length_m - run.length_m, 0.5, places=2)

    def test_a_length_that_is_set_stands_before_the_board_s(self):
        design = moved(placed(("bus", 0, 1000)), {"wiring.runs": [{"run": "inverter-1", "length_m": 2.5}]})
        self.assertEqual(wiring_plan(design, rate(design.bank)).find("inverter-1").length_m, 2.5)

    def test_sizes_and_weights_are_those_of_the_data_sheets(self):
        block = {"name": "b", "mass_kg": 45.0, "length_mm": 442.0, "width_mm": 420.0, "height_mm": 133.0}
        unit = {"name": "i", "mass_kg": 30.0, "width_mm": 380.0, "height_mm": 560.0, "depth_mm": 150.0}
        design = moved(home(), {"bank.unit": block, "inverter.sheet": unit})
        battery, inverter = self.part(design, "battery-1-1"), self.part(design, "inverter-1")
        self.assertEqual(
            (battery.width_mm, battery.height_mm, battery.depth_mm, battery.is_known), (442.0, 133.0, 420.0, True)
        )
        self.assertEqual(
            (inverter.width_mm, inverter.height_mm, inverter.mass_kg, inverter.is_known), (380, 560, 30.0, True)
        )
        self.assertFalse(self.part(home(), "inverter-1").is_known)
        sheet = wiring_sheet(design)
        self.assertAlmostEqual(sheet.mass_kg - sheet.hung_kg, 2 * 45.0)

    def test_where_nobody_put_anything_no_two_parts_lie_over_each_other(self):
        for design in (
            home(),
            cabin(),
            birchrow(),
            everything(),
            moved(home(), {"bank.parallel": 12, "inverter.units": 4}),
        ):
            parts = wiring_sheet(design).board
            for at, one in enumerate(parts):
                for other in parts[at + 1 :]:
                    across = min(one.x_mm + one.width_mm, other.x_mm + other.width_mm) - max(one.x_mm, other.x_mm)
                    up = min(one.y_mm + one.height_mm, other.y_mm + other.height_mm) - max(one.y_mm, other.y_mm)
                    self.assertLessEqual(min(across, up), 0.0, (one.key, other.key))


class Lists(unittest.TestCase):
    def test_metres_of_the_cut_list_are_bought_with_a_tenth_to_spare(self):
        lists = wiring_sheet(everything()).lists
        cut_m = sum(cut.quantity * cut.length_m for cut in lists.cuts)
        bought_m = sum(part.quantity for part in lists.parts if part.unit == "m")
        self.assertAlmostEqual(bought_m, 1.1 * cut_m, delta=0.05 * sum(part.unit == "m" for part in lists.parts))

    def test_the_cut_list_goes_from_drum_to_drum_the_thickest_first(self):
        cuts = [cut.conductor for cut in wiring_sheet(birchrow()).lists.cuts]
        self.assertEqual(
            [size for at, size in enumerate(cuts) if at == 0 or size != cuts[at - 1]],
            ["3 AWG", "6 AWG", "8 AWG", "10 AWG"],
        )

    def test_as_many_devices_are_bought_as_the_runs_ask_for(self):
        design = everything()
        asked: Counter[tuple[DeviceKind, float]] = Counter()
        for run in wiring_plan(design, rate(design.bank)).runs:
            if run.device is not None:
                asked[run.device.kind, run.device.rating_a] += run.run.count
        lists = wiring_sheet(design).lists
        bought = {part.item: part.quantity for part in lists.parts}
        for (kind, rating_a), count in asked.items():
            self.assertEqual(bought[f"device/{kind.value} {rating_a:g} A"], count)
        # Three strings on the roof, each with its fuse.
        self.assertEqual(bought["device/solar_fuse 20 A"], 3)
        self.assertEqual(sum(line.quantity for line in lists.devices), sum(asked.values()))

    def test_prices_of_data_sheets_and_those_entered_add_up(self):
        design = moved(
            birchrow(),
            {"bank.unit": {"name": "b", "price": 1450.0}, "wiring.prices": [{"item": "unit/inverter", "price": 900.0}]},
        )
        lists = wiring_sheet(design).lists
        self.assertAlmostEqual(lists.total, 2 * 1450.0 + 900.0 + 780.0)
        self.assertEqual(lists.unpriced, len(lists.parts) - 3)
        # All three are units, and no fittings.
        self.assertEqual(lists.fittings_total, 0.0)
        fuse = next(part for part in lists.parts if part.item.startswith("device/"))
        priced = moved(birchrow(), {"wiring.prices": [{"item": fuse.item, "price": 12.5}]})
        self.assertAlmostEqual(wiring_sheet(priced).lists.fittings_total, 12.5 * fuse.quantity)
        keys = [part.item for part in lists.parts]
        self.assertEqual(len(keys), len(set(keys)))

    def test_each_piece_has_two_ends_counted_by_lug_and_conductor(self):
        lists = wiring_sheet(everything()).lists
        self.assertEqual(sum(lists.ends.values()), 2 * sum(cut.quantity for cut in lists.cuts))
        for (lug, conductor), count in lists.ends.items():
            alike = [cut.quantity for cut in lists.cuts if (cut.lug, cut.conductor) == (lug, conductor)]
            self.assertEqual(count, 2 * sum(alike))

    def test_every_item_can_be_kept_with_a_price(self):
        design = everything()
        items = [part.item for part in wiring_sheet(design).lists.parts]
        priced = moved(design, {"wiring.prices": [{"item": item, "price": 1.0} for item in items]})
        self.assertEqual(wiring_sheet(priced).lists.unpriced, 0)

    def test_a_link_is_one_conductor_and_a_split_feeder_has_its_ground(self):
        cuts = wiring_sheet(moved(cabin(), {"wiring": {}})).lists.cuts
        self.assertEqual([cut.pole for cut in cuts if cut.run == "series-links"], ["link"])
        self.assertEqual(next(cut.quantity for cut in cuts if cut.run == "series-links"), 6)
        poles = [cut.pole for cut in wiring_sheet(birchrow()).lists.cuts if cut.run == "panel"]
        self.assertEqual(poles, ["line 1", "line 2", "neutral", "ground"])

    def test_placards_tell_the_volts_and_amps_to_be_expected(self):
        texts = {placard.where: placard.text for placard in wiring_sheet(birchrow()).lists.placards}
        self.assertIn("151 V", next(text for where, text in texts.items() if "South roof" in where))
        self.assertIn("13,622 A", texts["At the bank"])

    def test_a_corner_of_300_w_fits_a_board_of_300_by_600_mm(self):
        corner = moved(
            without_bar(),
            {
                "inverter": {
                    "rated_w": 300.0,
                    "surge_w": 600.0,
                    "efficiency_frac": 0.9,
                    "idle_w": 4.0,
                    "low_cutoff_v": 10.8,
                },
                "bank.chemistry": "lfp",
                "bank.unit_v": 12.8,
                "bank.unit_ah": 50.0,
                "charging.controllers.0.output_a": 10.0,
                "wiring": {"board": {"width_mm": 300.0, "height_mm": 600.0}},
            },
        )
        for part in wiring_sheet(corner).board:
            self.assertLessEqual(part.x_mm + part.width_mm, 300.0, part.name)
            self.assertLessEqual(part.y_mm + part.height_mm, 600.0, part.name)


class Shopping(unittest.TestCase):
    def bought(self, design):
        return {part.item: part for part in wiring_sheet(design).lists.parts}

    def test_bars_are_made_for_the_current_with_a_stud_for_each_lug(self):
        design = everything()
        plan = wiring_plan(design, rate(design.bank))
        ways = sum(run.run.count for run in plan.runs if run.run.is_dc and "bus" in (run.run.start, run.run.end))
        bar = self.bought(design)["bar/bus"]
        self.assertEqual(bar.quantity, 2)
        self.assertIn(f"{ways} studs", bar.what)
        rated_a = float(bar.what.split(", ")[1].removesuffix(" A").removeprefix("for ").replace(",", ""))
        self.assertGreaterEqual(rated_a + 0.5, plan.find("bank").needed_a)

    def test_a_distribution_block_is_bought_with_as_many_ways_as_it_feeds(self):
        parts = self.bought(cart())
        self.assertIn("3 ways", parts["block/ways"].what)
        self.assertNotIn("block/ways", self.bought(birchrow()))

    def test_as_many_labels_as_placards_and_labels_of_the_arrangement(self):
        design = birchrow()
        signs = len(wiring_sheet(design).lists.placards) + len(assess(design).transfer.labels)
        self.assertEqual(self.bought(design)["labels"].quantity, signs)

    def test_nothing_is_bought_that_the_design_does_not_have(self):
        parts = self.bought(cart())
        self.assertEqual(
            [item for item in parts if item.startswith(("ground/rod", "inlet", "racking", "shutdown"))], []
        )
        self.assertEqual([part.what for part in parts.values() if "none" in part.what.lower()], [])

    def test_rapid_shutdown_is_bought_and_signed_where_an_array_has_it(self):
        with_it, without = on_roof(True), on_roof(None)
        self.assertEqual(self.bought(with_it)["shutdown/panel"].quantity, 4)
        self.assertNotIn("shutdown/switch", self.bought(without))
        signs = [sign.text for sign in wiring_sheet(with_it).lists.placards]
        self.assertTrue(any("RAPID SHUTDOWN" in text and "30 V" in text for text in signs))
        self.assertFalse(any("RAPID" in sign.text for sign in wiring_sheet(without).lists.placards))

    def test_lugs_and_torques_are_in_the_units_of_the_practice(self):
        american = [part.what for part in self.bought(birchrow()).values() if part.item.startswith("lug/")]
        self.assertTrue(all(" in, hole 0." in what for what in american), american)
        metric = [part.what for part in self.bought(two_units()).values() if part.item.startswith("lug/")]
        self.assertTrue(metric and all(", for M" in what for what in metric), metric)
        self.assertEqual(torque_words(9.0, Practice.NORTH_AMERICAN), "80 in·lb (9 N·m)")
        self.assertEqual(torque_words(9.0, Practice.METRIC_230), "9 N·m")

    def test_the_frames_ground_goes_as_far_as_its_array(self):
        design = on_roof(True)
        design = moved(design, {"wiring.runs": [*design.wiring.runs, RunSet(run="array-roof", length_m=22.0)]})
        run = wiring_plan(design, rate(design.bank)).find("ground-array")
        self.assertEqual((run.length_m, run.length_from), (22.0, "set"))

    def test_a_cart_s_grounds_are_short(self):
        design = cart()
        self.assertEqual(wiring_plan(design, rate(design.bank)).find("ground-dc").length_m, 1.0)

    def test_a_placard_says_what_stays_live_and_nothing_of_a_grid_that_is_not_there(self):
        signs = {sign.where: sign.text for sign in wiring_sheet(birchrow()).lists.placards}
        self.assertIn("Switch the sun and the chargers off first", signs["At the bank's disconnect"])
        self.assertIn("also while the grid is out", signs["At the backed-up side"])
        dark = moved(birchrow(), {"charging.controllers": []})
        self.assertFalse(any("the sun and" in sign.text for sign in wiring_sheet(dark).lists.placards))
        for sign in wiring_sheet(cart()).lists.placards:
            self.assertNotIn("grid", sign.text)


class Gates(unittest.TestCase):
    def test_the_bank_before_the_controller_and_the_sun_last(self):
        checks = [check.run for check in wiring_sheet(birchrow()).checks]
        self.assertLess(checks.index("bank"), checks.index("controller-mppt-1"))
        self.assertLess(checks.index("controller-mppt-1"), checks.index("inverter-1"))
        self.assertEqual(checks[-1], "array-south-roof")

    def test_each_says_what_a_meter_reads(self):
        checks = {check.run: check for check in wiring_sheet(birchrow()).checks}
        self.assertEqual((checks["bank"].low_v < 51.2 < checks["bank"].high_v, checks["bank"].torque_nm), (True, 9.0))
        self.assertIn("torque 80 in·lb (9 N·m), marked", checks["bank"].do)
        self.assertAlmostEqual(checks["array-south-roof"].high_v, 151.28)
        self.assertIsNone(checks["ground-dc"].low_v)
        self.assertIn("precharge", " ".join(checks["inverter-1"].do))


class BoardEnds(unittest.TestCase):
    def test_a_length_taken_on_the_board_names_two_parts_of_it(self):
        sheet = wiring_sheet(birchrow())
        parts = {part.key for part in sheet.board}
        taken = [run for run in sheet.runs if run.length_from == "board"]
        self.assertGreater(len(taken), 2)
        for run in taken:
            self.assertEqual(len(parts & set(run.board_ends)), 2, run.key)
        bank = next(run for run in taken if run.key == "bank")
        self.assertTrue(any(end.startswith("battery-") for end in bank.board_ends))
        self.assertTrue(all(run.board_ends == () for run in sheet.runs if run.length_from != "board"))
