"""Making a wheel: what fouls, speeds, strength, passes, the last gap, where every tooth stands, the session, lost."""

import json
import math
from contextlib import suppress
from dataclasses import replace
from fractions import Fraction
from functools import reduce
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.reference import cases
from valleywind.core.dividing.heads import TypedHead, read_head
from valleywind.core.dividing.plan import WayKind as WayKind
from valleywind.core.dividing.plan import ways
from valleywind.core.dividing.ways import Degrees, Simple
from valleywind.core.making.helical import Helix, helical_sizes
from valleywind.core.making.lost import find
from valleywind.core.making.materials import MATERIALS, Strength, Stuff, bears, strength, turns
from valleywind.core.making.passes import read_passes, usual_passes
from valleywind.core.making.places import By, on_a_disc, on_a_wheel, places, read_places, spelled
from valleywind.core.making.screw_wheel import screw_wheel
from valleywind.core.making.session import (
    Cut,
    CutOrder,
    Event,
    EventKind,
    Onward,
    State,
    Work,
    after,
    gaps_cut,
    onward,
)
from valleywind.core.making.side_view import MARGIN, SideView, past
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.identify import standard_pitches
from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily
from valleywind.core.teeth.sizes import sizes
from valleywind.core.trains.direction import Hand
from valleywind.wording.making import session as session_words

CASES = cases("making")
SIDE = [c for c in CASES if "jaw_face" in c]
SPEEDS = [c for c in CASES if "rpm" in c]


def code_of(call: Any, *args: Any) -> str:
    with pytest.raises(Refusal) as refused:
        call(*args)
    return refused.value.code


@pytest.mark.parametrize("case", SIDE)
def test_what_fouls_is_met(case: dict[str, Any]) -> None:
    view = SideView(
        case["blank_radius"], 15, case["depth"], case["cutter_diameter"], case["collar_diameter"], case["jaw_face"],
        case["jaw_radius"],
    )  # fmt: skip
    assert view.past == pytest.approx(case["past"], abs=5e-6)
    assert view.travel == pytest.approx(15 + 2 * case["past"], abs=1e-5)
    assert view.to_jaws == pytest.approx(case["clearance_to_jaws"], abs=5e-6)
    assert view.to_collar == pytest.approx(case["clearance_to_collar"], abs=5e-6)


@given(
    st.floats(10, 100), st.floats(0.5, 8), st.floats(30, 120), st.floats(-60, 0), st.floats(5, 120),
)  # fmt: skip
def test_a_spacer_makes_it_clear_and_no_thicker_than_needed(
    radius: float, depth: float, cutter: float, jaw: float, jaws: float
) -> None:
    view = SideView(radius, 15, depth, cutter, 20, jaw, jaws)
    wide = SideView(radius, 15, depth, cutter, 20, jaw - view.spacer, jaws)
    assert wide.to_jaws >= MARGIN - 1e-6
    if view.spacer > 1e-6:
        assert view.to_jaws < MARGIN
        thin = SideView(radius, 15, depth, cutter, 20, jaw - view.spacer * 0.9, jaws)
        assert thin.to_jaws < MARGIN


def test_no_cut_is_deeper_than_its_cutter() -> None:
    assert code_of(past, 70, 70) == "deeper_than_cutter"


@pytest.mark.parametrize("case", SPEEDS)
def test_speeds_are_met(case: dict[str, Any]) -> None:
    assert turns(case["speed"], case["cutter_diameter"]) == pytest.approx(case["rpm"], abs=5e-4)


def test_strength_is_three_words_and_unknown_where_nobody_has_a_figure() -> None:
    # 57 teeth of 12 DP, 16 mm wide, of acetal: 20 · 16 · 2.117 · π (0.124 − 0.684/57).
    force = bears(Stuff.ACETAL, 57, 25.4 / 12, 16, Fraction(29, 2))
    assert force == pytest.approx(20 * 16 * 25.4 / 12 * math.pi * (0.124 - 0.684 / 57))
    weak, strong = (strength(Stuff.ACETAL, 20, m, b, Fraction(20), lead) for m, b, lead in ((0.8, 3, 12), (3, 40, 4)))
    assert (weak, strong) == (Strength.WEAK, Strength.STRONG)
    assert strength(Stuff.BRASS, 57, 2, 16, Fraction(20), 4) is None
    assert set(MATERIALS) == set(Stuff)


