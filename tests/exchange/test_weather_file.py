"""Weather files: both forms read to the same year, and every spoilt one refused with its line and the reason."""

import unittest
from dataclasses import replace
from pathlib import Path

import numpy as np
import pvlib
from hypothesis import given
from hypothesis import strategies as st

from hearthkeep.core.sources import skies_of_year
from hearthkeep.exchange import MAX_WEATHER_BYTES, WeatherFileError, read_weather, write_weather
from tests.runner.profile import examples
from tests.support.weather import YEAR, epw_lines, joined, tmy3_lines

EPW, TMY3 = epw_lines(), tmy3_lines()


class Out(unittest.TestCase):
    def test_what_is_written_is_read_again_under_the_same_key(self):
        # The made-up year in both forms, and the public Greensboro TMY3 year in pvlib's data.
        for content in (joined(EPW), joined(TMY3), (Path(pvlib.__file__).parent / "data/723170TYA.CSV").read_bytes()):
            year = read_weather(content, "a")
            again = read_weather(write_weather(year), "b")
            self.assertEqual((again.key, again.name), (year.key, year.name))
            for field in ("ghi_w_m2", "dni_w_m2", "dhi_w_m2", "air_c", "wind_m_s", "snow_cm"):
                np.testing.assert_allclose(getattr(again, field), getattr(year, field), rtol=1e-6, atol=1e-6)

    def test_every_row_has_its_35_fields_and_what_is_not_held_stands_for_missing(self):
        lines = write_weather(replace(YEAR, name='Two, "three"')).decode().splitlines()
        self.assertEqual({len(line.split(",")) for line in lines[8:]}, {35})
        self.assertEqual(lines[8].split(",")[:6], ["2001", "1", "1", "1", "60", "?9"])
        self.assertEqual(lines[-1].split(",")[:4], ["2001", "12", "31", "24"])
        self.assertEqual((lines[8].split(",")[8], lines[8].split(",")[9]), ("999", "999999"))
        self.assertEqual(read_weather(joined(lines), "b").name, "Two   three")


class Read(unittest.TestCase):
    def test_both_forms_give_the_year_that_was_written(self):
        for lines in (epw_lines(), tmy3_lines()):
            year = read_weather(joined(lines), "made-up.file")
            with self.subTest(year.name):
                self.assertEqual(year.name.lower(), "made up")
                self.assertEqual((year.latitude_deg, year.utc_offset_h, year.elevation_m), (44.0, -5.0, 120.0))
                for name in ("ghi_w_m2", "dni_w_m2", "dhi_w_m2", "air_c"):
                    np.testing.assert_allclose(getattr(year, name), getattr(YEAR, name), atol=0.006)
                np.testing.assert_allclose(year.wind_m_s, YEAR.wind_m_s, atol=0.06)

    def test_snow_comes_with_epw_alone(self):
        self.assertEqual(skies_of_year(read_weather(joined(epw_lines()), "a")), skies_of_year(YEAR))
        self.assertEqual(read_weather(joined(tmy3_lines()), "a").snow_cm.max(), 0)

    def test_the_same_hours_have_the_same_key_whatever_the_file_is_called(self):
        one, other = (read_weather(joined(epw_lines()), name) for name in ("a.epw", "b.epw"))
        self.assertEqual(one.key, other.key)
        warmer = epw_lines()
        warmer[100] = warmer[100].replace(warmer[100].split(",")[6], "3.33", 1)
        self.assertNotEqual(read_weather(joined(warmer), "a.epw").key, one.key)

    def test_a_leap_day_is_left_out_and_line_ends_do_not_matter(self):
        lines = epw_lines()
        after_28_february = 8 + 59 * 24
        leap = [line.replace("2001,2,28,", "2001,2,29,") for line in lines[after_28_february - 24 : after_28_february]]
        longer = [*lines[:after_28_february], *leap, *lines[after_28_february:]]
        read = read_weather(("\r\n".join(longer)).encode("utf-8-sig"), "a")
        np.testing.assert_allclose(read.air_c, YEAR.air_c, atol=0.006)

    def test_public_files(self):
        # Typical years of Greensboro and Sand Point, public domain, in the data of pvlib.
        folder = Path(pvlib.__file__).parent / "data"
        for name, latitude in (("723170TYA.CSV", 36.1), ("703165TY.csv", 55.317)):
            year = read_weather((folder / name).read_bytes(), name)
            self.assertEqual(year.latitude_deg, latitude)
            self.assertEqual(year.ghi_w_m2.shape, (8760,))


