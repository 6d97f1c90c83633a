"""The speed marks: medians, beside a plain brute force measured in the same run. `make bench`."""

import random
import shutil
import statistics
import tempfile
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from fractions import Fraction
from functools import partial
from itertools import combinations, count
from math import prod
from pathlib import Path
from urllib.parse import quote
from urllib.request import urlopen

import numpy as np
from fastapi.testclient import TestClient
from playwright.sync_api import Request, sync_playwright

from tests.browser.conftest import CHROMIUM_FLAGS
from tests.served import serving
from tests.slip_trials import named
from valleywind.api.app import make_app
from valleywind.core.dividing.plan import best_each as best_ways
from valleywind.core.helix import ask as helix
from valleywind.core.helix.chart import USUAL_ANGLES
from valleywind.core.helix.chart import asks as helix_asks
from valleywind.core.helix.chart import chart as helix_chart
from valleywind.core.helix.plan import drive_of
from valleywind.core.helix.plan import plan as helix_plan
from valleywind.core.hobbing import ask as hobbing
from valleywind.core.hobbing.chart import chart as hob_chart
from valleywind.core.hobbing.plan import plan as hob_plan
from valleywind.core.lathe.chart import List, chart, pitches
from valleywind.core.lathe.machine import Lathe
from valleywind.core.lathe.worth_making import bring
from valleywind.core.teeth.geometry import span, span_teeth
from valleywind.core.teeth.identify import TipMethod, WheelMeasures, identify, tip_reading
from valleywind.core.teeth.pitch import UNKNOWN_FAMILY, Pitch, PitchSystem, WheelFamily
from valleywind.core.trains import search as engine
from valleywind.core.trains.direction import Hand
from valleywind.core.trains.gearbox import Gearbox
from valleywind.core.trains.model import Stock
from valleywind.core.trains.quadrant import UnmeasuredQuadrant
from valleywind.core.trains.search import products, search
from valleywind.demo import harrowfold
from valleywind.shop import heads, hobbers, log, machines, mills, record_parts
from valleywind.shop.models import LogKind, LogRow
from valleywind.shop.rack import put_records
from valleywind.shop.store import open_store

TARGETS = [
    Fraction(60, 127),
    Fraction(24, 37),
    Fraction(3, 13),
    Fraction(355, 791),
    Fraction(5, 7),
    Fraction(311, 1000),
]
ASKS = ["M14x2", "26 tpi", "M6", "1.25 mm", "0.5 mm", "19 tpi", "M14x2 left", "0.04 mm", "module 1.5 worm", "feed 0.1"]
CHART = [List.METRIC, List.METRIC_FINE, List.PER_INCH, List.BA, List.BSF]


def median_ms(work: Callable[[], object], times: int = 9) -> float:
    spent = []
    for _ in range(times):
        start = time.perf_counter()
        work()
        spent.append((time.perf_counter() - start) * 1000)
    return statistics.median(spent)


def brute_force(target: Fraction, stock: Stock, stages: int, best: int) -> list[float]:
    """Every pair of products as one array, the plain way a spreadsheet would."""
    sides = [c for size in range(1, stages + 1) for c in combinations(sorted(stock), size)]
    values = np.array([prod(c) for c in sides], dtype=float)
    sizes = np.array([len(c) for c in sides])
    errors = np.abs(values[:, None] / values[None, :] / float(target) - 1)
    errors[sizes[:, None] != sizes[None, :]] = np.inf
    result: list[float] = []
    for place in np.argsort(errors, axis=None):
        i, j = divmod(int(place), len(sides))
        if not set(sides[i]) & set(sides[j]):
            result.append(float(errors[i, j]))
            if len(result) == best:
                break
    return result


def brute_force_ms(times: int = 3) -> float:
    """What the marks of asks and charts are set beside, on this machine at this time: a mark of an eighth is kept by
    what takes an eighth of it."""
    two = dict.fromkeys(range(20, 81), 1)
    return median_ms(partial(brute_force, TARGETS[0], two, 2, 20), times)


def row(name: str, ms: float, mark: float | None, beside: str = "") -> None:
    kept = "" if mark is None else ("kept" if ms <= mark else "MISSED")
    text = "" if mark is None else f"mark {mark:.4g} ms"
    print(f"{name:58} {ms:9.1f} ms   {text:14} {kept:7} {beside}")


