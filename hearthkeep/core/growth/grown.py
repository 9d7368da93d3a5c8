"""A design with a stage's additions."""

from __future__ import annotations

from hearthkeep.core.checks import ALIKE_CODE, MIXED_CODES
from hearthkeep.core.design import MOST_STRINGS, MOST_UNITS, Array, Controller, Design, GrowthStage


def grown(design: Design, stage: GrowthStage) -> Design:
    """
    The design with what a stage adds; nothing is validated, and what does not belong together is left beside, uncounted.

    Units like those of the bank stand beside it as an addition until `joined` counts them.
    """
    charging, inverter = design.charging, design.inverter
    added_w = {entry.array_id: entry.stc_w for entry in stage.panels}
    controllers = tuple(_with_panels(controller, added_w) for controller in charging.controllers)
    later_years = None if stage.battery is None else stage.battery.model_copy(update={"years_newer": stage.in_years})
    return design.model_copy(
        update={
            "bank": design.bank.model_copy(update={"addition": later_years}),
            "inverter": inverter.model_copy(update={"units": min(inverter.units + stage.inverter_units, MOST_UNITS)}),
            "charging": charging.model_copy(
                update={
                    "controllers": (*controllers, *stage.controllers),
                    "generator": stage.generator or charging.generator,
                }
            ),
            "loads": (*design.loads, *stage.loads),
        }
    )


def joined(design: Design, codes: frozenset[str]) -> Design:
    """The design with its addition counted, where the checks of these codes say that it is alike."""
    bank = design.bank
    if bank.addition is None or ALIKE_CODE not in codes or codes & MIXED_CODES:
        return design
    parallel = min(bank.parallel + bank.addition.parallel, MOST_STRINGS)
    return design.model_copy(update={"bank": bank.model_copy(update={"parallel": parallel, "addition": None})})


def _with_panels(controller: Controller, added_w: dict[str, float]) -> Controller:
    if not any(array.id in added_w for array in controller.arrays):
        return controller
    return controller.model_copy(update={"arrays": tuple(_more(array, added_w) for array in controller.arrays)})


def _more(array: Array, added_w: dict[str, float]) -> Array:
    """More watts in whole panels and strings where the panel is known."""
    watts = added_w.get(array.id, 0.0)
    if watts <= 0:
        return array
    module = array.module
    if module is None:
        return array.model_copy(update={"stc_w": array.stc_w + watts})
    strings = array.strings + max(1, round(watts / (module.stc_w * array.series)))
    return array.model_copy(update={"strings": strings, "stc_w": module.stc_w * array.series * strings})
