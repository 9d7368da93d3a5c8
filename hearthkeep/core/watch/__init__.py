"""Watch: the outage itself, from the warning to the day after."""

from hearthkeep.core.watch.devices import DEVICE_WORDS, DeviceFault, DeviceTrack, FaultKind, InstrumentKind
from hearthkeep.core.watch.faults import named
from hearthkeep.core.watch.view import USE_DAYS, WATCHED, WatchView, watch_view, watched_since
from hearthkeep.core.watch.warnings import WeatherAlert, standing

__all__ = [
    "DEVICE_WORDS",
    "USE_DAYS",
    "WATCHED",
    "DeviceFault",
    "DeviceTrack",
    "FaultKind",
    "InstrumentKind",
    "WatchView",
    "WeatherAlert",
    "named",
    "standing",
    "watch_view",
    "watched_since",
]
