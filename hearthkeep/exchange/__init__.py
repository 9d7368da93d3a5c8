"""Open formats in and out."""

from hearthkeep.exchange.drawing import one_line_svg
from hearthkeep.exchange.load_sheet import SheetPreview, SheetRow, read_sheet, sheet_rows
from hearthkeep.exchange.outage_sheet import OutagePreview, read_outages
from hearthkeep.exchange.panel_sheet import PanelPreview, PanelRow, panel_now, read_schedule, schedule_rows
from hearthkeep.exchange.tables import (
    Cell,
    CellProblem,
    SheetError,
    read_text,
    read_workbook,
    write_csv,
    write_workbook,
    write_xlsx,
)
from hearthkeep.exchange.unit_sheet import UnitSheet, UnitSheetError, read_units, write_units
from hearthkeep.exchange.weather_file import MAX_WEATHER_BYTES, WeatherFileError, read_weather
from hearthkeep.exchange.weather_out import write_weather
from hearthkeep.exchange.wiring_sheet import WiringTable, wiring_tables

__all__ = [
    "MAX_WEATHER_BYTES",
    "Cell",
    "CellProblem",
    "OutagePreview",
    "PanelPreview",
    "PanelRow",
    "SheetError",
    "SheetPreview",
    "SheetRow",
    "UnitSheet",
    "UnitSheetError",
    "WeatherFileError",
    "WiringTable",
    "one_line_svg",
    "panel_now",
    "read_outages",
    "read_schedule",
    "read_sheet",
    "read_text",
    "read_units",
    "read_weather",
    "read_workbook",
    "schedule_rows",
    "sheet_rows",
    "wiring_tables",
    "write_csv",
    "write_units",
    "write_weather",
    "write_workbook",
    "write_xlsx",
]
