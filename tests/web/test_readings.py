"""A reading that the page starts says of the load what its row says already."""

import unittest

from pydantic import TypeAdapter

from hearthkeep.core.design import Known, Load, Supply
from hearthkeep.core.loads.measure import read_of
from tests.support.designs import load
from tests.support.web import called


class Started(unittest.TestCase):
    def test_amps_on_the_dc_side_come_back_to_the_watts_of_the_row(self):
        for supply in (Supply.AC, Supply.AC_240, Supply.DC):
            with self.subTest(supply):
                row = Load.model_validate(load("lamp", 200.0, supply=supply))
                made = called(
                    "steps/loads/readings", "blankReading", "dc_amps", row.model_dump(mode="json"), 120.0, 12.8
                )
                known = TypeAdapter(Known).validate_python(made)
                found = read_of(row.model_copy(update={"known": known}))
                # Amps are written to a hundredth.
                self.assertAlmostEqual(found.running_w, 200.0, delta=0.1)
