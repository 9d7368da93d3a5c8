"""Write the small dump of each released schema that tests/store/test_backup.py opens: `python -m tests.support.released`.

A dump that is there stays as it is; only a schema without one gets one.
"""

from __future__ import annotations

import json
import shutil
import sys
import tempfile
import uuid
from pathlib import Path
from typing import Any

import psycopg
from psycopg.types.json import Jsonb

from hearthkeep.store import Cluster, ensure_database, write_backup
from tests.support.designs import ROOT, birchrow

PLACE = ROOT / "tests" / "documents" / "schemas"
MIGRATIONS = ROOT / "hearthkeep" / "store" / "migrations" / "versions"
#: Schemas whose releases wrote documents of version 1.
VERSION_1 = ("0001", "0002", "0003")


def main() -> int:
    PLACE.mkdir(exist_ok=True)
    for path in sorted(MIGRATIONS.glob("0*.py")):
        target = PLACE / f"{path.name[:4]}.zip"
        if not target.exists():
            write(target)
    return 0


def write(target: Path) -> None:
    home = Path(tempfile.mkdtemp(prefix="hearth released "))
    home.chmod(0o755)
    cluster = Cluster(home, durable=False)
    try:
        cluster.ensure_running()
        url = cluster.url("hearth")
        ensure_database(url, revision=target.stem)
        with psycopg.connect(url.set(drivername="postgresql").render_as_string(hide_password=False)) as connection:
            fill(connection, target.stem)
        write_backup(cluster.url, target)
    finally:
        cluster.destroy()
        shutil.rmtree(home)


def documents(schema: str) -> list[list[dict[str, Any]]]:
    """Two designs, the first with a history of three states."""
    if schema in VERSION_1:
        kept = json.loads((ROOT / "tests/documents/version-1.json").read_text())
        held = [kept[name]["document"] for name in ("birchrow-14", "relay-cart")]
    else:
        held = [birchrow().model_dump(mode="json")] * 2
    first = [{**held[0], "name": f"State {number}"} for number in (1, 2, 3)]
    return [first, [held[1]]]


def fill(connection: psycopg.Connection, schema: str) -> None:
    for number, states in enumerate(documents(schema)):
        design_id = uuid.UUID(int=number + 1)
        connection.execute(
            "insert into designs (id, head, name) values (%s, %s, %s)", (design_id, len(states), states[-1]["name"])
        )
        for step, document in enumerate(states, start=1):
            connection.execute(
                "insert into revisions (design_id, number, document, undo_to) values (%s, %s, %s, %s)",
                (design_id, step, Jsonb(document), step - 1 or None),
            )


if __name__ == "__main__":
    sys.exit(main())
