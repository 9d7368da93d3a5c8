"""The sun: NREL's position example and long-term means, through the path the application uses."""

import unittest
from datetime import datetime
from pathlib import Path

import numpy as np
import pvlib

from hearthkeep.core.sources import Moments, WeatherYear, clear_sky, plane_of_array, year_plane_of_array
from hearthkeep.exchange import read_weather

PVLIB_DATA = Path(pvlib.__file__).parent / "data"


class SunPosition(unittest.TestCase):
    """Reda & Andreas, NREL/TP-560-34302 (2008), Appendix A.5: zenith 50.11162, azimuth 194.34024 degrees."""

    def test_worked_example(self):
        moments = Moments(start=datetime(2003, 10, 17, 12, 30, 30), offsets_h=(0.0,), utc_offset_h=-7.0)
        sky = clear_sky(39.742476, -105.1786, 1830.14, moments)
        # The report gives pressure 820 mbar and 11 C for refraction; ours takes the standard atmosphere of the
        # elevation and 12 C, which moves the zenith by less than a thousandth of a degree here.
        self.assertAlmostEqual(float(sky.zenith_deg[0]), 50.11162, delta=0.002)
        self.assertAlmostEqual(float(sky.azimuth_deg[0]), 194.34024, delta=0.001)


class LongTermMeans(unittest.TestCase):
    """NREL solar radiation data manual (Marion & Wilcox 1994), tilt = latitude; values from memory.

    A single typical year against 30-year means: annual within 0.2, monthly within 0.5 kWh/m2/day.
    """

    GREENSBORO = (3.9, 4.5, 5.2, 5.7, 5.6, 5.6, 5.6, 5.5, 5.2, 4.9, 4.1, 3.6)

    MIAMI = (4.7, 5.2, 5.7, 6.0, 5.6, 5.1, 5.3, 5.4, 5.1, 5.1, 4.7, 4.5)
    DAYS = np.array([31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31])

    def monthly(self, year):
        """Daily means of each month on a plane of the place's latitude, facing south [kWh/m2], as the application has it."""
        plane = year_plane_of_array(year, year.moments, year.latitude_deg, 180.0)
        months = np.repeat(np.arange(12), self.DAYS * 24)
        return np.bincount(months, weights=plane) / 1000 / self.DAYS

    def check(self, found, annual, expected_months):
        self.assertAlmostEqual((found * self.DAYS).sum() / 365, annual, delta=0.2)
        for month, (value, expected) in enumerate(zip(found, expected_months, strict=True), start=1):
            with self.subTest(month=month):
                self.assertAlmostEqual(value, expected, delta=0.5)

    def test_greensboro_typical_year(self):
        year = read_weather((PVLIB_DATA / "723170TYA.CSV").read_bytes(), "greensboro")
        self.check(self.monthly(year), 5.0, self.GREENSBORO)

    def test_miami_typical_year(self):
        data, site = pvlib.iotools.read_tmy2(PVLIB_DATA / "12839.tm2")
        # Each month comes from another year; the sun of one common year is near enough.
        data.index = data.index.map(lambda stamp: stamp.replace(year=1990))
        data = data.sort_index()
        year = WeatherYear(
            key="miami",
            name="Miami",
            latitude_deg=site["latitude"],
            longitude_deg=site["longitude"],
            elevation_m=float(site["altitude"]),
            utc_offset_h=-5.0,
            ghi_w_m2=data["GHI"].to_numpy(float),
            dni_w_m2=data["DNI"].to_numpy(float),
            dhi_w_m2=data["DHI"].to_numpy(float),
            air_c=np.zeros(8760),
            wind_m_s=np.zeros(8760),
            snow_cm=np.zeros(8760),
        )
        self.check(self.monthly(year), 5.2, self.MIAMI)


class ClearSkies(unittest.TestCase):
    def test_a_clear_june_noon_is_about_a_kilowatt(self):
        """Common knowledge: a clear summer noon gives 0.9 to 1.05 kW/m2 facing the sun; the extraterrestrial limit is 1.42."""
        moments = Moments(start=datetime(2026, 6, 21, 0), offsets_h=tuple(np.arange(0, 24, 0.25)), utc_offset_h=0.0)
        sky = clear_sky(40.0, 0.0, 0.0, moments)
        plane = plane_of_array(sky, tilt_deg=17.0, azimuth_deg=180.0)
        self.assertTrue(900 < plane.max() < 1080, plane.max())
        self.assertTrue((plane >= 0).all() and (plane[sky.zenith_deg > 90] == 0).all())

    def test_south_faces_the_noon_and_east_the_morning(self):
        moments = Moments(start=datetime(2026, 3, 21, 0), offsets_h=tuple(np.arange(0, 24, 0.25)), utc_offset_h=0.0)
        sky = clear_sky(40.0, 0.0, 0.0, moments)
        east, south, west = (
            plane_of_array(sky, tilt_deg=40.0, azimuth_deg=azimuth) for azimuth in (90.0, 180.0, 270.0)
        )
        self.assertLess(east.argmax(), south.argmax())
        self.assertLess(south.argmax(), west.argmax())
        self.assertGreater(south.sum(), 1.2 * east.sum())
