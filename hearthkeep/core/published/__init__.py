"""Published tables, carried as data files beside their source, edition and confidence."""

from hearthkeep.core.published.tables import CodeLetterRow, TemperatureRow, code_letter_rows, ieee_485_rows

__all__ = ["CodeLetterRow", "TemperatureRow", "code_letter_rows", "ieee_485_rows"]
