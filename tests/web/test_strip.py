"""The endurance strip's shapes: lines inside the plot, flags that do not lie over each other, ticks from end to end."""

import json
import re
import unittest
from itertools import pairwise

from pydantic import TypeAdapter

from hearthkeep.core.design import read_design
from hearthkeep.core.endurance import Endurance, endurance_of, simulate
from tests.support.designs import ROOT, changed, load, simple
from tests.support.web import called

WIDTH, HEIGHT = 828, 116
ADAPTER = TypeAdapter(Endurance)
LINES = (
    "energyLine",
    "energyArea",
    "sunLine",
    "sunArea",
    "servedLine",
    "unservedArea",
    "generatorLine",
    "generatorArea",
    "otherLine",
)


def shape(design, width=WIDTH):
    told = json.loads(ADAPTER.dump_json(endurance_of(simulate(design))))
    return told, called("strip/geometry", "shapeOf", told, width, HEIGHT)


def points(path):
    return [tuple(map(float, pair)) for pair in re.findall(r"(-?[\d.]+),(-?[\d.]+)", path)]


def example(name):
    return read_design((ROOT / "examples" / f"{name}.json").read_bytes())


class Shapes(unittest.TestCase):
    def test_every_line_of_every_demo_lies_inside_the_plot(self):
        for name in ("birchrow-14", "birchrow-16", "relay-cart"):
            _, found = shape(example(name))
            for line in LINES:
                with self.subTest(design=name, line=line):
                    for x, y in points(found[line]):
                        self.assertTrue(-0.01 <= x <= WIDTH + 0.01 and -0.01 <= y <= HEIGHT + 0.01, (x, y))

    def test_the_energy_line_starts_at_the_charge_and_ends_with_the_outage(self):
        # 1 kWh at half charge loses 240 Wh in its 24 h.
        _, found = shape(simple(load("a", 10), bank={"start_soc_frac": 0.5}))
        line = points(found["energyLine"])
        self.assertAlmostEqual(line[0][1], HEIGHT * 0.5, places=2)
        self.assertAlmostEqual(line[-1][0], WIDTH, places=2)
        self.assertAlmostEqual(line[-1][1], HEIGHT * (1 - 0.26), places=2)

    def test_what_is_not_there_is_not_drawn(self):
        _, found = shape(simple(load("a", 10)))
        for line in ("sunLine", "generatorLine", "otherLine", "unservedArea"):
            self.assertEqual(found[line], "")
        self.assertNotEqual(found["servedLine"], "")

    def test_powers_leave_the_upper_third_to_the_energy(self):
        _, found = shape(example("birchrow-16"))
        highest = min(
            y for line in ("sunLine", "servedLine", "generatorLine", "otherLine") for _, y in points(found[line])
        )
        self.assertAlmostEqual(highest, 0.38 * HEIGHT, places=1)


class Flags(unittest.TestCase):
    def spans(self, flags):
        for flag in flags:
            length = len(flag["label"]) * 6.4 + 12
            start = flag["x"] if flag["anchor"] == "start" else flag["x"] - length
            yield flag["lane"], start, start + length

    def test_labels_of_one_lane_do_not_meet_and_stay_inside(self):
        busy = simple(
            *(load(f"l{n}", 60, tier=tier, hours=[[n, n + 6]]) for n, tier in enumerate(("keep", "ease", "life"))),
            outage={"duration_h": 96.0},
            charging={"bench_charger": {"output_w": 150.0, "plugged_hours": [[9, 15]]}},
        )
        for design in (busy, example("birchrow-14"), example("birchrow-16"), example("relay-cart")):
            for width in (400, WIDTH, 1600):
                _, found = shape(design, width)
                lanes = {}
                for lane, start, end in self.spans(found["flags"]):
                    if lane is None:
                        continue
                    with self.subTest(design=design.name, width=width):
                        self.assertGreaterEqual(start, -0.5)
                        for other_start, other_end in lanes.setdefault(lane, []):
                            self.assertTrue(end <= other_start or start >= other_end)
                        lanes[lane].append((start, end))

    def test_going_dark_always_has_its_label_and_speaks_for_the_drop(self):
        told, found = shape(example("birchrow-14"))
        dark = [flag for flag in found["flags"] if flag["isDark"]]
        self.assertEqual(len(dark), sum(event["kind"] == "dark" for event in told["outage"]["events"]))
        self.assertTrue(all(flag["lane"] is not None for flag in dark))
        self.assertNotIn("Keep dropped", [flag["label"] for flag in found["flags"]])

    def test_why_a_generator_stopped_is_told_unless_it_is_charged(self):
        unit = {
            "rated_w": 1000.0, "stock_l": 50.0, "charger_w": 300.0, "start_soc_frac": 0.6, "stop_soc_frac": 0.9,
            "fuel_idle_l_per_h": 0.1, "fuel_l_per_kwh": 0.5,
        }  # fmt: skip
        for fields, word in (
            ({}, None),
            ({"quiet_hours": [[5, 24]], "stop_soc_frac": 1.0}, "quiet hours"),
            ({"stock_l": 0.2}, "out of fuel"),
        ):
            with self.subTest(word):
                design = simple(load("a", 100), charging={"generator": {**unit, **fields}})
                labels = [flag["label"] for flag in shape(design)[1]["flags"]]
                self.assertIn("generator starts", labels)
                stops = {"quiet hours", "out of fuel", "tank empty"} & set(labels)
                self.assertEqual(stops, {word} if word else set())


class TicksAndLevels(unittest.TestCase):
    def test_ticks_run_from_the_start_to_the_end_apart_from_each_other(self):
        for duration_h in (1.0, 6.0, 24.0, 72.0, 240.0, 720.0):
            for width in (400, WIDTH):
                with self.subTest(duration_h=duration_h, width=width):
                    _, found = shape(simple(load("a", 1), outage={"duration_h": duration_h}), width)
                    ticks = found["ticks"]
                    self.assertEqual((ticks[0]["x"], ticks[0]["label"]), (0, "Sun 21 00:00"))
                    gaps = [after["x"] - before["x"] for before, after in pairwise(ticks)]
                    self.assertTrue(all(gap > 90 for gap in gaps), gaps)

    def test_floor_and_cut_off_are_one_line_where_they_are_one_level(self):
        lead = {"depth_frac": 0.8, "cutoff_soc_frac": 0.1}
        two = shape(simple(load("a", 1), bank=lead))[1]["levels"]
        self.assertEqual([level["label"] for level in two], ["floor 20 %", "cut-off 10 %"])
        self.assertAlmostEqual(two[0]["y"], 0.8 * HEIGHT)
        one = shape(changed(simple(load("a", 1), bank=lead), bank={"cutoff_soc_frac": 0.2}))[1]["levels"]
        self.assertEqual([level["label"] for level in one], ["cut-off 20 %"])
        self.assertEqual(shape(simple(load("a", 1)))[1]["levels"], [])
