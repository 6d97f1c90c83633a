"""Nothing that was typed is dropped, rounded or read in another way."""

from fractions import Fraction
from typing import Any

import pytest

from valleywind.core.lathe.ask import read
from valleywind.core.lathe.fields import Fields, ask_from
from valleywind.core.lathe.length_reading import Method, read_measured
from valleywind.core.lathe.record import TypedLathe, read_record
from valleywind.core.lathe.thread import CarriageMove, ThreadAsk, bare_pitch, say
from valleywind.core.refusal import Refusal
from valleywind.core.units import Unit, parse_whole
from valleywind.wording import refusals
from valleywind.wording.lathe.answers import description
from valleywind.wording.numbers import Units


@pytest.mark.parametrize(
    "typed",
    [
        "M14x2 2 starts left hand", "M14x2 6h over 30 mm", "M20 lead screw", "Tr40x14(P7) LH", "lead 12 mm 3 starts",
        "1/2-13 UNC 3A left hand within 0.1 %", "module 1.5 worm 14.5° 2 starts", "26 tpi diameter 20 mm 55°",
    ],
)  # fmt: skip
def test_a_pitch_field_keeps_all_that_the_line_takes(typed: str) -> None:
    assert ask_from(Fields(typed)) == read(typed).ask


@pytest.mark.parametrize("base", ["M14x2", "26 tpi left hand", "M20 lead screw", "Tr20x4 2 starts over 30 mm"])
@pytest.mark.parametrize("typed", ["M12 2 starts left hand", "M8 6h over 30 mm", "4 BA", "M20 lead screw"])
def test_what_a_field_was_filled_with_gives_way_to_what_is_typed(base: str, typed: str) -> None:
    known = read(base).ask
    assert isinstance(known, ThreadAsk)
    filled = Fields(
        typed, hand=known.hand, starts=str(known.starts) if known.starts > 1 else "",
        diameter=f"{float(known.diameter):g} mm" if known.diameter else "",
        engagement=f"{known.engagement} mm" if known.engagement else "", fit_class=known.fit_class or "",
    )  # fmt: skip
    made, wanted = ask_from(filled, known), read(typed).ask
    assert isinstance(made, ThreadAsk)
    assert isinstance(wanted, ThreadAsk)
    assert (made.pitch, made.diameter) == (wanted.pitch, wanted.diameter)
    assert made.starts == (wanted.starts if "starts" in typed else known.starts)
    assert made.hand == (wanted.hand if "left" in typed else known.hand)
    assert made.engagement == (wanted.engagement or known.engagement)


@pytest.mark.parametrize(
    ("fields", "field", "says"),
    [
        (Fields("M14x2 2 starts", starts="3"), "starts", "This field says 3, the first one 2."),
        (Fields("M14x2", diameter="20 mm"), "diameter", "This field says 20 mm, the first one 14 mm."),
        (Fields("M14x2 6h", fit_class="4h"), "fit_class", "This field says 4h, the first one 6h."),
        (Fields("M14x2 over 30 mm", engagement="20"), "engagement", "This field says 20 mm, the first one 30 mm."),
        (Fields("M14x2 within 1 %", within="2"), "within", "This field says 2 %, the first one 1 %."),
        (Fields("Tr40x14(P7)", starts="3"), "starts", "This field says 3, the first one 2."),
        (Fields("feed 0.1 mm/rev"), "pitch", "“feed 0.1 mm/rev” is a feed, not a thread."),
        (Fields("0.1 across", CarriageMove.ALONG), "pitch", "This field says across, the first one along."),
        (Fields("2 mm", starts="5.5"), "starts", "“5.5” is not a whole number."),
        (Fields("2 mm", starts="-2"), "starts", "“-2” cannot be used here."),
    ],
)
def test_two_fields_that_disagree_are_told_apart(fields: Fields, field: str, says: str) -> None:
    with pytest.raises(Refusal) as refused:
        ask_from(fields)
    assert (refused.value.field, refusals.say(refused.value).says) == (field, says)


