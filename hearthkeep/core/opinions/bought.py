"""From what a method asks for to what is bought: whole strings of the design's own battery, whole panels, sizes usually sold."""

from __future__ import annotations

import math
from dataclasses import dataclass

from hearthkeep.core.design import (
    MOST_ARRAY_SIDE,
    MOST_STRINGS,
    Array,
    Controller,
    ControllerKind,
    Design,
    Fuel,
    Generator,
    Inverter,
)
from hearthkeep.core.opinions.audit import USUAL_EFFICIENCY_FRAC, USUAL_IDLE_FRAC, USUAL_SURGE_RATIO
from hearthkeep.core.opinions.sheet import Answer
from hearthkeep.core.sizing import LOW_FRAC, units_price
from hearthkeep.core.sold import SIZES_W, controllers_sold, next_array_w, next_size, sizes_up
from hearthkeep.core.sources import latitude_plane

#: A generator that charges is rated for its charger's input and a quarter more. Common practice, no source.
GENERATOR_MARGIN, CHARGER_FRAC = 1.25, 0.9
#: Fuel of a new generator, its tank included, and its tank [L]. Our assumptions.
NEW_STOCK_L, NEW_TANK_L = 20.0, 8.0
_SAME = 1e-9
#: The most that the format admits: rated, surge and idle draw of an inverter, and watts of an array or a charger [W]; output
#: of a controller [A].
_MOST_RATED_W, _MOST_SURGE_W, _MOST_IDLE_W, _MOST_ARRAY_W = 200_000.0, 600_000.0, 2_000.0, 1_000_000.0
_MOST_OUTPUT_A = 5_000.0


@dataclass(frozen=True, slots=True)
class ControllerLot:
    """Solar controllers that are bought alike for one place."""

    count: int
    #: Of each of them.
    output_a: float


@dataclass(frozen=True, kw_only=True, slots=True)
class Bought:
    """A kit as it would be bought."""

    #: Whole strings of the design's battery, and what they hold.
    strings: int
    bank_wh: float
    bank_ah: float
    array_w: float
    controller_a: float
    controllers: tuple[ControllerLot, ...]
    inverter_w: float
    surge_w: float
    generator_w: float
    #: Of all units, in the project's own currency, and the part of it that rests on usual prices.
    price: float
    assumed_price: float


def bought_of(design: Design) -> Bought:
    """The kit that a design has."""
    charging, inverter = design.charging, design.inverter.together
    feeding = [controller for controller in charging.controllers if controller.charges]
    price = units_price(design)
    return Bought(
        strings=design.bank.parallel,
        bank_wh=design.bank.rated_wh,
        bank_ah=design.bank.rated_ah,
        array_w=sum(array.stc_w for controller in feeding for array in controller.arrays),
        controller_a=sum(controller.output_a for controller in feeding),
        controllers=tuple(_lot_of(controller.output_a) for controller in feeding),
        inverter_w=inverter.rated_w,
        surge_w=inverter.surge_w,
        generator_w=charging.generator.rated_w if charging.generator else 0.0,
        price=price.total,
        assumed_price=price.assumed,
    )


def design_with(answer: Answer, design: Design) -> Design:
    """The design with the kit that an answer would buy: the next size really sold of each part; all else stays."""
    design = design.model_copy(update={"inverter": _inverter(answer, design)})
    design = with_strings(design, strings_for_wh(answer.bank_wh, design))
    controllers = _controllers(answer, design)
    charging = design.charging.model_copy(update={"controllers": controllers})
    if answer.generator_w is not None and answer.generator_w > 0:
        charging = charging.model_copy(update={"generator": _generator(answer.generator_w, charging.generator)})
    return design.model_copy(update={"charging": charging})


def strings_for_wh(bank_wh: float, design: Design) -> int:
    """Whole strings of the design's battery that hold so much, one at the least and as many as a bank may have at the most."""
    string_wh = design.bank.nominal_v * design.bank.unit_ah
    return min(max(1, math.ceil(bank_wh / string_wh - _SAME)), MOST_STRINGS)


def with_strings(design: Design, strings: int) -> Design:
    """The design with so many strings of its battery."""
    return design.model_copy(update={"bank": design.bank.model_copy(update={"parallel": strings})})


def _inverter(answer: Answer, design: Design) -> Inverter:
    now = design.inverter
    if answer.inverter_w <= 0:
        return now
    size_w = sizes_up(answer.inverter_w, SIZES_W, answer.sizes_up)
    if now.rated_w == 0:
        size_w = min(size_w, _MOST_RATED_W)
        return Inverter(
            rated_w=size_w,
            surge_w=size_w * USUAL_SURGE_RATIO,
            idle_w=size_w * USUAL_IDLE_FRAC,
            efficiency_frac=USUAL_EFFICIENCY_FRAC,
            low_cutoff_v=round(LOW_FRAC * design.bank.nominal_v, 1),
        )
    return resized(now, size_w)


