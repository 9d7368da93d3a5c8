"""Other panel watts in a design."""

from __future__ import annotations

from collections.abc import Container

from hearthkeep.core.design import Array, Design


def with_panels(design: Design, array_ids: Container[str], factor: float) -> Design:
    """The design with the watts of these arrays multiplied, grid-tied ones among them."""

    def multiplied(arrays: tuple[Array, ...]) -> tuple[Array, ...]:
        return tuple(
            array.model_copy(update={"stc_w": array.stc_w * factor}) if array.id in array_ids else array
            for array in arrays
        )

    unit = design.charging.grid_tied
    controllers = tuple(
        controller.model_copy(update={"arrays": multiplied(controller.arrays)})
        for controller in design.charging.controllers
    )
    charging = design.charging.model_copy(
        update={
            "controllers": controllers,
            "grid_tied": unit and unit.model_copy(update={"arrays": multiplied(unit.arrays)}),
        }
    )
    return design.model_copy(update={"charging": charging})
