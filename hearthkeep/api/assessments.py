"""Assessments and the reading of one-line entries: values in, values out, nothing stored."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field, TypeAdapter

from hearthkeep.api.bodies import DESIGN_BODY, DesignBody
from hearthkeep.core.assess import Assessment, assess
from hearthkeep.core.bank import TYPICAL, ChemistryTypical
from hearthkeep.core.design import Chemistry, Design, Tier
from hearthkeep.core.loads import LoadEntry, read_line

router = APIRouter(prefix="/api", tags=["assessment"])

_ASSESSMENT = TypeAdapter(Assessment)


class EntryLine(BaseModel):
    """A line typed into the ledger."""

    line: str = Field(max_length=400)
    #: Tier the row falls into when the line names none.
    tier: Tier = Tier.KEEP
    #: Nominal volts of the bank, at which the amps of a direct-current load are taken.
    bank_v: float = Field(default=12.8, gt=0, le=64_000)


@router.post("/assessments", response_model=Assessment, openapi_extra=DESIGN_BODY)
def assess_design(document: DesignBody) -> Response:
    """Assess a design as it stands in the window, saved or not."""
    # Serialised at once: validating our own values again would cost more than computing them.
    return Response(_ASSESSMENT.dump_json(assess(document)), media_type="application/json")


@router.post("/loads/read-line")
def read_entry(entry: EntryLine) -> LoadEntry:
    """What is understood of a one-line entry, and what is not."""
    return read_line(entry.line, tier=entry.tier, bank_v=entry.bank_v)


@router.get("/typical/chemistries")
def typical_chemistries() -> dict[Chemistry, ChemistryTypical]:
    """Typical values that fill empty fields of the bank."""
    return TYPICAL


@router.get("/design-schema.json")
def design_schema() -> dict[str, Any]:
    """JSON Schema of the Design document."""
    return Design.model_json_schema()
