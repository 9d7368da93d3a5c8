"""Towns by name: found as people type them, with standard time, from the index made at set-up; and without one."""

import gzip
import tempfile
import unittest
from pathlib import Path

from hearthkeep.places import INDEX, MOST_FOUND, find_towns, folded, read_towns


class Index(unittest.TestCase):
    def test_it_is_there_and_whole(self):
        towns = [entry.town for entry in read_towns()]
        self.assertGreater(len(towns), 50_000)
        self.assertLess(INDEX.stat().st_size, 4_000_000)
        people = [town.people for town in towns]
        self.assertEqual(people, sorted(people, reverse=True))
        self.assertGreaterEqual(people[-1], 5_000)
        for town in towns:
            self.assertTrue(-90 <= town.latitude_deg <= 90 and -180 <= town.longitude_deg <= 180, town)
            self.assertTrue(-12 <= town.utc_offset_h <= 14 and town.name and town.country, town)
            # Standard time lies near the sun's: the widest time zones are three and a half hours off.
            self.assertLess(abs((town.utc_offset_h - town.longitude_deg / 15 + 12) % 24 - 12), 4.2, town)

    def test_without_an_index_nothing_is_found_and_nothing_breaks(self):
        self.assertEqual(read_towns(Path(tempfile.gettempdir()) / "no-such-index.gz"), ())

    def test_a_small_index(self):
        line = "Éx-le-Bain\t\tFrance\tFR\t45.000\t5.000\t1\t6000\tfrance|fr\tex le bain|bad ex|exham\n"
        with tempfile.TemporaryDirectory() as folder:
            index = Path(folder) / "towns.tsv.gz"
            with gzip.open(index, "wt", encoding="utf-8") as file:
                file.write(line)
            (entry,) = read_towns(index)
        self.assertEqual((entry.names, entry.where), (("ex le bain", "bad ex", "exham"), ("france", "fr")))
        self.assertEqual((entry.town.name, entry.town.people), ("Éx-le-Bain", 6000))


class Search(unittest.TestCase):
    def first(self, words):
        return find_towns(words)[0]

    def test_as_people_type_them(self):
        # Public geography, from memory: to a tenth of a degree.
        for words, country, latitude_deg, longitude_deg, offset_h in (
            ("Munich", "Germany", 48.1, 11.6, 1), ("münchen", "Germany", 48.1, 11.6, 1), ("Saint-etienne", "France", 45.4, 4.4, 1),
            ("springfield, illinois", "United States", 39.8, -89.6, -6), ("Kathmandu", "Nepal", 27.7, 85.3, 5.75),
            ("adelaide", "Australia", -34.9, 138.6, 9.5), ("dublin, ie", "Ireland", 53.3, -6.2, 0), ("new york", "United States", 40.7, -74.0, -5),
        ):  # fmt: skip
            with self.subTest(words):
                town = self.first(words)
                self.assertEqual((town.country, town.utc_offset_h), (country, offset_h))
                self.assertAlmostEqual(town.latitude_deg, latitude_deg, delta=0.1)
                self.assertAlmostEqual(town.longitude_deg, longitude_deg, delta=0.1)

    def test_the_whole_name_stands_before_its_beginning_and_the_larger_before_the_smaller(self):
        found = find_towns("paris")
        self.assertEqual([folded(town.name) for town in found[:2]], ["paris", "paris"])
        self.assertGreater(found[0].people, found[1].people)

    def test_where_it_lies_narrows(self):
        self.assertEqual({town.country_code for town in find_towns("paris, us")}, {"US"})
        self.assertEqual({town.region for town in find_towns("springfield, mo")}, {"Missouri"})
        self.assertEqual(find_towns("paris, atlantis"), ())

    def test_nothing_asked_is_nothing_found_and_never_more_than_a_handful(self):
        for words in ("", "   ", ",", ", us", "%%%"):
            self.assertEqual(find_towns(words), ())
        self.assertEqual(len(find_towns("san")), MOST_FOUND)
