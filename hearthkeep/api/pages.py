"""The built front end: one page with a nonce for its styles, and its assets."""

from __future__ import annotations

from pathlib import Path

from fastapi import APIRouter, FastAPI, Request
from fastapi.responses import HTMLResponse
from starlette.exceptions import HTTPException
from starlette.responses import Response
from starlette.staticfiles import StaticFiles
from starlette.types import Scope

NONCE_MARK = "__CSP_NONCE__"
#: Assets carry a digest of their content in their names, so they never change.
FOR_EVER = "public, max-age=31536000, immutable"


class _Assets(StaticFiles):
    async def get_response(self, path: str, scope: Scope) -> Response:
        response = await super().get_response(path, scope)
        response.headers["Cache-Control"] = FOR_EVER
        return response


def install(app: FastAPI, built: Path) -> None:
    """Serve the front end from its build folder; every unknown page address opens the application."""
    page = (built / "index.html").read_text(encoding="utf-8")
    router = APIRouter(include_in_schema=False)

    @router.get("/{path:path}")
    def index(request: Request, path: str) -> HTMLResponse:
        if path.startswith("api/"):
            raise HTTPException(404, "There is no such address.")
        return HTMLResponse(page.replace(NONCE_MARK, request.scope["state"]["csp_nonce"]))

    app.mount("/assets", _Assets(directory=built / "assets"))
    app.include_router(router)
