"""Design documents in requests: read by the same reader as files, so that the errors are the same."""

from __future__ import annotations

from typing import Annotated, Any

from fastapi import Depends, Request

from hearthkeep.core.design import Design, read_design

#: For a route's openapi_extra: says that the body is a Design document.
DESIGN_BODY: dict[str, Any] = {
    "requestBody": {
        "required": True,
        "content": {"application/json": {"schema": {"$ref": "#/components/schemas/Design"}}},
    }
}


async def _design_from_body(request: Request) -> Design:
    return read_design(await request.body())


DesignBody = Annotated[Design, Depends(_design_from_body)]
