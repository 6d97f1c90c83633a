"""Worms, feeds, slides and stated tolerances: read, said, planned, and judged by what they are for."""

import math
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.lathes import curlew, plover
from valleywind.core.lathe.ask import read
from valleywind.core.lathe.complete import complete
from valleywind.core.lathe.fields import Fields, ask_from
from valleywind.core.lathe.nut_view import nut_view
from valleywind.core.lathe.plan import plan
from valleywind.core.lathe.series import Series, every_size
from valleywind.core.lathe.thread import Ask, CarriageMove, FeedAsk, PitchUnit, ThreadAsk, bare_pitch, say
from valleywind.core.lathe.verdict import Goes, Purpose, judge_worm
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import Pitch, PitchSystem
from valleywind.core.trains.direction import Hand
from valleywind.core.units import MM_PER_INCH, PI


def ask_of(text: str) -> Ask:
    reading = read(text)
    assert reading.ask is not None, reading
    return reading.ask


def thread(text: str) -> ThreadAsk:
    result = ask_of(text)
    assert isinstance(result, ThreadAsk)
    return result


# π to fifty places, from another source than the code's.
PI_50 = "3.14159265358979323846264338327950288419716939937510"


@pytest.mark.parametrize(
    ("typed", "pitch", "starts"),
    [
        ("module 1.5 worm", Fraction(PI_50) * 3 / 2, 1),
        ("1.5 mod worm 2 starts", Fraction(PI_50) * 3 / 2, 2),
        ("16 DP worm", Fraction(PI_50) * MM_PER_INCH / 16, 1),
        ("worm d.p. 16 left", Fraction(PI_50) * MM_PER_INCH / 16, 1),
        ("3/8 in circular pitch worm", MM_PER_INCH * 3 / 8, 1),
        ("worm CP 3/8", MM_PER_INCH * 3 / 8, 1),
    ],
)
def test_worms_by_the_pitch_of_their_wheel(typed: str, pitch: Fraction, starts: int) -> None:
    result = thread(typed)
    assert abs(result.pitch / pitch - 1) < Fraction(1, 10**30)
    assert (result.starts, result.job, result.lead) == (starts, Purpose.WORM, result.pitch * starts)


@pytest.mark.parametrize(
    ("typed", "travel", "way", "hand"),
    [
        ("feed 0.03", "0.03", CarriageMove.ALONG, Hand.RIGHT),
        ("feed of 0.03 mm/rev along", "0.03", CarriageMove.ALONG, Hand.RIGHT),
        ("0.1 mm per revolution", "0.1", CarriageMove.ALONG, Hand.RIGHT),
        ("feed 0.0015 in/rev", "0.0381", CarriageMove.ALONG, Hand.RIGHT),
        ("cross feed 2 thou", "0.0508", CarriageMove.ACROSS, Hand.RIGHT),
        ("feed 0.05 facing left", "0.05", CarriageMove.ACROSS, Hand.LEFT),
    ],
)
def test_feeds_as_people_say_them(typed: str, travel: str, way: CarriageMove, hand: Hand) -> None:
    result = ask_of(typed)
    assert isinstance(result, FeedAsk)
    assert (result.travel, result.way, result.hand) == (Fraction(travel), way, hand)


@pytest.mark.parametrize(
    ("typed", "code", "near"),
    [
        ("M14x2 tpi", "mixed_units", "M14x2"),
        ("1/2 in x 2 mm", "mixed_units", "0.5 in"),
        ("-2 mm", "not_positive", "2 mm"),
        ("feed 0", "not_positive", "M14x2"),
        ("feed 0.03 2 starts", "not_for_a_feed", "feed 0.03 mm/rev"),
        ("M8 across", "only_for_a_feed", "M8"),
        ("M8 2A", "class_not_of_series", "M8"),
        ("worm module 2 6g", "not_for_a_worm", "worm module 2"),
        ("26 tpi 170°", "flanks_out_of_range", "26 tpi"),
        ("M8 within 200 %", "within_out_of_range", "M8"),
        ("feed 500 mm", "feed_out_of_range", "500 mm"),
        ("feed", "not_understood", "feed 0.05 mm/rev"),
    ],
)
def test_impossible_asks_say_why_and_what_is_near(typed: str, code: str, near: str) -> None:
    reading = read(typed)
    assert reading.ask is None
    assert reading.refusal is not None
    assert (reading.refusal.code, reading.refusal.field) == (code, "ask")
    assert near in reading.nearest


