"""The stand-ins in a thread of this process, on ports that are free; where their house stands it is evening."""

from __future__ import annotations

import asyncio
import contextlib
import json
import threading

import httpx

from hearthkeep.core.design import read_design
from hearthkeep.standins.running import StandIns, Wanted
from tests.support.designs import ROOT, in_the_evening


class Standing:
    """Serve while the context lasts."""

    def __init__(self, name, *, since_h=0.0, speed=1.0):
        document = json.loads((ROOT / "examples" / f"{name}.json").read_text())
        design = read_design(in_the_evening(document))
        self.stand_ins = StandIns(
            Wanted(design=design, since_h=since_h, speed=speed, http_port=0, modbus_port=0, smtp_port=0)
        )
        self._ready = threading.Event()
        self._loop = asyncio.new_event_loop()
        self._thread = threading.Thread(target=self._run, daemon=True)

    def __enter__(self):
        self._thread.start()
        assert self._ready.wait(30)
        self.state = self.stand_ins.state().model_dump(mode="json")
        return self

    def __exit__(self, *_):
        self._loop.call_soon_threadsafe(self._task.cancel)
        self._thread.join(10)

    @property
    def base(self):
        return self.stand_ins.base

    def unit(self, kind):
        return next(each["unit"] for each in self.state["devices"] if each["kind"] == kind)

    def switch(self, device, fault, on):
        httpx.post(f"{self.base}/fault", json={"device": device, "fault": fault, "on": on}).raise_for_status()

    def _run(self):
        asyncio.set_event_loop(self._loop)
        self._task = self._loop.create_task(self.stand_ins.run(lambda _: self._ready.set()))
        with contextlib.suppress(asyncio.CancelledError):
            self._loop.run_until_complete(self._task)
        self._loop.close()
