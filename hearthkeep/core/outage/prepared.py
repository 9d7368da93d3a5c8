"""The outage prepared: all that one run needs, derived once, and the same with one part changed."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from hearthkeep.core.bank import BankRating, rate
from hearthkeep.core.design import Design, Inverter
from hearthkeep.core.inverter import Cables, Draws, HouseWatts, Limits, draws_of, house_watts
from hearthkeep.core.loads import LoadRows, rows_from
from hearthkeep.core.outage import kernel
from hearthkeep.core.outage.completed import completed, without_grid
from hearthkeep.core.outage.kernel import Outcome, Plant, Run
from hearthkeep.core.outage.plant import limits_for, plant_of
from hearthkeep.core.outage.scene import Scene, scene_of
from hearthkeep.core.outage.warning_fill import WarningFill, fill_in_warning
from hearthkeep.core.sources import GeneratorRating, WeatherYear, rate_generator
from hearthkeep.core.wiring import cables_of


@dataclass(frozen=True, kw_only=True, slots=True)
class PreparedOutage:
    """A design's outage, ready to be run; built once for an assessment and handed on."""

    #: As it was entered, and completed for the outage.
    entered: Design
    design: Design
    #: The weather year of the site; none where it names none.
    year: WeatherYear | None
    rating: BankRating
    #: The generator as height and heat leave it; none without one.
    generator: GeneratorRating | None
    fill: WarningFill
    scene: Scene
    #: The loads on the scene's kinds of day.
    rows: LoadRows
    limits: Limits
    house: HouseWatts
    draws: Draws
    plant: Plant

    @property
    def duration_h(self) -> float:
        """Length of the outage [h]."""
        return float(self.scene.clock.edges_h[-1])

    def run(self) -> Run:
        """Run it and record everything."""
        run: Run = kernel.run(self.scene.steps, self.draws, self.plant)
        return run

    def outcome(self) -> Outcome:
        """Run it and keep four numbers."""
        outcome: Outcome = kernel.outcome_of(self.scene.steps, self.draws, self.plant)
        return outcome

    def carried_h(self, dark_h: float) -> float:
        """Hours carried, from the moment at which Life or Keep first went unserved, -1 for never [h]."""
        return self.duration_h if dark_h < 0 else float(dark_h)

    def with_parts(self, parts: Mapping[str, object]) -> PreparedOutage:
        """The same sun and loads with other parts of the design: bank, inverter, or the generator in charging."""
        design = self.design.model_copy(update=dict(parts))
        rating, generator = rate(design.bank), rate_generator(design)
        fill = fill_in_warning(design, rating)
        cables = self.limits.cables if self._only_switches(parts) else self._cables_with(parts, rating)
        limits = limits_for(design, rating, generator, cables)
        house = (
            self.house
            if limits == self.limits and not _switches(parts)
            else house_watts(self.rows, design.inverter, limits)
        )
        return replace(
            self,
            design=design,
            rating=rating,
            generator=generator,
            fill=fill,
            limits=limits,
            house=house,
            draws=self.draws if house is self.house else draws_of(house),
            plant=plant_of(design, rating, generator, start_frac=fill.reached_frac, flat_frac=cables.flat_frac),
        )

    def _only_switches(self, parts: Mapping[str, object]) -> bool:
        """Whether nothing is changed but the hours in which the inverter is off, on which no cable depends."""
        inverter, now = parts.get("inverter"), self.design.inverter
        if len(parts) > 1 or not isinstance(inverter, Inverter):
            return False
        return inverter.model_copy(update={"off_hours": now.off_hours}) == now

    def _cables_with(self, parts: Mapping[str, object], rating: BankRating) -> Cables:
        """Cables of the design as entered with other parts; several like inverters are several again, each on its own leads."""
        changes = dict(parts)
        combined = changes.get("inverter")
        if isinstance(combined, Inverter):
            changes["inverter"] = _taken_apart(combined, self.entered.inverter)
        # At the same volts the branches are as they were.
        branch_frac = self.limits.cables.branch_frac if rating.nominal_v == self.rating.nominal_v else None
        return cables_of(self.entered.model_copy(update=changes), rating, branch_frac=branch_frac)

    def with_scene(self, scene: Scene) -> PreparedOutage:
        """The same house under another sun; loads that wait for it find other hours."""
        if scene.kinds == self.scene.kinds:
            return replace(self, scene=scene)
        rows = rows_from(self.design.loads, scene.kinds)
        house = house_watts(rows, self.design.inverter, self.limits)
        return replace(self, scene=scene, rows=rows, house=house, draws=draws_of(house))

    def with_house(self, house: HouseWatts) -> PreparedOutage:
        """The same outage with other draws of the house."""
        return replace(self, house=house, draws=draws_of(house))

    def with_plant(self, plant: Plant) -> PreparedOutage:
        """The same house on another plant."""
        return replace(self, plant=plant)


def _taken_apart(combined: Inverter, unit: Inverter) -> Inverter:
    """Several of a unit, where that is what they add up to; else the inverter as it is."""
    count = round(combined.rated_w / unit.rated_w) if unit.rated_w > 0 else 0
    return unit.model_copy(update={"units": count}) if count > 0 and unit.of_units(count) == combined else combined


def _switches(parts: Mapping[str, object]) -> bool:
    """Whether the inverter is changed, whose hours off are not among the limits."""
    return "inverter" in parts


def prepare(entered: Design, year: WeatherYear | None = None) -> PreparedOutage:
    """Prepare a design's outage; `year` is the weather year of its site."""
    entered = without_grid(entered)
    design = completed(entered, year)
    rating, generator = rate(design.bank), rate_generator(design)
    scene = scene_of(design, rating, year)
    rows = rows_from(design.loads, scene.kinds)
    fill, cables = fill_in_warning(design, rating), cables_of(entered, rating)
    limits = limits_for(design, rating, generator, cables)
    house = house_watts(rows, design.inverter, limits)
    return PreparedOutage(
        entered=entered,
        design=design,
        year=year,
        rating=rating,
        generator=generator,
        fill=fill,
        scene=scene,
        rows=rows,
        limits=limits,
        house=house,
        draws=draws_of(house),
        plant=plant_of(design, rating, generator, start_frac=fill.reached_frac, flat_frac=cables.flat_frac),
    )
