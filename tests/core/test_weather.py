"""The weather year: where its hours lie, how its days are called, and an outage under its sky."""

import unittest
from dataclasses import replace
from datetime import datetime

import numpy as np

from hearthkeep.core.assess import assess
from hearthkeep.core.design import Sky
from hearthkeep.core.sources import (
    Moments,
    clear_sky,
    distance_km,
    hours_of_year,
    made_up_year,
    skies_of_year,
    year_plane_of_array,
)
from tests.support.designs import array, birchrow, changed, load, simple
from tests.support.weather import YEAR


def moments(start: str, *offsets_h: float, utc_offset_h: float = -5.0) -> Moments:
    return Moments(start=datetime.fromisoformat(start), offsets_h=offsets_h, utc_offset_h=utc_offset_h)


class Hours(unittest.TestCase):
    def test_a_moment_lies_in_its_hour_of_the_year(self):
        found = hours_of_year(YEAR, moments("2026-01-01T00:00:00", 0.1, 0.9, 1.0, 24.5, 8759.9))
        self.assertEqual(list(found), [0, 0, 1, 24, 8759])

    def test_the_leap_day_is_taken_for_the_28th(self):
        found = hours_of_year(YEAR, moments("2028-02-28T12:00:00", 0.5, 24.5, 48.5))
        self.assertEqual(list(found), [58 * 24 + 12, 58 * 24 + 12, 59 * 24 + 12])

    def test_a_file_of_another_time_zone_is_read_at_its_own_hour(self):
        self.assertEqual(list(hours_of_year(YEAR, moments("2026-01-01T12:00:00", 0.5, utc_offset_h=0.0))), [7])


