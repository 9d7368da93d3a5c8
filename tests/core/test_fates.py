"""What is switched over, kept on the grid or dead, and that what is not carried counts nowhere."""

import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.bank import rate
from hearthkeep.core.design import LibraryInverter, read_design
from hearthkeep.core.errors import InputError
from hearthkeep.core.transfer import fates_of, live_on_generator
from hearthkeep.core.whatif import circuit_price, load_prices, rank_inverters
from hearthkeep.core.wiring import wiring_plan
from tests.core.made_transfers import CIRCUITS, circuit, house
from tests.support.designs import moved


def fates(design):
    return {entry.name: (entry.fate.value, entry.why) for entry in fates_of(design).loads}


GENERATOR = {"rated_w": 5000.0, "output": "120/240", "charger_w": 1000.0, "stock_l": 20.0, "tank_l": 15.0}


class ByWhatRuns(unittest.TestCase):
    """A generator of two legs at the panel beside an inverter of one line."""

    def made(self, **fields):
        return moved(
            house("critical_panel"),
            {
                "inverter.output": "120",
                "transfer.circuits.1.poles": 2,
                "transfer.circuits.1.slot": 9,
                "transfer.device.generator_at": "panel",
                "charging.generator": GENERATOR,
                **fields,
            },
        )

    def test_it_feeds_what_the_inverter_leaves_dead(self):
        found = live_on_generator(self.made())
        self.assertEqual({load.name for load in found.loads}, {"boiler", "circulator"})
        report = assess(self.made())
        whys = {load.name: load.why for load in report.transfer.loads}
        self.assertEqual(whys["boiler"], "two poles on one 120 V supply; live while the generator runs")
        self.assertEqual(whys["fridge"], "")
        self.assertIn("these are live too: boiler and circulator", " ".join(report.switching.throughout))

    def test_no_other_does(self):
        for fields in (
            {"charging.generator.output": "120"},
            {"charging.generator.output": None},
            {"charging.generator.charges_only": True},
            {"transfer.device.generator_at": "inverter_input"},
            {"charging.generator": None},
            {"inverter.output": "120/240"},
        ):
            with self.subTest(fields):
                self.assertIsNone(live_on_generator(self.made(**fields)))
                self.assertNotIn("while the generator runs", " ".join(assess(self.made(**fields)).switching.throughout))

    def test_its_run_carries_its_own_volts(self):
        for output, volts_v in (("120", 120.0), ("120/240", 240.0)):
            design = self.made(**{"charging.generator.output": output})
            run = wiring_plan(design, rate(design.bank)).find("generator").run
            self.assertEqual((run.volts_v, run.current_a), (volts_v, 5000.0 / volts_v))