def bench_search() -> None:
    two, three = dict.fromkeys(range(20, 81), 1), dict.fromkeys(range(20, 80), 1)
    products(two, 1), products(two, 2)
    runs = [median_ms(partial(search, target, two, (1, 2), 20), 5) for target in TARGETS]
    plain = median_ms(lambda: brute_force(TARGETS[0], two, 2, 20), 1)
    same = np.allclose(
        brute_force(TARGETS[0], two, 2, 20), [abs(float(f.error)) for f in search(TARGETS[0], two, (1, 2), 20)]
    )
    beside = f"brute force {plain:.0f} ms, {'the same trains' if same else 'OTHER TRAINS'}"
    row("best 20, 61 wheels, two stages", statistics.median(runs), 3, beside)

    def make_products() -> None:
        engine._products.cache_clear()
        products(three, 3)

    row("sorted products, 60 wheels, three stages", median_ms(make_products), 15)
    runs = [median_ms(partial(search, target, three, (3,), 20), 5) for target in TARGETS]
    row("best 20, 60 wheels, three stages", statistics.median(runs), 20, f"worst of {len(TARGETS)}: {max(runs):.0f} ms")
    small = dict.fromkeys(range(20, 32), 1)
    plain = median_ms(lambda: brute_force(TARGETS[0], small, 3, 20), 1)
    mine = median_ms(lambda: search(TARGETS[0], small, (1, 2, 3), 20))
    row("  the same with 12 wheels, for comparison", mine, None, f"brute force {plain:.0f} ms")


def bench_asks(rounds: int = 9) -> None:
    """Over loopback, from a server of its own, as a screen asks; the brute force before and after each machine's asks,
    for what else the machine does changes within a minute."""
    shares: dict[tuple[str, str], list[float]] = {}
    plain: dict[str, list[float]] = {}
    with serving("--demo") as address:
        for _ in range(rounds):
            for machine in ("plover", "curlew", "dunlin"):
                asks = {ask: f"{address}/api/lathes/{machine}/plan?ask={quote(ask)}" for ask in ASKS}
                before = brute_force_ms(1)
                runs = {ask: median_ms(lambda url=url: urlopen(url).read(), 3) for ask, url in asks.items()}  # type: ignore[misc]
                beside = (before + brute_force_ms(1)) / 2
                plain.setdefault(machine, []).append(beside)
                for ask, ms in runs.items():
                    shares.setdefault((machine, ask), []).append(ms / beside)
    for machine, every in plain.items():
        # Each beside the brute force of its own round.
        share = {ask: statistics.median(shares[machine, ask]) for ask in ASKS}
        usual, slowest = statistics.median(share.values()), max(ASKS, key=share.__getitem__)
        beside = statistics.median(every)
        text = f"brute force {beside:.0f} ms"
        row(f"an ask on {machine.capitalize()}", usual * beside, beside / 8, text)
        row("  its slowest ask", share[slowest] * beside, beside / 4, slowest)


def bench_charts() -> None:
    """A hundred pitches with layout, in the stretches in which a screen asks for them."""
    lines = [pitched for of in CHART for pitched in pitches(of)][:100]
    for name, machine in (
        ("Plover", harrowfold.plover()),
        ("Curlew", harrowfold.curlew()),
        ("Dunlin", harrowfold.dunlin()),
    ):
        lathe, stock = machines.lathe(machine), machines.stock(machine)

        def work(lathe: Lathe = lathe, stock: Stock = stock) -> None:
            for start in range(0, len(lines), 40):
                chart(lines[start : start + 40], lathe, stock)

        row(f"chart of {len(lines)} pitches on {name}", median_ms(work, 3), brute_force_ms())
        full = {**dict.fromkeys(range(20, 128), 1), **stock}
        row("  the same with a wheel of every count 20 to 127", median_ms(partial(work, lathe, full), 1), None)


def bench_advice() -> None:
    """Every count from 12 to 130 against forty pitches, as if all of them were lacking."""
    lines = [pitched for of in CHART for pitched in pitches(of)][:40]
    for machine in (harrowfold.plover(), harrowfold.curlew(), harrowfold.dunlin()):
        lathe, stock = machines.lathe(machine), machines.stock(machine)
        ms = median_ms(lambda lathe=lathe, stock=stock: list(bring(lines, lathe, stock, range(12, 131))), 1)  # type: ignore[misc]
        row(f"which wheel to make, 12 to 130 against 40, {lathe.name}", ms, 3 * brute_force_ms())


