"""Sun on an array: shade, snow, panels that are moved and set out; the daily curve."""

import unittest

from hearthkeep.core.assess import assess
from hearthkeep.core.bank import rate
from hearthkeep.core.errors import InputError
from hearthkeep.core.outage import scene_of
from tests.support.designs import array, load, simple


def poa(sky=("clear",), outage=None, **fields):
    """Sun on one array by hour of the first day [W/m2], (24,)."""
    design = simple(
        arrays=(array("p", 1000, **fields),), sky=sky, outage=outage or {}, simulation={"time_step_min": 60}
    )
    return scene_of(design, rate(design.bank)).poa_w_m2["p"]


class Shade(unittest.TestCase):
    def test_it_takes_its_part_of_its_hours(self):
        shade = [0.0] * 24
        shade[9], shade[15] = 0.5, 1.0
        bare, shaded = poa(), poa(shade_frac=shade)
        self.assertAlmostEqual(shaded[9], bare[9] / 2)
        self.assertEqual(shaded[15], 0)
        self.assertAlmostEqual(shaded[12], bare[12])

    def test_a_day_of_shade_has_24_hours(self):
        with self.assertRaisesRegex(InputError, "24 parts"):
            poa(shade_frac=[0.5] * 23)

    def test_the_curve_tells_what_it_costs(self):
        shade = [0.25] * 24
        curve = assess(simple(load("a", 50), arrays=(array("p", 500, shade_frac=shade),))).charging.curve
        # A quarter of the sun, less what cooler cells win back.
        self.assertTrue(0.22 < curve.arrays[0].shade_loss_frac < 0.25)


class Snow(unittest.TestCase):
    def test_it_lies_slides_or_is_swept(self):
        overcast = poa(sky=("overcast",))
        self.assertEqual(poa(sky=("covered",)).max(), 0)
        self.assertEqual(list(poa(sky=("covered",), snow="slides")), list(overcast))
        swept = poa(sky=("covered",), snow="swept", swept_hour=11)
        self.assertEqual(swept[:11].max(), 0)
        self.assertEqual(list(swept[11:]), list(overcast[11:]))

    def test_nobody_sweeps_an_empty_house(self):
        days = [{"sky": "covered", "air_temp_c": -3.0, "away": True}]
        self.assertEqual(poa(snow="swept", outage={"days": days}).max(), 0)


class Moved(unittest.TestCase):
    #: Towards the morning sun, then south, then towards the evening sun.
    STANDS = (
        {"from_hour": 10, "tilt_deg": 40.0, "azimuth_deg": 180.0},
        {"from_hour": 14, "tilt_deg": 50.0, "azimuth_deg": 265.0},
    )

    def test_it_stands_as_told_from_each_hour_on(self):
        moved = poa(tilt_deg=50.0, azimuth_deg=95.0, stands=self.STANDS)
        parts = (
            (slice(0, 10), poa(tilt_deg=50.0, azimuth_deg=95.0)),
            (slice(10, 14), poa(tilt_deg=40.0, azimuth_deg=180.0)),
            (slice(14, 24), poa(tilt_deg=50.0, azimuth_deg=265.0)),
        )
        for hours, fixed in parts:
            self.assertEqual(list(moved[hours]), list(fixed[hours]))
        self.assertGreater(moved.sum(), 1.2 * poa(tilt_deg=40.0).sum())

    def test_folded_away_it_gives_nothing(self):
        out = poa(out_hours=[[9, 15]])
        self.assertEqual(out[:9].max(), 0)
        self.assertGreater(out[9], 0)
        self.assertEqual(out[15:].max(), 0)


class Curve(unittest.TestCase):
    def test_two_directions_give_a_longer_flatter_day_than_one(self):
        east_west = (array("e", 500, azimuth_deg=95.0), array("w", 500, azimuth_deg=265.0))
        two = assess(simple(load("a", 120), arrays=east_west)).charging.curve
        south = assess(simple(load("a", 120), arrays=(array("s", 1000),))).charging.curve
        self.assertLess(max(two.together_w), max(south.together_w))
        self.assertGreater(two.carries_h, south.carries_h)
        # Both facing east instead: the same panels lose the evening.
        self.assertGreater(two.carries_h, two.one_way_carries_h)
        self.assertAlmostEqual(two.overcast_wh / two.together_wh, 0.25, delta=0.02)
        self.assertEqual(len(two.together_w), 96)

    def test_one_way_is_all_panels_on_the_plane_of_the_largest_array(self):
        uneven = (array("e", 300, azimuth_deg=95.0, tilt_deg=30.0), array("w", 700, azimuth_deg=265.0, tilt_deg=50.0))
        two = assess(simple(load("a", 120), arrays=uneven)).charging.curve
        west = assess(simple(load("a", 120), arrays=(array("w", 1000, azimuth_deg=265.0, tilt_deg=50.0),)))
        self.assertAlmostEqual(two.one_way_wh, west.charging.curve.together_wh)
        self.assertEqual(two.one_way_carries_h, west.charging.curve.carries_h)
        # Each array's own curve sums to the whole, and a moved panel's stands do not reach the plane of the others.
        self.assertAlmostEqual(sum(entry.energy_wh for entry in two.arrays), two.together_wh)

    def test_one_way_keeps_to_each_controller_s_limit(self):
        curve = assess(
            simple(arrays=(array("e", 500, azimuth_deg=95.0), array("s", 600)), controller={"output_a": 25.0})
        ).charging.curve
        self.assertAlmostEqual(max(curve.one_way_w), 25 * 10.65, delta=0.06)
        self.assertAlmostEqual(curve.one_way_wh, sum(curve.one_way_w) / 4, delta=1)

    def test_a_panel_that_feeds_loads_straight_is_no_part_of_it(self):
        curve = assess(simple(arrays=(array("p", 1000),), controller={"kind": "panel_fed"})).charging.curve
        self.assertEqual((curve.arrays, curve.together_wh), ((), 0.0))

    def test_a_controller_s_limit_cuts_the_curve(self):
        curve = assess(simple(arrays=(array("p", 1000),), controller={"output_a": 30.0})).charging.curve
        self.assertAlmostEqual(max(curve.together_w), 30 * 10.65)
