"""The cutting session: a fold over what was recorded, so that replaying it always gives the very tooth.

A session is a row of cuts, one after the other: the marks round first where there is one, then every pass. What
happened is only ever added to, never changed.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Any

from valleywind.core.refusal import Refusal


class CutOrder(StrEnum):
    """Every pass once round before the next, or every gap to depth before the next gap."""

    ROUND_BY_ROUND = "round_by_round"
    GAP_BY_GAP = "gap_by_gap"


@dataclass(frozen=True)
class Cut:
    """One gap in one pass: both from 0; pass −1 is the marks round."""

    tooth: int
    number: int

    @property
    def mark(self) -> bool:
        return self.number < 0


@dataclass(frozen=True)
class Work:
    """What is cut: this many divisions in this many passes, with a marks round before them or not. measured_after: full
    teeth after which it stops to be measured, None for not at all."""

    divisions: int
    passes: int
    marks: bool = True
    order: CutOrder = CutOrder.ROUND_BY_ROUND
    measured_after: int | None = None

    @property
    def measured_at(self) -> int | None:
        """The cut before which a span is measured, None where none is: the teeth that it is over stand between one
        gap more."""
        if self.measured_after is None or not 0 < self.measured_after < self.divisions:
            return None
        return self.number_of(self.measured_after, self.passes - 1) + 1

    @property
    def cuts(self) -> int:
        """All of them."""
        return self.divisions * (self.passes + self.marks)

    def cut(self, n: int) -> Cut:
        """The nth, from 0."""
        if self.marks:
            if n < self.divisions:
                return Cut(n, -1)
            n -= self.divisions
        if self.order is CutOrder.ROUND_BY_ROUND:
            number, tooth = divmod(n, self.divisions)
        else:
            tooth, number = divmod(n, self.passes)
        return Cut(tooth, number)

    def number_of(self, tooth: int, number: int) -> int:
        """Which cut is of this tooth and pass; −1 for its mark. Raises Refusal `no_such_tooth`, `no_such_pass`."""
        if not 0 <= tooth < self.divisions:
            raise Refusal("no_such_tooth", "tooth", tooth + 1, most=self.divisions)
        if not (-1 if self.marks else 0) <= number < self.passes:
            raise Refusal("no_such_pass", "pass", number + 1, most=self.passes)
        if number < 0:
            return tooth
        within = number * self.divisions + tooth
        if self.order is CutOrder.GAP_BY_GAP:
            within = tooth * self.passes + number
        return within + (self.divisions if self.marks else 0)


class EventKind(StrEnum):
    """What is recorded. DONE: a cut is made and the work stands for the next. BACK: the last one is to be made again.
    COUNTED: the marks were counted. MEASURED: the first full teeth were, or that was left out."""

    DONE = "done"
    BACK = "back"
    PAUSE = "pause"
    RESUME = "resume"
    JUMP = "jump"
    COUNTED = "counted"
    MEASURED = "measured"
    NOTE = "note"


@dataclass(frozen=True)
class Event:
    """One thing that happened. about: `reason` of a pause, a jump or a note; `to` of a jump, a cut's number; `count` of
    the marks; of a measured span its `mm`, and whether the first teeth are to be cut `again`, deeper, or the `reason`
    why it was left out."""

    kind: EventKind
    about: Mapping[str, Any]


@dataclass(frozen=True)
class State:
    """Where the session stands. at: the next cut; paused: why, None where it goes on; counted: the marks as counted;
    measured: the first full teeth are measured, or that was left out."""

    at: int = 0
    paused: str | None = None
    counted: int | None = None
    measured: bool = False

    def finished(self, work: Work) -> bool:
        return self.at >= work.cuts

    def must_count(self, work: Work) -> bool:
        """The marks are all made and stand to be counted before any depth."""
        return work.marks and self.at == work.divisions and self.counted != work.divisions

    def must_measure(self, work: Work) -> bool:
        """The first full teeth are cut and stand to be measured while there is metal."""
        return self.at == work.measured_at and not self.measured


MOST_REASON = 200


def after(state: State, event: Event, work: Work) -> State:
    """The state when this has happened too.

    Raises Refusal: `session_done`, `session_paused`, `session_not_paused`, `marks_not_counted`, `marks_wrong` (count),
    `not_measured` (figure), `nothing_to_measure`, `needs_reason` (reason), `at_the_start`, `no_such_cut` (to).
    """
    match event.kind:
        case EventKind.DONE:
            return _done(state, work)
        case EventKind.BACK:
            if state.paused is not None:
                raise Refusal("session_paused", "kind", state.paused)
            if state.at == 0:
                raise Refusal("at_the_start", "kind", "")
            # Marks that were counted and are then made again are counted again.
            counted = state.counted if not work.marks or state.at > work.divisions else None
            stays = work.measured_at is None or state.at > work.measured_at
            return replace(state, at=state.at - 1, counted=counted, measured=state.measured and stays)
        case EventKind.PAUSE:
            if state.paused is not None:
                raise Refusal("session_paused", "kind", state.paused)
            return replace(state, paused=_reason(event))
        case EventKind.RESUME:
            if state.paused is None:
                raise Refusal("session_not_paused", "kind", "")
            return replace(state, paused=None)
        case EventKind.JUMP:
            return _jumped(state, event, work)
        case EventKind.COUNTED:
            count = event.about.get("count")
            if not isinstance(count, int) or count != work.divisions:
                raise Refusal("marks_wrong", "count", count, wanted=work.divisions)
            return replace(state, counted=count)
        case EventKind.MEASURED:
            return _measured(state, event, work)
        case EventKind.NOTE:
            _reason(event)
            return state


def _done(state: State, work: Work) -> State:
    if state.paused is not None:
        raise Refusal("session_paused", "kind", state.paused)
    if state.finished(work):
        raise Refusal("session_done", "kind", "")
    if state.must_count(work):
        raise Refusal("marks_not_counted", "count", work.divisions)
    if state.must_measure(work):
        raise Refusal("not_measured", "figure", work.measured_after or 0)
    return replace(state, at=state.at + 1)


def _measured(state: State, event: Event, work: Work) -> State:
    """With a figure or the reason why there is none. Where the teeth are to be cut again, deeper, it goes back to the
    first of them."""
    if state.paused is not None:
        raise Refusal("session_paused", "kind", state.paused)
    if work.measured_at is None:
        raise Refusal("nothing_to_measure", "kind", "")
    if event.about.get("mm") is None:
        _reason(event)
        return replace(state, measured=True)
    if not event.about.get("again"):
        return replace(state, measured=True)
    assert work.measured_after is not None
    if work.order is CutOrder.GAP_BY_GAP:
        # Every gap is cut to depth by itself: those that are cut are gone over by hand, the others go deeper at once.
        return replace(state, measured=True)
    return replace(state, at=work.number_of(0, work.passes - 1), measured=False)


def _jumped(state: State, event: Event, work: Work) -> State:
    if state.paused is not None:
        raise Refusal("session_paused", "kind", state.paused)
    _reason(event)
    to = event.about.get("to")
    if not isinstance(to, int) or not 0 <= to < work.cuts:
        raise Refusal("no_such_cut", "to", to, most=work.cuts)
    # Whoever jumps past the marks says with the reason that they are there.
    passed = work.marks and to >= work.divisions
    # Whoever jumps past the teeth that are measured has them; who jumps before them measures them anew.
    beyond = work.measured_at is not None and to >= work.measured_at
    return replace(state, at=to, counted=work.divisions if passed else None, measured=beyond)


def _reason(event: Event) -> str:
    reason = event.about.get("reason")
    if not isinstance(reason, str) or not reason.strip() or len(reason) > MOST_REASON:
        raise Refusal("needs_reason", "reason", reason if isinstance(reason, str) else "", most=MOST_REASON)
    return reason.strip()


def cut_of(state: State, event: Event, work: Work) -> Cut | None:
    """Which cut an event is about that happens while the session stands so; None where it is about none."""
    match event.kind:
        case EventKind.DONE:
            return work.cut(state.at)
        case EventKind.BACK:
            return work.cut(state.at - 1)
        case EventKind.JUMP:
            return work.cut(event.about["to"])
        case _:
            return None


@dataclass(frozen=True)
class Onward:
    """A move of the work: the tooth at which it stands, the one it goes to, and the cuts that are still to be made at
    the first, the one that stands included."""

    tooth: int
    to: int
    left: int


def since(state: State, work: Work) -> int:
    """The cut with which the work came to the tooth at which it stands: it tells one visit of a tooth from another."""
    n = min(state.at, work.cuts - 1)
    tooth = work.cut(n).tooth
    while n and work.cut(n - 1).tooth == tooth:
        n -= 1
    return n


def onward(state: State, work: Work) -> Onward | None:
    """The next move of the work; None where the last gap is being cut."""
    if state.finished(work):
        return None
    here = work.cut(state.at).tooth
    for n in range(state.at + 1, work.cuts):
        if (to := work.cut(n).tooth) != here:
            return Onward(here, to, n - state.at)
    return None


def gaps_cut(state: State, work: Work) -> list[int]:
    """How many passes each gap has had, tooth by tooth; the mark alone is 0."""
    done = [0] * work.divisions
    for n in range(state.at):
        cut = work.cut(n)
        if not cut.mark:
            done[cut.tooth] = cut.number + 1
    return done
