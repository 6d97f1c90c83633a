import json
import subprocess
import sys
from fractions import Fraction
from importlib.metadata import version
from pathlib import Path
from typing import Any

import pytest

from tests.commands import run
from tests.reference import cases


def test_the_installed_program_is_these_commands() -> None:
    words = ("search", "--target", "60/127", "--stock", "24-28,127,60")
    program = str(Path(sys.executable).with_name("valleywind"))
    installed = subprocess.run([program, *words], capture_output=True, text=True, timeout=60, check=True)
    assert installed.stdout == run(*words).stdout != ""


@pytest.mark.parametrize("case", [cases("trains")[0], cases("trains")[-1]], ids=lambda c: c["why"])
def test_search_prints_the_closest_trains(case: dict) -> None:  # type: ignore[type-arg]
    stock = ",".join(f"{t}x{n}" if n > 1 else t for t, n in case["stock"].items())
    stages = ",".join(map(str, case["stages"]))
    done = run("search", "--target", case["target"], "--stock", stock, "--stages", stages, "--best", "10", "--json")
    assert (done.returncode, done.stderr) == (0, "")
    answer = json.loads(done.stdout)
    assert answer["target"] == case["target"]
    errors = [abs(c["relative_error"]) for c in answer["candidates"]]
    assert errors == pytest.approx(case["ten_smallest_relative_errors"], rel=1e-12)
    for candidate in answer["candidates"]:
        assert list(candidate) == ["drivers", "driven", "ratio", "relative_error"]
        assert candidate["drivers"] == sorted(candidate["drivers"])
        signed = Fraction(candidate["ratio"]) / Fraction(case["target"]) - 1
        assert candidate["relative_error"] == pytest.approx(float(signed), rel=1e-12)


def test_lathe_prints_leads() -> None:
    stock = "24,28,32,36,40,44,48,52,56,60,64,66,68,72,76,78,80,96"
    done = run(
        "lathe", "--lead", "2 mm", "--screw", "6 tpi", "--first-ratio", "1", "--stock", stock, "--best", "3", "--json"
    )
    answer = json.loads(done.stdout)
    assert answer["target"] == "60/127"
    assert answer["candidates"][0]["lead_mm"] == pytest.approx(float(Fraction(608, 1287) * Fraction(254, 60)))
    table = run(
        "lathe", "--lead", "26 tpi", "--screw", "1.5 mm", "--first-ratio", "1/2", "--stock", "33,35,57,70"
    ).stdout
    assert " ".join(table.splitlines()[1].split()) == "35 × 70 / 33 × 57 2450/1881 −0.00502 % 0.97687 mm 26.0013 tpi"


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("search", "--target", "60/127", "--stock", "24,4O"), "--stock: “4O” is not a tooth number."),
        (("search", "--target", "nothing", "--stock", "24"), "--target: “nothing” is not a number."),
        (("search", "--target", "1/2", "--stock", "24,48", "--stages", "4"), "--stages: A train of 4 stages"),
        (("search", "--target", "1/2", "--stock", "24,48", "--first", "30"), "--first: There is no 30"),
        (("lathe", "--lead", "2", "--screw", "6 tpi", "--stock", "24"), "--lead: “2” has no unit."),
        (("lathe", "--lead", "M13", "--screw", "6 tpi", "--stock", "24"), "--lead: M13 is not a coarse size"),
        (("lathe", "--lead", "2 mm", "--screw", "6 tpi", "--first-ratio", "0", "--stock", "24"), "--first-ratio: "),
        (("search", "--target", "1/2"), "Missing option '--stock'"),
        (("wheel", "--teeth", "57"), "--dp: One pitch is wanted"),
        (("wheel", "--teeth", "8", "--module", "1", "--shift", "1.1"), "--shift: With this shift"),
        (("divide", "--divisions", "57", "--ratio", "0", "--circles", "19"), "--ratio: “0” is not a worm ratio."),
        (("divide", "--divisions", "57", "--ratio", "40"), "--circles: "),
    ],
)
def test_errors_go_to_stderr_with_exit_2(words: tuple[str, ...], says: str) -> None:
    done = run(*words, "--json")
    assert (done.returncode, done.stdout) == (2, "")
    assert says in done.stderr


