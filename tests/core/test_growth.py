"""Stages ahead: each the assessment of the design with its additions, and what the last asks of the first."""

import unittest

from hypothesis import given

from hearthkeep.core.assess import assess
from hearthkeep.core.design import read_design
from hearthkeep.core.errors import InputError
from hearthkeep.core.growth import growth_of
from hearthkeep.core.wiring import wiring_sheet
from tests.runner.profile import examples
from tests.strategies import rough_designs
from tests.support.designs import array, birchrow, changed, load, simple

UNIT = {"chemistry": "lfp", "unit_v": 10.0, "unit_ah": 100.0}


def stage(stage_id, **fields):
    return {"id": stage_id, "title": stage_id.title(), **fields}


def staged(*stages, **parts):
    design = simple(load("a", 100), arrays=(array("roof", 300),), controller={"output_a": 30.0}, **parts)
    return changed(design, growth=list(stages))


class Stages(unittest.TestCase):
    def test_each_stage_is_the_assessment_of_the_design_with_its_additions(self):
        home = birchrow()
        values = home.model_dump(mode="json")
        bank, roof = values["bank"], values["charging"]["controllers"][0]["arrays"][0]
        more = {key: bank[key] for key in ("chemistry", "unit_v", "unit_ah")}
        pump = load("Second pump", 300.0, hours=[[9, 11]])
        generator = {"rated_w": 2000.0, "stock_l": 20.0, "charger_w": 1000.0}
        design = changed(
            home,
            growth=[
                stage("sun", in_years=2.0, panels=[{"array_id": roof["id"], "stc_w": roof["stc_w"]}], loads=[pump]),
                stage("units", in_years=1.0, battery={**more, "parallel": 1}, inverter_units=1),
                stage("fuel", in_years=3.0, generator=generator),
            ],
        )
        now, units, sun, fuel = growth_of(design).stages
        self.assertEqual([entry.title for entry in (now, units, sun, fuel)], ["Now", "Units", "Sun", "Fuel"])
        by_hand = changed(home, bank={"parallel": bank["parallel"] + 1}, inverter={"units": 2})
        self.assertEqual(now.hours_carried_h, assess(home).outage.hours_carried_h)
        self.assertEqual(units.hours_carried_h, assess(by_hand).outage.hours_carried_h)
        controllers = by_hand.model_dump(mode="json")["charging"]["controllers"]
        controllers[0]["arrays"][0]["strings"] *= 2
        controllers[0]["arrays"][0]["stc_w"] *= 2
        by_hand = changed(by_hand, charging={"controllers": controllers}, loads=[*values["loads"], pump])
        self.assertEqual(sun.hours_carried_h, assess(by_hand).outage.hours_carried_h)
        by_hand = changed(by_hand, charging={"generator": generator})
        self.assertEqual(fuel.hours_carried_h, assess(by_hand).outage.hours_carried_h)
        self.assertEqual((fuel.load_count, fuel.generator_w), (len(values["loads"]) + 1, 2000))
        added = [entry.added_price for entry in (now, units, sun, fuel)]
        self.assertAlmostEqual(sum(added), fuel.price)
        self.assertAlmostEqual(fuel.added_price, 1000)

    def test_what_does_not_mix_is_said_and_not_counted(self):
        for code, battery, in_years in (
            ("chemistries", {**UNIT, "chemistry": "agm"}, 1.0),
            ("voltages", {**UNIT, "unit_v": 12.0}, 1.0),
            ("sizes", {**UNIT, "unit_ah": 150.0}, 1.0),
            ("years", UNIT, 5.0),
        ):
            with self.subTest(code):
                report = growth_of(staged(stage("later", in_years=in_years, battery={**battery, "parallel": 3})))
                now, later = report.stages
                self.assertEqual(later.hours_carried_h, now.hours_carried_h)
                self.assertEqual(later.bank_wh, now.bank_wh)
                (said,) = report.not_mixed
                self.assertIn(code, said.title)
                self.assertEqual(said.stage, "Later")
        alike = growth_of(staged(stage("later", in_years=1.0, battery={**UNIT, "parallel": 3})))
        self.assertEqual(alike.not_mixed, ())
        self.assertEqual(alike.stages[1].bank_wh, 4000)

    def test_more_side_by_side_than_the_maker_allows_is_said_at_its_stage(self):
        unit = {"name": "Block", "max_parallel": 2}
        steps = [
            stage(name, in_years=year, battery={**UNIT, "parallel": 1}) for name, year in (("one", 1.0), ("two", 2.0))
        ]
        (said,) = growth_of(staged(*steps, bank={"unit": unit})).not_mixed
        self.assertEqual(said.stage, "Two")
        self.assertIn("in parallel", said.title)

    def test_what_is_outgrown_is_bought_large_now(self):
        report = growth_of(
            staged(
                stage("next", in_years=1.0, panels=[{"array_id": "roof", "stc_w": 600.0}]),
                stage(
                    "last", in_years=2.0, battery={**UNIT, "parallel": 2}, loads=[load("saw", 1500, hours=[[9, 10]])]
                ),
                inverter={"rated_w": 1000.0, "surge_w": 2000.0},
            )
        )
        found = {item.key: item for item in report.large_now}
        # 900 W at the 10.6 V of a bank that is charged are 85 A, and 1,600 W run together.
        self.assertEqual((found["controller/c"].stage, found["controller/c"].then), ("Next", "85 A, 100 A is sold"))
        self.assertEqual((found["inverter"].stage, found["inverter"].then), ("Last", "1,600 W, 2,000 W is sold"))
        self.assertEqual((found["enclosure"].stage, found["enclosure"].now[:6]), ("Last", "1 unit"))
        nothing = growth_of(staged(stage("next", in_years=1.0, panels=[{"array_id": "roof", "stc_w": 15.0}])))
        self.assertNotIn("controller/c", {item.key for item in nothing.large_now})

    def test_runs_are_those_of_the_wiring_sheet_now_and_then(self):
        home = birchrow()
        roof = home.charging.arrays[0]
        more = [{"array_id": roof.id, "stc_w": roof.stc_w}]
        design = changed(home, growth=[stage("next", in_years=1.0, panels=more)])
        later = changed(home).model_dump(mode="json")["charging"]["controllers"]
        later[0]["arrays"][0]["strings"] *= 2
        later[0]["arrays"][0]["stc_w"] *= 2
        now, then = wiring_sheet(home), wiring_sheet(changed(home, charging={"controllers": later}))
        sizes = {row.key: row.size for row in now.runs}
        grown = {row.key for row in then.runs if row.key in sizes and row.size != sizes[row.key]}
        told = {item.key.removeprefix("run/") for item in growth_of(design).large_now if item.key.startswith("run/")}
        self.assertTrue(grown)
        self.assertEqual(told, grown)

    def test_positions_of_a_transfer_switch_run_out(self):
        home = birchrow()
        full = home.transfer.device.positions
        backed = sum(circuit.poles for circuit in home.transfer.circuits if circuit.backed_up)
        pumps = [load(f"Pump {number}", 100.0, hard_wired=True) for number in range(full - backed + 1)]
        found = growth_of(changed(home, growth=[stage("wet", loads=pumps)])).large_now
        circuits = next(item for item in found if item.key == "circuits")
        self.assertEqual((circuits.now, circuits.then), (f"{backed} of {full} used", f"{full + 1} asked for"))

    def test_ids_of_later_parts_are_their_own(self):
        values = staged(stage("a", loads=[load("b", 1)])).model_dump(mode="json")
        values["growth"][0]["loads"][0]["id"] = "a"
        with self.assertRaises(InputError) as caught:
            read_design(values)
        self.assertIn("loads: each id must stand once", str(caught.exception))

    def test_without_stages_there_is_only_now(self):
        report = growth_of(birchrow())
        self.assertEqual((len(report.stages), report.large_now, report.not_mixed), (1, (), ()))

    @examples(10)
    @given(rough_designs())
    def test_any_design_can_be_grown(self, design):
        bank = design.bank
        battery = {"chemistry": bank.chemistry.value, "unit_v": bank.unit_v, "unit_ah": bank.unit_ah, "parallel": 1}
        panels = [{"array_id": one.id, "stc_w": 200.0} for one in design.charging.arrays[:2]]
        grown = changed(design, growth=[stage("next", in_years=0.2, battery=battery, panels=panels, inverter_units=1)])
        report = growth_of(grown)
        self.assertEqual(len(report.stages), 2)
        self.assertGreaterEqual(report.stages[1].added_price, 0)
