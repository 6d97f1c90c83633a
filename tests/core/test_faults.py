"""The list of planted faults is true to the code: each line that a fault is planted in is there, once."""

from pathlib import Path

import valleywind
from tests.mutants import FAULTS

SOURCES = Path(valleywind.__file__).parent


def test_every_fault_has_its_line() -> None:
    assert [fault.old for fault in FAULTS if (SOURCES / fault.file).read_text().count(fault.old) != 1] == []
