"""A vehicle's alternator: a small generator with a vehicle around it, through its charger while the vehicle is driven."""

from __future__ import annotations

import math

from hearthkeep.core.bank import BankRating, BankVolts
from hearthkeep.core.design import Charging, Design
from hearthkeep.core.design.charging import Alternator
from hearthkeep.core.figure import PHYSICS, Figure, Term
from hearthkeep.core.sources.kind import FieldUnit, Floats, PageField, Setting, SourceSteps, SteadySource

#: The page begins with this part of the bank's charge limit, at most so much [A]. Our assumption.
START_PART, MOST_START_A = 0.8, 30


class AlternatorKind(SteadySource):
    """A vehicle's alternator."""

    key, label, name = "alternator", "Alternator", "alternator"
    question = "A vehicle’s alternator charges it"
    fields = (
        PageField(field="current_a", label="Into the bank", unit=FieldUnit.AMPS),
        PageField(field="driven_hours", label="Driven", unit=FieldUnit.HOURS),
        PageField(field="price", label="Price", unit=FieldUnit.MONEY),
    )

    def most_current_a(self, design: Design, volts: BankVolts) -> float:
        alternator = design.charging.alternator
        return alternator.current_a if alternator else 0.0

    def set_down(self, charging: Charging, *, limit_a: float, charging_v: float) -> tuple[Setting, ...]:
        return (Setting(path="charging.alternator.current_a", value=math.floor(10 * limit_a) / 10),)

    def power_w(self, charging: Charging, steps: SourceSteps) -> Floats:
        alternator = _there(charging)
        return steps.while_driven_w(alternator.current_a * steps.charging_v, alternator.driven_hours)

    def start(self, rating: BankRating) -> dict[str, object]:
        current_a = min(MOST_START_A, max(1, round(START_PART * rating.charge_limit_a)))
        return {"current_a": current_a, "driven_hours": [[17, 18]], "price": None}

    def figure(self, design: Design, rating: BankRating, *, given_wh: float, duration_h: float) -> Figure:
        alternator = _there(design.charging)
        return Figure(
            label="Given by the alternator",
            value=given_wh,
            unit="Wh",
            formula="current × bank volts while it is charged × hours driven, while somebody is at home and the vehicle can be reached",
            terms=(
                Term(name="current", value=alternator.current_a, unit="A"),
                Term(name="bank volts while it is charged", value=rating.charging_v, unit="V"),
                Term(
                    name="hours driven in this outage",
                    value=given_wh / (alternator.current_a * rating.charging_v),
                    unit="h",
                ),
            ),
            basis=PHYSICS,
        )


def _there(charging: Charging) -> Alternator:
    if charging.alternator is None:
        raise ValueError("the design has no alternator")
    return charging.alternator


ALTERNATOR = AlternatorKind()
