"""What the documents say holds: commands give what stands there, examples are understood, links lead somewhere."""

import json
import re
import shlex
from pathlib import Path

import pytest

from tests.commands import run
from valleywind.app.reading import read_line
from valleywind.core.making.devices import Sort, read_hello
from valleywind.core.making.devices import read_line as read_device_line
from valleywind.wording.numbers import Units

ROOT = Path(__file__).parent.parent.parent
README = (ROOT / "README.md").read_text()
NAMED = [ROOT / name for name in ("README.md", "CONTRIBUTING.md", "CHANGELOG.md")]
DOCUMENTS = NAMED + sorted((ROOT / "docs").glob("*.md"))
TARGETS = set(re.findall(r"^([a-z-]+):", (ROOT / "Makefile").read_text(), re.MULTILINE))
# Commands of the README that only answer, each with what it says there.
COMMANDS = re.findall(r"^    valleywind (.+ --json)\n((?:    .+\n)*)", README, re.MULTILINE)


def plain(text: str) -> str:
    return re.sub(r"\s+", "", text)


@pytest.mark.parametrize(("words", "shown"), COMMANDS, ids=[words.split()[0] for words, _ in COMMANDS])
def test_a_command_answers_as_the_readme_shows(words: str, shown: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.chdir(ROOT)
    done = run(*shlex.split(words))
    assert (done.returncode, done.stderr) == (0, "")
    json.loads(done.stdout)
    # What is left out is `…`.
    wanted = ".*".join(map(re.escape, plain(shown).split("…")))
    assert re.fullmatch(wanted, plain(done.stdout)) or not shown, done.stdout


def test_the_readme_shows_what_most_commands_answer() -> None:
    assert len(COMMANDS) >= 8
    assert sum(bool(shown) for _, shown in COMMANDS) >= 7


# Examples stand behind the word that tells that they are typed in the ask line.
ASKS = [
    ask
    for said in re.findall(r"(?:Ask|Type) ((?:`[^`]+`(?:,| or)?\s+)*`[^`]+`)", README)
    for ask in re.findall(r"`([^`]+)`", said)
]


@pytest.mark.parametrize("ask", ASKS)
def test_an_example_is_understood(ask: str) -> None:
    reading = read_line(ask, None, Units.MM)
    assert reading.whole, reading


def test_there_are_examples_of_every_kind() -> None:
    assert len(ASKS) >= 18
    assert {read_line(ask, None, Units.MM).station for ask in ASKS} == {
        "lathe", "hobber", "mill", "wheel", "dividing", "jobs",
    }  # fmt: skip


@pytest.mark.parametrize("document", DOCUMENTS, ids=lambda d: d.name)
def test_links_and_make_targets_exist(document: Path) -> None:
    text = document.read_text()
    links = [link for link in re.findall(r"\]\(([^)#]+?)(?:#[^)]*)?\)", text) if "://" not in link]
    assert [link for link in links if not (document.parent / link).exists()] == []
    assert set(re.findall(r"(?:`|^    )make ([a-z-]+)", text, re.MULTILINE)) <= TARGETS


def test_every_picture_is_shown_in_the_readme() -> None:
    pictures = {f"docs/screenshots/{path.name}" for path in (ROOT / "docs/screenshots").glob("*.png")}
    assert pictures == set(re.findall(r"\((docs/screenshots/[^)]+)\)", README))
    assert len(pictures) < 20


def test_the_api_has_the_addresses_that_the_readme_names() -> None:
    paths = json.loads((ROOT / "docs/openapi.json").read_text())["paths"]
    known = [re.compile(re.sub(r"\{[^}]+\}", "[^/]+", path)) for path in [*paths, "/api/openapi.json", "/api/docs"]]
    named = {path.split("?")[0] for path in re.findall(r"(/api/[\w./{}-]+)", README)}
    assert named
    assert [path for path in named if not any(one.fullmatch(path) for one in known)] == []


DEVICES = (ROOT / "docs/devices.md").read_text()
LINES = [
    (sort, json.loads(line))
    for sort, cell in re.findall(r"^\| `(\w+)` \| (.+?) \|", DEVICES, re.MULTILINE)
    for line in re.findall(r"`(\{.+?\})`", cell)
]


def test_a_device_may_say_what_the_document_shows() -> None:
    hello = read_hello(json.loads(re.search(r'^    (\{"hello".+)$', DEVICES, re.MULTILINE)[1]))  # type: ignore[index]
    assert (hello.sort, hello.name) == ("encoder", "crank")
    assert {sort for sort, _ in LINES} == set(Sort)
    for sort, line in LINES:
        assert read_device_line(Sort(sort), line) == next(iter(line.values()))


def test_a_button_bears_no_word_that_the_list_of_words_rules_out() -> None:
    table = [line.split("|") for line in (ROOT / "docs/words.md").read_text().splitlines() if line.startswith("| ")]
    ruled_out = {word.strip() for row in table[1:] for word in re.sub(r"\(.*?\)", "", row[3]).split(",")} - {""}
    assert {"enter", "keep", "take out"} <= ruled_out
    pages = (path.read_text() for path in (ROOT / "frontend/src").rglob("*.tsx"))
    buttons = {label.strip().lower() for page in pages for label in re.findall(r">\s*([A-Z][\w ]+?)\s*</Button>", page)}
    assert len(buttons) > 30
    assert buttons & ruled_out == {"leave"}, "said of a page, not of a record"
