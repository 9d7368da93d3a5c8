"""The examples in docstrings say what really comes out."""

import doctest
import importlib
import pkgutil
import unittest

import hearthkeep


class Examples(unittest.TestCase):
    def test_every_example_of_a_docstring_comes_out_as_written(self):
        tried = 0
        for info in pkgutil.walk_packages(hearthkeep.__path__, "hearthkeep."):
            with self.subTest(info.name):
                result = doctest.testmod(importlib.import_module(info.name), report=False)
                self.assertEqual(result.failed, 0)
                tried += result.attempted
        self.assertGreater(tried, 60)
