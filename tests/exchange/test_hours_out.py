"""Hours of the outage and of the year as tables: their sums are the report's."""

import unittest
from datetime import datetime
from itertools import pairwise

from hearthkeep.core.assess import assess
from hearthkeep.core.yearly import sun_year, year_hours
from hearthkeep.demo import demo_designs
from hearthkeep.exchange import outage_rows, year_rows
from tests.support.designs import birchrow


class Hours(unittest.TestCase):
    def test_the_outage_s_steps_sum_to_its_ledger(self):
        for design in demo_designs():
            outage = assess(design).outage
            header, *rows = outage_rows(outage)
            column = {name: at for at, name in enumerate(header)}
            self.assertEqual(rows[0][0], outage.start[:16])
            times = [row[column["Hours from the start"]] for row in rows] + [outage.duration_h]
            lengths = [after - before for before, after in pairwise(times)]
            columns = list(zip(*rows, strict=True))
            total = {
                name: sum(value * hours for value, hours in zip(columns[column[name]], lengths, strict=True))
                for name in ("Served W", "Sun offered W")
            }
            # Steps are written to a tenth of a watt.
            self.assertAlmostEqual(total["Served W"], outage.ledger_wh.served, delta=0.06 * outage.duration_h)
            self.assertAlmostEqual(total["Sun offered W"], outage.ledger_wh.sun, delta=0.06 * outage.duration_h + 1)
            self.assertEqual(
                [row[column["In the bank at the end Wh"]] for row in rows[:-1]],
                [row[column["In the bank at the start Wh"]] for row in rows[1:]],
            )

    def test_the_year_s_hours_sum_to_its_report(self):
        found = sun_year(birchrow())
        header, *rows = year_rows(year_hours(birchrow()))
        column = {name: at for at, name in enumerate(header)}
        self.assertEqual(len(rows), 8760)
        self.assertEqual((rows[0][1], rows[-1][1]), ("01-01 00:00", "12-31 23:00"))
        self.assertAlmostEqual(
            sum(row[column["Sun through the controllers W"]] for row in rows) / 1000, found.given_kwh, delta=0.5
        )
        self.assertAlmostEqual(sum(row[column["Life or Keep dark h"]] for row in rows), found.dark_h, delta=0.5)
        datetime.strptime(f"2001-{rows[5000][1]}", "%Y-%m-%d %H:%M")