def resized(now: Inverter, size_w: float) -> Inverter:
    """An inverter of the same make for so many watts, all units together; surge and idle draw grow with it."""
    factor = min(size_w / now.units, _MOST_RATED_W) / now.rated_w
    if abs(factor - 1) < _SAME:
        return now
    return now.model_copy(
        update={
            "rated_w": now.rated_w * factor,
            "surge_w": min(now.surge_w * factor, _MOST_SURGE_W),
            "idle_w": min(now.idle_w * factor, _MOST_IDLE_W),
            # The data sheet was that of another size; its price is taken along by the watt.
            "sheet": now.sheet
            and now.sheet.model_copy(
                update={
                    "library_id": None,
                    "name": f"{now.sheet.name}, resized"[:120],
                    "price": None if now.sheet.price is None else round(now.sheet.price * factor, 2),
                }
            ),
        }
    )


def _generator(charger_w: float, now: Generator | None) -> Generator:
    rated_w = next_size(charger_w / CHARGER_FRAC * GENERATOR_MARGIN, SIZES_W)
    charger_w = min(charger_w, _MOST_ARRAY_W)
    if now is None:
        return Generator(
            rated_w=min(rated_w, _MOST_RATED_W), fuel=Fuel.GASOLINE, stock_l=NEW_STOCK_L, tank_l=NEW_TANK_L,
            quiet_hours=((0, 7), (22, 24)), charger_w=charger_w, charger_efficiency_frac=CHARGER_FRAC, charges_only=True,
        )  # fmt: skip
    return now.model_copy(
        update={
            "rated_w": min(rated_w, _MOST_RATED_W),
            "surge_w": None,
            "charger_w": charger_w,
            "charges_only": True,
        }
    )


def _controllers(answer: Answer, design: Design) -> tuple[Controller, ...]:
    now = design.charging.controllers
    if answer.array_w <= 0:
        return now
    feeding = [controller for controller in now if controller.charges]
    total_w = sum(array.stc_w for controller in feeding for array in controller.arrays)
    if total_w <= 0:
        return (*now, _new_controller(answer, design))
    part = answer.array_w / total_w
    found = []
    for controller in now:
        if not controller.charges:
            found.append(controller)
            continue
        arrays = tuple(_array(array, array.stc_w * part) for array in controller.arrays)
        share = sum(array.stc_w for array in controller.arrays) / total_w
        output_a = _sold_a(answer.controller_a * share)
        found.append(controller.model_copy(update={"arrays": arrays, "output_a": output_a}))
    return tuple(found)


def _sold_a(asked_a: float) -> float:
    """Amperes of a controller usually sold, or of several together, as far as the format admits [A]."""
    count, size_a = controllers_sold(asked_a)
    return min(count * size_a, _MOST_OUTPUT_A)


def _lot_of(output_a: float) -> ControllerLot:
    count, size_a = controllers_sold(output_a)
    is_sold = abs(count * size_a - output_a) < _SAME
    return ControllerLot(count, size_a) if is_sold else ControllerLot(1, output_a)


def _array(array: Array, asked_w: float) -> Array:
    """The array in whole panels; in watts usually sold where no panel is chosen."""
    module = array.module
    if module is None:
        return array.model_copy(update={"stc_w": min(next_array_w(asked_w), _MOST_ARRAY_W)})
    count = max(1, math.ceil(asked_w / module.stc_w - _SAME))
    series = min(array.series, count)
    strings = min(math.ceil(count / series), MOST_ARRAY_SIDE)
    return array.model_copy(
        update={
            "series": series,
            "strings": strings,
            "stc_w": min(module.stc_w * series * strings, _MOST_ARRAY_W),
            "vmp_v": None,
        }
    )


def _new_controller(answer: Answer, design: Design) -> Controller:
    ids = {array.id for array in design.charging.arrays} | {one.id for one in design.charging.controllers}
    tilt_deg, azimuth_deg = latitude_plane(design.site.latitude_deg)
    array = Array(
        id=_free("array", ids),
        name="Array",
        stc_w=min(next_array_w(answer.array_w), _MOST_ARRAY_W),
        tilt_deg=round(tilt_deg, 1),
        azimuth_deg=azimuth_deg,
    )
    return Controller(
        id=_free("controller", ids),
        name="Controller",
        kind=ControllerKind.MPPT,
        output_a=_sold_a(answer.controller_a),
        arrays=(array,),
    )


def _free(name: str, ids: set[str]) -> str:
    return next(key for key in (name, *(f"{name}-{number}" for number in range(2, 1000))) if key not in ids)
