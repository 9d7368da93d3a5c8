"""Numbers next to nothing: refused by their field, or worked with to finite figures."""

import copy
import json
import math
import unittest
from collections.abc import Iterator
from dataclasses import asdict
from pathlib import Path

from hearthkeep.core.assess import assess
from hearthkeep.core.design import read_design
from hearthkeep.core.design.fields import SMALLEST
from hearthkeep.core.errors import InputError
from tests.runner.profile import some

EXAMPLES = tuple(sorted((Path(__file__).parents[2] / "examples").glob("*.json")))
#: The smallest double, one that is not normal, and one a hair under the limit.
TRACES = (5e-324, 1e-320, -1e-320, 1e-150, SMALLEST * 0.99)
Where = tuple[str | int, ...]


def numbers(value: object, path: Where = ()) -> Iterator[Where]:
    """Where the numbers that are no whole numbers stand, and the fields left empty; two rows of a list speak for all."""
    if isinstance(value, dict):
        for key, inner in value.items():
            yield from numbers(inner, (*path, key))
    elif isinstance(value, list):
        for index, inner in enumerate(value[:2]):
            yield from numbers(inner, (*path, index))
    elif value is None or isinstance(value, float):
        yield path


def with_value(document: dict, path: Where, value: float) -> dict:
    """A copy of the document with one value put in."""
    changed = copy.deepcopy(document)
    place = changed
    for part in path[:-1]:
        place = place[part]
    place[path[-1]] = value
    return changed


def finite(value: object) -> bool:
    """Whether every number in it is one: no NaN, no infinity."""
    if isinstance(value, dict):
        return all(finite(inner) for inner in value.values())
    if isinstance(value, list | tuple):
        return all(finite(inner) for inner in value)
    return not isinstance(value, float) or math.isfinite(value)


class NextToNothing(unittest.TestCase):
    def test_a_trace_of_a_number_is_refused_by_its_field(self):
        tried = 0
        for example in EXAMPLES:
            document = read_design(json.loads(example.read_text())).model_dump(mode="json")
            for path in numbers(document):
                for trace in TRACES:
                    with self.subTest(example=example.stem, path=path, trace=trace):
                        with self.assertRaises(InputError) as refused:
                            read_design(with_value(document, path, trace))
                        named = [part for part in path if isinstance(part, str)][-1]
                        self.assertTrue(any(named in str(problem) for problem in refused.exception.problems))
                    tried += 1
        self.assertGreater(tried, 500)

    def test_the_smallest_that_is_taken_gives_finite_figures(self):
        taken = 0
        for example in EXAMPLES[1:]:
            document = read_design(json.loads(example.read_text())).model_dump(mode="json")
            for path in some(numbers(document), 3):
                for small in (SMALLEST, 0.1, 1.0):
                    try:
                        design = read_design(with_value(document, path, small))
                    except InputError:
                        continue
                    with self.subTest(example=example.stem, path=path, small=small):
                        self.assertTrue(finite(asdict(assess(design, None))))
                    taken += 1
                    break
        self.assertGreater(taken, 100)

    def test_a_turbine_in_still_air_has_no_price_a_kilowatt_hour(self):
        document = read_design(json.loads((EXAMPLES[1]).read_text())).model_dump(mode="json")
        self.assertEqual(EXAMPLES[1].stem, "birchrow-16")
        for mean_m_s, priced in ((8.0, True), (0.1, False), (0.0, False)):
            changed = with_value(document, ("charging", "wind", "mean_m_s"), mean_m_s)
            values = {value.key: value for value in assess(read_design(changed), None).charging.values}
            self.assertEqual(values["wind"].price_per_dark_kwh is not None, priced, mean_m_s)


if __name__ == "__main__":
    unittest.main()
