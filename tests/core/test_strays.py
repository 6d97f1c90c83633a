"""Which wheels go with nothing."""

from dataclasses import replace
from fractions import Fraction

from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily
from valleywind.core.teeth.strays import Stray, Why, stray

TWELVE = WheelFamily(
    "Plover’s", Pitch(PitchSystem.DIAMETRAL, Fraction(12)), Fraction(29, 2), Fraction(22), Fraction(5), Fraction(16)
)
OTHER = replace(TWELVE, name="from the fair", pitch=Pitch(PitchSystem.MODULE, Fraction(5, 4)))


def test_a_wheel_goes_with_something_or_says_why_not() -> None:
    assert stray(TWELVE, TWELVE, served=True) is None
    assert stray(TWELVE, None, served=True) is None
    assert stray(None, TWELVE, served=False) == Stray(Why.NOT_RECOGNISED)
    assert stray(OTHER, None, served=False) == Stray(Why.ON_NO_MACHINE)
    assert stray(OTHER, TWELVE, served=True) == Stray(Why.MESHES_WITH_NONE, same_bore=True)
    wide = replace(OTHER, bore=Fraction(25))
    assert stray(wide, TWELVE, served=True) == Stray(Why.MESHES_WITH_NONE, same_bore=False)
