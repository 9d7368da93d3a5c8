"""Places: towns by name, from an index made at set-up."""

from hearthkeep.places.towns import INDEX, MOST_FOUND, Entry, Town, find_towns, folded, read_towns

__all__ = ["INDEX", "MOST_FOUND", "Entry", "Town", "find_towns", "folded", "read_towns"]
