"""The one-line diagram, drawn from the design as geometry."""

from hearthkeep.core.wiring.oneline.geometry import Line, OneLine, Symbol, Text
from hearthkeep.core.wiring.oneline.layout import one_line

__all__ = ["Line", "OneLine", "Symbol", "Text", "one_line"]
