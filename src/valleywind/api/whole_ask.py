"""Lines that people type, as every station reads them: the ask, or what was made of it."""

from collections.abc import Mapping

from valleywind.api.problems import NotUnderstood
from valleywind.app.kinds.line import understood
from valleywind.core.teeth.ask_line import A, M, Reading


def whole(reading: Reading[A, M], meanings: Mapping[M, str]) -> A:
    """The ask of a line. Raises NotUnderstood with what was made of it."""
    if reading.ask is None:
        assert reading.refusal is not None
        pieces = understood(reading, meanings)
        raise NotUnderstood(reading.refusal, pieces, list(reading.left_over), list(reading.nearest))
    return reading.ask
