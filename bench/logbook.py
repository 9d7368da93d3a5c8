"""100,000 readings into the Logbook and out again, through the server: `python -m bench.logbook`. Aims: in under 10 s, the page under 300 ms."""

from __future__ import annotations

import io
import json
import statistics
import time
import uuid
from datetime import UTC, datetime

import numpy as np
from fastapi.testclient import TestClient

from hearthkeep.api import create_app
from hearthkeep.jobs import ensure_queue
from hearthkeep.workers import Workers
from tests.support.designs import birchrow
from tests.support.shared import fresh_engine

ROWS = 100_000
PORT = 8701


def made_csv() -> bytes:
    """So many rows of six quantities, one every five minutes."""
    dice = np.random.default_rng(1)
    stamps = np.datetime_as_string(np.datetime64("2025-06-01T00:00") + np.arange(ROWS) * np.timedelta64(5, "m"))
    columns = [
        52 + dice.normal(0, 0.3, ROWS),
        dice.normal(0, 20, ROWS),
        dice.uniform(30, 94, ROWS),
        dice.uniform(0, 1500, ROWS),
    ]
    columns += [dice.uniform(50, 400, ROWS), dice.uniform(5, 25, ROWS)]
    out = io.StringIO()
    out.write("time,battery voltage,battery current,soc,pv power,ac power,battery temperature\n")
    for stamp, *row in zip(stamps, *columns, strict=True):
        out.write(f"{stamp}," + ",".join(f"{value:.3f}" for value in row) + "\n")
    return out.getvalue().encode()


def main() -> None:
    engine = fresh_engine()
    ensure_queue(engine.url)
    workers = Workers(engine.url, 2)
    try:
        with TestClient(
            create_app(engine=engine, workers=workers, port=PORT, web=None), base_url=f"http://127.0.0.1:{PORT}"
        ) as client:
            measure(client)
    finally:
        workers.close()
        engine.dispose()


def measure(client: TestClient) -> None:
    home = birchrow().model_dump(mode="json")
    design = client.post("/api/designs/import", json=home).json()["id"]
    place = client.post(f"/api/designs/{design}/installations", json={"name": "Bench"}).json()["id"]
    content, binary = made_csv(), {"content-type": "application/octet-stream"}
    begun = time.perf_counter()
    columns = client.post(f"/api/log-preview?installation_id={place}", content=content, headers=binary).json()[
        "columns"
    ]
    seen = time.perf_counter()
    params = {"installation_id": place, "uses": json.dumps([column["use"] for column in columns]), "name": "bench.csv"}
    added = client.post("/api/log-import", params=params, content=content, headers=binary).json()
    done = time.perf_counter()
    print(
        f"{ROWS:,} rows, {added['added']:,} readings, {len(content) / 1e6:.1f} MB: looked at in {seen - begun:.2f} s, taken in {done - seen:.2f} s"
    )
    for _ in range(20):
        body = {
            "sent_at": datetime.now(UTC).isoformat(),
            "entries": [
                {
                    "id": str(uuid.uuid4()),
                    "told_at": datetime.now(UTC).isoformat(),
                    "body": {"kind": "reading", "values": {"bank_v": 52.0}},
                }
            ],
        }
        client.post(f"/api/installations/{place}/entries", json=body)
    asked = {"design": home, "installation_id": place}
    for name, ask in (
        ("entries", lambda: client.get(f"/api/installations/{place}/entries")),
        ("series", lambda: client.get(f"/api/installations/{place}/series")),
        ("plot", lambda: client.get(f"/api/installations/{place}/plot?quantity=bank_v")),
        ("outlook", lambda: client.post("/api/log-outlook", json=asked)),
        ("corrections", lambda: client.post("/api/log-corrections", json=asked)),
    ):
        took = []
        for _ in range(6):
            start = time.perf_counter()
            answer = ask()
            took.append(time.perf_counter() - start)
            assert answer.status_code == 200, answer.text
        print(f"  {name}: {1000 * statistics.median(took[1:]):.0f} ms")


if __name__ == "__main__":
    main()