positive = st.fractions(min_value=Fraction(1, 4), max_value=20, max_denominator=40)
optional = st.one_of(st.none(), positive)
worms = st.builds(
    lambda system, value: ThreadAsk((p := Pitch(system, value)).circular, worm=p),
    st.sampled_from(PitchSystem),
    st.fractions(min_value=Fraction(1, 2), max_value=8, max_denominator=16),
)
sized = st.sampled_from([s.designation for s in every_size()]).map(thread)
plain = st.builds(
    lambda p, d, angle: ThreadAsk(p, diameter=None if d is None else p * (1 + d), flanks=angle),
    positive,
    optional,
    st.sampled_from([None, Fraction(55), Fraction(30), Fraction(95, 2)]),
)
feeds = st.builds(
    FeedAsk,
    st.fractions(min_value=Fraction(1, 500), max_value=2, max_denominator=1000),
    st.sampled_from([PitchUnit.MM, PitchUnit.INCH]),
    st.sampled_from([CarriageMove.ALONG, CarriageMove.ACROSS]),
    st.sampled_from(Hand),
    st.sampled_from([None, Fraction(1, 1000), Fraction(0), Fraction(1, 8)]),
)


@pytest.mark.long
@settings(max_examples=400)
@given(
    st.one_of(worms, sized, plain), st.integers(1, 6), st.sampled_from(Hand), optional, st.booleans(),
    st.sampled_from([None, Fraction(1, 2000), Fraction(3, 7)]),
)  # fmt: skip
def test_every_particular_is_read_back(
    base: ThreadAsk, starts: int, hand: Hand, nut: Fraction | None, slide: bool, within: Fraction | None
) -> None:
    slide = slide and base.worm is None
    whole = ThreadAsk(
        **(vars(base) | {"starts": starts, "hand": hand, "engagement": nut, "slide": slide, "within": within})
    )
    if whole.lead <= 500:
        assert read(say(whole)).ask == whole


@settings(max_examples=200)
@given(feeds)
def test_every_feed_is_read_back(feed: FeedAsk) -> None:
    assert read(say(feed)).ask == feed


@given(st.sampled_from(["M14x2", "3/8 BSW", "1/2-13 UNC", "Tr20x4", "26 tpi", "worm module 2", "1.5 mm"]), positive)
def test_fields_filled_from_an_ask_make_the_same_ask(text: str, engagement: Fraction) -> None:
    base = thread(text)
    same = ask_from(Fields(bare_pitch(base)), base)
    assert same == base
    longer = ask_from(Fields(bare_pitch(base), engagement=f"{engagement} mm", hand=Hand.LEFT), base)
    assert (longer.engagement, longer.hand, longer.included_angle) == (engagement, Hand.LEFT, base.included_angle)  # type: ignore[union-attr]
    assert read(say(longer)).ask == longer


@pytest.mark.parametrize(
    ("changes", "field"),
    [({"pitch": "a lot"}, "pitch"), ({"starts": "2.5"}, "starts"), ({"diameter": "0.2"}, "diameter"),
     ({"engagement": "x"}, "engagement"), ({"flanks": "200"}, "flanks"), ({"fit_class": "2A"}, "class"),
     ({"within": "100"}, "within")],
)  # fmt: skip
def test_a_bad_field_is_named(changes: dict[str, str], field: str) -> None:
    with pytest.raises(Refusal) as caught:
        ask_from(Fields(**({"pitch": "2 mm"} | changes)))  # type: ignore[arg-type]
    assert caught.value.field == field


def test_another_diameter_keeps_the_flanks() -> None:
    result = thread("3/8 BSW diameter 10 mm")
    assert (result.diameter, result.included_angle) == (Fraction(10), Fraction(55))
    assert result.size is None
    assert thread("M14x2 diameter 20 mm") == thread("M20x2")


def test_the_winch_worm_on_plover() -> None:
    outcome = plan(ask_of("module 1.5 worm"), *plover())
    best = outcome.candidates[0]
    assert best.good
    assert best.verdict.job is Purpose.WORM
    assert float(best.value) == pytest.approx(1.5 * math.pi, rel=float(abs(best.error)) * 1.01)
    assert abs(best.error - (best.value / (PI * 3 / 2) - 1)) < Fraction(1, 10**20)