class WhatIsCarried(unittest.TestCase):
    def test_without_an_arrangement_everything(self):
        design = moved(house("inlet"), {"transfer.arrangement": None, "transfer.circuits.0.backed_up": False})
        self.assertEqual({fate for fate, _ in fates(design).values()}, {"carried"})

    def test_a_circuit_kept_on_the_grid(self):
        design = moved(house("critical_panel"), {"transfer.circuits.0.backed_up": False})
        self.assertEqual(fates(design)["fridge"], ("on_grid", "kept on the grid"))

    def test_rows_that_share_a_circuit_come_along(self):
        design = moved(house("critical_panel"), {"loads.4.circuit": "c1"})
        self.assertEqual(fates(design)["lamps"], ("carried", ""))
        alone = moved(design, {"transfer.circuits.0.backed_up": False})
        self.assertEqual({fates(alone)[name][0] for name in ("fridge", "lamps")}, {"on_grid"})
        more = assess(design).loads.daily_wh - assess(moved(design, {"loads.4.circuit": None, "loads.4.quantity": 1,
                                                                      "loads.4.running_w": 0.0})).loads.daily_wh  # fmt: skip
        self.assertGreater(more, 0)

    def test_leg_b_is_dead_on_a_supply_of_one_leg(self):
        # Slots 1 and 2 lie on leg A; 3, 4 on leg B; 6 on A again is slot 5 and 6.
        design = moved(house("inlet"), {"inverter.output": "120"})
        dead = {name for name, (fate, _) in fates(design).items() if fate == "dead"}
        self.assertEqual(dead, {"boiler", "circulator"})
        report = assess(design).transfer
        self.assertEqual(next(leg.dead_slots for leg in report.legs if not leg.is_live)[:4], (3, 4, 7, 8))
        self.assertEqual(fates(moved(design, {"transfer.device.feed": "leg_b"}))["fridge"][0], "dead")
        self.assertNotIn(
            "dead", {fate for fate, _ in fates(moved(design, {"transfer.device.feed": "bridged"})).values()}
        )

    def test_two_poles_need_240_volts(self):
        design = house("manual_switch", device={"positions": 8})
        two = moved(design, {"loads.4.supply": "ac240", "transfer.circuits.4": circuit(6, 20.0, poles=2)})
        self.assertEqual(fates(two)["lamps"][0], "carried")
        for feed in ("bridged", "leg_a"):
            with self.subTest(feed):
                one = moved(two, {"inverter.output": "120", "transfer.device.feed": feed})
                self.assertEqual(fates(one)["lamps"][0], "dead")

    def test_positions_are_given_in_order_while_there_is_room(self):
        design = house("manual_switch", device={"positions": 4})
        states = {state.id: state for state in fates_of(design).circuits}
        # Leg A holds slots 1, 2 and 6, leg B slots 3 and 4: two positions each.
        self.assertEqual({key: state.positions for key, state in states.items() if state.positions},
                         {"c1": (1,), "c2": (3,), "c3": (2,), "c4": (4,)})  # fmt: skip
        self.assertEqual(fates(design)["lamps"], ("on_grid", "no position left for it"))

    def test_cords_do_not_reach_what_is_wired_in(self):
        design = moved(house("cords"), {"loads.1.hard_wired": True})
        self.assertEqual(fates(design)["boiler"], ("on_grid", "wired in, no cord reaches it"))

    def test_a_load_on_no_circuit_is_carried_and_said(self):
        report = assess(moved(house("inlet"), {"loads.0.circuit": "gone"})).transfer
        (fridge,) = [entry for entry in report.loads if entry.name == "fridge"]
        self.assertEqual((fridge.fate.value, fridge.unplaced), ("carried", True))