class Refused(unittest.TestCase):
    def refused(self, content: bytes, line: int, reason: str) -> None:
        with self.assertRaises(WeatherFileError) as caught:
            read_weather(content, "spoilt")
        self.assertEqual(caught.exception.line, line)
        self.assertRegex(str(caught.exception), rf"^Line [\d,]+: .*{reason}")

    def spoilt(self, line: int, column: int, value: str, lines=None) -> bytes:
        lines = epw_lines() if lines is None else lines
        fields = lines[line - 1].split(",")
        fields[column] = value
        lines[line - 1] = ",".join(fields)
        return joined(lines)

    def test_a_truncated_epw(self):
        self.refused(joined(epw_lines()[:3000]), 3000, "ends after 2,992 of 8,760 hours")
        lines = epw_lines()
        self.refused(joined([*lines[:2100], lines[2100][:40]]), 2101, "fields, at least 22 are wanted")
        self.refused(joined(epw_lines()[:5]), 5, "within its 8 header lines")

    def test_a_tmy3_with_missing_rows(self):
        lines = tmy3_lines()
        del lines[500:503]
        self.refused(joined(lines), 501, "month 1, day 21, hour 22 stands where month 1, day 21, hour 19 is due")

    def test_rows_too_many(self):
        lines = epw_lines()
        self.refused(joined([*lines, lines[8]]), 8769, "more than 8,760 hours")

    def test_wrong_units(self):
        titles = tmy3_lines()
        titles[1] = titles[1].replace("GHI (W/m^2)", "GHI (kJ/m^2)")
        self.refused(joined(titles), 2, r"'GHI \(W/m\^2\)' is wanted; found 'GHI \(kJ/m\^2\)'")
        self.refused(
            self.spoilt(21, 13, "1980"), 21, "1980 W/m2 lies outside 0 to 1500 W/m2; the file seems to hold kJ/m2"
        )
        self.refused(self.spoilt(30, 6, "72.5"), 30, "air temperature 72.5 .* seems to hold °F")
        self.refused(self.spoilt(30, 13, "-5"), 30, "global horizontal sun -5 W/m2 lies outside 0 to 1500")
        warm = tmy3_lines()
        warm[2:] = [",".join([*line.split(",")[:5], "52.0", "2.0"]) for line in warm[2:]]
        self.refused(joined(warm), 3, "seems to hold °F")

    def test_missing_values_and_words(self):
        self.refused(self.spoilt(40, 14, "9999"), 40, "direct normal sun is missing")
        self.refused(self.spoilt(41, 6, "99.9"), 41, "air temperature is missing")
        self.refused(self.spoilt(42, 21, "999"), 42, "wind is missing")
        self.refused(self.spoilt(43, 15, "n/a"), 43, "diffuse horizontal sun is no number")
        self.refused(self.spoilt(44, 15, "nan"), 44, "diffuse horizontal sun is missing")
        self.refused(self.spoilt(45, 3, "noon"), 45, "no date and hour")

    def test_200_megabytes(self):
        self.refused(b"LOCATION," * (MAX_WEATHER_BYTES // 9 + 1), 1, "at most 12,000,000 are read")

    def test_a_binary(self):
        self.refused(b"\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR", 2, "not text")
        self.refused(bytes(range(256)) * 100, 1, "not text")

    def test_something_else(self):
        for content in (b"", b"hello\n", b"{}", b"a,b,c\n1,2,3\n"):
            self.refused(content, 1, "neither EPW")

    def test_a_place_that_is_none(self):
        self.refused(self.spoilt(1, 6, "north"), 1, "latitude is no number")
        self.refused(self.spoilt(1, 6, "944"), 1, "latitude 944 lies outside -90 to 90")
        self.refused(b"LOCATION,a,b\n", 1, "3 of 10 fields")

    def test_sun_at_night_tells_of_a_wrong_place(self):
        first_bright = int(np.flatnonzero(YEAR.ghi_w_m2 > 25)[0])
        self.refused(self.spoilt(1, 7, "75.0"), 9 + first_bright, "with the sun below the horizon")


class NothingElse(unittest.TestCase):
    """Whatever is done to a file, it is read or refused with a line; nothing else comes of it."""

    NASTY = (
        b"", b",", b",,,,,,", b'"', b'""', b"\xff\xfe", b"\x00", b"1e999", b"-1", b"nan", b"99999999999999999999", b"0x10",
        b"13/45/2001,99:99", b"LOCATION,", b"\r\r\r", b"\xe2\x80\xa8", b"-9999", b"24:00", b"1 2", b"\t",
    )  # fmt: skip

    @examples(60)
    @given(st.data())
    def test_spoilt_anywhere(self, data):
        lines = [line.encode() for line in {"EPW": EPW, "TMY3": TMY3}[data.draw(st.sampled_from(["EPW", "TMY3"]))]]
        for _ in range(data.draw(st.integers(1, 3))):
            at = data.draw(st.sampled_from([0, 1, 7, 8, 9, len(lines) - 1]) | st.integers(0, len(lines) - 1))
            fields = lines[at].split(b",")
            column = data.draw(st.integers(0, len(fields) - 1))
            fields[column] = data.draw(st.sampled_from(self.NASTY))
            lines[at] = b",".join(fields)
        content = b"\n".join(lines)
        cut = data.draw(st.none() | st.integers(0, len(content)))
        try:
            year = read_weather(content[:cut], data.draw(st.text(max_size=8)))
        except WeatherFileError as error:
            self.assertRegex(str(error), r"^Line [\d,]+: .{10}")
            return
        self.assertTrue(np.isfinite(year.ghi_w_m2).all() and np.isfinite(year.air_c).all())
        self.assertTrue(year.name)
