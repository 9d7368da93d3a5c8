"""What a log warns of, what is due by it, and what its clocks and names are taken for."""

import unittest
from datetime import UTC, date, datetime, timedelta

import numpy as np

from hearthkeep.core.design import read_design
from hearthkeep.core.errors import InputError
from hearthkeep.core.logbook import Log, Quantity, Trace, Written, alarms_of, due_tasks, happened_at, read_entry
from tests.support.designs import CART, birchrow, moved

TODAY = date(2026, 6, 15)


def at_noon(*values, quantity=Quantity.BANK_V, last=TODAY):
    """One reading a day, the last of them today."""
    days = np.array([(last - timedelta(days=len(values) - 1 - at)).toordinal() - 719_163 for at in range(len(values))])
    return Log(traces={(quantity, ""): Trace(at_s=days * 86_400.0 + 43_200.0, values=np.array(values, dtype=float))})


def both(*logs):
    return Log(traces={key: trace for log in logs for key, trace in log.traces.items()})


def keys(design, log=None, written=()):
    return [alarm.key for alarm in alarms_of(design, written, log or Log(traces={}), today=TODAY)]


def written(days_ago, **body):
    at = datetime(2026, 6, 15, 12) - timedelta(days=days_ago)
    return Written(at=at, entry=read_entry(body))


CART_DESIGN = read_design(CART.read_bytes())


class Alarms(unittest.TestCase):
    def test_volts_at_their_set_point_are_quiet_and_above_it_a_stop(self):
        # Lithium of 16 cells: 57.2 V absorb; 0.3 V a block above is 58.5 V.
        self.assertEqual(keys(birchrow(), at_noon(57.2, 57.3, 57.1)), [])
        self.assertEqual(keys(birchrow(), at_noon(57.2, 57.3, 58.9)), ["over_volts"])

    def test_a_controller_that_creeps_from_14_4_towards_18_is_said_to_creep_before_it_is_over(self):
        tops = [14.4 + 0.03 * day for day in range(14)]
        self.assertEqual(keys(CART_DESIGN, at_noon(*tops)), ["creeping"])
        later = [14.4 + 0.25 * day for day in range(14)]
        alarm = alarms_of(CART_DESIGN, (), at_noon(*later), today=TODAY)[0]
        self.assertEqual((alarm.key, alarm.severity.value), ("over_volts", "stop"))
        self.assertIn("creeps", alarm.message)

    def test_steady_tops_with_scatter_do_not_creep(self):
        dice = np.random.default_rng(1)
        for _ in range(30):
            self.assertEqual(keys(CART_DESIGN, at_noon(*(14.5 + dice.normal(0, 0.05, 14)))), [])

    def test_an_equalising_charge_is_no_alarm_where_it_is_set(self):
        flooded = moved(CART_DESIGN, {"bank.chemistry": "flooded", "charging.stages.equalise_v": 15.5})
        self.assertEqual(keys(flooded, at_noon(14.4, 15.5, 14.4)), [])

    def test_lithium_charged_below_freezing(self):
        cold = both(at_noon(-4.0, -3.0, quantity=Quantity.BANK_C), at_noon(20.0, 20.0, quantity=Quantity.BANK_A))
        self.assertEqual(keys(birchrow(), cold), ["cold_charge"])
        self.assertEqual(keys(CART_DESIGN, cold), [])
        idle = both(at_noon(-4.0, -3.0, quantity=Quantity.BANK_C), at_noon(-20.0, 0.5, quantity=Quantity.BANK_A))
        self.assertEqual(keys(birchrow(), idle), [])

    def test_lead_that_is_never_full_is_warned_of_sooner_than_lithium(self):
        part_full = at_noon(*([80.0] * 14), quantity=Quantity.CHARGE)
        self.assertEqual((keys(CART_DESIGN, part_full), keys(birchrow(), part_full)), (["not_full"], []))
        self.assertEqual(keys(CART_DESIGN, at_noon(*([80.0] * 13), 100.0, quantity=Quantity.CHARGE)), [])
        told = at_noon(3.0, quantity=Quantity.DAYS_SINCE_FULL, last=TODAY - timedelta(days=9))
        self.assertEqual(keys(CART_DESIGN, told), ["not_full"])

    def test_a_silent_fan_until_it_turns_again(self):
        silent = written(3, kind="event", what="fan_check", is_well=False, part="inverter")
        self.assertEqual(keys(birchrow(), written=(silent,)), ["fan"])
        self.assertEqual(keys(birchrow(), written=(silent, written(1, kind="event", what="fan_check"))), [])

    def test_instruments_apart(self):
        apart = written(1, kind="cross", shown="volts", values={"a": 52.4, "b": 52.3, "c": 54.0})
        self.assertEqual(keys(birchrow(), written=(apart,)), ["instruments.volts"])

    def test_the_gravest_comes_first(self):
        silent = written(3, kind="event", what="fan_check", is_well=False)
        self.assertEqual(keys(birchrow(), at_noon(57.2, 57.2, 66.0), (silent,)), ["over_volts", "fan"])


