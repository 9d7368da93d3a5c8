"""A plug-in bench charger, for the hours in which a live socket is at hand."""

from __future__ import annotations

from hearthkeep.core.bank import BankRating, BankVolts
from hearthkeep.core.design import Charging, Design
from hearthkeep.core.design.charging import BenchCharger
from hearthkeep.core.figure import PHYSICS, Figure, Term
from hearthkeep.core.sources.kind import FieldUnit, Floats, PageField, Setting, SourceSteps, SteadySource, whole_watts

#: The page begins with a charger of this current at the bank's volts [A]. Our assumption.
START_A = 10


class BenchChargerKind(SteadySource):
    """A plug-in charger."""

    key, label, name = "bench_charger", "Bench charger", "bench charger"
    question = "A plug-in charger, where a live socket is at hand"
    fields = (
        PageField(field="output_w", label="Into the bank", unit=FieldUnit.WATTS),
        PageField(field="plugged_hours", label="Plugged in", unit=FieldUnit.HOURS),
        PageField(field="price", label="Price", unit=FieldUnit.MONEY),
    )

    def most_current_a(self, design: Design, volts: BankVolts) -> float:
        bench = design.charging.bench_charger
        return bench.output_w / volts.charging_v if bench else 0.0

    def set_down(self, charging: Charging, *, limit_a: float, charging_v: float) -> tuple[Setting, ...]:
        return (Setting(path="charging.bench_charger.output_w", value=whole_watts(limit_a, charging_v)),)

    def power_w(self, charging: Charging, steps: SourceSteps) -> Floats:
        bench = _there(charging)
        return steps.while_attended_w(bench.output_w, bench.plugged_hours)

    def start(self, rating: BankRating) -> dict[str, object]:
        return {"output_w": round(START_A * rating.nominal_v), "plugged_hours": [[9, 12]], "price": None}

    def figure(self, design: Design, rating: BankRating, *, given_wh: float, duration_h: float) -> Figure:
        bench = _there(design.charging)
        return Figure(
            label="Given by the bench charger",
            value=given_wh,
            unit="Wh",
            formula="output × hours plugged in, while somebody is at home",
            terms=(
                Term(name="output", value=bench.output_w, unit="W"),
                Term(name="hours plugged in in this outage", value=given_wh / bench.output_w, unit="h"),
            ),
            basis=PHYSICS,
        )


def _there(charging: Charging) -> BenchCharger:
    if charging.bench_charger is None:
        raise ValueError("the design has no bench charger")
    return charging.bench_charger


BENCH_CHARGER = BenchChargerKind()
