"""No pattern takes more than linear time: each is held against long texts made to send a backtracking matcher astray."""

import ast
import importlib
import itertools
import multiprocessing
import pkgutil
import re
import unittest

import hearthkeep
from tests.support.designs import ROOT

#: A quadratic pattern takes half a minute and more for texts of this length; a linear one takes milliseconds.
LENGTH, PATIENCE_S = 40_000, 10
PIECES = (
    "0",
    "9,",
    "1.",
    "1 000",
    " ",
    "\t",
    "a",
    "W",
    "x",
    "-",
    "/",
    "'",
    "1-2",
    "0,0",
    "per",
    "1:",
    "_",
    '"schema_version"',
)


def patterns():
    """Every pattern of the project with where it stands: compiled ones, and those written where they are used."""
    found = {}
    for info in pkgutil.walk_packages(hearthkeep.__path__, "hearthkeep."):
        if "migrations" in info.name:
            continue
        for value in vars(importlib.import_module(info.name)).values():
            for pattern in held_in(value):
                found.setdefault((pattern.pattern, pattern.flags), (info.name, pattern))
    for path in (ROOT / "hearthkeep").rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if (
                isinstance(node, ast.Call)
                and isinstance(node.func, ast.Attribute)
                and isinstance(node.func.value, ast.Name)
                and node.func.value.id == "re"
                and node.args
                and isinstance(node.args[0], ast.Constant)
            ):
                pattern = re.compile(node.args[0].value)
                found.setdefault((pattern.pattern, pattern.flags), (path.stem, pattern))
    return list(found.values())


def held_in(value):
    if isinstance(value, re.Pattern):
        yield value
    elif isinstance(value, tuple | list):
        for entry in value:
            yield from held_in(entry)


def texts():
    """Runs of one piece, runs of two in turn, each with an end that fits nothing."""
    for piece in PIECES:
        yield piece * (LENGTH // len(piece)) + "\x01"
    for first, second in itertools.permutations(PIECES, 2):
        yield first * (LENGTH // len(first) // 2) + second * (LENGTH // len(second) // 2) + "\x01"


class Linear(unittest.TestCase):
    def test_each_pattern_on_each_text(self):
        held = patterns()
        self.assertGreater(len(held), 30)
        every = list(texts())
        for where, pattern in held:
            with self.subTest(f"{where}: {pattern.pattern!r}"):
                self.assertTrue(self.ends(pattern, every))

    def test_a_quadratic_one_would_be_seen(self):
        self.assertFalse(self.ends(re.compile(r"\s+x"), [" " * 400_000 + "\x01"], patience_s=0.2))

    def ends(self, pattern, every, patience_s=PATIENCE_S):
        """Tried in a process of its own: a matcher lets nothing else run, and cannot be called off."""
        trying = multiprocessing.get_context("fork").Process(target=search_all, args=(pattern, every), daemon=True)
        trying.start()
        trying.join(patience_s)
        done = trying.exitcode == 0
        trying.kill()
        trying.join()
        return done


def search_all(pattern, every):
    for text in every:
        pattern.search(text.encode() if isinstance(pattern.pattern, bytes) else text)
