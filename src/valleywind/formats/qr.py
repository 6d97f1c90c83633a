"""QR codes, and what leads from a sheet on paper back to its page."""

from collections.abc import Sequence
from dataclasses import dataclass

import segno


@dataclass(frozen=True)
class Mark:
    """What leads from a sheet back to its page. code: squares of its QR code, empty for none; number: of its entry in
    the log, None for none."""

    code: Sequence[str] = ()
    number: int | None = None


def modules(address: str) -> list[str]:
    """An address as the squares of a QR code, line by line, 1 for a dark one; four squares stay free all round."""
    return ["".join(map(str, row)) for row in segno.make(address, error="m", micro=False).matrix]
