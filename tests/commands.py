"""The pocket commands, run."""

import sys
from contextlib import redirect_stderr, redirect_stdout
from dataclasses import dataclass
from io import StringIO

import pytest

from valleywind.cli import main


@dataclass(frozen=True)
class Done:
    """What a command wrote, and its exit code."""

    stdout: str
    stderr: str
    returncode: int


def run(*words: str) -> Done:
    """A command, as if its words had been typed."""
    out, err = StringIO(), StringIO()
    with pytest.MonkeyPatch.context() as patch, redirect_stdout(out), redirect_stderr(err):
        patch.setattr(sys, "argv", ["valleywind", *words])
        with pytest.raises(SystemExit) as ended:
            main()
    return Done(out.getvalue(), err.getvalue(), int(ended.value.code or 0))
