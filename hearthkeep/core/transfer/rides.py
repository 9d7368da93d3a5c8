"""The gap at the change-over: how long it is, which loads do not ride through it, and which of them start anew together.

Source of the voltage-tolerance figure: ITI (CBEMA) curve, Information Technology Industry Council, 2000. All else common
practice, no source: each is shown as typical, and may be set on the load.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from hearthkeep.core.design import ArrangementKind, Design, Load
from hearthkeep.core.transfer.supply import BY_ITSELF

#: Usual gap of each arrangement [s]: the relay of an inverter/charger 8 to 30 ms; manual 60 to 600 s; an automatic switch before
#: an inverter that stands ready, with its relays, about as an inverter/charger; none where the inverter carries the loads always.
USUAL_GAP_S: dict[ArrangementKind, float] = {
    ArrangementKind.CORDS: 300.0,
    ArrangementKind.INLET: 300.0,
    ArrangementKind.MANUAL_SWITCH: 180.0,
    ArrangementKind.CRITICAL_PANEL: 0.02,
    ArrangementKind.MOVED_CIRCUITS: 0.0,
    ArrangementKind.AUTOMATIC: 0.1,
    ArrangementKind.AC_COUPLED: 0.02,
    ArrangementKind.PORTABLE_METRIC: 300.0,
    ArrangementKind.OWN_PANEL: 0.0,
}
#: Words of a lamp's name.
LAMPS = ("lamp", "light", "bulb", "led")
#: Words of a load's name, and the gap it usually rides through [s].
USUAL_RIDES: tuple[tuple[tuple[str, ...], float], ...] = (
    (("cpap", "ventilator", "concentrator", "oxygen", "breathing"), 0.0),
    (("router", "modem", "fibre", "fiber", "wi-fi", "wifi", "switchboard", "access point"), 0.01),
    (("computer", "desktop", "server", "monitor", "workstation"), 0.02),
    (("boiler", "furnace", "burner", "thermostat", "heating control"), 0.02),
    (("laptop", "phone", "tablet", "charger"), 3_600.0),
    (LAMPS, 0.0),
    (("heater", "kettle", "toaster", "iron", "blanket"), 3_600.0),
)
#: A motor without supply for less than this coasts on and goes on turning; what surely starts anew has stood longer [s]. Common practice,
#: no source.
SURELY_STOPS_S = 0.1
ITI_BASIS = "ITI (CBEMA) curve, 2000: a computer supply rides through 20 ms without voltage; other gaps common practice, no source"


@dataclass(frozen=True, kw_only=True, slots=True)
class Ride:
    """One carried load at the change-over."""

    id: str
    name: str
    #: Longest gap it does not notice [s].
    rides_s: float
    #: That is usual for its kind; otherwise it was set on the load.
    is_typical: bool
    rides_through: bool
    #: It starts anew, with a start above its running watts.
    starts_anew: bool


def gap_s(design: Design) -> float | None:
    """Gap at the change-over [s]; none without an arrangement."""
    kind = design.transfer.arrangement
    if kind is None:
        return None
    given = design.transfer.device.transfer_s
    return USUAL_GAP_S[kind] if given is None else given


def usual_rides_s(load: Load) -> float:
    """What is usual for a load of that name; motors and whatever is not known do not ride through any gap [s]."""
    return _usual_of(load.name)


def only_blinks(name: str, gap: float) -> bool:
    """Whether a load of that name is a lamp, which is lit again by itself after a gap so short [s]."""
    return gap < SURELY_STOPS_S and any(word in name.casefold() for word in LAMPS)


@lru_cache(maxsize=8192)
def _usual_of(name: str) -> float:
    """By words of a name, kept between calls."""
    lower = name.casefold()
    return next((seconds for words, seconds in USUAL_RIDES if any(word in lower for word in words)), 0.0)


def rides_of(design: Design, carried: tuple[Load, ...]) -> tuple[Ride, ...]:
    """Each carried AC load at the change-over; none without an arrangement."""
    gap = gap_s(design)
    if gap is None:
        return ()
    found = []
    for load in carried:
        rides_s = usual_rides_s(load) if load.rides_s is None else load.rides_s
        through = gap <= rides_s
        found.append(
            Ride(
                id=load.id,
                name=load.name,
                rides_s=rides_s,
                is_typical=load.rides_s is None,
                rides_through=through,
                starts_anew=not through
                and (load.start_w or 0.0) > load.running_w
                and (gap >= SURELY_STOPS_S or load.rides_s is not None),
            )
        )
    return tuple(found)


def start_together(design: Design) -> frozenset[str]:
    """Ids of the loads that start at once after a change-over that happens by itself.

    By hand the circuits are switched on one after the other, so that their starts do not fall together.
    """
    if design.transfer.arrangement not in BY_ITSELF:
        return frozenset()
    house = tuple(load for load in design.loads if load.supply.is_ac)
    return frozenset(ride.id for ride in rides_of(design, house) if ride.starts_anew)