class Days(unittest.TestCase):
    def test_every_sky_comes_up_and_winter_is_darker(self):
        skies = skies_of_year(YEAR)
        self.assertEqual(set(skies), set(Sky))
        self.assertGreater(sum(sky.is_dark for sky in skies[:60]), sum(sky.is_dark for sky in skies[150:210]))

    def test_fresh_snow_covers_until_sun_or_thaw(self):
        year = replace(
            YEAR, key="snowed", air_c=np.full(8760, -5.0), snow_cm=np.repeat([0.0] * 10 + [5.0] * 355, 24),
            ghi_w_m2=YEAR.ghi_w_m2 * 0.1, dni_w_m2=YEAR.dni_w_m2 * 0.1,
        )  # fmt: skip
        skies = skies_of_year(year)
        self.assertIs(skies[9], Sky.OVERCAST)
        self.assertEqual(set(skies[10:365]), {Sky.COVERED})
        warm = np.full(8760, -5.0)
        warm[24 * 20] = 3.0
        self.assertIs(skies_of_year(replace(year, key="thawed", air_c=warm))[20], Sky.OVERCAST)

    def test_a_day_is_called_by_its_part_of_a_clear_one(self):
        clear = clear_sky(44.0, -75.0, 120.0, YEAR.moments)
        for part, sky in ((0.86, Sky.CLEAR), (0.84, Sky.BROKEN), (0.46, Sky.BROKEN), (0.44, Sky.OVERCAST)):
            with self.subTest(part):
                level = replace(
                    YEAR, key=f"part {part}", ghi_w_m2=clear.ghi_w_m2 * part, snow_cm=np.zeros(8760),
                    latitude_deg=44.0, longitude_deg=-75.0, elevation_m=120.0,
                )  # fmt: skip
                self.assertEqual(set(skies_of_year(level)), {sky})

    def test_a_centimetre_of_fresh_snow_covers_and_half_a_clear_day_of_sun_takes_it_off(self):
        clear = clear_sky(44.0, -75.0, 120.0, YEAR.moments)
        cold = np.full(8760, -5.0)
        for depth_cm, part, covered in ((0.9, 0.3, 0), (1.0, 0.3, 355), (1.0, 0.49, 355), (1.0, 0.51, 1)):
            with self.subTest(depth_cm=depth_cm, part=part):
                year = replace(
                    YEAR, key=f"snow {depth_cm} {part}", ghi_w_m2=clear.ghi_w_m2 * part, air_c=cold,
                    snow_cm=np.repeat([0.0] * 10 + [depth_cm] * 355, 24),
                    latitude_deg=44.0, longitude_deg=-75.0, elevation_m=120.0,
                )  # fmt: skip
                self.assertEqual(sum(sky is Sky.COVERED for sky in skies_of_year(year)), covered)

    def test_a_made_up_day_is_coldest_at_six_and_warmest_at_three(self):
        air = YEAR.air_c.reshape(365, 24)
        coldest, warmest = air.argmin(axis=1), air.argmax(axis=1)
        # Hour means: the hours on both sides of the turn. A day colder at its end than at six belongs to the next turn.
        self.assertGreater(np.isin(warmest, (14, 15)).mean(), 0.8)
        self.assertGreater(np.isin(coldest, (5, 6)).mean(), 0.6)

    def test_south_of_the_equator_the_seasons_are_turned_round(self):
        south = made_up_year(-40.0, 170.0, 0.0, 12.0)
        self.assertGreater(south.air_c[:1400].mean(), south.air_c[4300:5700].mean() + 15)
        self.assertGreater(south.ghi_w_m2[:1400].sum(), south.ghi_w_m2[4300:5700].sum())

    def test_a_clear_day_of_the_made_up_year_is_the_clear_sky_itself(self):
        day = skies_of_year(YEAR).index(Sky.CLEAR)
        site = {
            "place": "x",
            "latitude_deg": 44.0,
            "longitude_deg": -75.0,
            "elevation_m": 120.0,
            "utc_offset_h": -5.0,
            "service": "120",
        }
        start = {"start": f"2026-01-{day + 1:02d}T00:00:00"}
        by_hand = simple(load("a", 1), arrays=(array("p", 1000),), site=site, outage=start)
        by_year = simple(load("a", 1), arrays=(array("p", 1000),), site=site, outage={**start, "sky_from": "year"})
        # Hour means under the moving sun, and the cold of the year, against the clear sky at 20 °C.
        hand, year = (assess(design).charging.offered_wh for design in (by_hand, by_year))
        self.assertTrue(1.0 < year / hand < 1.2, year / hand)

    def test_the_level_figure_and_the_plane_agree_on_flat_ground(self):
        flat = year_plane_of_array(YEAR, YEAR.moments, 0.0, 180.0)
        self.assertAlmostEqual(flat.sum() / YEAR.ghi_w_m2.sum(), 1.0, delta=0.02)


class Outage(unittest.TestCase):
    def test_dark_days_of_the_year_are_dark_days_of_the_loads(self):
        ring = load("ring", 100, dark_day="drop")
        found = assess(simple(ring, outage={"sky_from": "year", "start": "2026-01-01T00:00:00", "duration_h": 240.0}))
        bright = sum(not sky.is_dark for sky in found.charging.skies)
        self.assertTrue(0 < bright < 10)
        asked = found.outage.per_tier["keep"].served_wh + found.outage.per_tier["keep"].unserved_wh
        self.assertAlmostEqual(asked, bright * 2400, places=3)

    def test_the_wind_of_the_year_turns_the_turbine(self):
        wind = {"charging": {"wind": {"rated_w": 500.0, "mean_m_s": 0.0}}}
        self.assertEqual(assess(simple(load("a", 1), **wind)).charging.given_wh("wind"), 0)
        self.assertGreater(
            assess(simple(load("a", 1), outage={"sky_from": "year"}, **wind)).charging.given_wh("wind"), 0
        )

    def test_the_demo_under_the_made_up_winter(self):
        found = assess(changed(birchrow(), outage={"sky_from": "year"}))
        self.assertLess(abs(found.outage.ledger_wh.difference), 1e-6 * found.outage.ledger_wh.served)


class Distance(unittest.TestCase):
    def test_a_degree_of_latitude_is_111_km(self):
        site = simple(site={"latitude_deg": 43.0, "longitude_deg": -75.0}).site
        self.assertAlmostEqual(distance_km(site, YEAR), 111.2, delta=0.1)