class WhatIsNotCarried(unittest.TestCase):
    """A dead circuit's load is absent from peak, draw and sizing, and from the sizes that are tried."""

    def test_counts_nowhere(self):
        whole = moved(house("critical_panel"), {"loads.0.running_w": 9000.0, "loads.0.start_w": 20_000.0,
                                                "transfer.circuits.0.breaker_a": 100.0, "transfer.circuits.0.wire": None})  # fmt: skip
        dead = moved(whole, {"inverter.output": "120", "transfer.device.feed": "leg_b",
                             **{f"transfer.circuits.{at}.backup_leg": "B" for at in (1, 2, 3, 4)}})  # fmt: skip
        without = moved(dead, {"loads": [row.model_dump(mode="json") for row in dead.loads[1:]]})
        found, expected, carried = assess(dead), assess(without), assess(whole)
        self.assertGreater(carried.loads.peak_w, 9000)
        for part in ("loads", "bank", "inverter", "one_failed"):
            with self.subTest(part):
                self.assertEqual(getattr(found, part), getattr(expected, part))
        self.assertEqual(found.arrangement.need, expected.arrangement.need)
        for field in ("hours_carried_h", "ledger_wh", "per_tier", "fuel_l"):
            with self.subTest(field):
                self.assertEqual(getattr(found.outage, field), getattr(expected.outage, field))
        self.assertNotIn("fridge", found.prices.without_load)
        tries = {
            finding.code: finding.remedy
            for finding in found.findings
            if finding.remedy is not None and finding.step in ("inverter", "bank")
        }
        self.assertEqual(tries, {
            finding.code: finding.remedy
            for finding in expected.findings
            if finding.remedy is not None and finding.step in ("inverter", "bank")
        })  # fmt: skip
        self.assertIn("DEAD_CIRCUITS", {finding.code for finding in found.findings})

    def test_a_try_names_the_load_s_own_row(self):
        # The first row is left out; the findings of the others still point at their own rows.
        design = moved(house("critical_panel"), {"transfer.circuits.0.backed_up": False, "loads.1.duty_frac": 1.0,
                                                 "loads.1.name": "sump pump", "loads.1.known": None})  # fmt: skip
        (finding,) = [entry for entry in assess(design).findings if entry.code == "FULL_DUTY"]
        self.assertEqual(finding.remedy.changes[0].path, "loads.1.duty_frac")

    def test_prices_of_a_row_behind_one_left_out_are_its_own(self):
        design = moved(house("critical_panel"), {"transfer.circuits.0.backed_up": False})
        found = load_prices(design, 3, None)
        self.assertEqual(found.daily_wh, 17.0 * 24)
        self.assertEqual(found.without_it, assess(design).prices.without_load["router"])
        self.assertEqual(load_prices(design, 0, None).without_it.gain_h, 0.0)

    def test_a_circuit_is_priced_both_ways(self):
        design = moved(house("critical_panel"), {"charging.generator": None})
        away = circuit_price(design, 0)
        self.assertEqual(away, assess(design).prices.without_load["fridge"])
        self.assertGreater(away.gain_h, 0)
        back = circuit_price(moved(design, {"transfer.circuits.0.backed_up": False}), 0)
        self.assertAlmostEqual(back.gain_h, -away.gain_h, places=9)

    def test_a_blink_restarts_no_motor_for_certain_and_a_second_does(self):
        def starts(gap_s):
            report = assess(moved(house("critical_panel"), {"transfer.device.transfer_s": gap_s})).transfer
            return {ride.name for ride in report.rides if ride.starts_anew}

        self.assertEqual(starts(0.02), set())
        self.assertIn("fridge", starts(0.5))

    def test_life_that_is_not_said_to_ride_through_is_a_mend_until_it_is(self):
        def found(**fields):
            design = moved(house("critical_panel"), {"loads.2.tier": "life", "loads.2.duty_frac": 1.0, **fields})
            return next((each for each in assess(design).findings if each.code == "GAP_AT_CHANGE_OVER"), None)

        names = [load.name for load in house("critical_panel").loads]
        heavy, said = found(), found(**{"loads.2.rides_s": 3600.0})
        # What cycles waits for its supply, as a cool box does.
        self.assertEqual(found(**{"loads.2.duty_frac": 0.4}).severity.value, "mind")
        self.assertIn(f"Life among them: {names[2]}. Enter on the load", heavy.message)
        self.assertNotIn("own battery bridges", heavy.message)
        self.assertEqual(heavy.severity.value, "mend")
        self.assertTrue(said is None or said.severity.value == "mind")

    def test_an_inverter_that_leaves_loads_dead_is_ranked_as_one_that_does_not_do(self):
        design = house("critical_panel")
        fields = {"system_v": 48.0, "rated_w": 9000.0, "surge_w": 20_000.0, "idle_w": 10.0, "efficiency_frac": 0.95,
                  "low_cutoff_v": 44.0, "build": "inverter_charger"}  # fmt: skip
        units = [
            LibraryInverter.model_validate({"library_id": f"u{at}", "name": output, "output": output, **fields})
            for at, output in enumerate(("120", "120/240"))
        ]
        first, second = rank_inverters(design, units)
        self.assertEqual((first.unit.output.value, first.fits), ("120/240", True))
        self.assertFalse(second.fits)
        self.assertIn("leaves boiler and 1 more dead", second.remark)

    def test_loads_at_different_hours_do_not_load_a_circuit_together(self):
        design = moved(house("critical_panel"), {"loads.4.circuit": "c1", "loads.0.hours": [[0, 12]],
                                                 "loads.4.hours": [[12, 24]], "loads.4.running_w": 90.0})  # fmt: skip
        self.assertEqual(fates_of(design).circuit("c1").running_w, 120.0)

    def test_starts_fall_together_only_where_the_change_over_happens_by_itself(self):
        loads = {"loads.0.rides_s": 0.0, "loads.1.rides_s": 0.0}
        by_hand, by_itself = (assess(moved(house(kind), loads)) for kind in ("manual_switch", "critical_panel"))
        # One at a time: the fridge alone, on top of the rest; together: fridge and boiler.
        self.assertEqual(by_itself.loads.start_surge_w - by_hand.loads.start_surge_w, 420.0 - 165.0)
        self.assertIn("fridge and boiler", by_itself.loads.start_surge_load)
        rides = moved(house("critical_panel"), {"loads.0.rides_s": 1.0, "loads.1.rides_s": 1.0})
        self.assertEqual(assess(rides).loads.start_surge_w, by_hand.loads.start_surge_w)
        kinds = [event.kind.value for event in by_itself.outage.events]
        self.assertEqual(kinds[0], "switched_over")


