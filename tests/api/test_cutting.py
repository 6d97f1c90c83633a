"""What is recorded of a session comes back whole, whoever reads it, whenever the program was stopped."""

import shutil
import tempfile
from pathlib import Path
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from valleywind.core.making.session import Event, EventKind
from valleywind.core.refusal import Refusal
from valleywind.shop import cutting
from valleywind.shop.cutting import SessionCache, SessionNow
from valleywind.shop.store import Store, open_store

THINGS = st.sampled_from(
    [
        Event(EventKind.DONE, {}), Event(EventKind.DONE, {}), Event(EventKind.BACK, {}),
        Event(EventKind.PAUSE, {"reason": "lunch"}),
        Event(EventKind.RESUME, {}), Event(EventKind.JUMP, {"to": 60, "reason": "cut before"}),
        Event(EventKind.NOTE, {"reason": "chatter"}), "stopped", "rolled back", "told again",
    ]
)  # fmt: skip


def read_anew(store: Store) -> SessionNow:
    with store.reading() as session:
        return SessionCache().standing(session, cutting.cutting(session, 1))


def remembered(store: Store) -> SessionNow:
    with store.reading() as session:
        return cutting.standing(session, cutting.cutting(session, 1))


@settings(max_examples=25, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.lists(THINGS, max_size=25))
def test_whatever_happens_is_read_back_the_same(made: dict[str, Path], things: list[Any]) -> None:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "shop.sqlite"
        shutil.copy(made["demo"], path)
        store = open_store(path)
        last = remembered(store)
        for n, thing in enumerate(things):
            if thing == "stopped":
                store.engine.dispose()
                store = open_store(path)
            elif thing == "told again":
                one = last.known[-1]
                with store.adding() as session:
                    cutting.record(session, cutting.cutting(session, 1), one.event, one.key, None)
                other = Event(EventKind.NOTE, {"reason": "something else"})
                with store.adding() as session, pytest.raises(Refusal, match="key_used"):
                    cutting.record(session, cutting.cutting(session, 1), other, one.key, None)
            else:
                event = Event(EventKind.DONE, {}) if thing == "rolled back" else thing
                try:
                    with store.adding() as session:
                        came = cutting.record(session, cutting.cutting(session, 1), event, f"thing-{n:04}", None)
                        if thing == "rolled back":
                            raise Refusal("power_went", "", "")
                    last = came
                except Refusal:
                    pass
            assert remembered(store) == read_anew(store) == last
        store.engine.dispose()


def test_another_shop_in_its_place_is_read_from_its_beginning(made: dict[str, Path], store: Store) -> None:
    """The same number stands for another session after the demo shop was begun anew."""
    shutil.copy(made["demo"], store.path)
    fresh = open_store(store.path)
    before = remembered(fresh)
    with fresh.adding() as session:
        cutting.record(session, cutting.cutting(session, 1), Event(EventKind.DONE, {}), "one-more", None)
    remembered(fresh)
    with fresh.engine.begin() as connection:
        connection.exec_driver_sql("DELETE FROM cutting_event WHERE place > 40")
    assert remembered(fresh).state.at == 41
    assert len(before.known) > 41
    fresh.engine.dispose()
