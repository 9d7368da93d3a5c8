"""An installation with its gates signed and a month of its log, made up, put into a running application."""

from __future__ import annotations

import json
import time
import urllib.parse
import urllib.request
import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

from hearthkeep.core.logbook import Log, Trace
from tests.core.logbook.made_log import Truth, csv_of, made_log
from tests.support.live import Application

MOMENT = {"at": "2026-06-15T12:00:00", "sky": "clear", "air_c": 18.0, "soc_frac": 0.6}
#: Stated at the rack: what, so many days ago.
ENTRIES: tuple[tuple[float, dict[str, Any]], ...] = (
    (28, {"kind": "event", "what": "upkeep", "part": "alarms"}),
    (20, {"kind": "event", "what": "cleaned"}),
    (12, {"kind": "event", "what": "fuel_bought", "amount": 18.9}),
    (9, {"kind": "event", "what": "fan_check", "is_well": False, "part": "inverter", "note": "left fan stands still"}),
    (6, {"kind": "event", "what": "note", "note": "sparrows in the roof vent again"}),
    (1, {"kind": "reading", "values": {"bank_v": 52.6, "charge": 71.0}}),
)
#: The same volts on five displays, a week apart: one of them leaves the others.
ROUNDS = tuple(
    (28.0 - 7 * week, {"Hand meter": 52.41 + 0.1 * week, "Battery monitor": 52.38 + 0.1 * week, "Inverter": 52.3 + 0.1 * week,
                       "Roof controller": 52.5 + 0.4 * week, "Wall controller": 52.45 + 0.1 * week})
    for week in range(5)
)  # fmt: skip


def build(app: Application, design_id: str, *, until: str, name: str = "Birchrow Terrace 16, utility room") -> str:
    """Begin an installation and sign its gates up to one, which is left open; says the installation's id."""
    document = app.ask("GET", f"api/designs/{design_id}")["document"]
    place = str(app.ask("POST", f"api/designs/{design_id}/installations", {"name": name})["id"])
    sheet = app.ask("POST", "api/building/sheet", {"design": document, "moment": MOMENT})
    for each in sheet["gates"]:
        gate = each["gate"]
        if gate["key"] == until:
            break
        skipped = gate["key"] == "others"
        entry = {
            "kind": "gate", "gate": gate["key"], "signing": "skipped" if skipped else "passed", "who": "Mo Harker", "instrument": "Meter 7",
            "moment": MOMENT, "note": "no plug-in charger on site yet" if skipped else "",
            "readings": {} if skipped else {ask["key"]: round(ask["window"][0], 3) for ask in gate["asks"] if not ask["is_optional"]},
        }  # fmt: skip
        app.ask("POST", f"api/installations/{place}/gates", {"id": str(uuid.uuid4()), "entry": entry})
    return place


def keep_log(app: Application, place: str, *, stc_w: float) -> None:
    """A month of readings up to now, and what was written down beside them."""
    made = made_log(7, Truth(capacity_wh=9_100.0), stc_w=stc_w)
    last_s = max(trace.at_s[-1] for trace in made.traces.values())
    shift_s = round((time.time() - 5 * 3_600 - last_s) / 300) * 300
    log = Log(traces={key: Trace(at_s=trace.at_s + shift_s, values=trace.values) for key, trace in made.traces.items()})
    content = csv_of(log)
    columns = posted(app, f"api/log-preview?installation_id={place}", content)["columns"]
    uses = [column["use"] for column in columns]
    for use in uses:
        if use["column"].startswith("load_w "):
            use.update(quantity="load_w", part=use["column"].removeprefix("load_w "))
    query = urllib.parse.urlencode({"installation_id": place, "uses": json.dumps(uses), "name": "monitor.csv"})
    posted(app, f"api/log-import?{query}", content)
    now = datetime.now(UTC)
    rounds = [(days, {"kind": "cross", "shown": "volts", "values": values}) for days, values in ROUNDS]
    entries = [
        {"id": str(uuid.uuid4()), "told_at": (now - timedelta(days=days)).isoformat(), "who": "Mo Harker", "body": body}
        for days, body in (*ENTRIES, *rounds)
    ]
    app.ask("POST", f"api/installations/{place}/entries", {"sent_at": now.isoformat(), "entries": entries})


def outage_on(
    app: Application, place: str, *, offset_h: float, since_h: float, help_in_h: float, charge: float
) -> None:
    """An outage that is on: since when, when help is expected, and a monitor read every ten minutes that fell to a charge [%]."""
    now = datetime.now(UTC)

    def local(by_h: float) -> str:
        return f"{now + timedelta(hours=offset_h + by_h):%Y-%m-%dT%H:%M:%S}"

    facts = ({"what": "began", "moment": local(-since_h)}, {"what": "help", "moment": local(help_in_h)})
    entries = [
        {"id": str(uuid.uuid4()), "told_at": now.isoformat(), "who": "Mo Harker", "body": {"kind": "watch", **fact}}
        for fact in facts
    ]
    app.ask("POST", f"api/installations/{place}/entries", {"sent_at": now.isoformat(), "entries": entries})
    count = round(since_h * 6)
    lines = ["time,state of charge,output power,load_w ease"]
    for number in range(count + 1):
        part = number / count
        house_w = 210.0 + 90.0 * ((number // 18) % 3)
        lines.append(
            f"{local(-since_h * (1 - part))},{97.0 - (97.0 - charge) * part:.1f},{house_w:.0f},{0.45 * house_w:.0f}"
        )
    content = "\n".join(lines).encode()
    uses = [column["use"] for column in posted(app, f"api/log-preview?installation_id={place}", content)["columns"]]
    for use in uses:
        if use["column"] == "load_w ease":
            use.update(quantity="load_w", part="ease")
    query = urllib.parse.urlencode({"installation_id": place, "uses": json.dumps(uses), "name": "monitor.csv"})
    posted(app, f"api/log-import?{query}", content)


def posted(app: Application, path: str, content: bytes) -> Any:
    """Send a file."""
    request = urllib.request.Request(
        app.address + path, data=content, method="POST", headers={"Content-Type": "application/octet-stream"}
    )
    with urllib.request.urlopen(request, timeout=60) as answer:
        return json.loads(answer.read())
