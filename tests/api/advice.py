"""Advice that comes in lines."""

import json
from typing import Any

from httpx2 import Response


def advice_in(answer: Response) -> Any:
    """The advice at the end of the lines."""
    *before, last = [json.loads(line) for line in answer.text.splitlines()]
    assert all(line["advice"] is None for line in before)
    assert (last["share"], last["problem"]) == (1, "")
    return last["advice"]