def test_a_worm_is_weighed_against_backlash_over_its_contact() -> None:
    # m 2, wheel of 40: f_pt = 4 (0.3 (2 + 0.4 √80) + 4) = 22.69 µm; a = 50: 2/3 (60 + 25 + 60) = 96.67 µm.
    verdict = judge_worm(1e-4, 2, 20)
    assert (verdict.freely, verdict.at_most) == pytest.approx((22.693, 96.667), abs=2e-3)
    assert verdict.gathered == pytest.approx(2)
    assert verdict.taken_up == pytest.approx(2 * math.cos(math.radians(20)))
    assert thread("worm module 2").length == pytest.approx(4 * math.sqrt(41), abs=0.1)


def test_a_screw_for_a_slide_is_held_to_ten_micrometres_in_three_hundred() -> None:
    for error, goes in ((Fraction(33, 10**6), Goes.FREELY), (Fraction(34, 10**6), Goes.NOT)):
        assert thread("Tr20x4 lead screw").judged(error).goes is goes
        assert thread("Tr20x4").judged(error).goes is Goes.FREELY


@pytest.mark.parametrize(("share", "goes"), [("0.03", Goes.FREELY), ("0.1", Goes.MID_TOLERANCE), ("0.101", Goes.NOT)])
def test_about_is_near_enough_for_a_feed(share: str, goes: Goes) -> None:
    assert ask_of("feed 0.05").judged(Fraction(share)).goes is goes
    assert ask_of("feed 0.05").judged(-Fraction(share)).goes is goes
    assert ask_of("feed 0.05 within 1 %").judged(Fraction(share)).goes is Goes.NOT


def test_a_stated_tolerance_takes_the_place_of_the_jobs_own() -> None:
    tight = plan(ask_of("M14x2 within 20 ppm"), *plover())
    assert all(abs(c.error) <= Fraction(20, 10**6) for c in tight.candidates if c.good)
    assert plan(ask_of("M14x2"), *plover()).candidates[0].good


def test_a_cross_feed_goes_through_the_apron() -> None:
    lathe, stock = plover()
    best = plan(ask_of("feed 0.004 in across"), lathe, stock).candidates[0]
    assert best.value == best.train.ratio * Fraction(22, 1000) * MM_PER_INCH
    with pytest.raises(Refusal, match="no_cross_feed"):
        plan(ask_of("feed 0.05 across"), *curlew())


@settings(max_examples=80)
@given(
    st.floats(1e-7, 0.05),
    st.sampled_from(["M14x2", "3/8 BSW", "4 BA", "Tr20x4", "worm module 1.5", "M14x2 over 60 mm", "S40x7"]),
)
def test_the_drawing_touches_where_the_verdict_says_that_it_binds(error: float, text: str) -> None:
    ask = thread(text)
    verdict = ask.judged(Fraction(error))
    view = nut_view(ask, error, verdict)
    assert view is not None
    assert len(view.turns) + view.left_out == max(1, round(view.engagement / view.pitch + 1e-9))
    drawn = max(abs(t.drift) for t in view.turns)
    # The outermost threads stand at the nut's ends, where half of the gathered error has gathered.
    assert drawn == pytest.approx(verdict.gathered / 1000 / 2, rel=1e-6)
    binds = verdict.taken_up > verdict.at_most
    assert any(t.touches for t in view.turns) == binds
    assert (view.turns[0].touches, view.turns[-1].touches) == (binds, binds)
    room = view.pitch / 4 - view.flank
    for groove, screw in zip(view.groove[::3], view.screw[::3], strict=True):  # the roots of both
        assert abs(groove[0]) - abs(screw[0]) == pytest.approx(room)
    if view.screw[2][0] > 0.05 * view.pitch:  # not held to the least that is drawn
        assert room == pytest.approx(view.groove[2][0] - view.screw[2][0])
    for turn in view.turns:
        assert turn.touches == (abs(turn.drift) * view.magnification > room) or abs(
            turn.drift
        ) * view.magnification == pytest.approx(room)
    assert view.magnification == 1 or view.magnification * max(view.play, drawn) <= 0.3 * view.pitch


def test_feeds_and_slides_have_no_nut_to_draw() -> None:
    slide = thread("Tr20x4 lead screw")
    assert nut_view(slide, 0.001, slide.judged(Fraction(1, 1000))) is None


def test_completions_go_on_into_feeds_and_worms() -> None:
    assert [say(a) for a in complete("feed 0.03 i")] == ["feed 0.03 in/rev", "feed 0.03 in/rev across"]
    assert [say(a) for a in complete("16 d")] == ["worm 16 DP"]
    assert "worm module 1.5" in [say(a) for a in complete("module 1")]
    assert {Series.UNC, Series.UNF} <= {a.series for a in complete("1/4-2") if isinstance(a, ThreadAsk)}
