"""Open formats in and out."""

from hearthkeep.exchange.load_sheet import SheetPreview, SheetRow, read_sheet, sheet_rows
from hearthkeep.exchange.panel_sheet import PanelPreview, PanelRow, panel_now, read_schedule, schedule_rows
from hearthkeep.exchange.tables import Cell, CellProblem, SheetError, read_text, read_workbook, write_csv, write_xlsx
from hearthkeep.exchange.unit_sheet import UnitSheet, UnitSheetError, read_units, write_units
from hearthkeep.exchange.weather_file import MAX_WEATHER_BYTES, WeatherFileError, read_weather
from hearthkeep.exchange.weather_out import write_weather

__all__ = [
    "MAX_WEATHER_BYTES",
    "Cell",
    "CellProblem",
    "PanelPreview",
    "PanelRow",
    "SheetError",
    "SheetPreview",
    "SheetRow",
    "UnitSheet",
    "UnitSheetError",
    "WeatherFileError",
    "panel_now",
    "read_schedule",
    "read_sheet",
    "read_text",
    "read_units",
    "read_weather",
    "read_workbook",
    "schedule_rows",
    "sheet_rows",
    "write_csv",
    "write_units",
    "write_weather",
    "write_xlsx",
]
