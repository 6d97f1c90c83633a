"""Who is at a cutting session."""

from fastapi.testclient import TestClient

from valleywind.app.events import Events
from valleywind.app.presence import Presence

DESK, TABLET, PHONE = ("a" * 32, "b" * 32, "c" * 32)


def test_whoever_comes_second_sees_the_first() -> None:
    now = 1000.0
    presence = Presence(Events(), lambda: now)
    assert presence.here(DESK, 1, "desk", "1") == []
    now = 1010.0
    assert [(one.name, one.since) for one in presence.here(TABLET, 1, "tablet", "2")] == [("desk", 1000.0)]
    assert presence.here(PHONE, 2, "phone", "3") == []
    now = 1030.0
    assert [(one.name, one.since) for one in presence.here(DESK, 1, "desk", "1")] == [("tablet", 1010.0)]
    # A page that says nothing any more is gone; one that goes on to another session is not at the first.
    now = 1065.0
    assert presence.here(DESK, 1, "desk", "1") == []
    presence.here(TABLET, 1, "tablet", "2")
    presence.here(TABLET, 2, "tablet", "2")
    assert presence.here(DESK, 1, "desk", "1") == []
    # Nobody says that somebody else's page is gone.
    presence.here(TABLET, 1, "tablet", "2")
    presence.gone(TABLET, "3")
    assert [one.name for one in presence.here(DESK, 1, "desk", "1")] == ["tablet"]
    presence.gone(TABLET, "2")
    assert presence.here(DESK, 1, "desk", "1") == []


def test_what_is_overtaken_by_the_leaving_is_not_heard() -> None:
    presence = Presence(Events(), lambda: 1.0)
    presence.here(DESK, 1, "desk", "1", 0)
    presence.here(TABLET, 1, "tablet", "2", 0)
    presence.gone(TABLET, "2", 2)
    # Said before the good-bye, and come after it.
    presence.here(TABLET, 1, "tablet", "2", 1)
    assert presence.here(DESK, 1, "desk", "1", 1) == []
    # It comes back.
    presence.here(TABLET, 1, "tablet", "2", 3)
    assert [one.name for one in presence.here(DESK, 1, "desk", "1", 2)] == ["tablet"]


def test_pages_are_bounded() -> None:
    presence = Presence(Events(), lambda: 1.0)
    for page in range(300):
        presence.here(f"{page:032x}", 1, "page", "1")
    assert len(presence.here("f" * 32, 1, "page", "1")) == 200


def test_a_page_is_told_of_the_others(demo: TestClient) -> None:
    assert demo.post("/api/presence", json={"page": DESK, "session": 1}).json() == []
    (other,) = demo.post("/api/presence", json={"page": TABLET, "session": 1}).json()
    assert other["same_device"]
    assert demo.post("/api/presence", json={"page": DESK, "session": None}).json() == []
    assert demo.post("/api/presence", json={"page": TABLET, "session": 1}).json() == []
    assert demo.post("/api/presence", json={"page": "me", "session": 1}).status_code == 422
