"""The Design document: what the designer decides, frozen, with units in names and limits on every field."""

from hearthkeep.core.design.bank import Bank, Chemistry, Place
from hearthkeep.core.design.charging import Array, Charging, Controller, ControllerKind, GridCharger
from hearthkeep.core.design.document import MAX_LOADS, SCHEMA_VERSION, Design, Kind, Practice, Rules, Wiring
from hearthkeep.core.design.inverter import Inverter
from hearthkeep.core.design.known import (
    DcReading,
    EnergyLabel,
    Known,
    MeterRun,
    NameplateReading,
    Quality,
    SpeedSetting,
    SpeedTable,
    SpotReading,
    StartCode,
    StartKnown,
    StartMultiple,
    StartTyped,
    Typed,
    Typical,
)
from hearthkeep.core.design.loads import DarkDay, Load, Supply, Tier, hours_in, merge_spans
from hearthkeep.core.design.reading import MAX_DOCUMENT_BYTES, read_design
from hearthkeep.core.design.site import Outage, OutageDay, Service, Site, Sky

__all__ = [
    "MAX_DOCUMENT_BYTES",
    "MAX_LOADS",
    "SCHEMA_VERSION",
    "Array",
    "Bank",
    "Charging",
    "Chemistry",
    "Controller",
    "ControllerKind",
    "DarkDay",
    "DcReading",
    "Design",
    "EnergyLabel",
    "GridCharger",
    "Inverter",
    "Kind",
    "Known",
    "Load",
    "MeterRun",
    "NameplateReading",
    "Outage",
    "OutageDay",
    "Place",
    "Practice",
    "Quality",
    "Rules",
    "Service",
    "Site",
    "Sky",
    "SpeedSetting",
    "SpeedTable",
    "SpotReading",
    "StartCode",
    "StartKnown",
    "StartMultiple",
    "StartTyped",
    "Supply",
    "Tier",
    "Typed",
    "Typical",
    "Wiring",
    "hours_in",
    "merge_spans",
    "read_design",
]
