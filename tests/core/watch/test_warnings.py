"""Which warnings hold: updates, cancellations, ends, and messages whose clock or sender is not to be believed."""

import unittest
from dataclasses import replace
from datetime import UTC, datetime, timedelta

from hearthkeep.core.watch import WeatherAlert, standing

NOW = datetime(2026, 1, 12, 12, tzinfo=UTC)


def told(identifier, hours_ago=1.0, **more):
    values = {
        "sender": "s@x.example",
        "sent": NOW - timedelta(hours=hours_ago),
        "status": "Actual",
        "message_type": "Alert",
    }
    return WeatherAlert(identifier=identifier, **{**values, **more})


class Standing(unittest.TestCase):
    def held(self, *alerts, at=NOW):
        return [alert.identifier for alert in standing(alerts, at)]

    def test_the_newest_first(self):
        self.assertEqual(self.held(told("a", 5), told("b", 1)), ["b", "a"])

    def test_an_update_takes_the_place_and_a_cancellation_the_hold(self):
        watch, warning = told("a", 9), told("b", 5, message_type="Update", references=("a",))
        self.assertEqual(self.held(watch, warning), ["b"])
        self.assertEqual(self.held(watch, warning, told("c", 1, message_type="Cancel", references=("b",))), [])

    def test_what_is_not_signed_cancels_nothing_that_is(self):
        signed, over = told("a", 9, is_signed=True), told("b", 1, message_type="Cancel", references=("a",))
        self.assertEqual(self.held(signed, over), ["a"])
        self.assertEqual(self.held(signed, replace(over, is_signed=True)), [])
        # Nor by taking its name.
        self.assertTrue(standing([signed, told("a", 1, expires=NOW)], NOW)[0].is_signed)

    def test_it_ends_when_it_says_so_or_after_three_days(self):
        self.assertEqual(self.held(told("a", expires=NOW)), [])
        self.assertEqual(self.held(told("a", expires=NOW + timedelta(seconds=1))), ["a"])
        self.assertEqual((self.held(told("a", 71.9)), self.held(told("a", 72.0))), (["a"], []))

    def test_messages_from_the_future_and_of_other_kinds_are_left_out(self):
        self.assertEqual(self.held(told("a", -25), told("b", -1)), ["b"])
        self.assertEqual(
            self.held(told("a", message_type="Ack"), told("b", status="Draft"), told("c", status="System")), []
        )

    def test_an_exercise_is_one(self):
        self.assertTrue(standing([told("a", status="Exercise")], NOW)[0].is_exercise)
