"""The arrangements in words: what each carries, costs and asks for. Common practice, no source, where nothing is named."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.design import ArrangementKind, Bypass, Design

_ELECTRICIAN = "A licensed electrician, with a permit"


@dataclass(frozen=True, kw_only=True, slots=True)
class Arrangement:
    """One way to join house and backup supply."""

    kind: ArrangementKind
    title: str
    carries: str
    cost: str
    installer: str
    #: What one failure does.
    failure: str


ARRANGEMENTS: tuple[Arrangement, ...] = (
    Arrangement(
        kind=ArrangementKind.CORDS,
        title="Cords from a portable unit",
        carries="What has a plug and stands within reach of a heavy cord; nothing that is wired in.",
        cost="Cords only.",
        installer="Anybody; no house circuit is touched",
        failure="The unit out: everything on it is dark; plugs go back to the wall when the grid is there.",
    ),
    Arrangement(
        kind=ArrangementKind.INLET,
        title="Inlet with interlock on the main panel",
        carries="Any circuit of the panel, picked breaker by breaker, up to the inlet's rating.",
        cost="Inlet, interlock kit and breaker; about half a day of work.",
        installer=_ELECTRICIAN,
        failure="The unit out: back to the grid by the main breaker. A forgotten breaker overloads the unit.",
    ),
    Arrangement(
        kind=ArrangementKind.MANUAL_SWITCH,
        title="Manual switch for six to ten circuits",
        carries="The circuits wired to it, each within its position's rating; 240 V takes a pair of positions.",
        cost="Switch and inlet; about a day of work.",
        installer=_ELECTRICIAN,
        failure="The supply out: each circuit goes back to the grid by its own switch.",
    ),
    Arrangement(
        kind=ArrangementKind.CRITICAL_PANEL,
        title="Critical panel behind an inverter/charger",
        carries="Every circuit moved to it, within the relay's rating with the grid up and the inverter's without.",
        cost="Panel, bypass and feeder; one to two days of work.",
        installer=_ELECTRICIAN + " and, where it can export, the utility's approval",
        failure="The inverter out: dark even with the grid up, unless there is a bypass.",
    ),
    Arrangement(
        kind=ArrangementKind.MOVED_CIRCUITS,
        title="Circuits moved for good to an all-in-one",
        carries="The moved circuits, always through the inverter; the grid only charges, so nothing can back-feed.",
        cost="Panel and wiring; about a day of work; a little idle loss the whole year.",
        installer=_ELECTRICIAN,
        failure="The unit out: the moved circuits are dark until it is replaced, grid or no grid.",
    ),
    Arrangement(
        kind=ArrangementKind.AUTOMATIC,
        title="Automatic switch for the whole house",
        carries="Everything at once: the supply must carry all of it, or loads are shed by a listed control.",
        cost="Switch at service rating, and a supply to match; two days of work and more.",
        installer=_ELECTRICIAN + ", often with the utility's disconnection",
        failure="The switch out: the house may be dark either way; a bypass around it is rare in homes.",
    ),
    Arrangement(
        kind=ArrangementKind.AC_COUPLED,
        title="Battery inverter beside an existing grid-tied array",
        carries="The critical panel, with the array's sun by day, while the battery inverter leads it.",
        cost="Battery inverter, panel, the array's feed moved; two to three days of work.",
        installer=_ELECTRICIAN + " and the utility's approval",
        failure="The battery inverter out: panel and array are dark in an outage; with the grid up, a bypass keeps both.",
    ),
    Arrangement(
        kind=ArrangementKind.PORTABLE_METRIC,
        title="Portable unit in 230 V practice",
        carries="Loads with plugs, behind 30 mA protection; an earth-neutral relay makes that protection work.",
        cost="Earth-neutral relay and residual-current protection, often built in.",
        installer="Anybody for cords; a qualified electrician for relay and protection",
        failure="The unit out: everything on it is dark. The relay stuck open: the protection does not trip.",
    ),
    Arrangement(
        kind=ArrangementKind.OWN_PANEL,
        title="The house's own panel, no grid",
        carries="Every circuit of the house, always through the inverter; a generator at its input or, interlocked, at the panel.",
        cost="Panel, disconnects and grounding electrode; no utility's fee and no utility's help.",
        installer=_ELECTRICIAN + " where local code asks for one",
        failure="The inverter out: the house is dark until the generator is switched to the panel or the inverter is replaced.",
    ),
)
BY_KIND = {arrangement.kind: arrangement for arrangement in ARRANGEMENTS}


def carried_by(design: Design) -> str:
    """What the chosen arrangement carries, of what the design has; empty without an arrangement."""
    kind, grounding = design.transfer.arrangement, design.transfer.grounding
    if kind is ArrangementKind.OWN_PANEL:
        return "Every circuit of the house, always through the inverter."
    if kind is ArrangementKind.AC_COUPLED and design.charging.grid_tied is None:
        return "The critical panel."
    if kind is ArrangementKind.PORTABLE_METRIC:
        behind = ", behind 30 mA protection" if grounding.residual_current else ""
        return f"Loads with plugs{behind}."
    return "" if kind is None else BY_KIND[kind].carries


def failure_of(design: Design) -> str:
    """What one failure does to the chosen arrangement, with what the design has; empty without an arrangement."""
    kind, has_bypass = design.transfer.arrangement, design.transfer.device.bypass is not Bypass.NONE
    if kind is ArrangementKind.CRITICAL_PANEL:
        return (
            "The inverter out: dark in an outage; with the grid up the bypass carries the circuits."
            if has_bypass
            else "The inverter out: dark even with the grid up."
        )
    if kind is ArrangementKind.MOVED_CIRCUITS and has_bypass:
        return "The unit out: dark in an outage; with the grid up the bypass carries the moved circuits."
    if kind is ArrangementKind.AUTOMATIC:
        return "The switch out: the house may be dark either way."
    if kind is ArrangementKind.AC_COUPLED:
        alone = design.charging.grid_tied is None
        what, them = ("the panel is", "it") if alone else ("panel and array are", "both")
        up = f"with the grid up, the bypass keeps {them}" if has_bypass else "with the grid up as well"
        return f"The battery inverter out: {what} dark in an outage; {up}."
    if kind is ArrangementKind.OWN_PANEL:
        until = "the generator is switched to the panel or " if design.charging.generator is not None else ""
        return f"The inverter out: the house is dark until {until}the inverter is replaced."
    if kind is ArrangementKind.PORTABLE_METRIC:
        trips = design.transfer.grounding.residual_current
        return "The unit out: everything on it is dark." + (
            " Its neutral not joined to earth: the protection does not trip." if trips else ""
        )
    if kind is ArrangementKind.CORDS and design.site.off_grid:
        return "The unit out: everything on it is dark."
    return "" if kind is None else BY_KIND[kind].failure


def gap_words(gap_s: float) -> str:
    """A gap as one says it.

    >>> gap_words(0.0), gap_words(0.02), gap_words(300.0)
    ('no gap', '20 ms', '5 min')
    """
    if gap_s == 0:
        return "no gap"
    if gap_s < 1:
        return f"{1000 * gap_s:g} ms"
    return f"{gap_s:g} s" if gap_s < 60 else f"{gap_s / 60:g} min"
