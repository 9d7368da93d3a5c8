"""What the pages begin a new part with, and what an empty field means, for this design. Starting points, none of them advice."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from hearthkeep.core.bank import BankRating
from hearthkeep.core.design import (
    Addition,
    Array,
    Controller,
    ControllerKind,
    Design,
    Fuel,
    Generator,
    Heater,
    ModuleSheet,
    Tap,
    UtilityIndices,
)
from hearthkeep.core.sources import TYPICAL_CONTROLLER_FRAC, array_vmp_v, latitude_plane

#: A part of the design as plain values, for the page to put in.
Part = dict[str, Any]
#: A panel as many are sold. Our assumption.
USUAL_PANEL = ModuleSheet(name="Panel", stc_w=400.0, voc_v=49.5, vmp_v=41.5, isc_a=10.4, imp_a=9.7)
#: A modest generator, whose charger gives no more than this [W]. Our assumption.
GENERATOR_W, MOST_CHARGER_W = 2000.0, 1500.0
#: Of a place with a storm now and then, to be replaced by the utility's own. Our assumption.
USUAL_UTILITY = UtilityIndices(saifi_per_year=1.2, saidi_min_per_year=150.0)
#: Volts of an array whose voltage is not known, over the bank's: what makes the panels of a string. Our assumption.
STRING_RATIO = 2.0


@dataclass(frozen=True, kw_only=True, slots=True)
class PanelsGuess:
    """Usual panels that make up an array's watts and come near its volts, for the data sheet to correct."""

    module: Part
    series: int
    strings: int


@dataclass(frozen=True, kw_only=True, slots=True)
class Usual:
    """Starting points of new parts, and what empty fields stand for."""

    controller: Part
    array: Part
    generator: Part
    heater: Part
    addition: Part
    tap: Part
    #: What a utility publishes of a year.
    utility: Part
    #: By array id.
    panels: dict[str, PanelsGuess]
    #: By kind of controller: its efficiency where the design names none.
    controller_frac: dict[ControllerKind, float]
    #: By array id: its voltage at maximum power, where the design names none the usual one [V].
    array_vmp_v: dict[str, float]


def usual_of(design: Design, rating: BankRating) -> Usual:
    """The starting points for this design's bank and site."""
    arrays = [array for controller in design.charging.controllers for array in controller.arrays]
    bank = design.bank
    _, faces_deg = latitude_plane(design.site.latitude_deg)
    charger_w = max(1.0, min(MOST_CHARGER_W, round(rating.charge_limit_a * rating.nominal_v)))
    addition = Addition(chemistry=bank.chemistry, unit_v=bank.unit_v, unit_ah=bank.unit_ah, parallel=1, years_newer=2.0)
    return Usual(
        controller=_plain(Controller(id="controller", name="Controller", kind=ControllerKind.MPPT, output_a=30.0)),
        array=_plain(Array(id="array", name="Array", stc_w=400.0, tilt_deg=40.0, azimuth_deg=faces_deg)),
        generator=_plain(
            Generator(
                rated_w=GENERATOR_W,
                fuel=Fuel.GASOLINE,
                stock_l=20.0,
                tank_l=8.0,
                quiet_hours=((0, 7), (22, 24)),
                charger_w=charger_w,
            )
        ),
        heater=_plain(Heater(power_w=40.0)),
        addition=_plain(addition),
        tap=_plain(Tap(units=1, current_a=2.0, hours_per_day=8.0)),
        utility=_plain(USUAL_UTILITY),
        panels={array.id: _panels_for(array, rating.nominal_v) for array in arrays},
        controller_frac=TYPICAL_CONTROLLER_FRAC,
        array_vmp_v={array.id: array_vmp_v(array, rating.nominal_v) for array in arrays},
    )


@lru_cache(maxsize=256)
def _plain(part: Array | Controller | Generator | Heater | Addition | Tap) -> Part:
    return part.model_dump(mode="json")


@lru_cache(maxsize=256)
def _panels_for(array: Array, nominal_v: float) -> PanelsGuess:
    """So many panels as make up the watts, strung as comes nearest to the volts."""
    count = max(1, round(array.stc_w / USUAL_PANEL.stc_w))
    wanted_v = STRING_RATIO * nominal_v if array.vmp_v is None else array.vmp_v
    wanted = min(count, max(1, round(wanted_v / USUAL_PANEL.vmp_v)))
    divisors = [number for number in range(1, count + 1) if count % number == 0]
    series = min(divisors, key=lambda number: abs(number - wanted))
    panel_w = round(min(max(array.stc_w / count, 1.0), 2000.0), 1)
    module = USUAL_PANEL.model_copy(update={"stc_w": panel_w}).model_dump(mode="json")
    return PanelsGuess(module=module, series=series, strings=count // series)
