"""What goes wrong is kept in a file that stays small, and shown on the terminal in one line."""

import contextlib
import io
import logging
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from hearthkeep.server import logs


class Logs(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.home = Path(folder.name)
        root = logging.getLogger()
        self.addCleanup(setattr, root, "handlers", root.handlers)
        self.addCleanup(root.setLevel, root.level)
        self.addCleanup(setattr, logging.getLogger("uvicorn.access"), "disabled", False)

    def kept(self, act):
        """What the terminal shows of an act."""
        shown = io.StringIO()
        with contextlib.redirect_stderr(shown):
            logs.keep_log(self.home)
            act()
        for handler in logging.getLogger().handlers:
            handler.close()
        return shown.getvalue()

    def test_a_fault_is_one_line_on_the_terminal_and_whole_in_the_file(self):
        def act():
            try:
                raise ZeroDivisionError("by nothing")
            except ZeroDivisionError:
                logging.getLogger("hearthkeep.x").exception("PUT /api/designs")
            logging.getLogger("hearthkeep.x").info("of no interest")

        shown = self.kept(act)
        file = self.home / "logs" / "hearth.log"
        self.assertEqual(shown, f"hearth: PUT /api/designs (more in {file})\n")
        text = file.read_text()
        self.assertIn("ZeroDivisionError: by nothing", text)
        self.assertIn("of no interest", text)

    def test_files_stay_few_and_small(self):
        with mock.patch.object(logs, "MAX_BYTES", 2_000):
            self.kept(lambda: [logging.getLogger("hearthkeep.x").info("x" * 100) for _ in range(500)])
        files = list((self.home / "logs").iterdir())
        self.assertEqual(len(files), 1 + logs.KEPT)
        self.assertLess(max(path.stat().st_size for path in files), 2_500)