def bench_dividing() -> None:
    """Every count from 2 to 400 on Heron's head with its gears on its arm."""
    row_of = harrowfold.heron()
    assert record_parts.has(row_of, heads.HEAD)
    head, gears, arm = heads.head(row_of), machines.stock(row_of), heads.arm(row_of)

    def work() -> None:
        for start in range(2, 401, 20):
            best_ways(head, range(start, min(start + 20, 401)), gears, arm)

    row("dividing chart 2 to 400 on Heron", median_ms(work, 3), 1.2 * brute_force_ms())


SETS = {
    "module": ("0.8/20", "1/20", "1.25/20", "1.5/20", "2/20"),
    "dp": ("12/14.5", "16/14.5", "20/20", "24/20", "14/14.5"),
}


def bench_hobber() -> None:
    """On Avocet: an ask with every box laid out, a helix through three stages, a prime with three trains, the chart."""
    with tempfile.TemporaryDirectory() as folder:
        store = open_store(Path(folder) / "demo.sqlite")
        with store.session() as session:
            harrowfold.load(session)
        with store.reading() as session:
            known = machines.machine(session, "avocet")
            hobber, stock = hobbers.hobber(known), machines.stock(known)
        store.engine.dispose()
    for name, line, mark in (
        ("a spur ask on Avocet, every box laid out", "hob 60", 120),
        ("a helical ask, differential to three stages", "hob 31 m2 23.1° right face 40", 400),
        ("a prime made up by three trains", "hob 107 m2 face 20", 1000),
    ):
        need = hobbing.read(line).ask
        assert need is not None
        row(name, median_ms(partial(hob_plan, need, hobber, stock), 5), mark)
    bare = replace(hobber, boxes={box: Gearbox(UNKNOWN_FAMILY, UnmeasuredQuadrant()) for box in hobber.boxes})
    need = hobbing.read("hob 24 m2 30° left face 20").ask
    assert need is not None
    row("a helical ask where no box is measured", median_ms(partial(hob_plan, need, bare, stock), 5), 400)
    row("chart of counts 6 to 200 on Avocet", median_ms(partial(hob_chart, hobber, stock), 3), 1500)


def bench_mill() -> None:
    """On Heron: an ask with six ways of pairs, laid out; the chart of 49 counts at four angles."""
    row_of = harrowfold.heron()
    assert record_parts.has(row_of, heads.HEAD)
    drive, stock = drive_of(mills.mill(row_of), heads.head(row_of).ratio), machines.stock(row_of)
    for line in ("helix 24 m2 30° left face 20", "helix 24 dp12 45° right face 1 in"):
        need = helix.read(line).ask
        assert need is not None
        row(f"{line} on Heron, six ways laid out", median_ms(partial(helix_plan, need, drive, stock), 5), 200)
    m2 = Pitch(PitchSystem.MODULE, Fraction(2))
    leads = helix_asks(m2, range(12, 61), USUAL_ANGLES, Hand.LEFT)
    row("chart of 196 leads on Heron", median_ms(partial(helix_chart, leads, drive, stock), 3), 2000)


def bench_identify(count: int = 500) -> None:
    """How often a wheel is recognised by its tip diameter alone, and with one span: turned and worn as wheels are."""
    draw = random.Random(57)
    figures: dict[tuple[str, str], list[tuple[bool, bool]]] = {}
    for _ in range(count):
        system = draw.choice(list(SETS))
        value, angle = draw.choice(SETS[system]).split("/")
        pitch = Pitch(PitchSystem(system), Fraction(value))
        wheel = WheelFamily("", pitch, Fraction(angle), Fraction(0), Fraction(0), Fraction(0))
        z, worn = draw.randint(20, 90), draw.random() < 0.15
        low = draw.expovariate(1 / (0.2 if worn else 0.04)) - draw.gauss(0, 0.03)
        tip = tip_reading(z, wheel, TipMethod.CALIPER) - low
        over = span_teeth(z, wheel)
        measured = span(z, over, wheel) - abs(draw.gauss(0.05, 0.03)) + draw.gauss(0, 0.02)
        for what, spans in (("tip only", ()), ("tip and span", ((over, measured),))):
            result = identify([WheelMeasures(z, tip_diameter=tip, spans=spans, worn=worn)])
            figures.setdefault((system, what), []).append(
                (result[0].pitch == pitch, pitch in [i.pitch for i in result[:2]])
            )
    for (system, what), results in sorted(figures.items()):
        first, second = (sum(r[n] for r in results) / len(results) * 100 for n in (0, 1))
        name = f"recognised, {system}, {what}"
        print(f"{name:58} {first:6.1f} % first, {second:5.1f} % in the first two, of {len(results)}")