def test_a_wheel_for_a_lead_screw() -> None:
    """Four threads an inch on 28 mm: 16 threads a turn; module 2 is 0.0157 mm a tooth out."""
    result = screw_wheel(25.4 / 4, 1, 28, 16, 12, standard_pitches())
    tilt = math.atan(6.35 / (math.pi * 28))
    assert result.tilt == pytest.approx(math.degrees(tilt))
    assert result.module == pytest.approx(6.35 * math.cos(tilt) / math.pi)
    assert float(result.pitch.module) == 2
    assert result.off == pytest.approx((result.module - 2) * math.pi * 3)
    assert result.raised == pytest.approx(6 * math.tan(tilt))
    assert result.across == pytest.approx(16 * 6.35 / math.pi)
    assert code_of(screw_wheel, 6.35, 1, 0, 16, 12, standard_pitches()) == "not_positive"
    assert code_of(screw_wheel, 6.35, 1, 28, 2, 12, standard_pitches()) == "teeth_out_of_range"


class TestPasses:
    def test_small_teeth_in_soft_stuff_go_at_once(self) -> None:
        assert usual_passes(1.8, Fraction("0.8"), Stuff.BRASS) == (1.8,)
        # From module 3 on, hard stuff takes one pass more; module 3 itself included.
        assert len(usual_passes(6.75, Fraction(3), Stuff.STEEL)) == 4
        assert len(usual_passes(6.75, Fraction(3), Stuff.BRASS)) == 3
        assert len(usual_passes(6.5, Fraction("2.9"), Stuff.STEEL)) == 3
        assert usual_passes(4.57, Fraction("2.117"), Stuff.CAST_IRON) == (2.74, 4.11, 4.57)

    def test_as_typed(self) -> None:
        assert read_passes("2.7 4.1 4.57", 4.567) == (2.7, 4.1, 4.57)
        assert code_of(read_passes, "2.7 4.7", 4.567) == "pass_too_deep"
        assert code_of(read_passes, "2.7 2.7", 4.567) == "passes_not_deeper"
        assert code_of(read_passes, "1 2 3 4 5 6 7 8 9", 10) == "too_many_passes"


HEAD = read_head(TypedHead("60", "15 16 17 19 21 23 / 25 27 29 31 37 39 / 41 43 47 49", direct="24", geared=True,
                           gears="24x2 28 32 40 44 48 56 64 72 86 100", reads="1°"))  # fmt: skip


@pytest.mark.parametrize("divisions", [6, 24, 57, 59, 61, 63, 77, 127])
def test_every_way_brings_every_tooth_to_its_place(divisions: int) -> None:
    """The turns of the work, replayed from what is said for each move, come to n/z of a turn, apart from rounding."""
    ratio = HEAD.ratio
    assert ratio is not None
    for way in ways(HEAD, divisions):
        setting = way.settings[0]
        result = places(setting, ratio, divisions)
        assert len(result.each) == divisions
        worm = Fraction(0)
        for n, place in enumerate(result.each):
            worm += place.turns + (Fraction(place.spaces, result.circle) if result.circle else 0)
            worm += Fraction(place.plate, result.lock) if result.lock else 0
            match result.by:
                case By.SPINDLE:
                    turned = place.at / result.circle
                case By.DEGREES:
                    turned = place.at / 360
                case _:
                    turned = worm / ratio
                    if way.kind is WayKind.DIFFERENTIAL:
                        # The gears turn the plate meanwhile, by R (z′ − z)/z′ for a turn of the work.
                        gear = setting.gear_ratio  # type: ignore[union-attr]
                        turned = worm / (ratio - gear)
                    else:
                        assert place.hole == int(worm * result.circle) % result.circle or result.lock
            off = abs(turned - Fraction(n, divisions))
            assert off <= way.error / 360, (way.kind, n)
            # What an encoder follows is where the work then stands.
            assert place.work == turned, (way.kind, n)
        around = [result.turned(n, (n + 1) % divisions) for n in range(divisions)]
        assert sum(turn for turn in around if turn is not None) == 1
        assert read_places(json.loads(json.dumps(spelled(result)))) == result


def test_a_block_is_turned_flat_by_flat_and_an_indexer_by_two_pins() -> None:
    block = replace(read_head(TypedHead(direct="4 6")), flats=True)
    result = places(ways(block, 3)[0].settings[0], None, 3)
    assert (result.by, [int(p.at) for p in result.each], result.again.at) == (By.FLATS, [1, 3, 5], Fraction(1))
    assert session_words.move(result, 0, Cut(1, 0)) == ("2 flats on", "flat 3 of 6 up")
    assert session_words.move(result, 2, Cut(0, 1)) == ("2 flats on", "flat 1 of 6 up")
    indexer = read_head(TypedHead(direct="36", reads="1°"))
    assert indexer.pinned == 36
    # 24 is no part of 36 holes: 15° is hole 1 and five single degrees.
    result = places(ways(indexer, 24)[0].settings[0], None, 24)
    assert result.by is By.PINNED
    assert session_words.move(result, 0, Cut(1, 0)) == ("on to", "hole 1 of 36, second pin at 5°")
    assert find(result, 1, 1).teeth == (1,)
    assert find(result, 1, None).teeth == (1,)
    # With a worm its graduations are read as ever, and holes that do not go up in degrees serve no second pin.
    assert HEAD.pinned == 0
    assert read_head(TypedHead(direct="24", reads="2°")).pinned == 0


