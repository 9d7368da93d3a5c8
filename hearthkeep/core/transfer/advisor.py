"""The advisor: how well each arrangement suits a design, with the strongest reason for and against it."""

from __future__ import annotations

from dataclasses import dataclass

from hearthkeep.core.design import ArrangementKind, Build, Design, Kind, Practice, Tier
from hearthkeep.core.design import Supply as LoadSupply
from hearthkeep.core.transfer.arrangements import BY_KIND, gap_words
from hearthkeep.core.transfer.rides import USUAL_GAP_S, usual_rides_s
from hearthkeep.core.transfer.supply import BY_ITSELF, CORDS, gives_split
from hearthkeep.core.words import some_of

#: Weights of reasons: what rules an arrangement out, what speaks strongly, and what speaks a little.
RULED_OUT, STRONG, SLIGHT = 100, 10, 3
#: Circuits that a manual switch takes.
SWITCH_FROM, SWITCH_TO = 6, 10


@dataclass(frozen=True, kw_only=True, slots=True)
class Facts:
    """What the advisor looks at."""

    off_grid: bool
    metric: bool
    portable: bool
    wired: tuple[str, ...]
    at_240: tuple[str, ...]
    gives_240: bool
    #: Life loads on AC that do not ride through a change-over by hand.
    life: tuple[str, ...]
    nobody_home: bool
    circuits: int
    has_grid_tied: bool
    build: Build
    rated_w: float
    house_w: float


@dataclass(frozen=True, kw_only=True, slots=True)
class Reason:
    """One reason, with its weight: above 0 for, below 0 against."""

    weight: int
    text: str


@dataclass(frozen=True, kw_only=True, slots=True)
class Suit:
    """How well one arrangement suits."""

    kind: ArrangementKind
    score: int
    ruled_out: bool
    why: str
    why_not: str


def facts_of(design: Design) -> Facts:
    """What the advisor looks at, from the design."""
    house = [load for load in design.loads if load.supply.is_ac]
    backed_up = sum(circuit.backed_up for circuit in design.transfer.circuits)
    return Facts(
        off_grid=design.site.off_grid,
        metric=design.practice is Practice.METRIC_230,
        portable=design.kind is Kind.PORTABLE,
        wired=tuple(load.name for load in house if load.hard_wired),
        at_240=tuple(load.name for load in house if load.supply is LoadSupply.AC_240),
        gives_240=gives_split(design),
        life=tuple(
            load.name
            for load in house
            if load.tier is Tier.LIFE and (usual_rides_s(load) if load.rides_s is None else load.rides_s) < 60
        ),
        nobody_home=any(day.away for day in design.outage.days),
        circuits=backed_up or len(house),
        has_grid_tied=design.charging.grid_tied is not None,
        build=design.inverter.build,
        rated_w=design.inverter.rated_w * design.inverter.units,
        house_w=sum(load.quantity * load.running_w for load in house),
    )


def ranked_arrangements(design: Design) -> tuple[Suit, ...]:
    """All arrangements, the one that suits best first; each with one line for and one against it."""
    facts = facts_of(design)
    suits = []
    for kind in ArrangementKind:
        reasons = [*_common(kind, facts), *_OWN[kind](facts)]
        best = max((reason for reason in reasons if reason.weight > 0), key=lambda reason: reason.weight, default=None)
        worst = min((reason for reason in reasons if reason.weight < 0), key=lambda reason: reason.weight, default=None)
        suits.append(
            Suit(
                kind=kind,
                score=sum(reason.weight for reason in reasons),
                ruled_out=any(reason.weight <= -RULED_OUT for reason in reasons),
                why=best.text if best else BY_KIND[kind].carries,
                why_not=worst.text if worst else BY_KIND[kind].cost,
            )
        )
    return tuple(sorted(suits, key=lambda suit: (suit.ruled_out, -suit.score)))


def _common(kind: ArrangementKind, facts: Facts) -> list[Reason]:
    """Reasons that follow from the grid, from the gap and from who is there."""
    if kind is ArrangementKind.OWN_PANEL:
        return []
    if facts.off_grid and kind not in CORDS:
        return [Reason(weight=-RULED_OUT, text="There is no grid to switch from.")]
    found = []
    gap = gap_words(USUAL_GAP_S[kind])
    if kind in BY_ITSELF:
        if facts.nobody_home:
            found.append(Reason(weight=STRONG, text="It changes over while nobody is at home."))
        if facts.life:
            found.append(Reason(weight=STRONG, text=f"{some_of(facts.life)}: {gap} instead of minutes by hand."))
    else:
        if facts.nobody_home:
            found.append(Reason(weight=-2 * STRONG, text="On days away nobody is there to switch it over."))
        if facts.life:
            found.append(
                Reason(
                    weight=-SLIGHT,
                    text=f"{some_of(facts.life)} {'is' if len(facts.life) == 1 else 'are'} dark for about {gap}, until somebody acts.",
                )
            )
    return found


def _plugs(facts: Facts) -> list[Reason]:
    found = [Reason(weight=SLIGHT, text="No work on the house, and it can move out with its owner.")]
    if facts.wired:
        found.append(Reason(weight=-2 * STRONG, text=f"No cord reaches what is wired in: {some_of(facts.wired)}."))
    if facts.at_240 and not facts.metric:
        found.append(
            Reason(
                weight=-2 * STRONG,
                text=f"{some_of(facts.at_240)} {'needs' if len(facts.at_240) == 1 else 'need'} 240 V, which cords do not bring.",
            )
        )
    if facts.portable:
        found.append(Reason(weight=3 * STRONG, text="A unit that is carried to its loads needs nothing else."))
    if facts.circuits > SWITCH_TO:
        found.append(Reason(weight=-STRONG, text=f"{facts.circuits} loads on cords are a net of cables in every room."))
    return found


