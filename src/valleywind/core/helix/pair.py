"""Two helical wheels that are to run together: how their shafts stand, how far apart, and what the other one takes."""

from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.helix.ask import HelixAsk, within_bounds
from valleywind.core.refusal import Refusal
from valleywind.core.trains.direction import Hand


@dataclass(frozen=True)
class PairCheck:
    """wheel, mate: as they are asked for. shafts: the angle between the shafts, degrees; centres: their distance
    without backlash, mm; measured: the distance there is, mm, None where nobody said."""

    wheel: HelixAsk
    mate: HelixAsk
    shafts: Fraction
    centres: float
    measured: Fraction | None = None

    @property
    def ratio(self) -> Fraction:
        """Turns of the wheel for one of the mate."""
        assert self.wheel.teeth is not None
        assert self.mate.teeth is not None
        return Fraction(self.mate.teeth, self.wheel.teeth)

    @property
    def parallel(self) -> bool:
        return self.shafts == 0

    @property
    def same_lead(self) -> bool:
        """One train cuts both, the lever the other way for the other hand."""
        return self.wheel.teeth == self.mate.teeth and self.wheel.helix == self.mate.helix

    @property
    def room(self) -> float | None:
        """By how much the shafts stand farther apart than they must; below 0 they are too near."""
        return None if self.measured is None else float(self.measured) - self.centres


def pair_check(
    wheel: HelixAsk, teeth: int, helix: Fraction | None = None, hand: Hand | None = None,
    measured: Fraction | None = None,
) -> PairCheck:  # fmt: skip
    """The wheel with another of its normal pitch; helix and hand as for parallel shafts where they are not said.

    Two of one hand stand at β₁ + β₂ to each other, two of unlike hands at |β₁ − β₂|. Raises Refusal: `only_of_a_wheel`,
    and what `allowed` does (helix, mate).
    """
    if not wheel.wheel:
        raise Refusal("only_of_a_wheel", "ask", "")
    own, across = wheel.helix, wheel.across
    assert own is not None
    assert across is not None
    other = helix if helix is not None else own
    turned = hand or wheel.wanted_hand.other
    mate = within_bounds(
        HelixAsk(
            teeth, wheel.pitch, wheel.angle, other, hand=turned, face=wheel.face, mate=wheel.teeth, within=wheel.within
        )
    )
    shafts = own + other if turned is wheel.wanted_hand else abs(own - other)
    mate_across = mate.across
    assert mate_across is not None
    return PairCheck(wheel, mate, shafts, (across + mate_across) / 2, measured)