def test_identify_tells_pitches_with_their_probabilities() -> None:
    answer = json.loads(run("identify", "--teeth", "46", "--tip-diameter", "2.4 in", "--json").stdout)["candidates"]
    assert list(answer[0]) == ["system", "value", "pressure_angle", "addendum", "shift", "fits", "sure", "probability"]
    assert (answer[0]["system"], answer[0]["value"], answer[0]["pressure_angle"], answer[0]["addendum"]) == (
        "dp",
        "20",
        None,
        1,
    )
    assert answer[0]["probability"] > 0.9
    spans = ("--span-teeth", "5", "--span", "17.42", "--span-next", "21.15")
    angled = json.loads(run("identify", "--teeth", "46", "--tip-diameter", "60.9", *spans, "--json").stdout)[
        "candidates"
    ]
    assert (angled[0]["value"], angled[0]["pressure_angle"]) == ("20", 20)
    grouped = json.loads(run("identify", "--wheel", "46:60.96", "--wheel", "30:40.6", "--json").stdout)["candidates"]
    assert grouped[0]["value"] == "20"


@pytest.mark.parametrize(
    ("words", "sentences"),
    [(("--teeth", "46"), "Nothing was measured"), (("--wheel", "46-60"), "--wheel: “46-60”"),
     (("--teeth", "46", "--tip-diameter", "big"), "--tip-diameter: “big” is not a number.")],
)  # fmt: skip
def test_identify_names_what_it_cannot_use(words: tuple[str, ...], sentences: str) -> None:
    done = run("identify", *words)
    assert done.returncode == 2
    assert sentences in done.stderr


@pytest.mark.parametrize("case", [cases("tooth")[5], cases("tooth")[6]], ids=lambda c: str(c["teeth"]))
def test_wheel_meets_the_reference(case: dict[str, Any]) -> None:
    [(system, value)] = case["pitch"].items()
    options = ("--teeth", str(case["teeth"]), f"--{system}", value, "--angle", str(case["pressure_angle_deg"]))
    done = run("wheel", *options, "--shift", str(case["profile_shift"]), "--depth", "2.157/P", "--json")
    answer = json.loads(done.stdout)
    assert answer["whole_depth"] == pytest.approx(case["whole_depth"]["2.157/P"], abs=0.0005)
    for field in ("tip_diameter", "pitch_diameter", "span_teeth", "span", "pin_diameter", "over_pins"):
        assert answer[field] == pytest.approx(case[field], abs=0.0005)
    assert answer["cutter"]["inch_number"] + answer["cutter"]["metric_number"] == 9


def test_divide_meets_the_reference() -> None:
    case = cases("dividing_differential")[3]
    gears = ",".join(f"{t}x{n}" for t, n in case["stock"].items())
    options = ("--divisions", str(case["divisions"]), "--ratio", str(case["worm_ratio"]), "--gears", gears)
    answer = json.loads(run("divide", *options, "--circles", ",".join(map(str, case["circles"])), "--json").stdout)
    ways = [w for w in answer["ways"] if w["way"] == "differential"]
    for way in ways:
        del way["way"], way["best_train"]
    assert sorted(ways, key=lambda w: w["indexed_as"]) == case["settings"]


WHEELS = "24-30,32-42,44-48,50-65,70,75,80,90,100"