def bench_slips(count: int = 500) -> None:
    """How often a planted slip is named, measured with a caliper's scatter."""
    counts, first, three = named(count, seed=57)
    kept = "kept" if first >= 0.95 * counts and three >= 0.99 * counts else "MISSED"
    shares = f"{100 * first / counts:6.1f} % first, {100 * three / counts:5.1f} % among three, of {counts}"
    print(f"{'slips named (marks 95 and 99 %)':58} {shares}   {kept}")


def bench_writes(clients: int = 8, each: int = 10) -> None:
    """This many clients that write at once: the slowest answer."""
    with tempfile.TemporaryDirectory() as folder:
        store = open_store(Path(folder) / "shop.sqlite")
        with store.session() as session:
            harrowfold.load(session)
        with TestClient(make_app(store), base_url="http://127.0.0.1") as client, ThreadPoolExecutor(clients) as threads:
            family = client.get("/api/rack").json()["families"][0]["id"]
            counts = count(0)

            def write(_: int) -> float:
                # Of one tooth number no more are held than fit a shelf.
                pile = {"wheels": str(20 + next(counts) % 60), "family": family, "machine": "plover"}
                begun = time.perf_counter()
                assert client.post("/api/rack/wheels", json=pile).status_code == 200
                return 1000 * (time.perf_counter() - begun)

            taken = list(threads.map(write, range(clients * each)))
            few = median_ms(partial(write, 0), 31)
            bare = {"count": 1, "condition": "good", "material": "", "measured": {}, "shift": 0.0, "photo": ""}
            like = bare | {"family_id": family, "machine_id": None}
            many = [like | {"teeth": 20 + n % 60, "place": f"box {n % 50}", "note": f"n{n}"} for n in range(5000)]
            store.at_length(lambda session: put_records(session, many))
            row("a wheel added to a rack of 5,000", median_ms(partial(write, 0), 31), 1.5 * few, f"demo {few:.0f} ms")
        row(f"a write while {clients} write, the slowest of {clients * each}", max(taken), 500)


def bench_session(steps: int = 1000) -> None:
    """A step of a cutting session until it is acknowledged, on disk: the middle one and the slowest."""
    with tempfile.TemporaryDirectory() as folder:
        store = open_store(Path(folder) / "shop.sqlite")
        with store.session() as session:
            harrowfold.load(session)
        taken: list[float] = []
        with TestClient(make_app(store), base_url="http://127.0.0.1") as client:
            client.get("/api/jobs/1/session")
            while len(taken) < steps:
                # There and back: the demo's session never comes to its end.
                for kind in ("done", "back"):
                    body = {"key": f"bench-{len(taken):06}", "kind": kind}
                    begun = time.perf_counter()
                    assert client.post("/api/jobs/1/session/events", json=body).status_code == 200
                    taken.append(1000 * (time.perf_counter() - begun))
    row(f"a step acknowledged, the middle one of {steps}", statistics.median(taken), 15)
    row(f"a step acknowledged, the slowest of {steps}", max(taken), 60)


