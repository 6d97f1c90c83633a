"""The server killed 200 times in the middle of cutting: every acknowledged step is there, none twice."""

import json
import subprocess
import sys
from pathlib import Path

_KILLS = 200
# Steps in a life of the server: enough to begin, to count and to go on.
_LONGEST = 5


def test_no_acknowledged_step_is_lost_or_doubled() -> None:
    done = subprocess.run(
        [sys.executable, "-m", "tests.endurance", str(_KILLS), str(_LONGEST)], cwd=Path(__file__).parents[2],
        capture_output=True, text=True, check=True,
    )  # fmt: skip
    of_copies, of_programs = map(json.loads, done.stdout.splitlines())
    assert of_copies["kills"] == _KILLS
    for one in (of_copies, of_programs):
        assert (one["lost"], one["doubled"], one["out_of_order"]) == (0, 0, 0)
        assert one["recorded"] >= one["acknowledged"]
    # Enough was under way for a kill to hit.
    assert of_copies["acknowledged"] > _KILLS / 4