@pytest.mark.parametrize("case", [c for c in cases("hobbing_index") if c["teeth"] in (6, 37, 61, 74, 107)], ids=str)
def test_hob_counts_exact_trains(case: dict[str, Any]) -> None:
    answer = json.loads(
        run("hob", "--teeth", str(case["teeth"]), "--constant", str(case["constant"]), "--starts", str(case["starts"]),
            "--stock", WHEELS, "--json").stdout
    )  # fmt: skip
    assert {k: answer[k] for k in ("ratio", "two_wheels", "four_wheels")} == {
        k: case[k] for k in ("ratio", "two_wheels", "four_wheels")
    }
    assert len(answer["trains"]) == case["two_wheels"] + case["four_wheels"]
    assert "primes" not in answer


@pytest.mark.parametrize("case", cases("hobbing_helical")[:2], ids=lambda c: str(c["teeth"]))
def test_hob_meets_the_helical_reference(case: dict[str, Any]) -> None:
    wheels = "24 25 27 30 32 34 37 40 41 45 47 48 51 53 57 60 64 71 75 80"
    done = run(
        "hob", "--teeth", str(case["teeth"]), "--constant", "24", "--stock", wheels, "--module", str(case["module"]),
        "--helix", str(case["helix_deg"]), "--face", str(case["face"]), "--feed", str(case["feed"]),
        "--differential", "25/pi mm", "--stages", "2", "--best", "10", "--json",
    )  # fmt: skip
    answer = json.loads(done.stdout)
    assert answer["lead"] == pytest.approx(case["lead"], abs=5e-7)
    assert answer["differential"]["ratio"] == pytest.approx(case["differential_ratio"])
    errors = [abs(c["relative_error"]) for c in answer["differential"]["candidates"]]
    assert errors == pytest.approx(case["ten_smallest_relative_errors"], rel=1e-9)
    assert answer["differential"]["candidates"][0]["run_off_um"] == pytest.approx(case["run_off_um_at_best"])
    for way in ("faster", "slower"):
        without = answer["without_differential"][way]
        assert without["ratio"] == pytest.approx(case["index_without_differential"][way])


def test_hob_meets_the_prime_reference() -> None:
    known = [c for c in cases("hobbing_prime") if c["teeth"] == 107]
    words = ("hob", "--teeth", "107", "--constant", "48", "--stock", WHEELS, "--feed-constant", "3/4", "--differential",
             "25/pi mm", "--json")  # fmt: skip
    answer = json.loads(run(*words, "--best", "8").stdout)["primes"]
    assert answer == [
        {k: str(Fraction(c[k])) if isinstance(c[k], str) else c[k]
         for k in ("indexed_as", "index_trains", "differential_times_feed")} for c in known
    ]  # fmt: skip
    whole = json.loads(run(*words, "--as", "103:111").stdout)["primes"]
    assert [w["indexed_as"] for w in whole] == [f"{n}/1" for n in range(103, 112) if n != 107]


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("--teeth", "37.5"), "--teeth: “37.5” is not a whole number."),
        (("--constant", "0"), "--constant: “0” is not above zero."),
        (("--stock", "65-24"), "--stock: “65-24” runs backwards."),
        (("--helix", "90", "--module", "2"), "--helix: A helix of 90° cannot be cut."),
        (("--helix", "20"), "--module:"),
        (("--helix", "20", "--module", "2", "--feed", "0"), "--feed: “0” is not above zero."),
    ],
)
def test_hob_names_what_it_cannot_use(words: tuple[str, ...], says: str) -> None:
    usual = {"--teeth": "37", "--constant": "24", "--stock": "24-65"}
    options = usual | dict(zip(words[::2], words[1::2], strict=True))
    done = run("hob", *[w for pair in options.items() for w in pair])
    assert done.returncode == 2
    assert done.stderr.startswith(says)