def bench_log(entries: int = 100_000) -> None:
    """A write and what is read of the log, where it is short and where it is long."""
    asks = [f"M{n % 40 + 3}x{n % 7 + 1}" for n in range(entries)]
    with tempfile.TemporaryDirectory() as folder:
        store = open_store(Path(folder) / "shop.sqlite")
        with store.session() as session:
            harrowfold.load(session, with_year=True)
            plover = machines.machine(session, "plover").id
        with TestClient(make_app(store), base_url="http://127.0.0.1") as client:
            done = {"machine": "plover", "ask": "M14x2", "outcome": "ran_free", "note": "spacer on the stud"}

            def write() -> None:
                assert client.post("/api/log/done", json=done).status_code == 201

            short = median_ms(write, 31)
            with store.adding() as session:
                for n, ask in enumerate(asks):
                    log.add(session, LogRow(
                        at=f"20{n % 26:02}-03-{n % 28 + 1:02}T09:00:00+00:00", kind=LogKind.DONE, machine="Plover",
                        machine_id=plover, ask=ask, train=f"{20 + n % 60}/{24 + n % 50}", note=f"piece {n}, winch",
                    ))  # fmt: skip
            row(f"an entry added to a log of {entries}", median_ms(write, 31), 1.5 * short, f"short {short:.0f} ms")
            wanted: list[tuple[str, str, dict[str, str | int]]] = [
                ("searched by two words", "", {"text": "spacer stud"}),
                ("searched by a word of every entry", "", {"text": "winch"}),
                ("of one wheel and machine", "", {"teeth": 66, "machine": "plover"}),
                ("of a month", "", {"since": "2003-03-01", "until": "2003-03-31"}),
                ("last time for an ask", "/last", {"machine": "plover", "ask": "M14x2"}),
                ("the newest", "", {}),
            ]
            for name, place, query in wanted:
                work = partial(client.get, f"/api/log{place}", params=query)
                row(f"the log, {name}", median_ms(work, 11), 50)
            row("today", median_ms(partial(client.get, "/api/log/today"), 11), 50)
            row("a machine’s book", median_ms(partial(client.get, "/api/log/book/plover"), 5), 200)


def bench_day() -> None:
    """Ten things to be done on each machine of the demo shop, put into order."""
    threads = ["M14x2", "1.25 mm", "M10", "20 tpi", "0.75 mm", "11 tpi", "M6", "M24x3", "26 tpi", "feed 0.1"]
    asks = [f"{ask} on {lathe}" for lathe in ("Plover", "Dunlin") for ask in threads]
    asks += [f"hob {teeth} m2" for teeth in (37, 24, 41, 53, 60, 17, 29, 31, 43, 47)]
    asks += [f"helix {teeth} m2 {angle}° left" for teeth, angle in zip(range(18, 38, 2), range(12, 42, 3), strict=True)]
    with tempfile.TemporaryDirectory() as folder:
        store = open_store(Path(folder) / "shop.sqlite")
        with store.session() as session:
            harrowfold.load(session)
        with TestClient(make_app(store), base_url="http://127.0.0.1") as client:
            assert client.post("/api/day", json={"asks": asks}).status_code == 201
            for name in ("plover", "dunlin", "avocet", "heron"):
                result = partial(client.get, f"/api/day/machines/{name}")
                row(f"ten asks on {name} in order", median_ms(result, 3), 2000)


def _keep(fetched: list[Request], request: Request) -> None:
    fetched.append(request)


def bench_first_screen() -> None:
    """The scripts that a browser is sent until a lathe's first plan is drawn and its sheet can be printed."""
    with serving("--demo") as address, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium"), args=CHROMIUM_FLAGS)
        for coding in ("br", "gzip"):
            page = browser.new_page(extra_http_headers={"Accept-Encoding": coding})
            fetched: list[Request] = []
            page.on("requestfinished", partial(_keep, fetched))
            page.goto(f"{address}/lathe/plover?ask=M14x2")
            page.get_by_role("region", name="Set-up sheet").get_by_role("button", name="Print").wait_for()
            scripts = [request for request in fetched if request.resource_type == "script"]
            size = sum(request.sizes()["responseBodySize"] for request in scripts) / 1000
            kept = "kept" if size <= 180 else "MISSED"
            # Browsers take br from their own machine; from another one, not encrypted, only gzip.
            mark = f"   mark 180 kB    {kept}" if coding == "br" else ""
            name = f"script of the first screen, {len(scripts)} files, {coding}"
            print(f"{name:58} {size:9.0f} kB{mark}")
        browser.close()


if __name__ == "__main__":
    bench_search()
    bench_asks()
    bench_charts()
    bench_advice()
    bench_dividing()
    bench_hobber()
    bench_mill()
    bench_session()
    bench_log()
    bench_day()
    bench_identify()
    bench_slips()
    bench_writes()
    bench_first_screen()
