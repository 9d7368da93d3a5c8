"""Design documents in requests: passed on as bytes to the one reader of documents, so that errors are those of files."""

from __future__ import annotations

import tempfile
from collections.abc import AsyncIterator
from typing import Annotated, Any

from fastapi import Depends, HTTPException, Query, Request

from hearthkeep.core.design import LONGEST_NAME, MAX_DOCUMENT_BYTES
from hearthkeep.core.errors import FieldProblem, InputError
from hearthkeep.core.kits import KitRanges, read_ranges
from hearthkeep.workers import Places, SentFile, Workers

#: Files that are taken at the same time, and that may wait for that.
UPLOADS_AT_ONCE, MOST_UPLOADS_WAITING = 2, 8

#: For a route's openapi_extra: says that the body is a Design document.
DESIGN_BODY: dict[str, Any] = {
    "requestBody": {
        "required": True,
        "content": {"application/json": {"schema": {"$ref": "#/components/schemas/Design"}}},
    }
}


#: For a route's openapi_extra: says that the body is a file as it is.
FILE_BODY: dict[str, Any] = {
    "requestBody": {
        "required": True,
        "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}},
    }
}


def _refuse_other_type(request: Request, wanted: str, what: str) -> None:
    """A form on a page of another origin can send text without asking, but no other type."""
    if request.headers.get("content-type", "").partition(";")[0].strip().lower() != wanted:
        raise HTTPException(415, f"{what} is sent as {wanted}.")


def upload_places() -> Places:
    """For files on their way: they are written down as they come, so that no more of them is held in memory than a few bytes."""
    return Places(UPLOADS_AT_ONCE, MOST_UPLOADS_WAITING, "files")


async def file_of(request: Request) -> AsyncIterator[SentFile]:
    """The file that a request carries, as long as it is answered."""
    _refuse_other_type(request, "application/octet-stream", "A file")
    uploads: Places = request.app.state.uploads
    async with uploads.one():
        with tempfile.NamedTemporaryFile(prefix="hearth file ") as file:
            async for part in request.stream():
                file.write(part)
            file.flush()
            yield SentFile(file.name)


#: The file that a request carries.
Sent = Annotated[SentFile, Depends(file_of)]


async def document_of(request: Request) -> bytes:
    """The bytes of the Design document that a request carries."""
    _refuse_other_type(request, "application/json", "A Design document")
    body = await request.body()
    if len(body) > MAX_DOCUMENT_BYTES:
        accepted = f"must be at most {MAX_DOCUMENT_BYTES:,} bytes"
        raise InputError((FieldProblem(field="document", value=f"{len(body):,} bytes", accepted=accepted),))
    return body


async def ranges_of(request: Request) -> KitRanges:
    """The ranges of a kit search that a request carries, read so that errors are those of documents."""
    _refuse_other_type(request, "application/json", "A kit search")
    return read_ranges(await request.body())


#: For a route's openapi_extra: says that the body is a kit search's ranges.
RANGES_BODY: dict[str, Any] = {
    "requestBody": {
        "required": True,
        "content": {"application/json": {"schema": {"$ref": "#/components/schemas/KitRanges"}}},
    }
}
Ranges = Annotated[KitRanges, Depends(ranges_of)]

#: The bytes of a Design document, not read yet.
DocumentBytes = Annotated[bytes, Depends(document_of)]


def _workers_of(request: Request) -> Workers:
    workers: Workers = request.app.state.workers
    return workers


#: The processes that read and assess, put on the application at its start.
Helpers = Annotated[Workers, Depends(_workers_of)]

#: Text that the database can hold: without the null character.
Words = Annotated[str, Query(max_length=LONGEST_NAME, pattern=r"^[^\x00]*$")]
