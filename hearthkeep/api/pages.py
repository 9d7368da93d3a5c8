"""The built front end: one page with a nonce for its styles, and its assets."""

from __future__ import annotations

import hashlib
import json
from pathlib import Path

from fastapi import APIRouter, FastAPI, Request
from fastapi.responses import HTMLResponse
from starlette.exceptions import HTTPException
from starlette.responses import Response
from starlette.staticfiles import StaticFiles
from starlette.types import Scope

NONCE_MARK = "__CSP_NONCE__"
#: In the service worker: the list of assets, and the name of the build.
ASSETS_MARK, BUILD_MARK = "'__ASSETS__'", "__BUILD__"
#: Assets carry a digest of their content in their names, so they never change.
FOR_EVER = "public, max-age=31536000, immutable"


class _Assets(StaticFiles):
    async def get_response(self, path: str, scope: Scope) -> Response:
        response = await super().get_response(path, scope)
        response.headers["Cache-Control"] = FOR_EVER
        return response


def worker_script(built: Path) -> str:
    """The service worker, with the names of the assets that it keeps; another build is another script."""
    names = sorted(f"/assets/{path.name}" for path in (built / "assets").iterdir())
    kept = json.dumps(names)
    digest = hashlib.sha256(kept.encode()).hexdigest()[:16]
    script = (built / "worker.js").read_text(encoding="utf-8")
    return script.replace(ASSETS_MARK, kept).replace(BUILD_MARK, digest)


def install(app: FastAPI, built: Path) -> None:
    """Serve the front end from its build folder; every unknown page address opens the application."""
    page = (built / "index.html").read_text(encoding="utf-8")
    router = APIRouter(include_in_schema=False)

    script = worker_script(built)

    @router.get("/worker.js")
    def worker() -> Response:
        return Response(script, media_type="text/javascript", headers={"Cache-Control": "no-cache"})

    @router.get("/{path:path}")
    def index(request: Request, path: str) -> HTMLResponse:
        if path.startswith("api/"):
            raise HTTPException(404, "There is no such address.")
        return HTMLResponse(page.replace(NONCE_MARK, request.scope["state"]["csp_nonce"]))

    app.mount("/assets", _Assets(directory=built / "assets"))
    app.include_router(router)
