"""Stand-ins: simulated devices and services that speak the real open protocols, driven by the outage's own model."""