def test_places_kept_before_encoders_followed_them_are_read() -> None:
    old = {"by": "crank", "circle": 19, "lock": 0, "each": [[0, 0, 0, 0, "0"], [1, 1, 1, 0, "0"], [1, 1, 2, 0, "0"]]}
    result = read_places(old)
    assert (result.each[1].turns, result.each[1].work, result.turned(0, 1)) == (1, None, None)


def test_onward_waits_for_the_passes_of_a_gap() -> None:
    deep = Work(5, 3, marks=False, order=CutOrder.GAP_BY_GAP)
    assert [onward(State(n), deep) for n in (0, 1, 2)] == [Onward(0, 1, left) for left in (3, 2, 1)]
    around = Work(5, 2)
    assert onward(State(4), around) == Onward(4, 0, 1)
    assert onward(State(14), around) is None
    assert onward(State(15), around) is None


def test_a_wheel_and_a_disc_count_from_one() -> None:
    assert [int(p.at) for p in on_a_wheel(114, 57).each[:3]] == [1, 3, 5]
    assert code_of(on_a_wheel, 100, 57) == "divides_another"
    assert [int(p.at) for p in on_a_disc(57).each[-2:]] == [56, 57]
    assert code_of(places, Simple(19, 1, 1), None, 57) == "no_crank"
    assert places(Degrees(Fraction(1), Fraction(0)), None, 36).each[3].at == 30


WORKS = st.builds(
    Work, st.integers(2, 12), st.integers(1, 4), st.booleans(), st.sampled_from(CutOrder)
)  # fmt: skip


@given(WORKS)
def test_every_gap_has_every_pass_once(work: Work) -> None:
    every = [work.cut(n) for n in range(work.cuts)]
    first = -1 if work.marks else 0
    assert len(set(every)) == len(every)
    assert set(every) == {Cut(t, p) for t in range(work.divisions) for p in range(first, work.passes)}
    for n, cut in enumerate(every):
        assert work.number_of(cut.tooth, cut.number) == n
        # No pass before the one above it.
        if cut.number > first:
            assert every.index(Cut(cut.tooth, cut.number - 1)) < n


EVENTS = st.lists(
    st.one_of(
        st.just(Event(EventKind.DONE, {})),
        st.just(Event(EventKind.DONE, {})),
        st.just(Event(EventKind.BACK, {})),
        st.just(Event(EventKind.PAUSE, {"reason": "lunch"})),
        st.just(Event(EventKind.RESUME, {})),
        st.builds(lambda n: Event(EventKind.COUNTED, {"count": n}), st.integers(2, 12)),
        st.builds(lambda n: Event(EventKind.JUMP, {"to": n, "reason": "cut before"}), st.integers(-1, 60)),
        st.just(Event(EventKind.NOTE, {"reason": "chatter"})),
    ),
    max_size=40,
)


@given(WORKS, EVENTS)
def test_whatever_happens_stays_within_the_work(work: Work, wanted: list[Event]) -> None:
    state = State()
    for event in wanted:
        with suppress(Refusal):
            state = after(state, event, work)
        assert 0 <= state.at <= work.cuts
        if work.marks and state.at > work.divisions:
            assert state.counted == work.divisions
    assert sum(gaps_cut(state, work)) <= work.divisions * work.passes


