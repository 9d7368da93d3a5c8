"""Switching: over to the backup supply and back, everything off for service, and what to do in danger."""

from hearthkeep.core.switching.card import switching_of
from hearthkeep.core.switching.ways import Step, Switching, Way, WayKind

__all__ = ["Step", "Switching", "Way", "WayKind", "switching_of"]
