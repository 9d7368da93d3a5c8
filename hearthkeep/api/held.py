"""What was just answered, held for a moment: a save names a document instead of sending it a second time, and only the parts of an
assessment that have changed are sent."""

from __future__ import annotations

import hashlib
import secrets
from collections import OrderedDict

from hearthkeep.store import Checked

#: All of them together, and how many [characters].
MOST_CHARACTERS, MOST_DOCUMENTS = 32_000_000, 1_000
#: Answers whose parts are known by their digests.
MOST_ANSWERS = 1_000


class Held:
    """The last documents, by their digest. Used from the event loop only."""

    def __init__(self) -> None:
        self._documents: OrderedDict[str, Checked] = OrderedDict()
        self._characters = 0

    def put(self, document: Checked) -> str:
        """Hold a document; its key."""
        key = hashlib.sha256(document.text.encode()).hexdigest()[:32]
        if self._documents.pop(key, None) is None:
            self._characters += len(document.text)
        self._documents[key] = document
        while len(self._documents) > MOST_DOCUMENTS or self._characters > MOST_CHARACTERS:
            _, oldest = self._documents.popitem(last=False)
            self._characters -= len(oldest.text)
        return key

    def get(self, key: str) -> Checked | None:
        """The document under a key; none where it is held no more."""
        return self._documents.get(key)


class PartsSent:
    """Digests of the parts of the last answers, by the name each answer was given. Used from the event loop only."""

    def __init__(self) -> None:
        self._digests: OrderedDict[str, dict[str, bytes]] = OrderedDict()

    def news(self, parts: dict[str, bytes], since: str | None) -> tuple[bytes, str]:
        """One JSON object of the parts that differ from those of an earlier answer, all where it is not known; and its own name."""
        digests = {name: hashlib.blake2b(part, digest_size=16).digest() for name, part in parts.items()}
        before = self._digests.get(since, {}) if since else {}
        # Each answer has its own name, also of the same document: what it came to may have changed with its weather year.
        name = secrets.token_hex(16)
        self._digests[name] = digests
        while len(self._digests) > MOST_ANSWERS:
            self._digests.popitem(last=False)
        news = (b'"%s":%s' % (key.encode(), part) for key, part in parts.items() if before.get(key) != digests[key])
        return b"{%s}" % b",".join(news), name
