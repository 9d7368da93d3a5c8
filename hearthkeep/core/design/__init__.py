"""The Design document: what the designer decides, frozen, with units in names and limits on every field."""

from hearthkeep.core.design.bank import Bank, Chemistry, Place
from hearthkeep.core.design.charging import Array, Charging, Controller, ControllerKind, GridCharger
from hearthkeep.core.design.document import MAX_LOADS, SCHEMA_VERSION, Design, Kind, Practice, Rules, Wiring
from hearthkeep.core.design.inverter import Inverter
from hearthkeep.core.design.loads import Load, Supply, Tier, merge_spans
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
    "Design",
    "GridCharger",
    "Inverter",
    "Kind",
    "Load",
    "Outage",
    "OutageDay",
    "Place",
    "Practice",
    "Rules",
    "Service",
    "Site",
    "Sky",
    "Supply",
    "Tier",
    "Wiring",
    "merge_spans",
    "read_design",
]
