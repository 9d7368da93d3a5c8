"""The repository of equipment: units of each kind, sought, added, and never deleted while a design uses them."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum

from pydantic import TypeAdapter
from sqlalchemy import Engine, cast, delete, func, select
from sqlalchemy.dialects.postgresql import JSONB, JSONPATH, insert

from hearthkeep.core.design import LibraryBattery, LibraryInverter, LibraryModule
from hearthkeep.store.database import transaction
from hearthkeep.store.errors import InUseError, NotFoundError
from hearthkeep.store.models import DesignRow, RevisionRow, UnitRow

Unit = LibraryBattery | LibraryInverter | LibraryModule


class UnitKind(StrEnum):
    """Kinds of units the library holds."""

    BATTERY = "battery"
    INVERTER = "inverter"
    MODULE = "module"


MODELS: dict[UnitKind, type[LibraryBattery] | type[LibraryInverter] | type[LibraryModule]] = {
    UnitKind.BATTERY: LibraryBattery,
    UnitKind.INVERTER: LibraryInverter,
    UnitKind.MODULE: LibraryModule,
}
SHEETS: dict[UnitKind, TypeAdapter[Unit]] = {kind: TypeAdapter(model) for kind, model in MODELS.items()}
#: Where a design's document names the unit it was filled from, as a path of SQL's JSON language.
_USED_AT = {
    UnitKind.BATTERY: "$.bank.unit.library_id",
    UnitKind.INVERTER: "$.inverter.sheet.library_id",
    UnitKind.MODULE: "$.charging.controllers[*].arrays[*].module.library_id",
}


@dataclass(frozen=True, kw_only=True, slots=True)
class Found:
    """Part of the library that fits a search."""

    units: tuple[Unit, ...]
    #: How many fit in all, shown or not.
    total: int


class Library:
    """Equipment in PostgreSQL."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def find(self, kind: UnitKind, words: str = "", *, most: int = 50) -> Found:
        """Units whose name or figures hold every word, by name."""
        fits = [UnitRow.kind == kind.value]
        fits += [UnitRow.words.contains(word.lower(), autoescape=True) for word in words.split()[:8]]
        with transaction(self._engine) as session:
            total = session.scalar(select(func.count()).select_from(UnitRow).where(*fits)) or 0
            rows = session.scalars(select(UnitRow).where(*fits).order_by(UnitRow.name, UnitRow.id).limit(most))
            return Found(units=tuple(SHEETS[kind].validate_python(row.sheet) for row in rows), total=total)

    def everything(self, kind: UnitKind) -> tuple[Unit, ...]:
        """All units of a kind, by name."""
        return self.find(kind, most=1_000_000).units

    def put(self, kind: UnitKind, units: Iterable[Unit]) -> int:
        """Add units, or replace those with the same key; the number of units put."""
        rows = [
            {
                "kind": kind.value,
                "id": unit.library_id,
                "name": unit.name,
                "words": _words(unit),
                "sheet": unit.model_dump(mode="json"),
            }
            for unit in units
        ]
        if not rows:
            return 0
        query = insert(UnitRow)
        query = query.on_conflict_do_update(
            index_elements=["kind", "id"],
            set_={name: getattr(query.excluded, name) for name in ("name", "words", "sheet")},
        )
        with transaction(self._engine) as session:
            session.execute(query, rows)
        return len(rows)

    def delete(self, kind: UnitKind, unit_id: str) -> None:
        """Take a unit out; refused with the designs that use it."""
        with transaction(self._engine) as session:
            path = cast(f"{_USED_AT[kind]} ? (@ == $unit)", JSONPATH)
            names_it = func.jsonb_path_exists(RevisionRow.document, path, cast({"unit": unit_id}, JSONB))
            used = session.scalars(
                select(DesignRow.name)
                .join(RevisionRow, (RevisionRow.design_id == DesignRow.id) & (RevisionRow.number == DesignRow.head))
                .where(names_it)
                .order_by(DesignRow.name)
            ).all()
            if used:
                raise InUseError(f"The unit is used in {', '.join(used[:5])}{' and more' if len(used) > 5 else ''}.")
            gone = session.execute(delete(UnitRow).where(UnitRow.kind == kind.value, UnitRow.id == unit_id))
            if gone.rowcount == 0:  # type: ignore[attr-defined]
                raise NotFoundError(f"There is no unit {unit_id} in the library.")


def _words(unit: Unit) -> str:
    """What a unit is sought by."""
    if isinstance(unit, LibraryBattery):
        figures = f"{unit.chemistry.value} {unit.unit_v:g}v {unit.unit_ah:g}ah"
    elif isinstance(unit, LibraryModule):
        figures = f"{unit.stc_w:g}w {unit.vmp_v:g}v {unit.voc_v:g}v {unit.imp_a:g}a"
    else:
        figures = (
            f"{unit.rated_w:g}w {unit.rated_w / 1000:g}kw {unit.system_v:g}v {unit.output.value} {unit.build.value}"
        )
    return f"{unit.name} {unit.library_id} {figures}".lower()[:400]
