"""Write the interface's OpenAPI document, from which the front end's types are made."""

from __future__ import annotations

import json
import sys
from pathlib import Path

from sqlalchemy import create_engine

from hearthkeep.api import create_app
from hearthkeep.workers import Workers

engine = create_engine("postgresql+psycopg://")
app = create_app(engine=engine, workers=Workers(engine.url), port=1, web=None)
target = Path(sys.argv[1])
target.parent.mkdir(parents=True, exist_ok=True)
target.write_text(json.dumps(app.openapi(), indent=1))
