"""
Which tests there are, read from their source: nothing is imported, so that a command that runs a few of them begins at once, and
knows whether it needs a browser. Standard library only, since set-up asks too, before anything is installed.
"""

from __future__ import annotations

import ast
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cache
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
#: The packages of tests, and those that `--fast` leaves out whole.
PACKAGES = (
    "api", "browser", "cli", "core", "devices", "exchange", "jobs", "papers", "places", "polling", "published", "standins",
    "store", "web",
)  # fmt: skip
SLOW_PACKAGES = frozenset({"browser", "cli", "jobs", "papers", "polling", "standins"})
#: A class may say of itself that it starts servers and processes anew, or that it is a study for `--full` alone.
COLD, STUDY = "starts_cold", "is_study"


@dataclass(frozen=True, slots=True)
class TestClass:
    """A class of tests: what one worker runs in one go."""

    module: str
    name: str
    tests: tuple[str, ...]
    starts_cold: bool
    is_study: bool

    #: Not a test itself, whatever pytest's or unittest's habits say of such names.
    __test__ = False

    @property
    def key(self) -> str:
        """Dotted name of the class."""
        return f"{self.module}.{self.name}"

    @property
    def package(self) -> str:
        """Package of tests that it stands in."""
        return self.module.split(".")[1]

    @property
    def wants_browser(self) -> bool:
        """Whether it drives a browser."""
        return self.package == "browser"

    def named(self, words: Sequence[str]) -> tuple[str, ...]:
        """Its tests whose dotted name holds one of the words; all of them without words."""
        ids = (f"{self.key}.{test}" for test in self.tests)
        return tuple(name for name in ids if not words or any(word in name for word in words))


@dataclass(frozen=True, slots=True)
class _Source:
    """A class as it is written."""

    module: str
    node: ast.ClassDef

    def tests(self) -> Iterator[tuple[str, bool]]:
        """Its own tests by name; one that it inherits and sets to None is none."""
        for part in self.node.body:
            if isinstance(part, ast.FunctionDef | ast.AsyncFunctionDef) and part.name.startswith("test_"):
                yield part.name, True
        for name, value in self.assigned():
            if name.startswith("test_"):
                yield name, not (isinstance(value, ast.Constant) and value.value is None)

    def mark(self, name: str) -> bool | None:
        found = [value for given, value in self.assigned() if given == name]
        return bool(ast.literal_eval(found[-1])) if found else None

    def assigned(self) -> Iterator[tuple[str, ast.expr]]:
        for part in self.node.body:
            if isinstance(part, ast.Assign):
                yield from ((ast.unparse(target), part.value) for target in part.targets)

    def bases(self) -> list[str]:
        return [ast.unparse(base).rpartition(".")[2] for base in self.node.bases]


@cache
def test_classes(root: Path = ROOT) -> tuple[TestClass, ...]:
    """Every class that has tests, its inherited ones too, in the order of the files."""
    sources: dict[tuple[str, str], _Source] = {}
    by_name: dict[str, list[_Source]] = {}
    for path in sorted((root / "tests").rglob("*.py")):
        module = ".".join(path.relative_to(root).with_suffix("").parts)
        for node in ast.parse(path.read_text(encoding="utf-8")).body:
            if isinstance(node, ast.ClassDef):
                source = _Source(module, node)
                sources[module, node.name] = source
                by_name.setdefault(node.name, []).append(source)

    def line_of(source: _Source) -> Iterator[_Source]:
        """A class and all that it inherits from among the tests' own."""
        yield source
        for name in source.bases():
            near = sources.get((source.module, name))
            for base in [near] if near else by_name.get(name, []):
                yield from line_of(base)

    def is_case(source: _Source) -> bool:
        return any(name.endswith("TestCase") for each in line_of(source) for name in each.bases())

    found = []
    for (module, name), source in sources.items():
        if not module.rpartition(".")[2].startswith("test_") or not is_case(source):
            continue
        line = list(line_of(source))
        nearest: dict[str, bool] = {}
        for test, is_one in (pair for each in line for pair in each.tests()):
            nearest.setdefault(test, is_one)
        tests = tuple(test for test, is_one in nearest.items() if is_one)
        marks = {
            mark: next((bool(m) for each in line if (m := each.mark(mark)) is not None), False)
            for mark in (COLD, STUDY)
        }
        if tests:
            found.append(TestClass(module, name, tests, marks[COLD], marks[STUDY]))
    return tuple(found)