def _cords(facts: Facts) -> list[Reason]:
    found = _plugs(facts)
    if facts.metric:
        found.append(
            Reason(weight=-STRONG, text="In 230 V practice cords want residual-current protection and its bond.")
        )
    return found


def _portable_metric(facts: Facts) -> list[Reason]:
    if not facts.metric:
        return [Reason(weight=-RULED_OUT, text="It belongs to 230 V practice; this project is North American.")]
    return [
        *_plugs(facts),
        Reason(weight=STRONG, text="Relay and protection make a floating unit safe for several loads."),
    ]


def _house_bound(facts: Facts) -> list[Reason]:
    """Reasons against work on a house for a unit that has none."""
    if facts.portable:
        return [Reason(weight=-RULED_OUT, text="A portable unit has no house circuits to switch.")]
    return []


def _inlet(facts: Facts) -> list[Reason]:
    found = _house_bound(facts)
    found.append(Reason(weight=STRONG, text="Any circuit can be picked on the day, for little money."))
    found.append(Reason(weight=-SLIGHT, text="Breakers are picked by hand: a forgotten one overloads the supply."))
    if facts.metric:
        found.append(
            Reason(
                weight=-STRONG, text="Interlock kits are a North American habit; here a change-over switch is usual."
            )
        )
    if facts.at_240 and not facts.gives_240:
        found.append(Reason(weight=-STRONG, text=_dead_from_one_line(facts)))
    return found


def _manual_switch(facts: Facts) -> list[Reason]:
    found = _house_bound(facts)
    if facts.circuits <= SWITCH_TO:
        found.append(
            Reason(
                weight=STRONG + SLIGHT,
                text=f"{facts.circuits} circuits fit its {SWITCH_FROM} to {SWITCH_TO} positions.",
            )
        )
    else:
        found.append(Reason(weight=-STRONG, text=f"{facts.circuits} circuits are more than {SWITCH_TO} positions."))
    if facts.at_240 and not facts.gives_240:
        found.append(Reason(weight=-STRONG, text=_dead_from_one_line(facts)))
    return found


def _critical_panel(facts: Facts) -> list[Reason]:
    found = _house_bound(facts)
    if facts.build is Build.INVERTER_CHARGER:
        found.append(Reason(weight=STRONG + SLIGHT, text="The inverter/charger brings the relay for it already."))
    elif facts.build is Build.SEPARATE:
        found.append(Reason(weight=-2 * STRONG, text="An inverter alone has no relay: it needs an inverter/charger."))
    if facts.has_grid_tied:
        found.append(Reason(weight=-STRONG, text="The grid-tied array would stand idle in an outage."))
    return found


def _moved_circuits(facts: Facts) -> list[Reason]:
    found = _house_bound(facts)
    if facts.build is Build.ALL_IN_ONE:
        found.append(Reason(weight=STRONG + SLIGHT, text="The all-in-one carries them always: nothing can back-feed."))
    else:
        found.append(Reason(weight=-STRONG, text="It asks for an all-in-one that runs day and night."))
    found.append(Reason(weight=-SLIGHT, text="One unit out, and the moved circuits are dark though the grid is up."))
    return found


def _automatic(facts: Facts) -> list[Reason]:
    found = _house_bound(facts)
    if facts.house_w > facts.rated_w:
        found.append(
            Reason(
                weight=-2 * STRONG,
                text=f"What is transferred by itself must be carried: {facts.house_w:,.0f} W against {facts.rated_w:,.0f} W.",
            )
        )
    else:
        found.append(Reason(weight=SLIGHT, text="Nothing to choose and nothing to switch."))
    found.append(Reason(weight=-STRONG, text="It feeds large and idle things too, which shortens the hours."))
    return found


def _ac_coupled(facts: Facts) -> list[Reason]:
    found = _house_bound(facts)
    if not facts.has_grid_tied:
        found.append(Reason(weight=-RULED_OUT, text="There is no grid-tied array to couple."))
    else:
        found.append(Reason(weight=3 * STRONG, text="The array that is there already goes on giving in an outage."))
    if facts.build is Build.SEPARATE:
        found.append(Reason(weight=-2 * STRONG, text="The array needs an inverter that can take its power back."))
    return found


def _own_panel(facts: Facts) -> list[Reason]:
    if not facts.off_grid:
        return [Reason(weight=-RULED_OUT, text="The house has a service from the grid.")]
    if facts.portable:
        return [Reason(weight=-2 * STRONG, text="A portable unit has no panel of its own.")]
    return [
        Reason(weight=3 * STRONG, text="The inverter is the house's only supply: nothing is switched over."),
        Reason(weight=-SLIGHT, text="One inverter out, and the whole house is dark."),
    ]


_OWN = {
    ArrangementKind.CORDS: _cords,
    ArrangementKind.INLET: _inlet,
    ArrangementKind.MANUAL_SWITCH: _manual_switch,
    ArrangementKind.CRITICAL_PANEL: _critical_panel,
    ArrangementKind.MOVED_CIRCUITS: _moved_circuits,
    ArrangementKind.AUTOMATIC: _automatic,
    ArrangementKind.AC_COUPLED: _ac_coupled,
    ArrangementKind.PORTABLE_METRIC: _portable_metric,
    ArrangementKind.OWN_PANEL: _own_panel,
}


def _dead_from_one_line(facts: Facts) -> str:
    return f"From one 120 V supply {some_of(facts.at_240)} {'stays' if len(facts.at_240) == 1 else 'stay'} dead."
