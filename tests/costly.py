"""The costliest question of each route, found by a search over sizes: `make costly`."""

import random
import sys
import tempfile
import time
from collections.abc import Mapping, Sequence
from pathlib import Path

from fastapi import FastAPI
from fastapi.testclient import TestClient

from valleywind.api import bounds
from valleywind.api.app import make_app
from valleywind.demo import harrowfold
from valleywind.shop.machines import MOST_SIZES
from valleywind.shop.store import open_store

_PLANS = ("lathes/plover", "lathes/dunlin", "lathes/curlew", "hobbers/avocet", "mills/heron")
_ASKS: Mapping[str, Sequence[str]] = {
    "lathes": ("feed 0.0005", "M14x2", "module {m} worm", "feed {x} mm/rev", "{n} tpi", "DP {n} worm", "{x} mm"),
    "hobbers": (
        "hob {t}", "hob {t} m{m} {a}° left face 20", "hob {t} m{m} {a}° right face 200 hob dia 63 2 starts",
        "hob {t} m{m} {a}° left face 20 with {n}",
    ),
    "mills": (
        "helix {t} m{m} {a}° left face 20", "lead {x} mm", "helix {t} m{m} {a}° right face 20 with {n}",
        "flutes {n} lead {x} mm dia 30",
    ),
}  # fmt: skip
_CHARTS: Mapping[str, str] = {
    "lathes": "list=metric&list=ba&list=bsf&count=200", "hobbers": "first=13&last=212",
    "mills": "first=12&last=60&pitch=m{m}&angles=15 20 30 45",
}  # fmt: skip
# Over the bound an exception is raised at the next look, and heard where the processor comes back from a long sum.
_MARGIN = 0.5


def wheels(draw: random.Random) -> list[int]:
    """A set of any density, of 6 to 148 different wheels."""
    many = draw.choice((6, 12, 30, 61, 100, MOST_SIZES))
    match draw.randrange(4):
        case 0:
            first = draw.randint(20, 60)
            return list(range(first, first + many))
        case 1:
            return list(range(20, min(400, 20 + 2 * many), 2))
        case 2:
            primes = [n for n in range(13, 400) if all(n % k for k in range(2, int(n**0.5) + 1))]
            return primes[:many]
    return sorted(draw.sample(range(12, 400), many))


def question(draw: random.Random, machine: str) -> list[tuple[str, str]]:
    """One of each route for a machine: its path, and what is asked."""
    figures = {
        "m": draw.choice((1, 1.25, 1.5, 2, 3)), "x": round(draw.uniform(0.2, 400), 3), "n": draw.randint(12, 97),
        "t": draw.randint(13, 397), "a": round(draw.uniform(2, 60), 2),
    }  # fmt: skip
    kind = machine.partition("/")[0]
    ask = f"ask={draw.choice(_ASKS[kind]).format(**figures)}"
    chart = _CHARTS[kind].format(**figures)
    worth = "list=metric&list=ba&list=unc" if kind == "lathes" else chart
    queries = [(f"{machine}/plan", ask), (f"{machine}/chart", chart), (f"{machine}/worth", worth)]
    return [*queries, (f"{machine}/slower", ask)] if kind == "lathes" else queries


class _Used:
    """Processor time of the questions that were asked."""

    def __init__(self) -> None:
        self.last = 0.0
        real = bounds._leave

        def leave(one: bounds._Question) -> None:
            self.last = max(self.last, one.used())
            real(one)

        bounds._leave = leave


def search(app: FastAPI, tries: int, draw: random.Random) -> dict[str, tuple[float, int, str]]:
    """Of each route what its costliest question used, s of the processor, how it ended, and what it was."""
    costliest: dict[str, tuple[float, int, str]] = {}
    used = _Used()
    with TestClient(app, base_url="http://127.0.0.1") as client:
        for _ in range(tries):
            held = wheels(draw)
            for machine in _PLANS:
                name = machine.partition("/")[2]
                client.put(f"/api/machines/{name}/wheels", json={"wheels": " ".join(map(str, held))})
                for path, query in [*question(draw, machine), ("dividing/heron/chart", "first=2&last=400")]:
                    used.last, begun = 0.0, time.process_time()
                    status = client.get(f"/api/{path}?{query}").status_code
                    took = max(used.last, time.process_time() - begun if not used.last else 0.0)
                    if took > costliest.get(path, (0.0,))[0]:
                        costliest[path] = (took, status, f"{query} with {len(held)} wheels from {held[0]}")
    return costliest


def main(tries: int, seed: int) -> int:
    with tempfile.TemporaryDirectory() as folder:
        store = open_store(Path(folder) / "shop.sqlite")
        with store.session() as session:
            harrowfold.load(session)
            for on in ("mounted", "box_mounted"):  # nothing on a machine holds back its wheels
                session.connection().exec_driver_sql(f"DELETE FROM {on}")
        result = search(make_app(store, demo=True), tries, random.Random(seed))
        store.engine.dispose()
    for path, (took, status, query) in sorted(result.items(), key=lambda one: -one[1][0]):
        print(f"{took:5.2f} s  {status}  {path:24} {query}")
    over = [path for path, (took, _, _) in result.items() if took > bounds.MOST_SECONDS + _MARGIN]
    print(f"{len(result)} routes, {len(over)} over the bound of {bounds.MOST_SECONDS:g} s {' '.join(over)}")
    return bool(over)


if __name__ == "__main__":
    sys.exit(main(*map(int, (*sys.argv[1:], *("30", "5")[len(sys.argv) - 1 :]))))
