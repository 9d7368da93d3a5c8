"""Runs of alternating current: what feeds the inverters, and what they feed."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

from hearthkeep.core.design import (
    ArrangementKind,
    Bypass,
    Design,
    GeneratorAt,
    GeneratorOutput,
    Kind,
)
from hearthkeep.core.transfer import CORDS, is_coupled
from hearthkeep.core.wiring.runs import (
    Run,
    RunKind,
    inverter_keys,
    is_built_in_charger,
    output_v,
)

#: Volts between a generator's lines, by what it gives [V].
_GENERATOR_V: dict[GeneratorOutput | None, float] = {
    GeneratorOutput.V120: 120.0,
    GeneratorOutput.SPLIT_120_240: 240.0,
    GeneratorOutput.V230: 230.0,
}
#: What the inverter feeds, where that is not a panel of backed-up circuits.
_FED = {ArrangementKind.OWN_PANEL: "house panel"}


def house_runs(design: Design) -> Iterator[Run]:
    """Alternating-current runs: what feeds the inverters, and what they feed."""
    inverter, charging, kind = design.inverter.together, design.charging, design.transfer.arrangement
    keys, volts_v = inverter_keys(design), output_v(design)
    run_of = partial(Run, is_dc=False, volts_v=volts_v, most_v=volts_v)
    given_a = inverter.apparent_va / volts_v
    if keys and has_grid_input(design):
        through_a = 0.0 if kind is ArrangementKind.MOVED_CIRCUITS else given_a
        charge_a = charging.grid_charger.output_w / charging.grid_charger.efficiency_frac / volts_v
        current_a = through_a + charge_a
        if current_a > 0:
            yield run_of(
                key="grid", kind=RunKind.GRID, label="Grid to inverter input", start="main", end=keys[0],
                current_a=current_a, drop_at_a=current_a,
                basis="rated output passed through and the charger at its full input",
            )  # fmt: skip
    generator = charging.generator
    if generator is not None:
        generator_v = _GENERATOR_V.get(generator.output) or (
            230.0 if volts_v == 230.0 else volts_v if generator.rated_w > 3_600 else 120.0
        )
        at_panel = design.transfer.device.generator_at is GeneratorAt.PANEL or not keys
        end = "panel" if at_panel and not generator.charges_only else keys[0] if keys else "charger"
        if not is_built_in_charger(design) and generator.charges_only:
            end = "charger"
        current_a = generator.rated_w / generator_v
        yield Run(
            key="generator", kind=RunKind.GENERATOR, label="Generator inlet to its breaker", start="generator", end=end,
            is_dc=False, volts_v=generator_v, most_v=generator_v, current_a=current_a, drop_at_a=current_a,
            basis=f"the generator's rated output at {generator_v:g} V",
        )  # fmt: skip
    # Off the grid an array that nothing leads is joined to nothing.
    is_joined = is_coupled(design) or not design.site.off_grid
    if charging.grid_tied is not None and charging.grid_tied.arrays and is_joined:
        current_a = charging.grid_tied.rated_w / volts_v
        yield run_of(
            key="coupled", kind=RunKind.COUPLED, label="Grid-tied inverter to its panel", start="grid-tied",
            end="panel" if is_coupled(design) else "main", current_a=current_a, drop_at_a=current_a,
            basis="its rated output",
        )  # fmt: skip
    if keys and given_a > 0:
        own = "house loads" if design.kind is Kind.HOME else "its loads"
        where = own if kind is None else _FED.get(kind, "outlets" if kind in CORDS else "backed-up panel")
        yield run_of(
            key="panel", kind=RunKind.PANEL, label=f"Inverter to {where}", start=keys[0], end="panel",
            current_a=given_a, drop_at_a=given_a, least_factor=1.0,
            basis="the rated output of all inverters, which hold it to that",
        )  # fmt: skip
        has_bypass = design.transfer.device.bypass is not Bypass.NONE and not design.site.off_grid
        if has_bypass and kind not in (None, *CORDS):
            yield run_of(
                key="bypass", kind=RunKind.BYPASS, label="Bypass to backed-up panel", start="main", end="panel",
                current_a=given_a, drop_at_a=given_a, basis="what the inverters would carry",
            )  # fmt: skip


def has_grid_input(design: Design) -> bool:
    """Whether the grid is led to an input of the inverter, or of the unit's charger."""
    if design.site.off_grid:
        return False
    passes = design.transfer.arrangement in (
        ArrangementKind.CRITICAL_PANEL,
        ArrangementKind.AC_COUPLED,
        ArrangementKind.AUTOMATIC,
    )
    return is_built_in_charger(design) and (passes or design.charging.grid_charger.output_w > 0)
