"""Have against need: the kit one owns, part by part, against what each method and the model ask for."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from hearthkeep.core.opinions.blame import Trying
from hearthkeep.core.opinions.bought import Bought
from hearthkeep.core.opinions.methods import METHODS, Method
from hearthkeep.core.opinions.referee import least_array_w
from hearthkeep.core.opinions.sheet import Answer

#: So many times what is asked for, and more than the next size sold, is over. Our assumption.
OVER_RATIO = 1.5
_SAME = 1e-6


class Fit(StrEnum):
    """How what one has stands against what is asked for."""

    SHORT = "short"
    RIGHT = "right"
    OVER = "over"
    #: Nothing that could be had of this part alone does.
    NEVER = "never"


@dataclass(frozen=True, kw_only=True, slots=True)
class AskedOfPart:
    """What one method, or the model, asks of one part."""

    #: A method's key, or model.
    by: str
    title: str
    #: None where nothing of this part alone carries the outage.
    asked: float | None
    fit: Fit


@dataclass(frozen=True, kw_only=True, slots=True)
class HavePart:
    """One part of the kit."""

    #: bank, array, controller or inverter.
    key: str
    label: str
    unit: str
    have: float
    needs: tuple[AskedOfPart, ...]


@dataclass(frozen=True, kw_only=True, slots=True)
class Have:
    """The kit one has, part by part."""

    parts: tuple[HavePart, ...]
    #: How the model comes to its column.
    basis: str


BASIS = (
    "By the model: the fewest strings, the least array and the least inverter with which the design, all else as it is, carries "
    "Life and Keep to the end of the planned outage; the controller, for the array that is there."
)


def have_against(have: Bought, answers: Mapping[Method, tuple[Answer, Bought]], trying: Trying) -> Have:
    """Each part of what one has against each method's answer and against the model's."""
    referee, bank = trying.referee, trying.design.bank
    string_wh = bank.nominal_v * bank.unit_ah
    prepared = trying.prepared(trying.design)
    array_w = least_array_w(prepared, have.array_w)

    def part(key: str, label: str, unit: str, has: float, field: str, model: float | None) -> HavePart:
        needs = [
            AskedOfPart(
                by=method.value,
                title=METHODS[method].title,
                asked=(asked := float(getattr(answer, field))),
                fit=_fit(has, asked, float(getattr(bought, field))),
            )
            for method, (answer, bought) in answers.items()
        ]
        fit = Fit.NEVER if model is None else _fit(has, model, model)
        return HavePart(
            key=key,
            label=label,
            unit=unit,
            have=has,
            needs=(*needs, AskedOfPart(by="model", title="By the model", asked=model, fit=fit)),
        )

    strings = referee.strings
    return Have(
        parts=(
            part("bank", "Bank", "Wh", have.bank_wh, "bank_wh", None if strings is None else strings * string_wh),
            part("array", "Array", "W", have.array_w, "array_w", array_w),
            part(
                "controller",
                "Controller",
                "A",
                have.controller_a,
                "controller_a",
                have.array_w / prepared.rating.charging_v,
            ),
            part("inverter", "Inverter", "W", have.inverter_w, "inverter_w", referee.right.inverter_w),
        ),
        basis=BASIS,
    )


def _fit(has: float, asked: float, sold: float) -> Fit:
    if has < asked * (1 - _SAME):
        return Fit.SHORT
    return Fit.OVER if has > OVER_RATIO * asked and has > sold * (1 + _SAME) else Fit.RIGHT
