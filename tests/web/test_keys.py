"""Keys are declared once: each event stands for at most one key of all pages, and the help names them all."""

import unittest

from tests.support.web import called


def action(key, *, typing=False, **held):
    event = {"key": key, "ctrlKey": False, "metaKey": False, "shiftKey": False, "altKey": False, **held}
    found = called("shell/keys", "everywhereKey", event, typing)
    return found and found["action"]


class Keys(unittest.TestCase):
    def test_each_does_its_own(self):
        for key, held, does in (
            ("n", {}, "new"),
            ("N", {"shiftKey": True}, "new"),
            ("/", {}, "search"),
            ("[", {}, "previous"),
            ("]", {}, "next"),
            ("?", {"shiftKey": True}, "help"),
            ("z", {"ctrlKey": True}, "undo"),
            ("z", {"metaKey": True}, "undo"),
            ("Z", {"ctrlKey": True, "shiftKey": True}, "redo"),
            ("z", {}, None),
            ("n", {"ctrlKey": True}, None),
            ("[", {"altKey": True, "ctrlKey": True}, None),
            ("x", {}, None),
        ):
            with self.subTest(key=key, held=held):
                self.assertEqual(action(key, **held), does)

    def test_while_typing_only_undo_and_redo(self):
        self.assertIsNone(action("n", typing=True))
        self.assertIsNone(action("/", typing=True))
        self.assertEqual(action("z", typing=True, ctrlKey=True), "undo")
        self.assertEqual(action("Z", typing=True, ctrlKey=True, shiftKey=True), "redo")
