"""Open formats in and out."""

from hearthkeep.exchange.bundle import (
    MAX_BUNDLE_BYTES,
    Alternative,
    Bundle,
    BundleError,
    library_ids,
    read_bundle,
    write_bundle,
)
from hearthkeep.exchange.calendar import write_calendar
from hearthkeep.exchange.cap import MOST_CAP_BYTES, MOST_FEED_BYTES, CapError, read_alert, read_alert_links
from hearthkeep.exchange.drawing import one_line_svg, texts_in, windows
from hearthkeep.exchange.hours_out import outage_rows, year_rows
from hearthkeep.exchange.load_sheet import SheetPreview, SheetRow, read_sheet, sheet_rows
from hearthkeep.exchange.log_file import MAX_LOG_BYTES, ColumnUse, LogPreview, LogTaken, preview_log, take_log
from hearthkeep.exchange.outage_sheet import OutagePreview, read_outages
from hearthkeep.exchange.panel_sheet import PanelPreview, PanelRow, panel_now, read_schedule, schedule_rows
from hearthkeep.exchange.tables import (
    Cell,
    CellProblem,
    SheetError,
    guarded,
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
from hearthkeep.exchange.workbook import write_live_workbook

__all__ = [
    "MAX_BUNDLE_BYTES",
    "MAX_LOG_BYTES",
    "MAX_WEATHER_BYTES",
    "MOST_CAP_BYTES",
    "MOST_FEED_BYTES",
    "Alternative",
    "Bundle",
    "BundleError",
    "CapError",
    "Cell",
    "CellProblem",
    "ColumnUse",
    "LogPreview",
    "LogTaken",
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
    "guarded",
    "library_ids",
    "one_line_svg",
    "outage_rows",
    "panel_now",
    "preview_log",
    "read_alert",
    "read_alert_links",
    "read_bundle",
    "read_outages",
    "read_schedule",
    "read_sheet",
    "read_text",
    "read_units",
    "read_weather",
    "read_workbook",
    "schedule_rows",
    "sheet_rows",
    "take_log",
    "texts_in",
    "windows",
    "wiring_tables",
    "write_bundle",
    "write_calendar",
    "write_csv",
    "write_live_workbook",
    "write_units",
    "write_weather",
    "write_workbook",
    "write_xlsx",
    "year_rows",
]