class Due(unittest.TestCase):
    def due(self, *entries, design=None, begun=TODAY - timedelta(days=40)):
        return {task.key: task for task in due_tasks(design or birchrow(), entries, begun_on=begun, today=TODAY)}

    def test_what_was_never_done_counts_from_the_beginning_and_is_overdue_then(self):
        task = self.due()["alarms"]
        self.assertEqual((task.last_on, task.days_left, task.state.value), (None, -10, "overdue"))

    def test_what_was_done_counts_from_then_the_last_time(self):
        done = [written(days, kind="event", what="upkeep", part="alarms") for days in (35, 20)]
        self.assertEqual((self.due(*done)["alarms"].days_left, self.due(*done)["alarms"].state.value), (10, "soon"))

    def test_events_settle_their_tasks(self):
        flooded = moved(CART_DESIGN, {"bank.chemistry": "flooded"})
        for what, key in (
            ("watered", "water"),
            ("cleaned", "panels"),
            ("fan_check", "vent"),
            ("equalised", "equalise"),
        ):
            task = self.due(written(0, kind="event", what=what), design=flooded)[key]
            self.assertEqual(task.last_on, TODAY, key)
        capacity = written(0, kind="capacity", test={"ah": 180.0, "hours_h": 9.0, "temp_c": 25.0})
        self.assertEqual(self.due(capacity)["capacity"].last_on, TODAY)

    def test_a_yearly_task_falls_into_its_month(self):
        swept = moved(birchrow(), {"charging.controllers.0.arrays.0.snow": "swept"})
        done = written(200, kind="event", what="snow_cleared")
        self.assertEqual(self.due(done, design=swept)["snow"].due_on, date(2026, 10, 31))


class Clocks(unittest.TestCase):
    NOW = datetime(2026, 6, 15, 12, tzinfo=UTC)

    def test_a_clock_set_right_between_writing_and_sending_is_seen_by_the_stop_watch(self):
        for told in (datetime(2000, 1, 1, tzinfo=UTC), self.NOW + timedelta(days=3)):
            self.assertEqual(
                happened_at(told, sent_at=self.NOW, received_at=self.NOW, age_s=600.0), self.NOW - timedelta(minutes=10)
            )

    def test_a_phone_that_slept_is_believed_by_its_clock(self):
        told = self.NOW - timedelta(hours=9)
        self.assertEqual(happened_at(told, sent_at=self.NOW, received_at=self.NOW, age_s=120.0), told)
        # Asleep, and an hour wrong all the while.
        wrong = timedelta(hours=1)
        self.assertEqual(happened_at(told + wrong, sent_at=self.NOW + wrong, received_at=self.NOW, age_s=120.0), told)

    def test_a_small_difference_is_the_way_through_the_network(self):
        told = self.NOW - timedelta(hours=2)
        self.assertEqual(
            happened_at(told, sent_at=self.NOW - timedelta(seconds=30), received_at=self.NOW, age_s=None), told
        )

    def test_a_clock_that_is_off_takes_its_entries_with_it(self):
        for off in (timedelta(days=-900), timedelta(hours=5), timedelta(days=40)):
            told = self.NOW - timedelta(hours=2) + off
            self.assertEqual(
                happened_at(told, sent_at=self.NOW + off, received_at=self.NOW, age_s=None),
                self.NOW - timedelta(hours=2),
            )


class Entries(unittest.TestCase):
    def test_what_is_no_entry_names_field_value_and_range(self):
        for body, words in (
            ({}, "must be one of"), ({"kind": "reading", "values": {"bank_v": 5e5}}, "0 to 1,000 V"), ({"kind": "reading", "values": {"bank_v": float("nan")}}, "values"),
            ({"kind": "outage", "start": "2026-01-01T00:00:00Z", "hours_h": 3.0}, "offset"), ({"kind": "event", "what": "magic"}, "what"),
            ({"kind": "event", "what": "note", "extra": 1}, "extra"),
        ):  # fmt: skip
            with self.assertRaises(InputError) as caught:
                read_entry(body)
            self.assertIn(words, str(caught.exception.problems[0]))
