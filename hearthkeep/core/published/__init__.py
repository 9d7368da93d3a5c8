"""Published tables, carried as data files beside their source, edition and confidence."""

from hearthkeep.core.published.tables import TemperatureRow, ieee_485_rows

__all__ = ["TemperatureRow", "ieee_485_rows"]
