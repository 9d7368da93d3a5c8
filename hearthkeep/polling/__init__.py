"""Polling: devices and services are asked again and again, what they say is kept, and their faults are named."""

from hearthkeep.polling.gathered import DeviceShown, Gathered, ServiceShown
from hearthkeep.polling.poller import Poller

__all__ = ["DeviceShown", "Gathered", "Poller", "ServiceShown"]
