"""The calendar of upkeep: read again by the library's own reader, and by the letter of RFC 5545."""

import unittest
from datetime import date, timedelta

from icalendar import Calendar

from hearthkeep.core.upkeep import upkeep_of
from hearthkeep.demo import demo_designs
from hearthkeep.exchange import write_calendar
from tests.papers.made import SCRIPTS
from tests.support.designs import birchrow

DAY = date(2026, 11, 28)


class Written(unittest.TestCase):
    def test_every_task_of_every_demo_is_an_event_again(self):
        for design in demo_designs():
            tasks = upkeep_of(design)
            text = write_calendar(design.name, tasks, key="k", begins=DAY)
            events = list(Calendar.from_ical(text).walk("VEVENT"))
            self.assertEqual([str(event["SUMMARY"]) for event in events], [task.title for task in tasks])
            self.assertEqual(len({str(event["UID"]) for event in events}), len(tasks))
            for event, task in zip(events, tasks, strict=True):
                self.assertIn(task.do, str(event["DESCRIPTION"]))
                self.assertIn(task.basis, str(event["DESCRIPTION"]))
                first, last = event["DTSTART"].dt, event["DTEND"].dt
                self.assertEqual(last - first, timedelta(days=1))
                self.assertTrue(DAY < first <= DAY + timedelta(days=366), task.key)
                if task.month is not None:
                    self.assertEqual(first.month, task.month)
                rule = event["RRULE"]
                every = {"YEARLY": 365, "DAILY": rule.get("INTERVAL", [1])[0]}[rule["FREQ"][0]]
                self.assertEqual(every, task.every_days)

    def test_the_same_again_and_the_same_identities_on_another_day(self):
        tasks = upkeep_of(birchrow())
        one = write_calendar("a", tasks, key="k", begins=DAY)
        self.assertEqual(one, write_calendar("a", tasks, key="k", begins=DAY))
        ids = [str(event["UID"]) for event in Calendar.from_ical(one).walk("VEVENT")]
        later = write_calendar("a", tasks, key="k", begins=date(2027, 1, 1))
        self.assertEqual(ids, [str(event["UID"]) for event in Calendar.from_ical(later).walk("VEVENT")])

    def test_lines_are_short_end_as_they_should_and_keep_every_script(self):
        text = write_calendar(SCRIPTS[0] + "; " + SCRIPTS[1] + "\\,", upkeep_of(birchrow()), key="k", begins=DAY)
        self.assertTrue(text.endswith(b"END:VCALENDAR\r\n"))
        self.assertNotIn(b"\n", text.replace(b"\r\n", b""))
        self.assertLessEqual(max(len(line) for line in text.split(b"\r\n")), 75)
        self.assertIn(SCRIPTS[0][:150], str(Calendar.from_ical(text)["X-WR-CALNAME"]))
