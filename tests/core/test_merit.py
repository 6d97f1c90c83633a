from fractions import Fraction

import pytest

from valleywind.core.refusal import Refusal
from valleywind.core.trains.merit import Handling, least_trouble, most_exact
from valleywind.core.trains.model import Role, lacking, parse_train

TRAIN = parse_train("48/72*40/80")
WORK = Handling(kept=2, put_on=2, taken_off=2)
GOOD = {"fits": True, "job_rank": (0, 0.0), "work": WORK, "train": TRAIN, "error": Fraction(1, 1000)}


@pytest.mark.parametrize(
    "worse",
    [
        {"fits": False},
        {"job_rank": (1, 0.0)},
        {"job_rank": (0, 0.1)},
        {"work": WORK._replace(kept=1)},
        {"work": WORK._replace(put_on=3)},
        {"train": parse_train("48/72*40/56/80")},
        {"train": parse_train("48/72*30/60")},
        {"train": parse_train("48/72*40/80*50/50")},
        {"error": Fraction(-2, 1000)},
    ],
)
def test_each_rule_of_least_trouble_decides_where_those_before_are_equal(worse: dict[str, object]) -> None:
    assert least_trouble(**GOOD) < least_trouble(**(GOOD | worse))  # type: ignore[arg-type]


def test_earlier_rules_outweigh_later_ones() -> None:
    poor_but_kept = GOOD | {"work": WORK._replace(kept=3, put_on=4), "error": Fraction(1, 2)}
    assert least_trouble(**poor_but_kept) < least_trouble(**GOOD)  # type: ignore[arg-type]
    exact_but_unfit = GOOD | {"fits": False, "error": Fraction(0)}
    assert least_trouble(**GOOD) < least_trouble(**exact_but_unfit)  # type: ignore[arg-type]


def test_most_exact_asks_for_the_error_first_and_tells_tiny_ones_apart() -> None:
    tiny, tinier = Fraction(1, 10**30), Fraction(1, 10**30 + 1)
    assert most_exact(True, WORK, TRAIN, tinier) < most_exact(True, WORK, TRAIN, tiny)
    assert most_exact(True, WORK, TRAIN, -tiny) < most_exact(True, WORK._replace(put_on=0), TRAIN, Fraction(1, 10**6))
    assert most_exact(True, WORK, TRAIN, Fraction(1)) < most_exact(False, WORK, TRAIN, Fraction(0))


def test_a_train_knows_its_shafts() -> None:
    train = parse_train("36/50/64*32/78")
    assert (train.shafts, train.meshes, train.idlers) == (4, 3, (50,))
    assert [(w.teeth, w.role, w.shaft, w.plane) for w in train.wheels] == [
        (36, Role.DRIVER, 0, 0), (50, Role.IDLER, 1, 0), (64, Role.DRIVEN, 2, 0), (32, Role.DRIVER, 2, 1),
        (78, Role.DRIVEN, 3, 1),
    ]  # fmt: skip
    assert train.meshing == ((0, 1), (1, 2), (3, 4))
    assert [w.teeth for w in train.on_shaft(2)] == [64, 32]
    assert train.places == {(0, 0): 36, (1, 0): 50, (2, 0): 64, (2, 1): 32, (-1, 1): 78}
    assert train.ratio == Fraction(36 * 32, 64 * 78)


@pytest.mark.parametrize(
    ("text", "code"),
    [("", "not_a_train"), ("76", "not_a_train"), ("76/66*", "not_a_train"), ("76:66", "not_a_train"),
     ("5/66", "teeth_out_of_range"), ("76/401", "teeth_out_of_range"), ("20/30*20/30*20/30*20/30", "not_a_train")],
)  # fmt: skip
def test_what_is_no_train_is_refused(text: str, code: str) -> None:
    with pytest.raises(Refusal) as caught:
        parse_train(text, "mounted")
    assert (caught.value.code, caught.value.field) == (code, "mounted")


def test_lacking_counts_doubles() -> None:
    assert lacking((20, 20, 30), {20: 1, 30: 1}) == {20: 1}
    assert lacking((20, 30), {20: 1, 30: 1}) == {}


def test_a_refusal_can_be_seen_under_another_name() -> None:
    inner = Refusal("not_positive", "length", "0", least=1)
    outer = inner.under("diameter")
    assert (outer.code, outer.field, outer.value, outer.quantities) == ("not_positive", "diameter", "0", {"least": 1})
