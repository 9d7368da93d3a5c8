"""Assessments: values in, values out, nothing stored."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter, Response
from pydantic import TypeAdapter

from hearthkeep.api.bodies import DESIGN_BODY, DesignBody
from hearthkeep.api.weather import YearOfDesign
from hearthkeep.core.assess import Assessment, assess
from hearthkeep.core.bank import TYPICAL, ChemistryTypical
from hearthkeep.core.design import Chemistry, Design
from hearthkeep.core.whatif import GeneratorChoice, generator_choices

router = APIRouter(prefix="/api", tags=["assessment"])

_ASSESSMENT = TypeAdapter(Assessment)


@router.post("/assessments", response_model=Assessment, openapi_extra=DESIGN_BODY)
def assess_design(document: DesignBody, year: YearOfDesign) -> Response:
    """Assess a design as it stands in the window, saved or not."""
    # Serialised at once: validating our own values again would cost more than computing them.
    return Response(_ASSESSMENT.dump_json(assess(document, year)), media_type="application/json")


@router.post("/documents/current", openapi_extra=DESIGN_BODY)
def bring_up(document: DesignBody) -> Design:
    """A Design document of any version as one of the current version; nothing is stored."""
    return document


@router.get("/typical/chemistries")
def typical_chemistries() -> dict[Chemistry, ChemistryTypical]:
    """Typical values that fill empty fields of the bank."""
    return TYPICAL


@router.get("/design-schema.json")
def design_schema() -> dict[str, Any]:
    """JSON Schema of the Design document."""
    return Design.model_json_schema()


@router.post("/generator-choices", openapi_extra=DESIGN_BODY)
def compare_generators(document: DesignBody, year: YearOfDesign) -> list[GeneratorChoice]:
    """The generator as it is, sized to charge, and sized to carry the house, in hours and litres."""
    return list(generator_choices(document, year))
