"""How well a train does for what is wanted, one scale for every machine."""

from typing import Literal

from valleywind.core.cutting.run_off import Mark
from valleywind.core.hobbing.set_up import SetUp
from valleywind.core.lathe.plan import Candidate

Merit = Literal["exact", "freely", "mid_tolerance", "partly", "not"]
_OF_A_MARK: dict[Mark, Merit] = {
    Mark.NONE: "exact", Mark.GOOD: "freely", Mark.RUNS: "mid_tolerance", Mark.COARSE: "partly", Mark.NOT: "not",
}  # fmt: skip


def of_mark(mark: Mark) -> Merit:
    """Of a run-off."""
    return _OF_A_MARK[mark]


def of_thread(candidate: Candidate) -> Merit:
    """Of a train for a thread or a feed."""
    return "exact" if candidate.error == 0 else candidate.verdict.goes.value


def of_set_up(set_up: SetUp) -> Merit:
    """Of the trains of a hobber."""
    if set_up.run_off is not None:
        return of_mark(set_up.run_off.mark)
    return "exact" if set_up.index.verdict.good else "not"
