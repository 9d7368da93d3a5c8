"""What is kept from one edit to the next changes nothing: the answer in parts equals one worked out from nothing, to the last bit."""

import functools
import json
import random
import sys
import unittest
from unittest import mock

from pydantic import TypeAdapter

from hearthkeep.core.assess import Assessment, assess
from hearthkeep.core.design import Design, narrowed, read_design
from hearthkeep.core.errors import InputError
from hearthkeep.core.outage import prepare
from hearthkeep.demo import demo_designs
from hearthkeep.workers import assess_tasks
from tests.core.test_design_format import put
from tests.core.test_extremes import choices
from tests.runner.profile import amount
from tests.support.designs import birchrow, changed

ASSESSMENT = TypeAdapter(Assessment)
EDITS = amount(150, 5_000)
FIELDS = list(choices())


def forget() -> None:
    """Drop every result that is kept between edits; tables and skies, which no edit touches, stay."""
    for name, module in list(sys.modules.items()):
        if name.startswith("hearthkeep.core.") and not name.startswith("hearthkeep.core.sources"):
            for value in vars(module).values():
                if isinstance(value, functools._lru_cache_wrapper) and value.cache_parameters()["maxsize"] is not None:
                    value.cache_clear()
    assess_tasks._last = None


def numbers(value, path=()):
    """Paths to all numbers of a document."""
    if isinstance(value, dict):
        for key, entry in value.items():
            yield from numbers(entry, (*path, key))
    elif isinstance(value, list):
        for index, entry in enumerate(value):
            yield from numbers(entry, (*path, index))
    elif isinstance(value, float):
        yield path


def edited(document, chance):
    """The document with one number moved, one load doubled or taken out, or one field at an end of its range."""
    found = json.loads(json.dumps(document))
    kind = chance.random()
    if kind < 0.6:
        *steps, last = chance.choice(list(numbers(found)))
        node = functools.reduce(lambda part, key: part[key], steps, found)
        node[last] = round(node[last] * chance.choice((0.5, 0.9, 1.1, 2.0)), 3)
    elif kind < 0.8 and found["loads"]:
        index = chance.randrange(len(found["loads"]))
        row = found["loads"].pop(index)
        if chance.random() < 0.6:
            found["loads"][index:index] = [row, {**row, "id": f"{row['id'][:30]}-{chance.randrange(10**6)}"}]
    else:
        path, values = chance.choice(FIELDS)
        try:
            put(found, path, chance.choice(values))
        except (KeyError, IndexError, TypeError):
            return document
    return found


class Edits(unittest.TestCase):
    def test_the_answer_in_parts_equals_the_whole(self):
        chance = random.Random(14)
        start = [json.loads(design.model_dump_json()) for design in demo_designs()]
        document, done = start[0], 0
        while done < EDITS:
            if done % 25 == 0:
                document = start[done // 25 % len(start)]
            tried = edited(document, chance)
            try:
                body = read_design(tried).model_dump_json().encode()
            except InputError:
                continue
            document, done = tried, done + 1
            strip = assess_tasks.endurance(body)
            parts = assess_tasks.parts(strip.checked.text)
            answered = {name: json.loads(text) for name, text in parts.items()}
            shown = json.loads(strip.answer)
            forget()
            whole = json.loads(ASSESSMENT.dump_json(assess(read_design(body))))
            if any(whole[name] != part for name, part in answered.items()) or any(
                whole[name] != shown[name] for name in ("outage", "levels", "missing")
            ):
                different = [name for name, part in answered.items() if whole[name] != part]
                self.fail(f"edit {done}: {different or 'the strip'} of {body[:20_000].decode()}")
            self.assertEqual(whole.keys(), answered.keys() | {"outage", "levels", "missing"})
            self.assertEqual(shown["carried"], whole["figures"]["outage.hours_carried_h"])
            self.assertEqual(shown["capacity_wh"], whole["bank"]["capacity_wh"])
            # As it stands after many edits: what was just worked out is kept again.
            assess_tasks.endurance(body)

    def test_an_edit_elsewhere_finds_what_was_kept(self):
        design = birchrow()
        found = assess(design)
        with mock.patch("hearthkeep.core.wiring.plan.size_run", side_effect=AssertionError("sized again")):
            self.assertEqual(assess(changed(design, policy={"ease_level_frac": 0.4})).wiring, found.wiring)
            with self.assertRaisesRegex(AssertionError, "sized again"):
                assess(changed(design, wiring={"ambient_c": 41.0}))
        self.assertIs(prepare(changed(design, inverter={"idle_w": 77.0})).rows, prepare(design).rows)

    def test_a_narrowed_design_has_nothing_else(self):
        design: Design = narrowed(birchrow(), "bank", loads=())
        self.assertEqual(design.bank, birchrow().bank)
        self.assertEqual(design.loads, ())
        with self.assertRaises(AttributeError):
            _ = design.outage.start
