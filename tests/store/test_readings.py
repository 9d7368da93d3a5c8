"""Readings in real PostgreSQL: in and out to the last bit, each moment once, by many at the same time."""

import unittest
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime

import numpy as np

from hearthkeep.store import Designs, Logbook, NewSeries, NotFoundError, Readings
from tests.support.designs import birchrow
from tests.support.shared import fresh_engine

START_US = int(datetime(2026, 3, 1, tzinfo=UTC).timestamp() * 1e6)


def some(values, *, quantity="bank_v", part="", start=0):
    at_us = START_US + 60_000_000 * (start + np.arange(len(values), dtype=np.int64))
    return NewSeries(quantity=quantity, part=part, at_us=at_us, values=np.array(values, dtype=float))


class InAndOut(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.engine = fresh_engine()
        cls.addClassCleanup(cls.engine.dispose)
        cls.readings, cls.logs = Readings(cls.engine), Logbook(cls.engine)
        cls.design = Designs(cls.engine).create(birchrow())

    def setUp(self):
        self.place = self.logs.begin(self.design.id, "Cellar").id

    def test_they_come_back_to_the_last_bit_with_their_microseconds(self):
        values = np.random.default_rng(1).normal(50, 3, 5_000)
        at_us = START_US + np.cumsum(np.random.default_rng(2).integers(1, 10**9, 5_000))
        self.readings.add(self.place, [NewSeries(quantity="bank_v", part="", at_us=at_us, values=values)])
        found_us, found = self.readings.of(self.place, "bank_v", "")
        np.testing.assert_array_equal(found_us, at_us)
        np.testing.assert_array_equal(found, values)

    def test_a_moment_that_has_a_reading_keeps_it(self):
        self.readings.add(self.place, [some([1, 2, 3])])
        added = self.readings.add(self.place, [some([7, 8, 9, 10], start=1)])
        self.assertEqual((added.added, added.known), (2, 2))
        self.assertEqual(list(self.readings.of(self.place, "bank_v", "")[1]), [1, 2, 3, 9, 10])

    def test_means_of_hours_begin_with_the_hours_of_the_place(self):
        """One reading a minute from midnight UTC, at half past five of a place five and a half hours ahead."""
        self.readings.add(self.place, [some(range(120))])
        since = datetime(2026, 3, 1, tzinfo=UTC)
        at_s, means = self.readings.hour_means(self.place, "bank_v", "", since=since, shift_s=5.5 * 3600)
        self.assertEqual(list(means), [14.5, 59.5, 104.5])
        self.assertEqual([(at / 3600) % 24 for at in at_s], [5, 6, 7])
        later = datetime(2026, 3, 1, 1, 30, tzinfo=UTC)
        self.assertEqual(list(self.readings.hour_means(self.place, "bank_v", "", since=later, shift_s=0)[1]), [104.5])
        self.assertEqual(self.readings.hour_means(self.place, "sun_w", "", since=since, shift_s=0)[0].size, 0)

    def test_many_at_once_add_each_once(self):
        parts = [some(range(50), part=f"p{number % 3}", start=10 * (number % 4)) for number in range(24)]
        with ThreadPoolExecutor(8) as pool:
            added = sum(each.added for each in pool.map(lambda part: self.readings.add(self.place, [part]), parts))
        kept = {each.part: each.count for each in self.readings.series(self.place)}
        self.assertEqual((sum(kept.values()), set(kept)), (added, {"p0", "p1", "p2"}))

    def test_series_of_two_installations_never_mix(self):
        other = self.logs.begin(self.design.id, "Shed").id
        self.readings.add(self.place, [some([1]), some([2], quantity="charge")])
        self.readings.add(other, [some([5])])
        self.assertEqual(list(self.readings.of(other, "bank_v", "")[1]), [5])
        self.assertEqual([each.quantity for each in self.readings.series(self.place)], ["bank_v", "charge"])

    def test_a_stretch_and_nothing(self):
        self.readings.add(self.place, [some(range(10))])
        ends = [datetime.fromtimestamp((START_US + 60_000_000 * minute) / 1e6, UTC) for minute in (3, 5)]
        self.assertEqual(list(self.readings.of(self.place, "bank_v", "", since=ends[0], until=ends[1])[1]), [3, 4, 5])
        self.assertEqual(self.readings.of(self.place, "charge", "")[0].size, 0)
        self.assertEqual(self.readings.add(self.place, []).added, 0)

    def test_an_installation_that_is_not_there(self):
        with self.assertRaises(NotFoundError):
            self.readings.add(self.design.id, [some([1])])

    def test_single_readings_are_taken_away(self):
        self.readings.add(self.place, [some([1, 2, 3])])
        self.readings.remove(self.place, [some([2], start=1)])
        self.assertEqual(list(self.readings.of(self.place, "bank_v", "")[1]), [1, 3])
