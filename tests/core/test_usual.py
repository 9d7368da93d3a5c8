"""Starting points of new parts are parts that a design takes as they are, and empty fields stand for what the model takes."""

import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.design import read_design
from tests.support.designs import array, birchrow, changed, load, simple


def with_part(design, path, value):
    values = design.model_dump(mode="json")
    node = values
    *way, last = path
    for key in way:
        node = node[key]
    node[last] = value
    return read_design(values)


class Parts(unittest.TestCase):
    def setUp(self):
        self.design = birchrow()
        self.usual = assess(self.design).usual

    def test_each_can_be_put_in_at_once(self):
        for path, part in (
            (("charging", "generator"), self.usual.generator),
            (("bank", "heater"), self.usual.heater),
            (("bank", "addition"), self.usual.addition),
            (("charging", "controllers"), [{**self.usual.controller, "arrays": [self.usual.array]}]),
        ):
            with self.subTest(path):
                self.assertIsNotNone(assess(with_part(self.design, path, part)))
        strings = changed(self.design, bank={"series": 2, "unit_v": 25.6})
        self.assertIsNotNone(assess(with_part(strings, ("bank", "tap"), self.usual.tap)))
        for entry in assess(self.design).charging.steady:
            with self.subTest(entry.key):
                self.assertIsNotNone(assess(with_part(self.design, ("charging", entry.key), entry.start)))

    def test_a_generators_charger_stays_within_the_bank(self):
        small = simple(load("a", 10), bank={"unit_max_charge_a": 5.0})
        found = assess(small)
        most_w = found.bank.charge_limit_a * found.bank.nominal_v
        self.assertLessEqual(found.usual.generator["charger_w"], most_w + 1)

    def test_arrays_face_the_sun_of_their_half_of_the_earth(self):
        self.assertEqual(self.usual.array["azimuth_deg"], 180.0)
        south = changed(self.design, site={"latitude_deg": -38.0})
        self.assertEqual(assess(south).usual.array["azimuth_deg"], 0.0)

    def test_panels_make_up_the_watts_and_come_near_the_volts(self):
        for watts, vmp_v, strung in (
            (2400.0, 124.0, (3, 2)),
            (400.0, None, (1, 1)),
            (2000.0, 83.0, (1, 5)),
            (90.0, 18.0, (1, 1)),
        ):
            with self.subTest(watts=watts):
                design = simple(load("a", 10), arrays=(array("p", watts, vmp_v=vmp_v),))
                guess = assess(design).usual.panels["p"]
                self.assertEqual((guess.series, guess.strings), strung)
                self.assertAlmostEqual(guess.module["stc_w"] * guess.series * guess.strings, watts, delta=1)

    def test_an_empty_voltage_stands_for_the_usual_ratio_to_the_bank(self):
        design = simple(load("a", 10), arrays=(array("p", 400.0, vmp_v=None),))
        self.assertAlmostEqual(assess(design).usual.array_vmp_v["p"], 1.5 * assess(design).bank.nominal_v)
