"""The package as somebody installs it: one file, no Node, screens in it."""

import json
import os
import socket
import subprocess
import sys
import sysconfig
import venv
import zipfile
from importlib.metadata import version
from pathlib import Path
from time import monotonic
from urllib.request import urlopen

import pytest

ROOT = Path(__file__).parents[2]
# A machine here may be slow; nobody waits longer.
_PATIENCE = 120


@pytest.fixture(scope="module")
def wheel(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """Built with what is here: nothing is fetched."""
    out = tmp_path_factory.mktemp("dist")
    build = [sys.executable, "-m", "pip", "wheel", "-q", "--no-deps", "--no-build-isolation", "--no-index"]
    # Built from a copy: two tests at a time must not meet in one folder.
    copy = tmp_path_factory.mktemp("source")
    for name in ("pyproject.toml", "setup.py", "src", "README.md"):
        (copy / name).symlink_to(ROOT / name)
    done = subprocess.run([*build, "-w", str(out), "."], cwd=copy, capture_output=True, text=True, timeout=_PATIENCE)
    assert done.returncode == 0, done.stderr
    [made] = out.glob("*.whl")
    return made


@pytest.mark.long
def test_the_package_has_its_screens_and_the_licences_of_what_it_carries(wheel: Path) -> None:
    names = zipfile.ZipFile(wheel).namelist()
    assert "valleywind/web/index.html" in names
    assert {"valleywind/formats/fonts/LICENSE", "valleywind/web/licences/scripts.md"} <= set(names)
    assert any(n.startswith("valleywind/web/licences/atkinson") for n in names)


@pytest.mark.long
def test_a_clean_environment_without_node_serves_and_plans_a_thread(wheel: Path, tmp_path: Path) -> None:
    home = tmp_path / "env"
    venv.create(home, with_pip=True)
    bin = home / "bin"
    install = [str(bin / "python"), "-m", "pip", "install", "-q", "--no-deps", "--no-index", str(wheel)]
    subprocess.run(install, check=True, timeout=_PATIENCE)
    # The packages that it needs are those of this environment; the program itself is the installed one.
    packages = Path(sysconfig.get_path("purelib"))
    site = next((home / "lib").glob("python*")) / "site-packages"
    borrowed = [p for p in packages.iterdir() if "valleywind" not in p.name]
    for package in borrowed:
        if not (site / package.name).exists():
            (site / package.name).symlink_to(package)
    alone = {"PATH": str(bin), "HOME": str(tmp_path), "PYTHONNOUSERSITE": "1"}
    assert not any((Path(p) / "node").exists() for p in alone["PATH"].split(os.pathsep))
    program = str(bin / "valleywind")
    result = subprocess.run([program, "--version"], env=alone, capture_output=True, text=True, timeout=_PATIENCE)
    assert result.stdout.strip() == version("valleywind")
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = str(free.getsockname()[1])
    command = [program, "serve", "--demo", "--data", str(tmp_path / "shop"), "--port", port]
    with subprocess.Popen(command, env=alone, cwd=tmp_path, stdout=subprocess.PIPE, text=True) as server:
        try:
            assert server.stdout is not None
            address = ""
            begun = monotonic()
            while not address and monotonic() - begun < _PATIENCE:
                line = server.stdout.readline()
                address = line.split("Ready: ")[1].split()[0] if "Ready: " in line else ""
            assert '<div id="root">' in urlopen(address, timeout=_PATIENCE).read().decode()
            plan = json.load(urlopen(f"{address}api/lathes/plover/plan?ask=M14x2", timeout=_PATIENCE))
            assert plan["candidates"][0]["fits"]
        finally:
            server.terminate()


def test_without_screens_no_package_is_built(tmp_path: Path) -> None:
    for name in ("pyproject.toml", "setup.py"):
        (tmp_path / name).write_text((ROOT / name).read_text())
    (tmp_path / "src" / "valleywind").mkdir(parents=True)
    (tmp_path / "src" / "valleywind" / "__init__.py").touch()
    done = subprocess.run(
        [sys.executable, "setup.py", "build_py"], cwd=tmp_path, capture_output=True, text=True, timeout=_PATIENCE
    )
    assert done.returncode != 0
    assert "Run `make dist`." in done.stderr
