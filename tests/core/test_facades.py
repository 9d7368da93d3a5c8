"""Each package of the core has one door: its `__init__` lists what others may use, holds no logic, and is gone through."""

import ast
import importlib
import unittest
from pathlib import Path

ROOT = Path(__file__).parents[2]
CORE = ROOT / "hearthkeep" / "core"
PACKAGES = (
    "alternatives",
    "bank",
    "building",
    "checks",
    "design",
    "drill",
    "foresight",
    "growth",
    "inverter",
    "kits",
    "logbook",
    "opinions",
    "loads",
    "outage",
    "published",
    "sizing",
    "sources",
    "switching",
    "transfer",
    "trials",
    "whatif",
    "watch",
    "wiring",
    "yearly",
)
#: Rooms behind the door that another package may enter by name, and why.
ENTERED = {
    # Compiled code and the columns it reads.
    "hearthkeep.core.bank.acceptance",
    "hearthkeep.core.inverter.draws",
    "hearthkeep.core.inverter.fit",
    "hearthkeep.core.loads.table",
    "hearthkeep.core.outage.kernel.values",
    # Each kind of source takes its part of the design from where it is declared, so that a new kind touches no facade.
    "hearthkeep.core.design.charging",
    # Types of fields and readers of problems, for those who take documents in.
    "hearthkeep.core.design.fields",
    "hearthkeep.core.design.reading",
    # The words that a load's line and its sheet share.
    "hearthkeep.core.loads.known_text",
}


def imports_of(path: Path) -> list[tuple[str, tuple[str, ...]]]:
    tree = ast.parse(path.read_text(encoding="utf-8"))
    return [
        (node.module, tuple(name.name for name in node.names))
        for node in ast.walk(tree)
        if isinstance(node, ast.ImportFrom) and node.module and node.module.startswith("hearthkeep.core.")
    ]


class Facades(unittest.TestCase):
    def test_each_lists_what_it_gives_out_in_order_and_holds_no_logic(self):
        for name in PACKAGES:
            with self.subTest(name):
                module = importlib.import_module(f"hearthkeep.core.{name}")
                listed = module.__all__
                self.assertEqual(len(listed), len(set(listed)))
                for entry in listed:
                    self.assertTrue(hasattr(module, entry), entry)
                tree = ast.parse((CORE / name / "__init__.py").read_text(encoding="utf-8"))
                kinds = {type(node) for node in tree.body}
                self.assertLessEqual(kinds, {ast.Expr, ast.ImportFrom, ast.Assign, ast.AnnAssign})

    def test_each_gives_out_what_somebody_takes_and_nothing_else(self):
        taken: dict[str, set[str]] = {name: set() for name in PACKAGES}
        for path in (*ROOT.glob("hearthkeep/**/*.py"), *ROOT.glob("tests/**/*.py"), *ROOT.glob("bench/*.py")):
            own = path.relative_to(ROOT).parts[1:3]
            for module, names in imports_of(path):
                room = module.split(".")[2:]
                if len(room) == 1 and room[0] in taken and own != ("core", room[0]):
                    taken[room[0]] |= set(names)
        for name in PACKAGES:
            with self.subTest(name):
                listed = set(importlib.import_module(f"hearthkeep.core.{name}").__all__)
                self.assertEqual(taken[name] - listed, set())
                # Types reach others inside other values, named or not.
                kinds = {entry for entry in listed if entry[0].isupper() and not entry.isupper()}
                self.assertEqual(listed - taken[name] - kinds, set())

    def test_packages_are_those_of_the_tree(self):
        found = {path.parent.name for path in CORE.glob("*/__init__.py")}
        self.assertEqual(found, set(PACKAGES))

    def test_others_come_in_by_the_door(self):
        around = list(CORE.parent.rglob("*.py"))
        used = set()
        for path in around:
            parts = path.relative_to(CORE.parent).parts
            own = parts[1] if parts[0] == "core" and len(parts) > 2 else None
            for module, _ in imports_of(path):
                room = module.split(".")[2:]
                if len(room) < 2 or room[0] == own:
                    continue
                used.add(module)
                with self.subTest(path=str(path.relative_to(CORE.parent)), module=module):
                    self.assertIn(module, ENTERED)
        self.assertEqual(ENTERED - used, set())