class AtTheFirstMoment(unittest.TestCase):
    """Fridge 120 W with a start of 780 and boiler 165 with 420 start at once: 388 W run with all, and 915 W come on top."""

    def events(self, **fields):
        design = moved(
            house("critical_panel"),
            {"loads.0.rides_s": 0.0, "loads.1.rides_s": 0.0, "loads.4.start_w": 60.0, "loads.4.rides_s": 0.0, **fields},
        )
        return [(e.kind.value, e.tier, e.cause) for e in assess(design).outage.events if e.time_h == 0.0]

    def test_a_start_within_the_surge(self):
        self.assertEqual(self.events(), [("switched_over", None, None)])

    def test_a_start_of_keep_beyond_it(self):
        # Keep alone: 348 W and 915 W.
        found = self.events(**{"inverter.rated_w": 1200.0, "inverter.surge_w": 1262.0, "inverter.idle_w": 30.0})
        self.assertIn(("overloaded", "keep", "surge"), found)

    def test_keep_fits_and_ease_waits(self):
        # The lamps' 40 W are on from five in the afternoon, and their 20 W of start come on top.
        fields = {"inverter.rated_w": 1200.0, "inverter.surge_w": 1264.0, "inverter.idle_w": 30.0}
        self.assertIn(("overloaded", "ease", "surge"), self.events(**fields))
        by_hand = moved(house("manual_switch", device={}), {"loads.1.rides_s": 0.0, **fields})
        self.assertEqual([e.kind.value for e in assess(by_hand).outage.events if e.time_h == 0.0], ["switched_over"])

    def test_what_rides_through_does_not_start(self):
        fields = {
            "inverter.rated_w": 1200.0,
            "inverter.surge_w": 1262.0,
            "inverter.idle_w": 30.0,
            "loads.0.rides_s": 1.0,
        }
        self.assertEqual(self.events(**fields), [("switched_over", None, None)])


class Refused(unittest.TestCase):
    def said(self, **fields):
        with self.assertRaises(InputError) as caught:
            moved(house("inlet"), fields)
        return str(caught.exception)

    def test_what_cannot_stand_in_a_panel(self):
        for said, fields in (
            ("slot 1 holds the breaker circuit 1 already", {"transfer.circuits.1.slot": 1}),
            ("slot 3 holds the breaker", {"transfer.circuits.0.poles": 2}),
            ("within the panel's slots, 1 to 24 (got 25)", {"transfer.circuits.1.slot": 25}),
            ("must be a leg of the service, A", {"site.service": "120", "transfer.circuits.1.leg": "B"}),
            ("'A' or 'B'", {"transfer.circuits.1.leg": "C"}),
            ("at most 84 entries", {"transfer.circuits": [circuit(1)] * 200}),
            ("each id must stand once", {"transfer.circuits.1.id": "c1"}),
            ("another circuit", {"transfer.circuits.1.shares_neutral_with": "c3"}),
            ("more than 0 to 1,000", {"transfer.circuits.1.breaker_a": float("nan")}),
            ("must hold loads", {"transfer.order": ["bank", "export"]}),
            ("each use must stand once", {"transfer.order": ["loads", "bank", "bank"]}),
        ):
            with self.subTest(said):
                self.assertIn(said, self.said(**fields))

    def test_a_circuit_on_a_leg_that_one_line_does_not_have(self):
        values = house("inlet").model_dump(mode="json")
        values["transfer"]["circuits"] = [{**CIRCUITS[0], "backup_leg": "B"}]
        values["site"]["service"] = "230"
        with self.assertRaisesRegex(InputError, "leg of the service"):
            read_design(values)


if __name__ == "__main__":
    unittest.main()
