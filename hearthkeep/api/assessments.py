"""Assessments: values in, values out, nothing stored."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter, Request, Response

from hearthkeep.api.bodies import DESIGN_BODY, DocumentBytes, Helpers
from hearthkeep.api.held import Held
from hearthkeep.core.assess import Assessment
from hearthkeep.core.bank import TYPICAL, ChemistryTypical
from hearthkeep.core.design import Chemistry, Design
from hearthkeep.core.whatif import GeneratorChoice
from hearthkeep.workers import tasks

router = APIRouter(prefix="/api", tags=["assessment"])

JSON = "application/json"
#: Header of an assessment: the key by which the document can be saved without being sent again.
HELD_AS = "Held-As"


@router.post("/assessments", response_model=Assessment, openapi_extra=DESIGN_BODY)
async def assess_design(request: Request, document: DocumentBytes, workers: Helpers) -> Response:
    """Assess a design as it stands in the window, saved or not; the document is held for a save that names it."""
    found = await workers.run(tasks.assess_document, document)
    held: Held = request.app.state.held
    return Response(found.assessment, media_type=JSON, headers={HELD_AS: held.put(found.checked)})


@router.post("/documents/current", response_model=Design, openapi_extra=DESIGN_BODY)
async def bring_up(document: DocumentBytes, workers: Helpers) -> Response:
    """A Design document of any version as one of the current version; nothing is stored."""
    return Response((await workers.run(tasks.check_document, document)).text, media_type=JSON)


@router.get("/typical/chemistries")
def typical_chemistries() -> dict[Chemistry, ChemistryTypical]:
    """Typical values that fill empty fields of the bank."""
    return TYPICAL


@router.get("/design-schema.json")
def design_schema() -> dict[str, Any]:
    """JSON Schema of the Design document."""
    return Design.model_json_schema()


@router.post("/generator-choices", response_model=list[GeneratorChoice], openapi_extra=DESIGN_BODY)
async def compare_generators(document: DocumentBytes, workers: Helpers) -> Response:
    """The generator as it is, sized to charge, and sized to carry the house, in hours and litres."""
    return Response(await workers.run(tasks.generators, document), media_type=JSON)
