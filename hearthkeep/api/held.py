"""Documents that were just assessed, held for a moment: a save names one instead of sending it a second time."""

from __future__ import annotations

import hashlib
from collections import OrderedDict

from hearthkeep.store import Checked

#: All of them together, and how many [characters].
MOST_CHARACTERS, MOST_DOCUMENTS = 32_000_000, 1_000


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
