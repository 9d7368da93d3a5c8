"""What the backup supply puts on the legs of the backed-up side."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.design import (
    ArrangementKind,
    Design,
    Feed,
    GeneratorAt,
    GeneratorOutput,
    Leg,
    Output,
    Service,
)

#: Volts of one line to neutral, by the service.
LINE_V = {Service.V120: 120.0, Service.SPLIT_120_240: 120.0, Service.V230: 230.0}

CORDS = (ArrangementKind.CORDS, ArrangementKind.PORTABLE_METRIC)
#: Arrangements that reach the main panel as it is, with its own legs.
WHOLE_PANEL = (ArrangementKind.INLET, ArrangementKind.AUTOMATIC, ArrangementKind.OWN_PANEL)
#: Arrangements in which the battery inverter can lead a grid-tied array.
LEADS_ARRAY = (ArrangementKind.AC_COUPLED, ArrangementKind.OWN_PANEL)
#: Arrangements that change over by themselves.
BY_ITSELF = (
    ArrangementKind.CRITICAL_PANEL,
    ArrangementKind.MOVED_CIRCUITS,
    ArrangementKind.AUTOMATIC,
    ArrangementKind.AC_COUPLED,
)


@dataclass(frozen=True, kw_only=True, slots=True)
class Supply:
    """The backup supply as the legs meet it."""

    #: Legs of the service, and those of them that are live on the backup supply.
    legs: tuple[Leg, ...]
    live: tuple[Leg, ...]
    #: 240 V stand between the legs.
    across: bool
    #: Both legs hang on one 120 V supply.
    bridged: bool
    line_v: float

    @property
    def is_split(self) -> bool:
        """Whether the service has two legs at all."""
        return len(self.legs) > 1


def is_coupled(design: Design) -> bool:
    """Whether a grid-tied array lives on in an outage: on the backed-up panel of an AC-coupled arrangement, led by the inverter."""
    unit = design.charging.grid_tied
    return (
        design.transfer.arrangement in LEADS_ARRAY
        and unit is not None
        and unit.on_backup_panel
        and design.inverter.rated_w > 0
    )


def changes_over(design: Design) -> bool:
    """Whether anything is switched from a grid to the backup supply and back."""
    return design.transfer.arrangement not in (None, ArrangementKind.OWN_PANEL) and not design.site.off_grid


def gives_split(design: Design) -> bool:
    """Whether the inverter gives a true 120/240 V; one that is said to suit the service does."""
    output = design.inverter.output
    if output is None:
        return design.site.service is Service.SPLIT_120_240
    return output in (Output.SPLIT_120_240, Output.SPLIT_PAIR)


def generator_supply(design: Design) -> Supply | None:
    """
    The legs as a generator makes them live that stands at the panel and gives both of them; none where the house is carried by the
    inverter all the same.
    """
    generator, legs = design.charging.generator, design.site.legs
    if generator is None or generator.charges_only or generator.output is not GeneratorOutput.SPLIT_120_240:
        return None
    if len(legs) == 1 or design.transfer.device.generator_at is not GeneratorAt.PANEL:
        return None
    return Supply(legs=legs, live=legs, across=True, bridged=False, line_v=LINE_V[design.site.service])


def supply_of(design: Design) -> Supply:
    """The legs as the backup supply makes them live; a feed that the inverter cannot give is taken for what it gives."""
    legs, line_v = design.site.legs, LINE_V[design.site.service]
    if len(legs) == 1:
        return Supply(legs=legs, live=legs, across=False, bridged=False, line_v=line_v)
    feed = design.transfer.device.feed
    if feed is None:
        feed = Feed.BOTH if gives_split(design) else Feed.LEG_A
    elif feed is Feed.BOTH and not gives_split(design):
        feed = Feed.BRIDGED
    live = {Feed.LEG_A: (Leg.A,), Feed.LEG_B: (Leg.B,)}.get(feed, legs)
    return Supply(legs=legs, live=live, across=feed is Feed.BOTH, bridged=feed is Feed.BRIDGED, line_v=line_v)
