"""Many people at once, each at a design of their own and editing once a second: `python -m bench.many [PEOPLE ...]`.

Prints how long an edit takes until its assessment is there and until it is saved. The people are played by this one
process, which takes a share of the same cores.
"""

from __future__ import annotations

import asyncio
import json
import random
import sys
import time
import uuid
from collections.abc import Sequence
from typing import Any

import psutil

from tests.support.designs import ROOT
from tests.support.live import Application

SECONDS = 20.0


class Line:
    """One kept-alive connection, as a browser has. Only what this measurement needs of HTTP."""

    def __init__(self, port: int) -> None:
        self._port = port

    async def open(self) -> None:
        self._reader, self._writer = await asyncio.open_connection("127.0.0.1", self._port)

    async def ask(self, method: str, path: str, body: bytes = b"") -> tuple[int, dict[str, str], bytes]:
        """Status, headers and body of the answer."""
        kind = "Content-Type: application/json\r\n" if body else ""
        head = f"{method} {path} HTTP/1.1\r\nHost: 127.0.0.1:{self._port}\r\n{kind}Content-Length: {len(body)}\r\n\r\n"
        self._writer.write(head.encode() + body)
        lines = (await self._reader.readuntil(b"\r\n\r\n")).decode().split("\r\n")
        headers = {
            name.lower(): value.strip() for name, _, value in (line.partition(":") for line in lines[1:] if line)
        }
        content = await self._reader.readexactly(int(headers.get("content-length", "0")))
        return int(lines[0].split()[1]), headers, content

    def close(self) -> None:
        self._writer.close()


class Person:
    """Edits a design of their own, once a second. `whole` sends the document a second time to save it."""

    def __init__(self, number: int, document: dict[str, Any], port: int, *, whole: bool = False) -> None:
        self._document = {**document, "name": f"Person {number}"}
        self._line = Line(port)
        self._whole = whole
        #: Seconds until the assessment, and until the save, of each edit.
        self.assessed_s: list[float] = []
        self.saved_s: list[float] = []
        self.errors: list[str] = []

    async def work(self, seconds: float) -> None:
        await self._line.open()
        status, _, content = await self._line.ask("POST", "/api/designs/import", json.dumps(self._document).encode())
        assert status == 201, content
        made = json.loads(content)
        revision, document, end = made["revision"], made["document"], time.monotonic() + seconds
        await asyncio.sleep(random.random())
        while (begun := time.monotonic()) < end:
            document["loads"][0]["running_w"] = round(random.uniform(50, 900), 3)
            body = json.dumps(document).encode()
            status, headers, content = await self._line.ask("POST", "/api/assessments", body)
            self._note(status, content)
            self.assessed_s.append(time.monotonic() - begun)
            query = f"expected_revision={revision}"
            if not self._whole:
                query, body = f"{query}&held={headers['held-as']}&key={uuid.uuid4()}", b""
            status, _, content = await self._line.ask("PUT", f"/api/designs/{made['id']}?{query}", body)
            self._note(status, content)
            self.saved_s.append(time.monotonic() - begun)
            revision = json.loads(content).get("revision", revision)
            await asyncio.sleep(max(0.0, 1 - (time.monotonic() - begun)))
        self._line.close()

    def _note(self, status: int, content: bytes) -> None:
        if status != 200:
            self.errors.append(f"{status} {content[:120]!r}")


async def measure(port: int, people: int, seconds: float, *, whole: bool = False) -> None:
    """Let people edit, and print what it came to."""
    document = json.loads((ROOT / "examples" / "birchrow-14.json").read_text())
    crowd = [Person(number, document, port, whole=whole) for number in range(people)]
    begun = psutil.cpu_times()
    await asyncio.gather(*(person.work(seconds) for person in crowd))
    spent = psutil.cpu_times()
    for name in ("assessed_s", "saved_s"):
        times = sorted(value for person in crowd for value in getattr(person, name))
        cuts = ", ".join(f"{label} {1000 * times[int(cut * (len(times) - 1))]:.0f}" for label, cut in CUTS)
        print(f"{people} people, edit {name.removesuffix('_s')} [ms]: {cuts}")
    edits = sum(len(person.saved_s) for person in crowd)
    errors = [error for person in crowd for error in person.errors]
    busy = 1 - (spent.idle - begun.idle) / (sum(spent) - sum(begun))
    print(f"  {edits / seconds:.1f} edits a second, {len(errors)} errors {errors[:2]}, processors {busy:.0%} busy")


CUTS = (("p50", 0.5), ("p95", 0.95), ("most", 1.0))


def main(arguments: Sequence[str]) -> int:
    """Start the application and let them in."""
    app = Application()
    app.start()
    try:
        asyncio.run(measure(app.port, 2, 3))
        for people in [int(argument) for argument in arguments] or [20, 50]:
            asyncio.run(measure(app.port, people, SECONDS))
    finally:
        app.remove()
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
