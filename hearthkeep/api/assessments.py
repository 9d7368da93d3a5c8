"""Assessments: values in, values out, nothing stored."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import APIRouter, HTTPException, Path, Query, Request, Response
from pydantic import create_model

from hearthkeep.api.bodies import DESIGN_BODY, DocumentBytes, Helpers
from hearthkeep.api.held import Held, PartsSent
from hearthkeep.core.assess import Assessment
from hearthkeep.core.bank import TYPICAL, ChemistryTypical
from hearthkeep.core.design import Chemistry, Design
from hearthkeep.core.endurance import Endurance
from hearthkeep.core.whatif import GeneratorChoice
from hearthkeep.workers import assess_tasks, tasks

router = APIRouter(prefix="/api", tags=["assessment"])

JSON = "application/json"
#: Header of an assessment: the key by which the document can be saved, or the rest of its assessment asked, without being sent again.
HELD_AS = "Held-As"
#: Header of the rest of an assessment: names these parts when the next one is asked for.
PARTS_AS = "Parts-As"

#: Parts of an assessment; those that are as they were in the answer named are left out.
AssessmentParts = create_model(  # type: ignore[call-overload]
    "AssessmentParts", **{name: (kind, None) for name, kind in assess_tasks.PARTS.items()}
)


@router.post("/assessments", response_model=Assessment, openapi_extra=DESIGN_BODY)
async def assess_design(request: Request, document: DocumentBytes, workers: Helpers) -> Response:
    """Assess a design as it stands in the window, saved or not; the document is held for a save that names it."""
    return _held(request, await workers.run(assess_tasks.assess_document, document))


@router.post("/assessments/endurance", response_model=Endurance, openapi_extra=DESIGN_BODY)
async def endurance(request: Request, document: DocumentBytes, workers: Helpers) -> Response:
    """How long a design carries the house, before anything else is worked out; the document is held for what follows."""
    return _held(request, await workers.run(assess_tasks.endurance, document))


@router.get("/assessments/{held}", response_model=AssessmentParts)
async def parts(
    request: Request,
    workers: Helpers,
    held: Annotated[str, Path(pattern="^[0-9a-f]{32}$", description="Key of a document just assessed")],
    since: Annotated[
        str | None, Query(pattern="^[0-9a-f]{32}$", description="Name of the parts that are at hand already")
    ] = None,
) -> Response:
    """The rest of an assessment; refused with 410 when the document is held no more and has to be sent."""
    documents: Held = request.app.state.held
    checked = documents.get(held)
    if checked is None:
        raise HTTPException(410, "The document is held no more; send it.")
    sent: PartsSent = request.app.state.parts_sent
    answer, name = sent.news(await workers.run(assess_tasks.parts, checked.text), since)
    return Response(answer, media_type=JSON, headers={PARTS_AS: name})


def _held(request: Request, found: assess_tasks.Assessed) -> Response:
    held: Held = request.app.state.held
    return Response(found.answer, media_type=JSON, headers={HELD_AS: held.put(found.checked)})


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