def test_a_hob_travels_as_far_as_a_tilted_one_must() -> None:
    words = ("hob", "--teeth", "24", "--constant", "24", "--stock", "24-65", "--module", "2", "--helix", "30", "--hand",
             "left", "--face", "20", "--hob-diameter", "63", "--json")  # fmt: skip
    answer = json.loads(run(*words).stdout)["travel"]
    assert answer["approach"] == pytest.approx(21.785, abs=1e-3)
    assert (answer["overrun"], answer["face"]) == (pytest.approx(3.4343, abs=1e-4), 20)
    assert answer["total"] == pytest.approx(answer["approach"] + 20 + answer["overrun"])


def test_a_helical_wheel_is_measured_over_rollers_and_over_balls() -> None:
    words = ("wheel", "--teeth", "29", "--module", "2", "--helix", "22", "--hand", "left")
    answer = json.loads(run(*words, "--face", "20", "--json").stdout)
    assert (answer["over_rollers"], answer["over_balls"], answer["pin"]) == (67.39158, 67.29782, 3.456)
    assert (answer["span_teeth"], answer["span"]) == (4, 21.67229)
    narrow = json.loads(run(*words, "--face", "4", "--json").stdout)
    assert (narrow["span_teeth"], narrow["span"]) == (None, None)


def test_the_version_is_told() -> None:
    assert run("--version").stdout.strip() == version("valleywind")


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (("nothing",), "No such command 'nothing'. See valleywind --help."),
        (
            ("wheel", "--teeth", "x", "--module", "2"),
            "--teeth: This is not a whole number. See valleywind wheel",
        ),
        (("device", "pedal", "--port", "9"), "Nothing listens at port 9."),
        (("serve", "--port", "99999"), "There is no port 99999."),
        (("plate",), "Missing argument"),
    ],
)
def test_every_wrong_use_is_one_sentence_and_exit_2(words: tuple[str, ...], says: str, tmp_path: Path) -> None:
    folder = tmp_path / "new" / "shop"
    more = ("--data", str(folder)) if words[0] == "serve" else ()
    done = run(*words, *more)
    assert (done.returncode, done.stdout) == (2, "")
    assert done.stderr.startswith(says)
    assert len(done.stderr.strip().splitlines()) == 1
    # Nothing was served: nothing is left behind.
    assert list(tmp_path.iterdir()) == []


def test_the_best_are_as_many_as_are_wanted_and_what_is_not_used_is_said() -> None:
    done = run("hob", "--teeth", "37", "--constant", "24", "--stock", "24-65", "--best", "2", "--module", "2")
    assert len(done.stdout.splitlines()) == 3
    assert done.stderr == "--module is not used without --helix.\n"


STOCK = ("--stock", "24-65,70,75")


@pytest.mark.parametrize(
    ("words", "target", "lengths"),
    [
        (("hob", "--teeth", "37", "--constant", "24", *STOCK), "24/37", ()),
        (("hob", "--teeth", "37", "--constant", "24", *STOCK, "--module", "2", "--helix", "20", "--feed", "1",
          "--hob-diameter", "63"), "24/37", ("lead", "travel")),
        (("helix", "--lead", "300 mm", "--screw", "6 mm", "--ratio", "60", "--pairs", "2,10,40", *STOCK), "6/5",
         ("lead",)),
        (("divide", "--divisions", "127", "--ratio", "40", "--circles", "15,18"), "1/127", ()),
        (("wheel", "--teeth", "57", "--dp", "12"), None, ("tip_diameter", "span", "over_pins", "chordal_addendum")),
        (("wheel", "--teeth", "29", "--module", "2", "--helix", "22"), None, ("lead", "over_balls", "pin")),
    ],
)  # fmt: skip
def test_every_command_says_the_same_under_the_same_name(
    words: tuple[str, ...], target: str | None, lengths: tuple[str, ...]
) -> None:
    answer = json.loads(run(*words, "--json").stdout)
    assert answer.get("target") == target
    assert {name: answer[f"{name}_mm"] for name in lengths} == {name: answer[name] for name in lengths}
    for candidate in answer.get("candidates", []):
        assert {"drivers", "driven", "relative_error"} <= set(candidate)