@pytest.mark.parametrize(
    ("typed", "pitch", "lead"),
    [
        ("lead 8 tpi 2 starts", "127/80", "127/40"),
        ("lead 1/8 in 2 starts", "127/80", "127/40"),
        ("8 tpi 2 starts", "127/40", "127/20"),
        ("1/8 in 2 starts", "127/40", "127/20"),
        ("2 mm 2 starts", "2", "4"),
        ("pitch 2 mm 2 starts", "2", "4"),
        ("lead 4 mm 2 starts", "2", "4"),
        ("2 mm twin start", "2", "4"),
        ("M16xPh3P1.5", "3/2", "3"),
        ("M16 x Ph3 P1.5 LH", "3/2", "3"),
        ("Tr40x14(P7)", "7", "14"),
        ("Tr40x14P7", "7", "14"),
        ("Tr40x14(P7)LH", "7", "14"),
        ("/M14x2", "2", "2"),
    ],
)
def test_one_rule_for_pitch_and_lead_in_mm_and_inch(typed: str, pitch: str, lead: str) -> None:
    ask = read(typed).ask
    assert isinstance(ask, ThreadAsk), read(typed).refusal
    assert (ask.pitch, ask.lead) == (Fraction(pitch), Fraction(lead))
    assert (ask.hand == "left") == ("LH" in typed)
    assert read(say(ask)).ask == ask
    assert ask_from(Fields(bare_pitch(ask), hand=ask.hand, starts=str(ask.starts))).lead == ask.lead


def test_a_lead_in_the_pitch_field_is_parted_by_the_starts_beside_it() -> None:
    assert ask_from(Fields("lead 12 mm", starts="3")).lead == 12
    assert ask_from(Fields("12 mm", starts="3")).lead == 36


def test_pitch_and_lead_are_told_in_one_breath() -> None:
    asks = [read(t).ask for t in ("2 mm 2 starts", "8 tpi 2 starts")]
    texts = [description(ask, Units.MM) for ask in asks if ask]
    assert texts[0].startswith("2 starts, pitch 2 mm, lead 4 mm")
    assert texts[1].startswith("2 starts, pitch 8 tpi, lead 6.35 mm")


@pytest.mark.parametrize(
    ("typed", "code"),
    [
        ("Tr40x14(P6)", "lead_not_of_pitch"), ("M16xPh0P1.5", "lead_not_of_pitch"),
        ("Tr40x14(P7) 3 starts", "starts_disagree"), ("M14x2 along", "only_for_a_feed"),
    ],
)  # fmt: skip
def test_what_cannot_be_is_refused(typed: str, code: str) -> None:
    reading = read(typed)
    assert reading.refusal is not None
    assert reading.refusal.code == code


@pytest.mark.parametrize(
    ("typed", "value"), [("57", 57), (" 57 ", 57), ("57.0", 57), ("57,0", 57), ("20 turns", 20), ("1 turn", 1)]
)
def test_whole_numbers_are_read(typed: str, value: int) -> None:
    assert parse_whole(typed, "turns", 1, 400, "turns?") == value


@pytest.mark.parametrize(
    "typed",
    ["57.5", "-12", "72,5", "2 7/8", "2 7/8 in", "20 teeth", "5.5", "²", "٥٧", "0", "401", "1e2", "0x10", "9" * 30],
)
def test_numbers_are_never_altered_to_fit(typed: str) -> None:
    with pytest.raises(Refusal) as refused:
        parse_whole(typed, "turns", 1, 400, "turns?")
    assert refused.value.field == "turns"
    assert "1 to 400" in refusals.say(refused.value).would_do


def test_a_pitch_gauge_reads_one_turn() -> None:
    assert read_measured("2 mm", 10, Method.GAUGE, "", Unit.MM).turns == 1
    assert read_measured("20 mm", 10, Method.CALIPER, "", Unit.MM).turns == 10


LATHE: dict[str, Any] = {
    "name": "Wren", "screw": "8 tpi", "first_x": "40", "first_y": "90", "swing_low": "0", "swing_high": "90",
    "collar_first": "16", "collar_stud": "16", "collar_last": "16", "studs": "0",
}  # fmt: skip


@pytest.mark.parametrize(
    ("changed", "field", "code"),
    [
        ({"dials": "24/800000"}, "dials", "not_two_numbers"), ({"dials": "24/" + "9" * 31}, "dials", "not_two_numbers"),
        ({"dials": "²/8"}, "dials", "not_two_numbers"), ({"pairs": "127/4000"}, "pairs", "not_two_numbers"),
        ({"box": ", ".join(f"{n}={n}" for n in range(1, 90))}, "box", "too_many_steps"),
        ({"first": "a=1000000"}, "first", "step_out_of_range"),
        ({"first": "a=0.0000001"}, "first", "step_out_of_range"),
    ],
)  # fmt: skip
def test_no_record_takes_what_no_lathe_has(changed: dict[str, str], field: str, code: str) -> None:
    assert read_record(TypedLathe(**LATHE)).name == "Wren"
    with pytest.raises(Refusal) as refused:
        read_record(TypedLathe(**(LATHE | changed)))
    assert (refused.value.field, refused.value.code) == (field, code)
