"""One thread on every lathe of the shop: which is least trouble."""

from dataclasses import dataclass

from sqlalchemy.orm import Session

from valleywind.app.kinds.lathe import LatheInUse, lathe_in_use
from valleywind.core import interrupt
from valleywind.core.lathe.plan import Candidate, plan
from valleywind.core.lathe.thread import Ask
from valleywind.core.refusal import Refusal
from valleywind.core.trains.placement import RoomCheck
from valleywind.shop import machines

MOST_LATHES = 20
"""How many lathes are compared at most."""


@dataclass(frozen=True)
class OnALathe:
    """A lathe with its best train for an ask. candidate: None where there is none; why: what keeps it from an answer,
    where it has none at all."""

    on: LatheInUse
    candidate: Candidate | None
    why: Refusal | None = None

    @property
    def trouble(self) -> tuple[float, ...]:
        """What comes first: what fits, what is good enough, what is known to have room, what is on already, then the
        fewest wheels and the least error."""
        best = self.candidate
        if best is None:
            return (1,)
        handling = best.handling
        work = handling.put_on + handling.taken_off
        return (
            0 if best.fits else 0.5,
            0 if best.good else best.verdict.goes.rank + 1,
            best.placement.checked is not RoomCheck.ROOM,
            work,
            handling.levers,
            abs(float(best.error)),
        )


def compare(session: Session, ask: Ask) -> list[OnALathe]:
    """Every lathe of the shop, the least trouble first. Raises Refusal `too_many_lathes`."""
    slugs = [row.slug for row in machines.machines(session) if row.lathe is not None]
    if len(slugs) > MOST_LATHES:
        raise Refusal("too_many_lathes", "ask", len(slugs), most=MOST_LATHES)
    answers = []
    for slug in slugs:
        interrupt.checkpoint()
        on = lathe_in_use(session, slug)
        try:
            outcome = plan(ask, on.lathe, on.stock, on.mounted, best=1)
        except Refusal as refused:
            answers.append(OnALathe(on, None, refused))
        else:
            answers.append(OnALathe(on, next(iter(outcome.candidates), None)))
    return sorted(answers, key=lambda one: one.trouble)
