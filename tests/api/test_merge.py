"""Two boxes made one: nothing is lost, and undo puts every wheel back where it lay."""

from collections import Counter
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from sqlalchemy import delete
from sqlalchemy.orm import Session

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pile import Condition, Entry
from valleywind.shop import changes, rack
from valleywind.shop.models import WheelRow
from valleywind.shop.store import Store, open_store

PILES = st.lists(
    st.tuples(st.integers(20, 26), st.sampled_from(list(Condition)), st.integers(1, 4), st.sampled_from("ABC")),
    max_size=14,
)


@pytest.fixture(scope="module")
def shop(tmp_path_factory: pytest.TempPathFactory) -> Store:
    return open_store(Path(tmp_path_factory.mktemp("merge")) / "shop.sqlite")


def lying(session: Session) -> list[tuple[object, ...]]:
    """Every wheel by what it is and where, without its number in the rack."""
    session.expire_all()
    return sorted((w.teeth, w.condition, w.count, w.place) for w in rack.in_full(session, rack.briefly(session)))


def totals(session: Session) -> Counter[tuple[int, str]]:
    result: Counter[tuple[int, str]] = Counter()
    for wheel in rack.in_full(session, rack.briefly(session)):
        result[wheel.teeth, wheel.condition] += wheel.count
    return result


@given(PILES)
@settings(max_examples=40, deadline=None)
def test_merging_loses_nothing_and_is_undone(shop: Store, piles: list[tuple[int, Condition, int, str]]) -> None:
    with shop.session() as session:
        session.execute(delete(WheelRow))
        for teeth, condition, count, place in piles:
            rack.add(session, [Entry(teeth, condition, count)], {"place": place})
        before, counted = lying(session), totals(session)
        if not any(place == "A" for *_, place in piles):
            with pytest.raises(Refusal, match="nothing_there"):
                rack.merge(session, "A", "B")
            return
    with shop.session() as session:
        rack.merge(session, "A", "B")
        assert totals(session) == counted
        assert "A" not in rack.places(session)
        after = [(w.teeth, w.condition) for w in rack.in_full(session, rack.briefly(session)) if w.place == "B"]
        moved = {(t, c.value) for t, c, _, place in piles if place == "A"}
        assert moved <= set(after)
    done = changes.change_number(session)
    assert done is not None
    with shop.session() as session:
        assert changes.undo(session, done).left == ()
        assert lying(session) == before


def test_a_box_is_not_put_into_itself(shop: Store) -> None:
    with shop.session() as session, pytest.raises(Refusal, match="same_place"):
        rack.merge(session, "A", "A")