class TestSession:
    work = Work(3, 2)

    def at(self, *kinds: EventKind) -> State:
        return reduce(lambda state, kind: after(state, Event(kind, {}), self.work), kinds, State())

    def test_marks_are_counted_before_any_depth(self) -> None:
        marked = self.at(EventKind.DONE, EventKind.DONE, EventKind.DONE)
        assert marked.must_count(self.work)
        assert code_of(after, marked, Event(EventKind.DONE, {}), self.work) == "marks_not_counted"
        assert code_of(after, marked, Event(EventKind.COUNTED, {"count": 4}), self.work) == "marks_wrong"
        counted = after(marked, Event(EventKind.COUNTED, {"count": 3}), self.work)
        assert after(counted, Event(EventKind.DONE, {}), self.work).at == 4
        # Back among the marks they are counted again.
        again = after(counted, Event(EventKind.BACK, {}), self.work)
        assert again.counted is None

    def test_nothing_goes_on_while_it_is_paused(self) -> None:
        paused = after(State(), Event(EventKind.PAUSE, {"reason": "tea"}), self.work)
        for kind in (EventKind.DONE, EventKind.BACK, EventKind.PAUSE):
            assert code_of(after, paused, Event(kind, {"reason": "x"}), self.work) == "session_paused"
        assert after(paused, Event(EventKind.RESUME, {}), self.work) == State()

    @pytest.mark.parametrize(
        ("event", "code"),
        [
            (Event(EventKind.BACK, {}), "at_the_start"), (Event(EventKind.RESUME, {}), "session_not_paused"),
            (Event(EventKind.PAUSE, {}), "needs_reason"), (Event(EventKind.PAUSE, {"reason": " "}), "needs_reason"),
            (Event(EventKind.JUMP, {"to": 2}), "needs_reason"),
            (Event(EventKind.JUMP, {"to": 9, "reason": "r"}), "no_such_cut"),
            (Event(EventKind.NOTE, {"reason": "x" * 201}), "needs_reason"),
        ],
    )  # fmt: skip
    def test_what_cannot_be(self, event: Event, code: str) -> None:
        assert code_of(after, State(), event, self.work) == code

    def test_the_end_is_the_end(self) -> None:
        done = State(self.work.cuts, counted=3)
        assert done.finished(self.work)
        assert code_of(after, done, Event(EventKind.DONE, {}), self.work) == "session_done"
        assert gaps_cut(done, self.work) == [2, 2, 2]


class TestLost:
    # 20 spaces of 19: the hole moves on by one each tooth.
    every = places(Simple(19, 1, 1), Fraction(60), 57)

    def test_the_hole_alone_leaves_three_of_57(self) -> None:
        assert find(self.every, 5, None).teeth == (5, 24, 43)

    def test_with_the_gaps_counted_it_is_one(self) -> None:
        place = find(self.every, 5, 24)
        assert (place.teeth, place.sure) == ((24,), True)
        # The gap it stands at was just cut: it counts one more.
        assert find(self.every, 5, 25).teeth == (24,)

    def test_gaps_alone_leave_two(self) -> None:
        place = find(self.every, None, 24)
        assert (place.teeth, place.sure) == ((24, 23), False)

    def test_what_does_not_agree_goes_by_the_hole(self) -> None:
        place = find(self.every, 5, 40)
        assert (place.teeth, place.sure) == ((5, 24, 43), False)

    def test_bad_figures(self) -> None:
        assert code_of(find, self.every, None, None) == "nothing_to_go_by"
        assert code_of(find, self.every, 19, None) == "no_such_hole"
        assert code_of(find, self.every, None, 58) == "no_such_count"

    @given(st.integers(0, 56), st.booleans())
    def test_the_tooth_is_always_among_them(self, tooth: int, cut: bool) -> None:
        assert tooth in find(self.every, self.every.each[tooth].hole, tooth + cut).teeth


class TestHelical:
    family = WheelFamily(
        "", Pitch(PitchSystem.MODULE, Fraction(2)), Fraction(20), Fraction(0), Fraction(0), Fraction(20)
    )

    def test_a_helix_of_next_to_nothing_is_a_straight_wheel(self) -> None:
        straight = sizes(24, self.family)
        askew = helical_sizes(24, self.family, Helix(Fraction(1, 10**4), Hand.LEFT), None, 20)
        for name in ("tip_diameter", "pitch_diameter", "base_diameter", "root_diameter", "depth", "pin"):
            assert getattr(askew, name) == pytest.approx(getattr(straight, name), abs=1e-6)
        for name in ("span", "pins", "chordal"):
            one, other = getattr(askew, name), getattr(straight, name)
            assert one.nominal == pytest.approx(other.nominal, abs=1e-6)
            assert (one.low, one.high) == pytest.approx((other.low, other.high), abs=1e-6)

    def test_its_diameters_are_those_of_the_plane_of_rotation(self) -> None:
        result = helical_sizes(24, self.family, Helix(Fraction(30), Hand.LEFT), 4.5, 20)
        assert result.pitch_diameter == pytest.approx(48 / math.cos(math.pi / 6))
        assert result.tip_diameter - result.root_diameter == pytest.approx(9)
        assert result.base_diameter == pytest.approx(51.0964, abs=1e-4)
