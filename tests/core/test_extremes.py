"""Whatever the format accepts is assessed: every field at both ends of its range, alone and several at a time."""

import json
import random
import re
import unittest

import numpy as np
from pydantic import TypeAdapter

from hearthkeep.core.assess import Assessment, assess
from hearthkeep.core.design import Design, read_design
from hearthkeep.core.errors import InputError
from tests.core.test_design_format import WHOLE, ends, put
from tests.runner.profile import amount
from tests.support.design_format import rows

ASSESSMENT = TypeAdapter(Assessment)
WORDS = re.compile(r"`([^`]+)`")
TRUTH = {"true": True, "false": False}


def choices():
    """For each field of the format what it may be set to: the ends of its range, or each of its words."""
    paths = [row.path for row in rows()]
    for row in rows():
        if any(path.startswith((f"{row.path}.", f"{row.path}(", f"{row.path}[].")) for path in paths):
            # A part whose own fields follow.
            continue
        found = ends(row)
        values = list(found[0]) if found else [TRUTH.get(word, word) for word in WORDS.findall(row.accepted)]
        if row.accepted.endswith("or null"):
            values.append(None)
        if values:
            yield row.path, values


def whole(*fields):
    """The whole design with fields replaced; none where they contradict one another."""
    document = json.loads(json.dumps(WHOLE))
    for path, value in fields:
        put(document, path, value)
    try:
        return read_design(document)
    except InputError:
        return None


SEVERAL = amount(80, 250)


class Extremes(unittest.TestCase):
    def assess(self, design: Design) -> None:
        # A division by nothing, an overflow or a not-a-number anywhere in between is an error as well.
        with np.errstate(divide="raise", over="raise", invalid="raise"):
            found = assess(design)
        text = ASSESSMENT.dump_json(found).decode()
        self.assertNotRegex(text, r"\bNaN\b|\bInfinity\b")
        ledger = found.outage.ledger_wh
        put_in = ledger.sun + ledger.generator + ledger.grid + ledger.other + ledger.bank_drawn
        went = ledger.served + ledger.inverter_loss + ledger.charge_loss + ledger.wiring_loss + ledger.spilled
        turned_over = ledger.sun + ledger.generator + ledger.other + ledger.served + abs(ledger.bank_drawn) + 1e-6
        self.assertLess(abs(put_in - went) / turned_over, 1e-4)
        for finding in found.findings:
            self.assertNotRegex(finding.title + finding.message, r"\bnan\b|\binf\b|None|\{")
        for figure in found.figures.values():
            self.assertTrue(figure.formula and figure.basis, figure.label)

    def test_each_field_at_both_ends_of_its_range(self):
        tried = 0
        for path, values in choices():
            for value in values:
                design = whole((path, value))
                if design is not None:
                    tried += 1
                    with self.subTest(path, value=value):
                        self.assess(design)
        self.assertGreater(tried, 400)

    def test_several_at_a_time(self):
        fields = list(choices())
        tried = 0
        for seed in range(SEVERAL):
            dice = random.Random(seed)
            picked = {path: dice.choice(values) for path, values in (dice.choice(fields) for _ in range(6))}
            # Of two kinds of one reading the later stands.
            design = whole(*picked.items())
            if design is not None:
                tried += 1
                with self.subTest(seed=seed, picked=picked):
                    self.assess(design)
        self.assertGreater(tried, SEVERAL // 5)
