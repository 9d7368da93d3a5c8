"""Places: towns by name."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from hearthkeep.places import Town, find_towns

router = APIRouter(prefix="/api", tags=["places"])


@router.get("/towns")
def towns(words: Annotated[str, Query(min_length=2, max_length=80)]) -> list[Town]:
    """Towns of 5,000 people and more whose name begins so, best first; what follows a comma is where they lie."""
    return list(find_towns(words))
